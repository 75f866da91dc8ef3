"""Pure black and white leave the light no room."""

import numpy as np

from umber_compass.plan.edits import Edit
from umber_compass.steps.checks.spec import CheckSpec, Fix, Result, level_over, listed, names
from umber_compass.steps.harmony.edits import shift_values
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.values.measured import moved_values, region_values
from umber_compass.steps.values.room import is_movable
from umber_compass.words import words

NAME = "pure"
_SCAN = np.arange(0.5, 40.1, 0.5)  # L*


def _measure(derived: Derived) -> list[Result]:
    if not derived.wants.on("pure"):
        return []
    shares = _shares(derived)
    share = 100 * sum(shares.values())
    rules = derived.rules
    level = level_over(share, rules["pure.note"], rules["pure.warning"])
    values = derived.values.by_code[derived.grain.pixels > 0]
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


def _shares(derived: Derived) -> dict[str, float]:
    """The share of the picture, 0-1, that each region shows pure; ink left out."""
    grain, by_code = derived.grain, derived.values.by_code
    out = (by_code < derived.rules["pure.dark"]) | (by_code > derived.rules["pure.light"])
    held = np.bincount(grain.label, grain.pixels * out)
    total = max(int(grain.pixels[grain.label > 0].sum()), 1)
    found = {
        r.id: float(held[r.label]) / total
        for r in derived.regions
        if r.label < len(held) and r.id not in derived.ink
    }
    return {r: s for r, s in found.items() if s > 0}


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """Every region that is pure moved just inside."""
    moves = {r: by for r in result.regions if (by := _move(derived, r))}
    return [_fix(derived, moves, 1.0)] if moves else []


def _move(derived: Derived, region_id: str) -> float:
    """The least move, L*, that takes a region's pure px away; 0 where it may not move."""
    if not is_movable(derived, region_id):
        return 0.0
    label = next(r.label for r in derived.regions if r.id == region_id)
    values, px = region_values(derived.values, derived.grain, label)
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


def _fix(derived: Derived, moves: dict[str, float], times: float) -> Fix:
    moved = {r: by * times for r, by in moves.items()}
    region, by = next(iter(moved.items()))
    text = words("Bring {count} regions off pure", count=len(moved))
    if len(moved) == 1:
        to = derived.colours[region].mean_value + by
        text = words(
            "Lighten {name} to {v:.0f}" if by > 0 else "Darken {name} to {v:.0f}",
            name=names(derived)[region],
            v=to,
        )
    return Fix(
        "off-pure",
        text,
        Edit(text, shift_values(moved)),
        at=lambda more: _fix(derived, moves, more),
        move=max(map(abs, moved.values())),
    )


_SAYS = (
    "Pure black and white leave light and shade no room, and stand out of every palette. Lines and "
    "solid blacks are left out unless the practice says otherwise."
)
CHECK = CheckSpec(NAME, "values", _measure, _candidates, _SAYS)
