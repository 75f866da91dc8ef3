"""Ranges of value pushed: darks, middles or lights moved or stretched, figures and grounds pulled
apart. A tone curve over all free values, so that their order stays (docs/values.md)."""

from collections.abc import Callable
from functools import partial
from typing import Literal, TypeAlias

import numpy as np
from msgspec.structs import replace

from umber_compass.colour.spaces import Floats
from umber_compass.plan.edits import Edit, each_free, each_part, study, with_colours
from umber_compass.plan.model import Pinned, Plan, Solid
from umber_compass.plan.ranges import bounded
from umber_compass.plan.terms import Value
from umber_compass.steps.harmony.colours import region_colours
from umber_compass.words import Words, words

Part: TypeAlias = Literal["darks", "middles", "lights"]
PARTS: dict[Part, float] = {"darks": 15.0, "middles": 50.0, "lights": 85.0}  # L*, their middles
_REACH = 30.0  # L* from the middle of a part, over which it gives way to the rest
_LEAST_SLOPE = 0.15  # of the curve: two values never become one
_TOP, _FOOT = 99.0, 3.0  # L* that no push reaches
MOST_MOVE, MOST_STRETCH = 20.0, 60.0  # L*; percent


def move_part(part: Part, by: float, merge: bool = True) -> Edit:
    """Darks, middles or lights made lighter or darker by so much L*, the rest less and less."""
    middle = PARTS[part]
    text = words("move the {part} by {by:+.0f} L*", part=part, by=by)
    return _by_curve(
        text, lambda v: _toward_end(v, by * _weight(v, middle)), f"push {part}" if merge else None
    )


def stretch_part(part: Part, percent: float, merge: bool = True) -> Edit:
    """Darks, middles or lights spread apart, or drawn together where it is negative."""
    middle = PARTS[part]
    text = words("stretch the {part} by {percent:+.0f} %", part=part, percent=percent)

    def curve(v: Floats) -> Floats:
        return _toward_end(v, (v - middle) * percent / 100 * _weight(v, middle))

    return _by_curve(text, curve, f"stretch {part}" if merge else None)


def part_figures(by: float, merge: bool = True) -> Edit:
    """Figures moved away from the mean value of the grounds by so much L*, each to the side it lies
    on; toward it where it is negative."""

    def change(plan: Plan) -> Plan:
        now = study(plan)
        shown = region_colours(now.scheme, now.colours)
        of = {r.id: r.role for r in plan.regions}
        grounds = [shown[r].mean_value for r in shown if of[r] == "ground"]
        if not grounds:
            return plan
        middle = float(np.mean(grounds))

        def one(solid: Solid, move: float) -> Solid:
            if isinstance(solid, Pinned):
                return solid
            return replace(solid, value=bounded(Value, solid.value + move))

        moved = {}
        for region, colour in now.colours.items():
            if region in now.locked or of[region] not in ("figure", "focus"):
                continue
            up = 1.0 if shown[region].mean_value >= middle else -1.0
            moved[region] = each_part(colour, partial(one, move=up * by))
        return with_colours(plan, moved)

    text = words("part figures from grounds by {by:+.0f} L*", by=by)
    return Edit(text, change, "push figures" if merge else None)


def _weight(v: Floats, middle: float) -> Floats:
    """1 at the middle of a part, 0 from `_REACH` on, smooth between."""
    t = np.clip(1 - np.abs(np.asarray(v, float) - middle) / _REACH, 0, 1)
    return np.asarray(t * t * (3 - 2 * t))


def _toward_end(v: Floats, by: Floats) -> Floats:
    """Values moved by so much, less and less toward black and white, so that none is reached."""
    room = np.maximum(np.where(by > 0, _TOP - v, v - _FOOT), 1e-6)
    return np.asarray(v + np.sign(by) * room * (1 - np.exp(-np.abs(by) / room)))


def _by_curve(text: Words, curve: Callable[[Floats], Floats], merge: str | None) -> Edit:
    """The change of every free value along a curve that always rises."""
    at = np.linspace(0, 100, 401)
    wished = np.asarray(curve(at), float)
    rise = np.maximum(np.diff(wished), _LEAST_SLOPE * (at[1] - at[0]))
    risen = np.concatenate([[wished[0]], wished[0] + np.cumsum(rise)])
    # Where the curve had to be bent it is put back so that the far end stays.
    risen -= np.linspace(0, 1, len(at)) * (risen[-1] - wished[-1])
    risen = np.clip(risen, 0, 100)

    def change(plan: Plan) -> Plan:
        return each_free(plan, lambda s: replace(s, value=float(np.interp(s.value, at, risen))))

    return Edit(text, change, merge)
