"""Values parted into a few groups."""

from typing import TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import Floats

Ints: TypeAlias = npt.NDArray[np.intp]

_LEAST = 2  # L*, the narrowest group


def optimal_edges(histogram: Floats, count: int) -> tuple[float, ...]:
    """The edges, L*, that part a picture into some groups within which values differ least (after
    Fisher 1958, by dynamic programming on points of L*)."""
    share = np.asarray(histogram, float)
    at = np.arange(len(share)) + 0.5
    sums = [np.concatenate([[0.0], np.cumsum(share * at**k)]) for k in range(3)]

    def spread(low: Ints, high: int) -> Floats:
        n, s, q = (total[high] - total[low] for total in sums)
        return np.asarray(q - s * s / np.maximum(n, 1e-12))

    size = len(share)
    best = np.array([float(spread(np.array([0]), j)[0]) for j in range(size + 1)])
    cuts = []
    for _ in range(count - 1):
        after, cut = np.full(size + 1, np.inf), np.zeros(size + 1, np.intp)
        for high in range(_LEAST, size + 1):
            low = np.arange(0, high - _LEAST + 1)
            cost = best[low] + spread(low, high)
            cut[high] = int(cost.argmin())
            after[high] = cost[cut[high]]
        cuts.append(cut)
        best = after
    edges, high = [], size
    for cut in reversed(cuts):
        high = int(cut[high])
        edges.append(float(high))
    return _rising(edges[::-1])


def _rising(edges: list[float]) -> tuple[float, ...]:
    """Edges that part something: a picture of fewer values than groups gives equal ones."""
    found: list[float] = []
    for i, edge in enumerate(edges):
        low = (found[-1] if found else 0.0) + _LEAST
        high = 100.0 - _LEAST * (len(edges) - i)
        found.append(min(max(edge, low), high))
    return tuple(found)
