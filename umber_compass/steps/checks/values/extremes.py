"""Extremes are for accents: how much of the picture lies beyond the limits for darks and lights."""

from typing import NamedTuple

import numpy as np

from umber_compass.plan.edits import region
from umber_compass.steps.checks.check import CheckSpec, Fix, Result, level_over
from umber_compass.steps.checks.shifting import shifting
from umber_compass.steps.mending.beyond import shares_beyond
from umber_compass.steps.mending.room import is_movable
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.values.measured import moved_values
from umber_compass.words import words

NAME = "extremes"
_SCAN = np.arange(-60, 60.01, 0.5)  # L*, the moves that are tried
_UNITS = 1000
_STILL = len(_SCAN) // 2  # no move


def _measure(derived: Derived) -> list[Result]:
    if not derived.wishes.on("extremes"):
        return []
    share = derived.values.extremes * 100
    held = derived.wishes.of["extremes"]
    note = held.number
    level = level_over(share, note, held.warning)
    title = (
        "Very dark and very light are accents"
        if level == "fine"
        else "Too much very dark or very light"
    )
    beyond = shares_beyond(derived, "extremes.dark", "extremes.light")
    text = words(
        "{measured:.3g} % is darker than {dark:g} or lighter than {light:g} L*, "
        "wanted {wanted:g} % or less",
        measured=share,
        dark=derived.rules["extremes.dark"],
        light=derived.rules["extremes.light"],
        wanted=note,
    )
    regions = tuple(sorted(beyond, key=lambda r: -beyond[r])) if level != "fine" else ()
    return [Result(NAME, level, regions, share, note, "%", words(title), text, whole=True)]


class _Move(NamedTuple):
    """What bringing one region inside would do: its planned value moved by some L*, and the share
    of the picture, 0-1, that comes inside."""

    region: str
    by: float
    gain: float
    cost: float


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """The set of regions to bring inside the limits that costs least, as a 0/1 cover; and the same
    without its largest region, for another choice. In a light the exposure shifts with what is
    moved, so wider covers are offered too; the ranking takes the least that reaches the wish."""
    beyond = shares_beyond(derived, "extremes.dark", "extremes.light")
    moves = [m for r in beyond if (m := _move(derived, r)) is not None]
    excess = float(derived.values.extremes) - result.wanted / 100
    found: list[Fix] = []
    for wider in (1.0, 1.25, 1.6) if derived.lit is not None else (1.0,):
        first = _cover(moves, excess * wider)
        if first:
            found.append(_fix(derived, first, len(found)))
    if found:
        first = _cover(moves, excess)
        largest = max(first, key=lambda m: m.gain)
        second = _cover([m for m in moves if m is not largest], excess)
        if second:
            found.append(_fix(derived, second, len(found)))
    elif moves:
        found.append(_fix(derived, moves, 0))
    return found


def _move(derived: Derived, region_id: str) -> _Move | None:
    """The smallest move of a region's value that brings most of it inside; None if its colour is
    given or no move helps."""
    if not is_movable(derived, region_id):
        return None
    label = region(derived.plan, region_id).label
    at = np.flatnonzero(derived.adjacency.label == label)
    low, high = derived.rules["extremes.dark"], derived.rules["extremes.light"]
    planned = derived.colours[region_id].mean_value
    there = moved_values(derived.values.by_code[at], planned, _SCAN[:, None])
    held = derived.adjacency.pixels[at] / max(
        int(derived.adjacency.pixels[derived.adjacency.label > 0].sum()), 1
    )
    beyond = ((there < low) | (there > high)) @ held
    gain = beyond[_STILL] - beyond
    best = float(gain.max())
    if best <= 1e-6:
        return None
    good = np.flatnonzero(gain >= 0.97 * best)
    least = int(good[np.abs(_SCAN[good]).argmin()])
    margin = derived.rules["fix.value"]
    by = float(_SCAN[least] + np.sign(_SCAN[least]) * margin)
    return _Move(region_id, by, float(gain[least]), derived.shares[region_id] * abs(by))


def _cover(moves: list[_Move], excess: float) -> list[_Move]:
    """The cheapest moves that bring enough inside; empty if all together are too few. A knapsack
    by dynamic programming, on gains rounded down to a thousandth of what is asked."""
    if sum(m.gain for m in moves) < excess:
        return []
    units = [min(int(m.gain / max(excess, 1e-9) * _UNITS), _UNITS) for m in moves]
    least = np.full(_UNITS + 1, np.inf)  # cost to bring in at least so many units
    least[0] = 0.0
    taken = np.zeros((len(moves), _UNITS + 1), bool)
    for i, (move, unit) in enumerate(zip(moves, units, strict=True)):
        before = least[np.maximum(np.arange(_UNITS + 1) - unit, 0)] + move.cost + 1e-9
        taken[i] = before < least
        least = np.where(taken[i], before, least)
    if not np.isfinite(least[_UNITS]):
        return moves  # rounding hides that all of them together are just enough
    chosen, left = [], _UNITS
    for i in range(len(moves) - 1, -1, -1):
        if taken[i, left]:
            chosen.append(moves[i])
            left = max(left - units[i], 0)
    return chosen[::-1]


def _fix(derived: Derived, chosen: list[_Move], number: int) -> Fix:
    text = words("Bring {count} regions within the limits", count=len(chosen))
    return shifting(derived, f"cover-{number}", {m.region: m.by for m in chosen}, lambda _: text)


_SAYS = (
    "The darkest darks and lightest lights are kept for accents. Where they hold much of the "
    "picture, nothing is left to accent with."
)
CHECK = CheckSpec(NAME, "values", _measure, _candidates, _SAYS, wishes=("extremes",))
