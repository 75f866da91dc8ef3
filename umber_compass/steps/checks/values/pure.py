"""Pure black and white leave the light no room."""

import numpy as np

from umber_compass.steps.checks.check import CheckSpec, Fix, Result, level_over, listed, names
from umber_compass.steps.checks.shifting import shifting
from umber_compass.steps.mending.beyond import shares_beyond
from umber_compass.steps.mending.room import is_movable
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.values.measured import moved_values, region_values
from umber_compass.words import words

NAME = "pure"
_SCAN = np.arange(0.5, 40.1, 0.5)  # L*


def _measure(derived: Derived) -> list[Result]:
    if not derived.wishes.on("pure"):
        return []
    shares = shares_beyond(derived, "pure.dark", "pure.light")
    share = 100 * sum(shares.values())
    rules = derived.rules
    level = level_over(share, rules["pure.note"], rules["pure.warning"])
    painted = (derived.adjacency.pixels > 0) & (derived.adjacency.label > 0)
    values = derived.values.by_code[painted]
    title = words("No pure black or white")
    text = words("darkest {low:.0f}, lightest {high:.0f} L*", low=values.min(), high=values.max())
    regions = tuple(sorted(shares, key=lambda r: -shares[r])) if level != "fine" else ()
    if level != "fine":
        title = words("Pure black or white")
        text = words(
            "{share:.2g} % of the picture, in {where}; wanted {wanted:g} % or less",
            share=share,
            where=listed([names(derived)[r] for r in regions]),
            wanted=rules["pure.note"],
        )
    return [Result(NAME, level, regions, share, rules["pure.note"], "%", title, text, whole=True)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """Every region that is pure moved just inside."""
    moves = {r: by for r in result.regions if (by := _move(derived, r))}
    text = words("Move {count} regions off black and white", count=len(moves))
    return [shifting(derived, "off-pure", moves, lambda _: text)] if moves else []


def _move(derived: Derived, region_id: str) -> float:
    """The least move, L*, that takes a region's pure px away; 0 where it may not move."""
    if not is_movable(derived, region_id):
        return 0.0
    label = next(r.label for r in derived.regions if r.id == region_id)
    values, px = region_values(derived.values, derived.adjacency, label)
    planned = derived.colours[region_id].mean_value
    low, high = derived.rules["pure.dark"], derived.rules["pure.light"]
    best = 0.0
    least = float(px[(values < low) | (values > high)].sum())
    for by in sorted((*_SCAN, *-_SCAN), key=abs):
        there = moved_values(values, planned, float(by))
        left = float(px[(there < low) | (there > high)].sum())
        if left < least - 0.5:
            best, least = float(by), left
        if not left:
            break
    margin = derived.rules["fix.value"]
    return float(best + np.sign(best) * margin)


_SAYS = (
    "Pure black and white leave light and shade no room, and stand out of every palette. Lines and "
    "solid blacks are left out unless the practice says otherwise."
)
CHECK = CheckSpec(NAME, "values", _measure, _candidates, _SAYS, wishes=("pure",))
