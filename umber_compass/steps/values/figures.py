"""Figures: regions of that role that touch, as one; and which merge with what lies behind them."""

from collections import defaultdict
from collections.abc import Mapping
from typing import NamedTuple

import numpy as np

from umber_compass.colour.spaces import Floats
from umber_compass.picture.adjacency import Adjacency
from umber_compass.plan.model import Region
from umber_compass.steps.values.measured import median
from umber_compass.steps.values.parting import FIGURES, Border, gaps, wanted
from umber_compass.steps.values.wishes import HeldWishes

_LEAST = 0.002  # of the picture; smaller ones say nothing


class Figure(NamedTuple):
    """One figure: its regions by id and label, the largest first."""

    regions: tuple[str, ...]
    labels: tuple[int, ...]

    def median(self, histograms: Floats) -> float:
        """The value L* that half of it lies under; `histograms` are by label."""
        return median(histograms[list(self.labels)].sum(axis=0))

    def share_over(self, histograms: Floats, low: float) -> float:
        """The share of it, 0-1, that lies at a value L* or over."""
        own = histograms[list(self.labels)].sum(axis=0)
        return float(own[np.arange(len(own)) >= round(low)].sum() / max(float(own.sum()), 1.0))


def figures_of(
    adjacency: Adjacency, regions: tuple[Region, ...], shares: Mapping[str, float]
) -> tuple[Figure, ...]:
    """The figures of a plan that hold enough of it to be seen, the largest first."""
    mine = {r.label: r.id for r in regions if r.role in FIGURES}
    group = {label: label for label in mine}
    for a, b in adjacency.pair_labels.tolist():
        if a in group and b in group and group[a] != group[b]:
            old, new = group[b], group[a]
            group = {k: new if g == old else g for k, g in group.items()}
    found: dict[int, list[int]] = {}
    for label, root in group.items():
        found.setdefault(root, []).append(label)
    whole = [sorted(own, key=lambda i: -shares[mine[i]]) for own in found.values()]
    seen = [own for own in whole if sum(shares[mine[i]] for i in own) >= _LEAST]
    seen.sort(key=lambda own: -shares[mine[own[0]]])
    return tuple(Figure(tuple(mine[i] for i in own), tuple(own)) for own in seen)


def merged_borders(
    figures: tuple[Figure, ...],
    borders: tuple[Border, ...],
    wishes: HeldWishes,
    adjacency: Adjacency,
    by_code: Floats,
    lost_percent: float,
) -> frozenset[int]:
    """Of each figure that merges along that much of its outline, the border along which it merges
    longest, by its pair in the adjacency. One that is lost here and there is a painter's choice."""
    apart, px = gaps(adjacency, by_code), adjacency.pair_px
    by_region: dict[str, list[Border]] = defaultdict(list)
    for border in wanted(borders, wishes):
        by_region[border.figure].append(border)
    found = set()
    for figure in figures:
        own = [b for r in figure.regions for b in by_region[r]]
        low = [b for b in own if apart[b.pair] < wishes.of[b.wish].warning]
        whole, lost = (sum(int(px[b.pair]) for b in some) for some in (own, low))
        if low and 100 * lost >= lost_percent * whole:
            found.add(max(low, key=lambda b: int(px[b.pair])).pair)
    return frozenset(found)
