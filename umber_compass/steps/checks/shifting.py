"""Fixes that move planned values, and how they are said."""

from collections.abc import Callable, Mapping

import numpy as np

from umber_compass.plan.edits import Edit
from umber_compass.steps.checks.check import Fix, names
from umber_compass.steps.harmony.shifts import shift_values
from umber_compass.steps.pipeline import Derived
from umber_compass.words import Words, words


def lighten_or_darken(name: str, by: float, to: float) -> Words:
    """What moving one value by and to some L* is called."""
    return words(
        "Lighten {name} to {v:.0f}" if by > 0 else "Darken {name} to {v:.0f}",
        name=name,
        v=max(to, 0.0),
    )


def amount(by: float) -> str:
    """An amount as it is said on a button: whole, or with a decimal where it would be nought."""
    return f"{by:.0f}" if by >= 1 else f"{by:.1f}"


def least_move(enough: Callable[[float], bool], most: float, step: float = 0.5) -> float | None:
    """The least move, L*, in such steps and no more than `most`, that is enough; None where none
    is."""
    return next((by for by in np.arange(step, most + step / 2, step).tolist() if enough(by)), None)


def shifting(
    derived: Derived,
    kind: str,
    moves: Mapping[str, float],
    several: Callable[[float], Words] | None = None,
    times: float = 1.0,
) -> Fix:
    """The fix that moves planned values, L* by region, so many times as far. What moves one region
    alone says where it goes; `several` says it for more of them, from `times`."""
    moved = {r: by * times for r, by in moves.items()}
    text = several(times) if several else words("Move {count} values", count=len(moved))
    if len(moved) == 1:
        (region, by) = next(iter(moved.items()))
        to = derived.colours[region].mean_value + by
        text = lighten_or_darken(names(derived)[region], by, to)
    return Fix(
        kind,
        text,
        Edit(text, shift_values(moved)),
        at=lambda more: shifting(derived, kind, moves, several, more),
        move=max(map(abs, moved.values())),
    )
