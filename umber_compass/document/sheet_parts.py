"""The parts of a plan sheet: each is drawn into a box of the page, and gives the height it took."""

import math
from collections.abc import Callable, Sequence
from typing import NamedTuple

from umber_compass.colour.measured import Measured
from umber_compass.formats.svg_page import INK, LINE, QUIET, Box, Page, cut, wrapped
from umber_compass.plan.edits import region
from umber_compass.plan.uses import USES, seen_as
from umber_compass.steps.checks.judging import measure_all
from umber_compass.steps.handoff.card import card
from umber_compass.steps.harmony.schemes import spec_of
from umber_compass.steps.light.chart import PLACES
from umber_compass.steps.light.lamps import angles_of
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

CARD = "card"
HEAD, BODY, SMALL = 36.0, 28.0, 24.0  # sizes of text
_ROW = 46.0  # of a ladder, a chart, a ramp
_UNDER_HEAD = 16.0
_NAME = 0.3  # of a row's width, that names have
_MOST_CHECKS = 8
_RING = 0.13  # of the rose's radius, how wide its ring is


class Part(NamedTuple):
    """One part: what it is called, what draws it, and whether it is numbers and measures, which a
    client is spared."""

    name: str
    title: str
    draw: Callable[[Page, Box, Derived, bool], float]
    measures: bool = False


def _head(page: Page, box: Box, title: str) -> Box:
    page.text(box.x, box.y + HEAD * 0.8, title, HEAD, INK, 600)
    return box.below(HEAD + _UNDER_HEAD)


def _largest(derived: Derived) -> list[str]:
    """Regions, the largest first."""
    return sorted(derived.shares, key=lambda r: -derived.shares[r])


def scheme(page: Page, box: Box, derived: Derived, plain: bool) -> float:
    """The colour wheel with every colour of the picture where its hue stands."""
    now, parts = derived.scheme, derived.rose
    title = str(spec_of(now).title)
    inner = _head(page, box, title[:1].upper() + title[1:])
    radius = min(inner.width * 0.5, inner.height, 520.0) / 2
    x, y = inner.x + radius, inner.y + radius

    def at(angle: float, far: float) -> tuple[float, float]:
        turn = math.radians(angle)
        return x + math.sin(turn) * far * radius, y - math.cos(turn) * far * radius

    step = 360 / len(parts.ring)
    for i, hex_ in enumerate(parts.ring):
        first, last = (i - 0.52) * step, (i + 0.52) * step
        edge = ((first, 1.0), (last, 1.0), (last, 1 - _RING), (first, 1 - _RING))
        page.polygon([at(angle, far) for angle, far in edge], hex_)
    for angle in parts.needles.values():
        page.line(x, y, *at(angle, 1 - _RING), LINE, 3)
    for petal in sorted(parts.petals, key=lambda p: -p.share):
        far = min(petal.chroma / 0.2, 1.0) * (1 - _RING - 0.08)
        size = max(radius * 0.05, radius * 0.42 * math.sqrt(petal.share))
        page.circle(*at(petal.angle, far), min(size, radius * 0.2), petal.hex, "#ffffff", 2)
    side = Box(inner.x + 2 * radius + 40, inner.y, inner.width - 2 * radius - 40, 2 * radius)
    _say_slots(page, side, derived, plain)
    return inner.y + 2 * radius - box.y


def _say_slots(page: Page, box: Box, derived: Derived, plain: bool) -> None:
    """Beside the wheel: how much of the picture each family of hues holds."""
    y = box.y + BODY
    for held in derived.slot_shares:
        if held.now < 0.005 or y > box.bottom:
            continue
        page.rect(Box(box.x, y - 24, 30, 30), held.hex)
        name = f"{held.name}, {held.part}" if held.part != "greys" else held.part
        said = name if plain else f"{name}  {held.now:.0%}"
        page.text(box.x + 44, y, cut(said, box.width - 44, BODY), BODY)
        y += BODY * 1.5


def values(page: Page, box: Box, derived: Derived, plain: bool) -> float:
    """The largest regions on a ladder of value, darkest first."""
    inner = _head(page, box, str(words("Values, dark to light")))
    count = max(int(inner.height // _ROW), 1)
    ids = sorted(_largest(derived)[:count], key=lambda r: derived.colours[r].mean_value)
    names, left = inner.width * _NAME, inner.x + inner.width * _NAME
    wide = inner.width - names - (0 if plain else 70)
    y = inner.y
    for id_ in ids:
        colour = derived.colours[id_]
        page.text(inner.x, y + 32, cut(region(derived.plan, id_).name, names - 14, SMALL), SMALL)
        page.line(left, y + 24, left + wide, y + 24)
        x = left + wide * colour.mean_value / 100
        page.rect(Box(x - 22, y + 5, 44, 36), colour.first.hex, "#ffffff", 2)
        if not plain:
            page.text(inner.right, y + 32, f"{colour.mean_value:.0f}", SMALL, QUIET, anchor="end")
        y += _ROW
    return y - box.y


def chart(page: Page, box: Box, derived: Derived, plain: bool) -> float:
    """Every large material in light and in shade; nothing where the light is off."""
    rows = derived.chart if derived.lit is not None else None
    if not rows:
        return 0.0
    inner = _head(page, box, str(words("In light and shade")))
    names = inner.width * _NAME
    order = {r: i for i, r in enumerate(_largest(derived))}
    count = max(int((inner.height - 26) // _ROW), 1)
    rows = sorted(rows, key=lambda row: order[row.region])[:count]
    used = [p for p in PLACES if any(p.name in row.places for row in rows)]
    wide = (inner.width - names) / (len(used) + 1)
    for i, short in enumerate(["local", *(p.short for p in used)]):
        page.text(inner.x + names + (i + 0.5) * wide, inner.y + 18, short, 20, QUIET, 400, "middle")
    y = inner.y + 26
    for row in rows:
        page.text(inner.x, y + 32, cut(row.name, names - 14, SMALL), SMALL)
        shown = [row.local, *(row.places.get(p.name) for p in used)]
        _swatches(page, Box(inner.x + names, y, inner.width - names, _ROW - 6), shown, row.name)
        y += _ROW
    return y - box.y


def _swatches(page: Page, box: Box, colours: Sequence[Measured | None], name: str) -> None:
    wide = box.width / max(len(colours), 1)
    for i, colour in enumerate(colours):
        if colour is not None:
            page.rect(Box(box.x + i * wide, box.y, wide, box.height), colour.hex, title=name)


def ramps(page: Page, box: Box, derived: Derived, plain: bool) -> float:
    """The shade and light steps of the largest materials, the base marked."""
    known = derived.ramps
    if not known:
        return 0.0
    inner = _head(page, box, str(words("Ramps, shade to light")))
    names, y = inner.width * _NAME, inner.y
    count = max(int(inner.height // _ROW), 1)
    for id_ in [r for r in _largest(derived) if r in known][:count]:
        ramp = known[id_][0]
        name = region(derived.plan, id_).name
        page.text(inner.x, y + 32, cut(name, names - 14, SMALL), SMALL)
        bar = Box(inner.x + names, y, inner.width - names, _ROW - 6)
        _swatches(page, bar, ramp.steps, name)
        wide = bar.width / len(ramp.steps)
        x = bar.x + (ramp.base + 0.5) * wide
        page.polygon([(x - 9, bar.bottom + 6), (x + 9, bar.bottom + 6), (x, bar.bottom - 8)], INK)
        y += _ROW
    return y - box.y


def rig(page: Page, box: Box, derived: Derived, plain: bool) -> float:
    """The lamps: colour, strength, where each stands; nothing where the light is off."""
    if derived.lit is None:
        return 0.0
    inner = _head(page, box, str(words("Light")))
    y = inner.y
    lamps = [lamp for lamp in derived.rig.lamps if lamp.on]
    rows = [("ambient", derived.rig.ambient.hex, derived.rig.ambient.strength, "")]
    rows += [(lamp.name, lamp.hex, lamp.strength, _stands(lamp.direction)) for lamp in lamps]
    for name, hex_, strength, stands in rows:
        if y + _ROW > inner.bottom:
            break
        page.circle(inner.x + 18, y + 20, 16, hex_, LINE)
        said = name if plain else f"{name}  {strength:.0f} %"
        text = f"{said}, {stands}" if stands else said
        page.text(inner.x + 48, y + 30, cut(text, inner.width - 48, BODY), BODY)
        y += _ROW
    return y - box.y


def _stands(direction: tuple[float, float, float]) -> str:
    """Where a lamp stands, in words."""
    angles = angles_of(direction)
    if angles.off_deg < 15:
        return str(words("from the front"))
    round_ = ("above", "upper right", "the right", "lower right",
              "below", "lower left", "the left", "upper left")  # fmt: skip
    side = round_[round(angles.round_deg / 45) % 8]
    if angles.off_deg > 100:
        return str(words("from behind, {side}", side=side))
    return str(words("from {side}", side=side))


def checks(page: Page, box: Box, derived: Derived, plain: bool) -> float:
    """What the checks have open."""
    inner = _head(page, box, str(words("Open checks")))
    found = [r for r in measure_all(derived) if r.level != "fine"]
    rows = [str(r.title) for r in found] or [str(words("none is open"))]
    room = max(min(int(inner.height / (BODY * 1.35)), _MOST_CHECKS), 1)
    if len(rows) > room:
        more = str(words("and {count} more", count=len(rows) - room + 1))
        rows = [*rows[: room - 1], more]
    y = inner.y + BODY
    for text in rows:
        page.text(inner.x, y, cut(text, inner.width, BODY), BODY)
        y += BODY * 1.35
    return y - box.y


def notes(page: Page, box: Box, derived: Derived, plain: bool) -> float:
    """What the piece is for, and what else was agreed."""
    brief = derived.plan.brief
    width, distance = seen_as(brief)
    inner = _head(page, box, str(words("Brief")))
    said = []
    if brief.use:
        said.append(USES[brief.use].title)
    said.append(str(words("{w:g} cm wide, seen from {d:g} cm", w=width, d=distance)))
    first = wrapped(", ".join(said), inner.width, BODY, 2)
    y = page.lines(inner.x, inner.y + BODY, first, BODY, INK)
    most = int(max(inner.bottom - y, 0) // (BODY * 1.3)) + 1
    own = "" if plain else derived.study.note.strip()  # what is noted to oneself
    text = "\n".join(t for t in (brief.notes.strip(), own) if t)
    if text:
        y = page.lines(inner.x, y, wrapped(text, inner.width, BODY, most), BODY, QUIET)
    return y - box.y


def steps(page: Page, box: Box, derived: Derived, plain: bool) -> float:
    """The paint-along card: a box to be ticked, and the first colours of each step."""
    inner = _head(page, box, str(words("Card")))
    found = card(derived)
    row = min(_ROW, inner.height / max(len(found), 1))
    swatch = row * 0.7
    room = int(inner.width * 0.45 // swatch)
    y = inner.y
    for i, step in enumerate(found):
        if y + row > inner.bottom + 1:
            break
        page.rect(Box(inner.x, y + row * 0.2, row * 0.5, row * 0.5), stroke=INK, wide=2)
        colours = [p.hex for p in step.paints[:room]]
        wide = inner.width - len(colours) * swatch - row * 0.8
        page.text(
            inner.x + row * 0.8, y + row * 0.62, cut(f"{i + 1}  {step.title}", wide, SMALL), SMALL
        )
        for k, hex_ in enumerate(colours):
            x = inner.right - (len(colours) - k) * swatch
            page.rect(Box(x, y + row * 0.1, swatch, swatch), hex_)
        y += row
    return y - box.y


PARTS = {
    part.name: part
    for part in (
        Part("scheme", "Scheme", scheme),
        Part("values", "Values", values),
        Part("chart", "Light and shade", chart),
        Part("ramps", "Ramps", ramps),
        Part(CARD, "Card", steps, True),
        Part("rig", "Light", rig),
        Part("checks", "Open checks", checks, True),
        Part("notes", "Brief", notes),
    )
}
