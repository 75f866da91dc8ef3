"""Figures that merge with what lies behind them along most of their outline: damage, whoever wished
what. A border that is lost here and there is a painter's own choice."""

from collections import defaultdict

from umber_compass.steps.pipeline import Derived
from umber_compass.steps.values.parting import Border, gaps, wanted


def merged_borders(derived: Derived) -> frozenset[int]:
    """Of each figure that merges, the border along which it merges longest, by its pair in the
    adjacency. Regions of figures that touch count as one figure."""
    apart = gaps(derived.adjacency, derived.values.by_code)
    by_region: dict[str, list[Border]] = defaultdict(list)
    for border in wanted(derived.borders, derived.wishes):
        by_region[border.figure].append(border)
    found = set()
    for figure in derived.figures:
        own = [b for r in figure.regions for b in by_region[r]]
        low = [b for b in own if apart[b.pair] < derived.wishes.of[b.wish].warning]
        if low and _px(derived, low) >= derived.rules["figure-merges.lost"] / 100 * _px(
            derived, own
        ):
            found.add(max(low, key=lambda b: int(derived.adjacency.pair_px[b.pair])).pair)
    return frozenset(found)


def _px(derived: Derived, borders: list[Border]) -> int:
    return sum(int(derived.adjacency.pair_px[b.pair]) for b in borders)
