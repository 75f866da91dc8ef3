"""The plan sheet: a plan on one page of paper, as SVG, to be printed, pinned up or sent."""

import datetime
from collections.abc import Sequence
from typing import Literal, NamedTuple, TypeAlias

import numpy as np
from msgspec.structs import replace
from PIL import Image

from umber_compass.colour.packed import unpack
from umber_compass.document.seeing import about
from umber_compass.document.sheet_parts import BODY, CARD, HEAD, PARTS, SMALL, Part
from umber_compass.formats.png_quick import png_of
from umber_compass.formats.svg_page import INK, LINE, QUIET, Box, Page, cut, width_of, wrapped
from umber_compass.picture.seen import whole
from umber_compass.plan.edits import region
from umber_compass.plan.model import Study
from umber_compass.steps.pictures import seen_on, seen_picture
from umber_compass.steps.pipeline import Derived
from umber_compass.views import VIEWS
from umber_compass.views.view import Picture
from umber_compass.words import words
from umber_compass.work import Tick, idle

Paper: TypeAlias = Literal["A4", "Letter"]
PAPERS: dict[Paper, tuple[float, float]] = {"A4": (2100, 2970), "Letter": (2159, 2794)}
PICTURES, STUDIES, PALETTE = "pictures", "studies", "palette"
# What may be left out, and how it is called.
CHOICES = {
    PICTURES: "Grey and small",
    PALETTE: "Palette",
    **{name: part.title for name, part in PARTS.items()},
    STUDIES: "Kept studies",
}
_EDGE, _GAP = 110.0, 50.0
_PX, _SMALL_PX, _STUDY_PX = 1200, 480, 360  # across, of the pictures
_SHARP_PX = 800  # to which a picture of fewer px is enlarged
_BESIDE = 0.25  # of the page's width, from which texts stand beside the picture
_TITLE = 64.0
_PALETTE = 60.0
_VIEWS = ("grey", "small")
_MEASURES = ("scheme", "values", "chart", "ramps", CARD)  # in the column beside the picture
_TEXTS = ("rig", "checks", "notes")  # beneath it
_SHARE = {
    "scheme": 1.4,
    "values": 1.3,
    "chart": 1.3,
    "ramps": 1.2,
    CARD: 1.6,
}  # of the column's height
_STUDY_ROW, _MOST_STUDIES = 330.0, 3
_LEAST = 170.0  # of a part among texts: its head and three lines


class Wish(NamedTuple):
    """How a sheet is made: on which paper, upright or across, without which parts, and whether it
    is for a client, who is spared numbers and checks."""

    paper: Paper = "A4"
    upright: bool = False
    without: frozenset[str] = frozenset({CARD})
    client: bool = False

    def has(self, part: str) -> bool:
        """Whether a part is on the sheet."""
        kept = part not in PARTS or not (self.client and PARTS[part].measures)
        return part not in self.without and kept


def plan_sheet(derived: Derived, wish: Wish, day: datetime.date, tick: Tick = idle) -> str:
    """A plan's sheet as the text of an SVG file. `derived` is worked out here where it must be, so
    this is for the worker."""
    short, long = PAPERS[wish.paper]
    width, height = (short, long) if wish.upright else (long, short)
    page = Page(width, height, derived.plan.title)
    inner = _headed(page, Box(_EDGE, _EDGE, width - 2 * _EDGE, height - 2 * _EDGE), derived, day)
    if wish.has("ramps") or wish.has(CARD):
        derived.take(Derived.ramps, derived.worked(Derived.ramps))
    if (wish.has("chart") or wish.has(CARD)) and derived.lit is not None:
        derived.take(Derived.chart, derived.worked(Derived.chart))
    tick(0.2)
    picture = _picture(derived, _PX)
    shape = picture.shape
    kept = [s for s in derived.plan.studies if s.verdict == "kept"] if wish.has(STUDIES) else []
    if kept:
        row = Box(inner.x, inner.bottom - _STUDY_ROW, inner.width, _STUDY_ROW)
        _studies(page, row, derived, kept)
        inner = Box(inner.x, inner.y, inner.width, inner.height - _STUDY_ROW - _GAP)
    tick(0.5)
    places = _places(inner, shape[1] / shape[0], wish)
    page.image(places.main, png_of(_sharp(picture)), derived.plan.title)
    page.rect(places.main, stroke=LINE, wide=2)
    tick(0.7)
    texts = [PARTS[name] for name in _TEXTS if wish.has(name)]
    if places.texts is not None:
        _stacked(page, places.texts, derived, wish, texts)
    _column(page, places.beneath, derived, wish, picture, () if places.texts else texts)
    _measures(page, places.beside, derived, wish)
    return page.svg()


def _headed(page: Page, box: Box, derived: Derived, day: datetime.date) -> Box:
    """Title, purpose and date; gives what is left of the page."""
    plan, said = derived.plan, f"{day.day} {day:%B %Y}"
    room = box.width - width_of(said, BODY) - 40
    title = cut(plan.title, room, _TITLE, 600)
    page.text(box.x, box.y + _TITLE * 0.75, title, _TITLE, INK, 600)
    page.text(box.right, box.y + _TITLE * 0.75, said, BODY, QUIET, anchor="end")
    left = room - width_of(title, _TITLE, 600) - 30
    if plan.purpose and left > 200:
        x = box.x + width_of(title, _TITLE, 600) + 30
        page.text(x, box.y + _TITLE * 0.75, cut(plan.purpose, left, HEAD), HEAD, QUIET)
    return box.below(_TITLE + 30)


class _Places(NamedTuple):
    """Where the picture lies; the room for palette and small pictures; the room for texts, where
    they have one of their own; and the column of measures."""

    main: Box
    beneath: Box
    texts: Box | None
    beside: Box


def _places(inner: Box, aspect: float, wish: Wish) -> _Places:
    measured = any(wish.has(name) for name in _MEASURES)
    if wish.upright:
        main = _fitted(Box(inner.x, inner.y, inner.width, inner.height * 0.44), aspect)
        x = main.right + _GAP
        texts = Box(x, inner.y, inner.right - x, main.height)
        own = texts if texts.width > inner.width * _BESIDE else None
        lower = Box(inner.x, main.bottom + _GAP, inner.width, inner.bottom - main.bottom - _GAP)
        half = (inner.width - _GAP) / 2 if measured else inner.width
        beneath = Box(lower.x, lower.y, half, lower.height)
        return _Places(main, beneath, own, Box(lower.right - half, lower.y, half, lower.height))
    most = inner.width * (0.62 if measured else 1.0)
    main = _fitted(Box(inner.x, inner.y, most, inner.height * 0.6), aspect)
    left = max(main.width, inner.width * 0.5)
    beneath = Box(inner.x, main.bottom + _GAP, left, inner.bottom - main.bottom - _GAP)
    x = main.right + _GAP
    texts = Box(x, inner.y, inner.x + left - x, main.height)
    own = texts if texts.width > inner.width * 0.18 else None
    x = inner.x + left + _GAP
    return _Places(main, beneath, own, Box(x, inner.y, inner.right - x, inner.height))


def _fitted(box: Box, aspect: float) -> Box:
    """The largest box of an aspect in another, at its upper left."""
    width = min(box.width, box.height * aspect)
    return Box(box.x, box.y, width, width / aspect)


def _picture(derived: Derived, px: int) -> Picture:
    """The picture as it is shown, no wider or higher than so many px."""
    grid = whole(derived.drawing.labels.shape, px)
    return np.ascontiguousarray(unpack(seen_picture(derived, seen_on(derived, grid))))


def _column(
    page: Page, box: Box, derived: Derived, wish: Wish, picture: Picture, texts: Sequence[Part]
) -> None:
    """Palette, small pictures and texts, as far as there is room."""
    if wish.has(PALETTE) and box.height > _PALETTE:
        box = box.below(_palette(page, box, derived) + _GAP * 0.6)
    views = _VIEWS if wish.has(PICTURES) else ()
    wide = (box.width - _GAP * (len(views) + bool(texts) - 1)) / max(
        len(views) + 1.3 * bool(texts), 1
    )
    x = box.x
    for name in views:
        most = Box(x, box.y, wide, max(box.height - SMALL * 1.6, 1))
        fitted = _fitted(most, picture.shape[1] / picture.shape[0])
        small = _resized(picture, _SMALL_PX)
        seen = VIEWS[name].see(small, about(derived, small.shape))
        page.image(fitted, png_of(_sharp(seen)), VIEWS[name].title)
        page.text(x, fitted.bottom + SMALL * 1.2, VIEWS[name].title, SMALL, QUIET)
        x += fitted.width + _GAP
    _stacked(page, Box(x, box.y, box.right - x, box.height), derived, wish, texts)


def _stacked(page: Page, box: Box, derived: Derived, wish: Wish, parts: Sequence[Part]) -> None:
    """Parts one below the other; each leaves the next ones room for a few lines."""
    for i, part in enumerate(parts):
        if box.height < HEAD * 3:
            return
        later = _LEAST * (len(parts) - 1 - i)
        room = box._replace(height=max(box.height - later, min(box.height, _LEAST)))
        took = part.draw(page, room, derived, wish.client)
        box = box.below(took + _GAP * 0.6 if took else 0.0)


def _measures(page: Page, box: Box, derived: Derived, wish: Wish) -> None:
    """The column of measures: its height is dealt out among those that are there."""
    named = [n for n in _MEASURES if wish.has(n) and (n != "chart" or derived.lit is not None)]
    room = box.height - _GAP * max(len(named) - 1, 0)
    whole_share = sum(_SHARE[n] for n in named)
    for name in named:
        height = room * _SHARE[name] / whole_share
        took = PARTS[name].draw(page, box._replace(height=height), derived, wish.client)
        # What one leaves over the next ones have.
        room, whole_share = room - took, whole_share - _SHARE[name]
        box = box.below(took + _GAP)


def _palette(page: Page, box: Box, derived: Derived) -> float:
    """All colours in a bar, each as wide as its share, the largest with their names."""
    x = box.x
    order = sorted(derived.shares, key=lambda r: derived.colours[r].mean_value)
    total = sum(derived.shares.values()) or 1.0
    named_to = x
    for id_ in order:
        wide = box.width * derived.shares[id_] / total
        name = region(derived.plan, id_).name
        page.rect(Box(x, box.y, wide, _PALETTE), derived.colours[id_].first.hex, title=name)
        if wide > width_of(name, SMALL) + 8 and x >= named_to:
            page.text(x, box.y + _PALETTE + SMALL * 1.1, name, SMALL, QUIET)
            named_to = x + width_of(name, SMALL) + 16
        x += wide
    return _PALETTE + SMALL * 1.4


def _sharp(picture: Picture) -> Picture:
    """A picture of few px enlarged by whole times, so that paper shows its px and no blur."""
    times = _SHARP_PX // max(picture.shape[:2])
    return picture.repeat(times, axis=0).repeat(times, axis=1) if times > 1 else picture


def _resized(picture: Picture, px: int) -> Picture:
    image = Image.fromarray(picture)
    image.thumbnail((px, px), Image.Resampling.BOX)
    return np.asarray(image)


def _studies(page: Page, box: Box, derived: Derived, kept: Sequence[Study]) -> None:
    """Versions that were kept, with the reason for each."""
    shown_now = kept[:_MOST_STUDIES]
    title = words("Kept")
    if len(kept) > len(shown_now):
        title = words("Kept, {n} of {count}", n=len(shown_now), count=len(kept))
    page.text(box.x, box.y + HEAD * 0.8, str(title), HEAD, INK, 600)
    inner = box.below(HEAD + 16)
    wide = (inner.width - (_MOST_STUDIES - 1) * _GAP) / _MOST_STUDIES
    for i, study in enumerate(shown_now):
        shown = derived.of(replace(derived.plan, current_study=study.id))
        picture = _picture(shown, _STUDY_PX)
        cell = Box(inner.x + i * (wide + _GAP), inner.y, wide, inner.height)
        fitted = _fitted(cell._replace(width=wide * 0.5), picture.shape[1] / picture.shape[0])
        page.image(fitted, png_of(_sharp(picture)), study.title)
        x, room = fitted.right + 20, cell.right - fitted.right - 20
        page.text(x, cell.y + BODY, cut(study.title, room, BODY, 600), BODY, INK, 600)
        lines = wrapped(study.reason, room, SMALL, 7)
        page.lines(x, cell.y + BODY * 2.3, lines, SMALL, QUIET)
