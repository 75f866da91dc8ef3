"""Pieces of a painting joined, the likest first. Each region is a plane of colour: shading from
side to side does not part it."""

import heapq
from typing import Protocol

import numpy as np

from umber_compass.colour.spaces import Floats
from umber_compass.steps.sketch.joining import Borders, Parts, renumbered, take_over
from umber_compass.steps.sketch.paints.pieces import Colours

_RIDGE = 2e-3  # of the area, on the slopes; places are shares of the longer side
_STEP = 2  # px to both sides, between which a border's contrast is measured
_SPARE = 0.3
_BY_CONTRAST, _BY_FIT, _BY_SIZE = 0.6, 0.4, 0.4  # powers of the cost


class _Regions:
    """Sums over each region, from which a plane and what it leaves can be had."""

    def __init__(self, part: Parts, colours: Colours) -> None:
        height, width = part.shape
        count, flat = int(part.max()) + 1, part.reshape(-1)
        y, x = np.indices(part.shape, np.float64) / max(height, width)
        c = [colours[..., i].astype(np.float64) for i in range(3)]
        terms = [np.ones_like(x), x, y, x * x, x * y, y * y, *c]
        terms += [v * x for v in c] + [v * y for v in c] + [v * v for v in c]
        self.sums: Floats = np.stack(
            [np.bincount(flat, t.reshape(-1), count).astype(float) for t in terms], axis=1
        )
        self.left = self._off(self.sums)

    @staticmethod
    def _off(s: Floats) -> Floats:
        """The squared error that the best plane leaves, for rows of sums."""
        n = s[:, 0]
        sxx = s[:, 3] - s[:, 1] ** 2 / n + _RIDGE * n
        sxy = s[:, 4] - s[:, 1] * s[:, 2] / n
        syy = s[:, 5] - s[:, 2] ** 2 / n + _RIDGE * n
        whole = np.maximum(sxx * syy - sxy * sxy, 1e-12)
        found = np.zeros(len(s))
        for i in range(3):
            mean = s[:, 6 + i] / n
            bx = s[:, 9 + i] - s[:, 1] * mean
            by = s[:, 12 + i] - s[:, 2] * mean
            found += s[:, 15 + i] - n * mean * mean
            found -= (bx * bx * syy - 2 * bx * by * sxy + by * by * sxx) / whole
        return np.maximum(found, 0)

    def cost(self, one: int, others: list[int], contrast: Floats) -> Floats:
        """What joining a region to each of some others costs."""
        rows = self.sums[others]
        a, b = self.sums[one, 0], rows[:, 0]
        hm = a * b / (a + b)
        rise = np.maximum(self._off(self.sums[one] + rows) - self.left[one] - self.left[others], 0)
        fit = np.sqrt(rise / hm)
        cost = (contrast + _SPARE) ** _BY_CONTRAST * (fit + _SPARE) ** _BY_FIT * hm**_BY_SIZE
        return np.asarray(cost)

    def join(self, gone: int, kept: int) -> None:
        self.sums[kept] += self.sums[gone]
        self.left[kept] = self._off(self.sums[kept][None])[0]


class Joins(Protocol):
    """Regions that say how far they are from each other, and are joined."""

    def cost(self, one: int, others: list[int], contrast: Floats) -> Floats:
        """What joining a region to each of some others costs; `contrast` is the mean colour step
        along the border with each."""

    def join(self, gone: int, kept: int) -> None:
        """One region goes into another."""


def merged(part: Parts, colours: Colours, wanted: int) -> Parts:
    """Pieces, (h, w) numbered from 0, joined until so many are left."""
    return joined(part, colours, _Regions(part, colours), wanted, np.inf)


def joined(part: Parts, colours: Colours, regions: Joins, wanted: int, most: float) -> Parts:
    """Pieces, (h, w) numbered from 0, the likest first, until so many are left or the next would
    cost more than the most."""
    length, step = contrasts(part, colours)
    owner = list(range(len(length)))
    stamp = [0] * len(owner)
    heap: list[tuple[float, int, int, int, int]] = []

    def offer(one: int) -> None:
        others = list(length[one])
        if not others:
            return
        contrast = np.array([step[one][b] / max(length[one][b], 1e-9) for b in others])
        for b, cost in zip(others, regions.cost(one, others, contrast).tolist(), strict=True):
            heapq.heappush(heap, (cost, one, b, stamp[one], stamp[b]))

    for one in range(len(owner)):
        offer(one)
    left = len(owner)
    while left > wanted and heap:
        price, one, other, at_one, at_other = heapq.heappop(heap)
        current = owner[one] == one and owner[other] == other
        if not current or (stamp[one], stamp[other]) != (at_one, at_other):
            continue
        if price > most:
            break
        owner[other] = one
        regions.join(other, one)
        for table in (length, step):
            take_over(table, other, one)
        stamp[one] += 1
        left -= 1
        offer(one)
    return renumbered(part, owner)


def contrasts(part: Parts, colours: Colours) -> tuple[Borders, Borders]:
    """For every two pieces that touch: how long their border is, and the sum over it of the colour
    step between both sides."""
    count = int(part.max()) + 1
    keys, steps = [], []
    for axis in (0, 1):
        p, c = np.moveaxis(part, axis, 1), np.moveaxis(colours, axis, 1)
        row, column = np.nonzero(p[:, 1:] != p[:, :-1])
        before = np.maximum(column - (_STEP - 1), 0)
        after = np.minimum(column + _STEP, p.shape[1] - 1)
        steps.append(np.linalg.norm(c[row, after] - c[row, before], axis=1))
        a, b = p[row, column], p[row, column + 1]
        keys.append(np.minimum(a, b).astype(np.int64) * count + np.maximum(a, b))
    key, place = np.unique(np.concatenate(keys), return_inverse=True)
    px = np.bincount(place)
    total = np.bincount(place, np.concatenate(steps))
    length: Borders = {i: {} for i in range(count)}
    step: Borders = {i: {} for i in range(count)}
    for k, n, t in zip(key.tolist(), px.tolist(), total.tolist(), strict=True):
        a, b = divmod(k, count)
        length[a][b] = length[b][a] = float(n)
        step[a][b] = step[b][a] = float(t)
    return length, step
