"""Line art becomes regions: the areas its lines enclose, gaps up to a width closed where a line
ends (docs/sketch.md)."""

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import Packed, unpack
from umber_compass.plan.model import Neck
from umber_compass.plan.terms import Role
from umber_compass.steps.harmony.readings import DEALT_GREYS
from umber_compass.steps.sketch.joining import Parts
from umber_compass.steps.sketch.kinds.kind import KindSpec, Setting, Settings, Split, number_of
from umber_compass.steps.sketch.kinds.many import AT_MOST, by_area, within_bounds
from umber_compass.steps.sketch.lines.ink import Mask, distance_to, ink_of
from umber_compass.steps.sketch.lines.necks import Found, find_areas, grow_into
from umber_compass.steps.sketch.lines.paper import drawn_dark
from umber_compass.steps.sketch.lines.tips import Gap
from umber_compass.words import Refusal, words
from umber_compass.work import Tick

GAP = Setting("gap", "close gaps up to", "px", 0, 40, 17)
OWN_LINES = Setting("own-lines", "lines are a region", "0 or 1", 0, 1, 1)
HATCHING = Setting("hatching", "hatching is one tone", "0 or 1", 0, 1, 1)
_ROOT = 7  # px; ink further from paper is no line but a solid black
_SOLID = _ROOT * _ROOT
_SOLID_PX = 400  # that such a black holds, at least
_COARSE = (4, 8, 16)  # px for one, where leaks wider than the widest gap are looked for
# Greys that part areas from each other until the artist gives colours, likest to paper first
# (levels, studio rule).
_GREYS = DEALT_GREYS
_LINE, _BLACK = (34, 34, 38), (22, 22, 26)


def split(packed: Packed, subject: str, settings: Settings, tick: Tick) -> Split:
    """The regions of line art, (h, w) 0x00RRGGBB. Raises Refusal if there are no lines, or they
    close nothing."""
    ink = ink_of(drawn_dark(packed))
    if ink is None:
        line = words("no lines are found in it; bring in lines that part from their ground")
        raise Refusal(subject, line)
    tick(0.1)
    found = find_areas(ink, distance_to(ink), number_of(settings, GAP))
    tick(0.6)
    _refuse_open(found, ink, subject)
    if number_of(settings, HATCHING):
        from umber_compass.steps.sketch.lines.hatching import without_stripes

        found = without_stripes(found)
    parts = within_bounds(found.areas - 1, unpack(packed), settings, subject)
    count = int(parts.max()) + 1
    parts = grow_into(parts, ~ink)
    extra: list[Role] = []
    solid = _solids(ink) if number_of(settings, OWN_LINES) else None
    if solid is None:
        parts = grow_into(parts, np.ones(ink.shape, bool))
    else:
        parts[ink & ~solid], extra = count, ["line"]
        if np.count_nonzero(solid) >= _SOLID_PX:
            parts[solid], extra = count + 1, ["line", "line"]
    parts[(parts < 0)] = count if extra else 0
    tick(0.9)
    return _told(parts, count, extra, found)


def _refuse_open(found: Found, ink: Mask, subject: str) -> None:
    """Refuse line art that closes nothing: it says where it is likeliest to leak, if anywhere."""
    if int(found.areas.max(initial=0)) > 1:
        return
    gap = _likely_leak(found, ink)
    if gap is not None:
        line = words(
            "its lines close no area: everything leaks together, as at {x:.0f}, {y:.0f}, through "
            "{px:.0f} px; close that line, or raise the gap that is closed",
            x=(gap.x0 + gap.x1) / 2,
            y=(gap.y0 + gap.y1) / 2,
            px=gap.width,
        )
    else:
        line = words("its lines close no area; close them, or raise the gap that is closed")
    raise Refusal(subject, line)


def _likely_leak(judged: Found, ink: Mask) -> Gap | None:
    """The narrowest place where a line may be open: among the gaps that were judged, or wider ones,
    as they are seen on a smaller copy."""
    near = [n.gap for n in judged.necks if not n.closed]
    if near:
        return min(near, key=lambda g: g.width)
    for by in _COARSE:
        coarse = _coarser(ink, by)
        if min(coarse.shape) < 8:
            break
        found = find_areas(coarse, distance_to(coarse), GAP.high / 2)
        wide = [n.gap for n in found.necks if n.closed]
        if wide:
            gap = min(wide, key=lambda g: g.width)
            x0, y0, x1, y1 = (n * by for n in (gap.x0, gap.y0, gap.x1, gap.y1))
            return Gap(x0, y0, x1, y1, gap.is_tip)
    return None


def _coarser(ink: Mask, by: int) -> Mask:
    """Ink with one px for so many a side: ink where any of them is."""
    height, width = (n // by * by for n in ink.shape)
    parts = ink[:height, :width].reshape(height // by, by, width // by, by)
    return np.asarray(parts.any(axis=(1, 3)))


def _solids(ink: Mask) -> Mask:
    """Which ink is no line but a filled black."""
    # Of a black so wide a grid of that step meets nine places round its middle: mostly there is
    # none, and nothing more is asked.
    grid = ink[::_ROOT, ::_ROOT]
    nine = [grid[y : y - 2 or None, x : x - 2 or None] for y in range(3) for x in range(3)]
    if min(grid.shape) < 3 or not np.logical_and.reduce(nine).any():
        return np.zeros_like(ink)
    core = distance_to(~ink) > _SOLID
    if not core.any():
        return core
    return np.asarray(ink & (distance_to(core) <= (_ROOT + 1) ** 2))


def _told(parts: Parts, count: int, extra: list[Role], found: Found) -> Split:
    labels, order = by_area(parts)
    colours = _parted(parts, count)
    all_colours = (
        np.concatenate([colours, [_LINE, _BLACK][: len(extra)]]).astype(np.uint8)
        if extra
        else colours
    )
    roles: list[Role | None] = [None] * count + list(extra)
    names = [""] * count + ["lines", "solid black"][: len(extra)]
    necks = tuple(
        Neck(x0=n.gap.x0, y0=n.gap.y0, x1=n.gap.x1, y1=n.gap.y1, closed=n.closed)
        for n in sorted(found.necks, key=lambda n: -n.gap.width)[:2000]
    )
    return Split(
        labels,
        all_colours[order],
        names=tuple(names[i] for i in order),
        roles=tuple(roles[i] for i in order),
        necks=necks,
        is_planned=False,
    )


def _parted(parts: Parts, count: int) -> npt.NDArray[np.uint8]:
    """A grey for each area, none like one beside it: the first that is free, largest areas first.
    Areas beside each other have only a line between them."""
    from scipy.ndimage import maximum_filter, minimum_filter

    reach = 9  # px; wider than a line
    small = parts[::2, ::2]
    held = np.where((small >= 0) & (small < count), small, -1)
    most = maximum_filter(held, reach)
    least = minimum_filter(np.where(held < 0, count, held), reach)
    at = (most >= 0) & (least < count) & (most != least)
    pairs = np.unique(least[at].astype(np.int64) * count + most[at])
    beside: list[set[int]] = [set() for _ in range(count)]
    for a, b in zip(*np.divmod(pairs, count), strict=True):
        beside[int(a)].add(int(b))
        beside[int(b)].add(int(a))
    area = np.bincount(held[held >= 0], minlength=count)
    own: dict[int, int] = {}
    for i in np.argsort(-area, kind="stable").tolist():
        taken = {own[j] for j in beside[i] if j in own}
        own[i] = next((g for g in range(len(_GREYS)) if g not in taken), i % len(_GREYS))
    return np.array([[_GREYS[own[i]]] * 3 for i in range(count)], np.uint8).reshape(-1, 3)


KIND = KindSpec(
    "lines", "Line art", "closed areas become regions", split, (GAP, OWN_LINES, HATCHING, AT_MOST)
)
