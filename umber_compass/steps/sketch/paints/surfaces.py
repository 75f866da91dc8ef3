"""Pieces of a painting joined to surfaces: light and shade of one thing are one region, because
they pass into each other, while another thing begins with a step."""

import heapq

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import Floats
from umber_compass.steps.sketch.joining import Parts, renumbered, take_over
from umber_compass.steps.sketch.paints.merging import contrasts
from umber_compass.steps.sketch.paints.pieces import Colours

# Studio rules, docs/sketch.md: chosen on shaded balls, brushed and sprayed paintings.
_STEP = 6.0  # OKLab x 100 along a border, from which another surface begins
_BY_TINT = 0.2  # of the difference of tint between both sides, beside the step itself
_LARGE, _BY_SIZE = 4.0, 0.5  # pieces that a surface is large from; power for a smaller one


class _Surfaces:
    """What each region is: its px and its tint."""

    def __init__(self, part: Parts, colours: Colours) -> None:
        flat = part.reshape(-1)
        self.size = np.bincount(flat).astype(float)
        tints = [np.bincount(flat, colours[..., i].reshape(-1)) / self.size for i in (1, 2)]
        self.tint = np.stack(tints, axis=1)
        self.large = _LARGE * self.size.mean()

    def costs(self, one: int, others: npt.NDArray[np.intp], step: Floats) -> Floats:
        """How far a region is from each of some beside it; a small one is never far."""
        both = self.size[one] * self.size[others] / (self.size[one] + self.size[others])
        tint = np.linalg.norm(self.tint[others] - self.tint[one], axis=1)
        small = np.minimum(1, both / self.large) ** _BY_SIZE
        return np.asarray((step + _BY_TINT * tint) * small)

    def join(self, gone: int, kept: int) -> None:
        a, b = self.size[kept], self.size[gone]
        self.tint[kept] = (self.tint[kept] * a + self.tint[gone] * b) / (a + b)
        self.size[kept] = a + b


def surfaces(part: Parts, colours: Colours, wanted: int | None) -> Parts:
    """Pieces, (h, w) numbered from 0, joined until a step parts every two that touch, or so many
    as are wanted are left."""
    known = _Surfaces(part, colours)
    length, step = contrasts(part, colours)
    owner, stamp = list(range(len(length))), [0] * len(length)
    heap: list[tuple[float, int, int, int, int]] = []

    def offer(one: int) -> None:
        others = list(length[one])
        if others:
            mean = np.array([step[one][b] / max(length[one][b], 1e-9) for b in others])
            costs = known.costs(one, np.array(others), mean).tolist()
            for b, cost in zip(others, costs, strict=True):
                heapq.heappush(heap, (cost, one, b, stamp[one], stamp[b]))

    for one in range(len(owner)):
        offer(one)
    left = len(owner)
    while heap and left > (wanted or 1):
        cost, one, other, at_one, at_other = heapq.heappop(heap)
        current = owner[one] == one and owner[other] == other
        if not current or (stamp[one], stamp[other]) != (at_one, at_other):
            continue
        if wanted is None and cost > _STEP:
            break
        owner[other] = one
        known.join(other, one)
        for table in (length, step):
            take_over(table, other, one)
        stamp[one] += 1
        left -= 1
        offer(one)
    return renumbered(part, owner)
