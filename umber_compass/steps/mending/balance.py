"""Balance: the least movement of values that meets what is wished of them, and what could not be
met.

Light answers a move in its own way, and the exposure shifts with it, so where a light is on the
programme is solved again from where it came to, until the picture as it is measured meets it.
"""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.spaces import Floats, decode, oklab, parse_hex
from umber_compass.plan.edits import Edit
from umber_compass.steps.harmony.shifts import shift_values
from umber_compass.steps.mending.constraints import State, constraints_of, state_at, unmet
from umber_compass.steps.mending.programme import Constraint, conflict, solve
from umber_compass.steps.pipeline import Derived
from umber_compass.words import Words, words
from umber_compass.work import Tick, idle

_ROUNDS = 5  # in a light
_STILL = 0.05  # L*; less is no move


class Moved(NamedTuple):
    """One region’s planned value, L*, before and after."""

    region: str
    before: float
    after: float


class Balance(NamedTuple):
    """What balancing would do."""

    moved: tuple[Moved, ...]
    dropped: tuple[Constraint, ...]  # what could not be met together with the rest
    edit: Edit
    change: float  # area-weighted OKLab distance x 100

    @property
    def says(self) -> Words:
        """It in a line."""
        if not self.moved:
            return words("Nothing need move") if not self.dropped else words("Nothing can move")
        if len(self.moved) == 1:
            return words("Balance by moving one value")
        return words("Balance by moving {count} values", count=len(self.moved))


def balance(begin: Derived, only: frozenset[str] | None = None, tick: Tick = idle) -> Balance:
    """The least movement that meets every constraint, or all but the fewest; `only` names those
    that are asked for, beside those that are met already."""
    state = state_at(begin, begin)
    constraints = constraints_of(state)
    asked = _asked(state, constraints, only)
    best = _Tried(begin, {}, [d for d in unmet(state, constraints) if d.name in asked])
    given_up: set[str] = set()
    for turn in range(_ROUNDS if state.free.ids else 0):
        tick(turn / _ROUNDS)
        active = [d for d in constraints if d.name in asked - given_up]
        found = solve(state.room, active) if unmet(state, active) else None
        if found is None:
            break
        given_up |= {active[i].name for i in found.dropped}
        moves = _by_region(state, found.moves)
        derived = begin.of(shift_values(moves)(begin.plan))
        state = state_at(derived, begin, state.free)
        constraints = constraints_of(state)
        left = [d for d in unmet(state, constraints) if d.name in asked]
        if len(left) < len(best.left):
            best = _Tried(derived, moves, left)
        elif moves == best.moves:
            break
    return _found(begin, best)


class _Tried(NamedTuple):
    """What a round came to."""

    derived: Derived
    moves: dict[str, float]
    left: list[Constraint]


def _asked(state: State, constraints: list[Constraint], only: frozenset[str] | None) -> set[str]:
    if only is None:
        return {d.name for d in constraints}
    bad = {d.name for d in unmet(state, constraints)}
    return {d.name for d in constraints if d.name in only or d.name not in bad}


def _by_region(state: State, moves: Floats) -> dict[str, float]:
    rows = zip(state.free.ids, moves.tolist(), strict=True)
    return {r: round(by, 2) for r, by in rows if abs(by) > _STILL}


def _found(begin: Derived, best: _Tried) -> Balance:
    moved = tuple(
        Moved(r, begin.colours[r].mean_value, best.derived.colours[r].mean_value)
        for r in best.moves
    )
    edit = Edit(words(""), lambda plan: plan)
    found = Balance(moved, tuple(best.left), edit, change(begin, best.derived))
    return found._replace(edit=Edit(found.says, shift_values(best.moves)))


def conflict_of(begin: Derived) -> list[Constraint]:
    """The smallest set of constraints that cannot be met together, found on the picture as it is;
    empty where all can be met."""
    state = state_at(begin, begin)
    return conflict(state.room, constraints_of(state))


def change(before: Derived, after: Derived) -> float:
    """How much a colouring differs from another of the same sketch: area-weighted OKLab distance
    x 100."""
    total = 0.0
    for region_id, share in before.shares.items():
        ends = zip(before.colours[region_id].ends, after.colours[region_id].ends, strict=True)
        moved = [_distance(a.hex, b.hex) for a, b in ends if a.hex != b.hex]
        total += share * (sum(moved) / len(before.colours[region_id].ends))
    return 100 * total


def _distance(first: str, second: str) -> float:
    pair = oklab(decode(np.array([parse_hex(first), parse_hex(second)])))
    return float(np.linalg.norm(pair[1] - pair[0]))
