"""Figures: regions of that role that touch each other, as one."""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.spaces import Floats
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.values.measured import region_values
from umber_compass.steps.values.parting import FIGURES

_LEAST = 0.002  # of the picture; smaller ones say nothing


class Figure(NamedTuple):
    """One figure: its regions by id, the largest first."""

    regions: tuple[str, ...]

    def values(self, derived: Derived, region_id: str) -> tuple[Floats, Floats]:
        """The values L* of one of its regions' codes, and the px of each."""
        label = next(r.label for r in derived.regions if r.id == region_id)
        return region_values(derived.values, derived.grain, label)

    def _all(self, derived: Derived) -> tuple[Floats, Floats]:
        parts = [self.values(derived, r) for r in self.regions]
        return np.concatenate([v for v, _ in parts]), np.concatenate([p for _, p in parts])

    def median(self, derived: Derived) -> float:
        """The value L* that half of it lies under."""
        values, px = self._all(derived)
        order = np.argsort(values)
        held = np.cumsum(px[order])
        if not held.size or not held[-1]:
            return 100.0
        return float(values[order[np.searchsorted(held, held[-1] / 2)]])

    def share_over(self, derived: Derived, low: float) -> float:
        """The share of it, 0-1, that lies at a value L* or over."""
        values, px = self._all(derived)
        return float(px[values >= low].sum() / max(float(px.sum()), 1.0))


def figures_of(derived: Derived) -> list[Figure]:
    """The figures of a plan that hold enough of it to be seen, the largest first."""
    mine = {r.label: r.id for r in derived.regions if r.role in FIGURES}
    group = {label: label for label in mine}
    for a, b in derived.grain.pair_labels.tolist():
        if a in group and b in group and group[a] != group[b]:
            old, new = group[b], group[a]
            group = {k: new if g == old else g for k, g in group.items()}
    found: dict[int, list[str]] = {}
    for label, root in group.items():
        found.setdefault(root, []).append(mine[label])
    share = derived.shares
    whole = [sorted(ids, key=lambda r: -share[r]) for ids in found.values()]
    seen = [ids for ids in whole if sum(share[r] for r in ids) >= _LEAST]
    return [Figure(tuple(ids)) for ids in sorted(seen, key=lambda ids: -share[ids[0]])]
