"""How much of the picture each region holds beyond some limits of value."""

import numpy as np

from umber_compass.steps.pipeline import Derived


def shares_beyond(derived: Derived, low: str, high: str) -> dict[str, float]:
    """The share of the picture, 0-1, that regions hold darker than one rule or lighter than
    another, L*; ink left out, and regions that hold none."""
    by_code, adjacency, rules = derived.values.by_code, derived.adjacency, derived.rules
    out = (by_code < rules[low]) | (by_code > rules[high])
    held = np.bincount(adjacency.label, adjacency.pixels * out)
    total = max(int(adjacency.pixels[adjacency.label > 0].sum()), 1)
    shares = {
        r.id: float(held[r.label]) / total
        for r in derived.regions
        if r.label < len(held) and r.id not in derived.ink
    }
    return {r: s for r, s in shares.items() if s > 0}
