"""Several plans of one book or comic in a row: their values, temperature, chroma and mood as an
arc, what is out of line, and which colours they share."""

from collections.abc import Iterator, Mapping, Sequence
from types import MappingProxyType
from typing import NamedTuple

import numpy as np

from umber_compass.colour.difference import ciede2000
from umber_compass.colour.measured import levels_of
from umber_compass.colour.spaces import cielab, decode
from umber_compass.plan.edits import study
from umber_compass.plan.moods import MOODS, MoodWish
from umber_compass.steps.focus.attention import focus_regions
from umber_compass.steps.harmony.mood import disagreement, mood_rows
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.values.measured import BINS
from umber_compass.words import Words, words

SAME = 4.0  # CIEDE2000, within which two pages share a colour (studio rule, docs/painting.md)
_LEAST_SHARE = 0.02  # of a page, that a colour holds to be shared
_MOST = 40  # colours of a page's palette
_END = 1.6  # times as far must an end leave the line: it has pages on one side only
_HELD, _LOST = 0.35, 1.0  # faults, up to which a page holds a mood, and from which it does not
_LEAST_PAGES = 3  # of an arc, from which a page can be out of line


class Page(NamedTuple):
    """One plan of a story, in numbers."""

    title: str
    darks: float  # L* that a twentieth is darker than
    middle: float  # that half is darker than
    lights: float  # that a twentieth is lighter than
    warm: float  # share of warm colours less that of cool ones, -1 to 1
    chroma: float  # OKLCh, the mean
    lead: str  # hex of the leading hue's colour
    focus: str  # hex of the focus, or empty
    mood: str  # the title of the one it is held to, or empty
    palette: tuple[tuple[str, float], ...]  # hex and share, the largest first
    faults: Mapping[str, float] = MappingProxyType({})  # of each mood; none without colours

    @property
    def reads_as(self) -> str:
        """The mood that it holds best, or empty where it holds none."""
        best = min(self.faults, key=self.faults.__getitem__, default="")
        return best if best and self.faults[best] <= _HELD else ""


class Measure(NamedTuple):
    """What is followed from page to page."""

    name: str
    title: str
    unit: str
    far: float  # from its neighbours' line, from which a page is out of it
    low: float
    high: float
    more: str  # what it is called where there is more of it, and less
    less: str


MEASURES = (
    Measure("middle", "value", "L*", 15, 0, 100, "lighter", "darker"),
    Measure("warm", "temperature", "", 0.5, -1, 1, "warmer", "cooler"),
    Measure("chroma", "chroma", "", 0.05, 0, 0.2, "stronger in colour", "greyer"),
)  # studio rules, docs/painting.md


class OutOfLine(NamedTuple):
    """A page that leaves the line of those beside it."""

    page: int
    measure: Measure
    by: float

    @property
    def short(self) -> Words:
        """By how much it leaves it."""
        more = self.measure.more if self.by > 0 else self.measure.less
        if self.measure.unit:
            by = abs(self.by)
            return words("{by:.0f} {unit} {more}", by=by, unit=self.measure.unit, more=more)
        return words("much {more}", more=more)

    @property
    def words(self) -> Words:
        """What it does."""
        return words("{short} than the pages beside it", short=str(self.short))


class OfAnotherMood(NamedTuple):
    """A page that is not of the mood of those beside it."""

    page: int
    mood: str  # theirs, by its title
    by: float  # faults
    reads_as: str

    @property
    def words(self) -> Words:
        """What it is."""
        own = words("reads as {own}", own=self.reads_as.lower())
        if not self.reads_as:
            own = words("reads as no mood")
        return words("{own}, between {mood} pages", own=str(own), mood=self.mood.lower())


def page_of(derived: Derived) -> Page:
    """A plan as a page of a story."""
    held = np.cumsum(derived.values.histogram)
    darks, middle, lights = np.interp(
        np.array([0.05, 0.5, 0.95]) * held[-1], held, np.arange(BINS) + 1.0
    ).tolist()
    shares, heat = derived.shares, derived.temperature
    ends = [
        (e.hex, e.chroma, shares.get(r, 0.0) / len(c.ends))
        for r, c in derived.colours.items()
        for e in c.ends
    ]
    whole = max(sum(share for _, _, share in ends), 1e-9)
    lead = max(ends, key=lambda e: e[1] * e[2], default=("#808080", 0.0, 0.0))[0]
    focus = focus_regions(derived.regions, derived.focus)
    mood = study(derived.plan).mood
    palette = sorted(((h, s) for h, _, s in ends), key=lambda p: -p[1])
    return Page(
        derived.plan.title,
        darks,
        middle,
        lights,
        heat.warm - heat.cool,
        sum(c * s for _, c, s in ends) / whole,
        lead,
        derived.colours[focus[0]].ends[0].hex if focus else "",
        MOODS[mood.name].title if mood is not None and mood.name in MOODS else "",
        tuple(palette[:_MOST]),
        {} if derived.unpainted else _all_faults(derived),
    )


def _all_faults(derived: Derived) -> dict[str, float]:
    """How far a plan's colours are from each mood, in faults, by the mood's title."""
    wishes = {m.title: MoodWish(name=m.name) for m in MOODS.values() if m.wishes}
    colours, shares = derived.colours, derived.shares
    return {t: disagreement(mood_rows(colours, shares, w)) for t, w in wishes.items()}


def out_of_line(pages: Sequence[Page]) -> list[OutOfLine]:
    """Pages that leave the line of the pages beside them, the furthest first: that is a turn of the
    story, or a slip. An end is held against the page beside it and the one beyond."""
    found = []
    for i, beside in _beside(pages):
        for measure in MEASURES:
            others = [getattr(p, measure.name) for p in beside]
            by = getattr(pages[i], measure.name) - float(np.mean(others))
            far = measure.far * (_END if i in (0, len(pages) - 1) else 1)
            # Between two that differ as much anything may lie.
            if abs(by) >= far and abs(by) > abs(others[0] - others[1]) / 2:
                found.append(OutOfLine(i, measure, by))
    return sorted(found, key=lambda o: -abs(o.by) / o.measure.far)


def of_another_mood(pages: Sequence[Page]) -> list[OfAnotherMood]:
    """Pages that are far from a mood which both pages beside them hold, the furthest first."""
    found = []
    for i, beside in _beside(pages):
        end = i in (0, len(pages) - 1)
        held = [m for m in pages[i].faults if all(p.faults.get(m, _LOST) <= _HELD for p in beside)]
        far = max(held, key=pages[i].faults.__getitem__, default="")
        if far and pages[i].faults[far] >= _LOST * (_END if end else 1):
            found.append(OfAnotherMood(i, far, pages[i].faults[far], pages[i].reads_as))
    return sorted(found, key=lambda o: -o.by)


def told(pages: Sequence[Page]) -> list[tuple[int, Words]]:
    """What there is to say of pages that leave the line or the mood of those beside them: a line
    for each page, the furthest first."""
    off, moods = out_of_line(pages), of_another_mood(pages)
    lines = []
    for i in dict.fromkeys([o.page for o in off] + [m.page for m in moods]):
        said = " and ".join(str(o.short) for o in off if o.page == i)
        parts = [str(words("{said} than the pages beside it", said=said))] if said else []
        parts += [str(m.words) for m in moods if m.page == i]
        lines.append((i, words("{parts}", parts="; ".join(parts))))
    return lines


def _beside(pages: Sequence[Page]) -> Iterator[tuple[int, list[Page]]]:
    """Every page with the two that it is held against; none of too few."""
    for i in range(len(pages) if len(pages) >= _LEAST_PAGES else 0):
        beside = [pages[k] for k in (i - 1, i + 1) if 0 <= k < len(pages)]
        if len(beside) == 1:
            beside.append(pages[i + 2] if i == 0 else pages[i - 2])
        yield i, beside


class Shared(NamedTuple):
    """A colour that several pages have."""

    hex: str
    pages: tuple[int, ...]


def shared_colours(pages: Sequence[Page]) -> list[Shared]:
    """Colours that hold something of two pages or more, those of most pages first."""
    rows = [(h, s, i) for i, p in enumerate(pages) for h, s in p.palette if s >= _LEAST_SHARE]
    if not rows:
        return []
    labs = cielab(decode(np.stack([levels_of(h) for h, _, _ in rows]) / 255))
    found: list[Shared] = []
    taken: set[int] = set()
    for k in sorted(range(len(rows)), key=lambda k: -rows[k][1]):
        if k in taken:
            continue
        near = np.flatnonzero(ciede2000(labs, labs[k][None]) < SAME).tolist()
        mine = [n for n in near if n not in taken]
        pages_of = tuple(sorted({rows[n][2] for n in mine}))
        if len(pages_of) > 1:
            taken.update(mine)
            found.append(Shared(rows[k][0], pages_of))
    return sorted(found, key=lambda s: -len(s.pages))
