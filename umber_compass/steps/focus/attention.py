"""The picture that is shown, held against what the artist wants met first."""

from collections.abc import Iterable
from typing import NamedTuple

import numpy as np

from umber_compass.colour.packed import Levels, pack
from umber_compass.picture.buffers import SurfaceBuffers
from umber_compass.picture.indexed import IndexedPicture, gathered
from umber_compass.picture.relit import Lit
from umber_compass.plan.model import Region
from umber_compass.plan.wishes import Focus, Point
from umber_compass.steps.focus.lattice import Lattice, Row
from umber_compass.steps.focus.places import Places, places_of
from umber_compass.steps.focus.pull import Pull, look_at, pull_of
from umber_compass.work import Tick, idle

_MOSTLY = 0.5  # of a region within a point's radius, from which it is part of the focus


class Attention(NamedTuple):
    """What draws the eye, by label, and how the focus stands in it."""

    pull: Pull
    total: Row  # (labels,) pulls; outlines, which belong to their figures, have none
    places: Places
    focus: tuple[int, ...]  # labels; empty where no focus is set
    lead: (
        float  # the focus’s pull over the strongest other’s; 0 where there is no focus or no other
    )
    rival: int | None  # the strongest other

    def leads(self, ties_from_percent: float) -> bool:
        """Whether one place is met first: something is, and no other ties with it."""
        return self.places.is_met and not self.places.tie(ties_from_percent)


def attention(
    lattice: Lattice | None,
    indexed: IndexedPicture,
    buffers: SurfaceBuffers | None,
    table: Levels,
    lit: Lit | None,
    regions: tuple[Region, ...],
    focus: Focus | None,
    tick: Tick = idle,
) -> Attention | None:
    """What draws the eye in the picture that is shown: lit where there are buffers, else flat. None
    until the lattice is there."""
    if lattice is None:
        return None
    tick(-1.0)
    if buffers is not None and lit is not None:
        shown = lit.packed[buffers.code[lattice.at]]
    else:
        shown = pack(table)[gathered(indexed).code[lattice.at]]
    pull = pull_of(lattice, look_at(lattice, shown))
    own = focus_labels(lattice, regions, focus)
    # What the artist names as the focus stands for itself, however thin it is.
    total = np.where(lattice.is_line, 0.0, pull.total)
    total[list(own)] = pull.total[list(own)]
    lead, rival = lead_of(total, own)
    return Attention(pull, total, places_of(lattice, pull), own, lead, rival)


def focus_regions(regions: Iterable[Region], focus: Focus | None) -> tuple[str, ...]:
    """The regions that are wished to be met first, by id, if they are said as such: those the
    artist named, else those whose role is focus."""
    if focus is not None:
        return focus.regions
    return tuple(r.id for r in regions if r.role == "focus")


def focus_labels(
    lattice: Lattice, regions: tuple[Region, ...], focus: Focus | None
) -> tuple[int, ...]:
    """The labels that are wished to be met first. A point means what lies mostly within its radius;
    where nothing does, what lies under it."""
    named = focus_regions(regions, focus)
    found = {r.label for r in regions if r.id in named and r.label < len(lattice.share)}
    if focus is not None and focus.point is not None:
        found |= set(_within(lattice, focus.point))
    return tuple(sorted(i for i in found if lattice.share[i] > 0))


def _within(lattice: Lattice, point: Point) -> list[int]:
    rows, columns = lattice.shape
    y, x = np.divmod(np.arange(rows * columns), columns)
    across = (x + 0.5) / columns - point.x
    down = ((y + 0.5) / rows - point.y) / lattice.aspect
    most = len(lattice.share)
    inside = across * across + down * down <= point.radius**2
    held = np.bincount(lattice.label, inside, most)
    whole = np.maximum(np.bincount(lattice.label, minlength=most), 1)
    found = np.flatnonzero((held / whole >= _MOSTLY) & (np.arange(most) > 0))
    if len(found):
        return [int(i) for i in found]
    at = min(int(point.y * rows), rows - 1) * columns + min(int(point.x * columns), columns - 1)
    return [int(lattice.label[at])] if lattice.label[at] else []


def lead_of(total: Row, focus: tuple[int, ...]) -> tuple[float, int | None]:
    """The focus's pull over the strongest other's, and which that is; `total` is by label."""
    others = total.copy()
    others[[0, *focus]] = 0.0
    strongest = int(np.argmax(others))
    if not focus or others[strongest] <= 0:
        return 0.0, None
    return float(total[list(focus)].max() / others[strongest]), strongest
