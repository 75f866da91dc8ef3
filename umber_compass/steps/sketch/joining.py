"""Areas that are too small joined to those beside them, smallest first."""

import heapq
from collections.abc import Callable
from typing import TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import Floats
from umber_compass.picture.adjacency import touching_pairs

Parts: TypeAlias = npt.NDArray[np.int32]  # (h, w) areas, numbered from 0
Borders: TypeAlias = dict[int, dict[int, float]]  # px that two areas share, both ways


def borders_between(part: Parts) -> Borders:
    """How long a border every two areas share, px."""
    pairs, length = touching_pairs(part)
    found: Borders = {i: {} for i in range(int(part.max()) + 1)}
    for (a, b), px in zip(pairs.tolist(), length.tolist(), strict=True):
        found[a][b] = found[b][a] = float(px)
    return found


def merged_specks(
    part: Parts,
    size: Floats,
    mean: Floats,
    borders: Borders,
    is_speck: Callable[[float, float], bool],
    worth: Callable[[float, float], float],
) -> Parts:
    """Areas, numbered from 0 without a gap, in which no speck is left: the smallest joins the
    neighbour that is worth most. `mean`, (areas, n), is what each looks like; `is_speck` is asked
    with its px and its difference from that neighbour, `worth` with the shared border, px, and the
    difference."""
    owner = list(range(len(size)))
    size, mean = size.copy(), mean.astype(float).copy()
    heap = [(float(s), i) for i, s in enumerate(size)]
    heapq.heapify(heap)
    while heap:
        area, one = heapq.heappop(heap)
        if owner[one] != one or area != size[one] or not borders[one]:
            continue
        apart = {b: float(np.linalg.norm(mean[one] - mean[b])) for b in borders[one]}
        best = max(borders[one], key=lambda b: worth(borders[one][b], apart[b]))
        if not is_speck(area, apart[best]):
            continue
        owner[one] = best
        mean[best] = (mean[best] * size[best] + mean[one] * area) / (size[best] + area)
        size[best] += area
        take_over(borders, one, best)
        heapq.heappush(heap, (float(size[best]), best))
    return renumbered(part, owner)


def take_over(table: Borders, gone: int, kept: int) -> None:
    """One area's share in a table of pairs added to another's. In place."""
    for other, amount in table.pop(gone).items():
        del table[other][gone]
        if other != kept:
            table[kept][other] = table[kept].get(other, 0.0) + amount
            table[other][kept] = table[kept][other]


def renumbered(part: Parts, owner: list[int]) -> Parts:
    """Areas after some went over to others, numbered from 0 without a gap."""
    root = np.arange(len(owner))
    for i in range(len(owner)):
        at = i
        while owner[at] != at:
            at = owner[at]
        root[i] = at
    _, number = np.unique(root, return_inverse=True)
    return np.asarray(number.astype(np.int32)[part])


def connected_parts(labels: npt.NDArray[np.integer]) -> tuple[Parts, int]:
    """The parts of a label map, (h, w), that hang together with one label, numbered from 0, and how
    many there are."""
    from scipy.sparse import coo_array
    from scipy.sparse.csgraph import connected_components

    # Runs along the rows are joined to those of one label they touch below: few, and one pass.
    height, width = labels.shape
    begins = np.ones(labels.shape, bool)
    begins[:, 1:] = labels[:, 1:] != labels[:, :-1]
    run = (np.cumsum(begins.reshape(-1)) - 1).reshape(height, width)
    same = labels[1:] == labels[:-1]
    # One px of each place where two runs touch is enough.
    first = same & np.concatenate(
        [np.ones((height - 1, 1), bool), begins[1:, 1:] | begins[:-1, 1:] | ~same[:, :-1]], axis=1
    )
    above, below = run[:-1][first], run[1:][first]
    many = int(run[-1, -1]) + 1
    graph = coo_array((np.ones(len(above), np.int8), (above, below)), shape=(many, many))
    count, part = connected_components(graph, directed=False)
    return part[run].astype(np.int32), int(count)
