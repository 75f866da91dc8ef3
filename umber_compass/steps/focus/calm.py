"""Everything but the focus made calmer at one press: values drawn together, chroma lowered, the
more the farther off; the order of values stays (docs/focus.md)."""

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import Floats
from umber_compass.plan.edits import Edit
from umber_compass.steps.focus.falloff import Spot, Spots
from umber_compass.steps.harmony.shifts import Shift, shift_colours
from umber_compass.words import Words, words

# Of the difference from the middle value, and of the chroma, that is taken at strength 1 beside the
# focus and at the farthest corner (studio rule, docs/focus.md).
_VALUE, _CHROMA = (0.15, 0.6), (0.2, 0.7)
_STILL = 0.3  # L*: less is no move


def calm(spots: Spots, strength: float, free: frozenset[str]) -> Edit:
    """The change that calms all free regions but the focus, by a strength of 0-1."""
    text = words("calm all but the focus, {strength:.0%}", strength=strength)
    return Edit(text, shift_colours(_shifts(spots, strength, free)))


def why_not_calm(spots: Spots, free: frozenset[str]) -> Words | None:
    """Why calming would change nothing; None where it would."""
    if not spots.spots:
        return words("no focus is set: choose a region and press E")
    if not any(s.region in free and s.far > 0 for s in spots.spots):
        return words("all but the focus is fixed or locked")
    return None


def _shifts(spots: Spots, strength: float, free: frozenset[str]) -> dict[str, Shift]:
    others = [s for s in spots.spots if s.far > 0]
    if not others:
        return {}
    value = np.array([spots.value[s.region] for s in others])
    share = np.array([s.share for s in others])
    middle = float(np.average(value, weights=np.maximum(share, 1e-9)))
    part = np.array([_part(_VALUE, s, strength) for s in others])
    wished = value + (middle - value) * part
    moves = np.array([s.region in free for s in others])
    wished = np.where(moves, wished, value)
    ordered = _in_order(value, wished, moves)
    found = {}
    for spot, before, after in zip(others, value, ordered, strict=True):
        if spot.region not in free:
            continue
        by = float(after - before)
        lower = -spot.level["chroma"] * _part(_CHROMA, spot, strength)
        found[spot.region] = Shift(
            value=by if abs(by) >= _STILL else 0.0, chroma=lower, shown=spot.level["chroma"]
        )
    return found


def _part(ends: tuple[float, float], spot: Spot, strength: float) -> float:
    return strength * (ends[0] + (ends[1] - ends[0]) * min(spot.far, 1.0))


def _in_order(before: Floats, after: Floats, moves: npt.NDArray[np.bool_]) -> Floats:
    """Values in the order of those before: one that would pass another stops at it."""
    found = after.copy()
    order = np.argsort(before, kind="stable")
    held = -np.inf
    for i in order.tolist():
        held = found[i] = max(found[i], held) if moves[i] else found[i]
    return found
