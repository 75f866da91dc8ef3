"""What a painting should show: the plan, with as much of its light and as soft edges as painted.

What is still flat colour is held against the flat colour, what is shaded against the lit picture,
and what lies between against as much of the light as is painted there. Where that cannot be told,
either may be meant.
"""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.picture.mixes import Labels
from umber_compass.steps.painting.aligning import Planes, Seen
from umber_compass.work import Tick, idle

_Plane = npt.NDArray[np.float32]

_WINDOWS = (201, 91, 41)  # px round a px, from which it is told how much light is painted there
_TRACE, _MOST = 0.1, 0.7  # of the light, found: none, and all of it
_PRIOR = 1.5  # L* squared: how much a wider window says of it
_SOFTNESS = (0.0, 1.0, 2.0, 3.0, 4.5, 6.0)  # px that are tried


class Wanted(NamedTuple):
    """What a plan shows on a grid: flat, and in its light."""

    labels: Labels  # (h, w)
    flat: Planes
    lit: Planes


class Goal(NamedTuple):
    """What a painting should show."""

    planes: Planes
    less: Planes  # what there is more where less of the light may be meant
    more: Planes  # what there is more where more of it may be
    softness: float  # px, of its edges


def goal_of(painting: Planes, painted: Seen, wanted: Wanted, tick: Tick = idle) -> Goal:
    """What a painting should show, (3, h, w): the plan, with as much of its light as is painted and
    edges as soft."""
    whole = _whole_light(wanted, painting, painted)
    flat, light = wanted.flat, wanted.lit - wanted.flat
    softness = _softness(painting, painted, flat[0] + np.float32(whole) * light[0])
    tick(-1.0)
    if softness:
        flat, light = _soft(flat, softness), _soft(light, softness)
    tick(-1.0)
    part, doubt = _light_painted(painting[0] - flat[0], light[0], painted, whole)
    less, more = np.minimum(doubt, part), np.minimum(doubt, 1 - part)
    return Goal(flat + part * light, -less * light, more * light, softness)


def _whole_light(wanted: Wanted, painting: Planes, painted: Seen) -> float:
    """How much of the light is painted over all, 0 to 1; all of it where a plan has hardly any."""
    plan = (wanted.lit[0] - wanted.flat[0])[painted]
    own = (painting[0] - wanted.flat[0])[painted]
    if not len(plan) or float(plan.var()) < 0.5:
        return 1.0
    together = ((plan - plan.mean()) * (own - own.mean())).mean()
    return float(np.clip(together / plan.var(), 0, 1))


def _light_painted(own: _Plane, plan: _Plane, painted: Seen, whole: float) -> tuple[_Plane, _Plane]:
    """How much of the plan's light is painted at each px, 0 to 1, and how far that is in doubt: by
    how the painting's values follow the light's over the picture, and ever nearer round the px
    where that can be told. Both planes are L* away from the flat picture."""
    from scipy.ndimage import uniform_filter

    weight = painted.astype(np.float32)
    light: _Plane = np.full_like(weight, whole)
    # A picture of which a part is lit may be lit or flat at any place of it.
    doubt: _Plane = np.full_like(weight, whole * (1 - whole))
    for window in _WINDOWS:

        def near(plane: _Plane, window: int = window) -> _Plane:
            return np.asarray(uniform_filter(plane * weight, window, mode="constant"))

        held = np.maximum(near(np.ones_like(weight)), 1e-6)
        p, o = near(plan) / held, near(own) / held
        spread = np.maximum(near(plan**2) / held - p**2, 0)
        together = near(plan * own) / held - p * o
        light = np.clip((together + _PRIOR * light) / (spread + _PRIOR), 0, 1)
        doubt = np.asarray(doubt * _PRIOR / (spread + _PRIOR), np.float32)
    # Strokes hide some of it: most of the light is the light, a trace is none.
    light = np.clip((light - _TRACE) / (_MOST - _TRACE), 0, 1)
    part: _Plane = np.asarray(light * light * (3 - 2 * light), np.float32)
    return part, np.asarray(np.sqrt(doubt + part * (1 - part)), np.float32)


def _softness(painting: Planes, painted: Seen, goal: _Plane) -> float:
    """How soft edges are painted, px: by which blur a goal's values come nearest."""
    best = (np.inf, 0.0)
    for softness in _SOFTNESS:
        made = _soft(goal[None], softness)[0] if softness else goal
        off = float(np.abs(painting[0] - made)[painted].mean()) if painted.any() else 0.0
        if off >= best[0]:
            break
        best = off, softness
    return best[1]


def _soft(planes: Planes, px: float) -> Planes:
    from scipy.ndimage import gaussian_filter

    return np.stack([gaussian_filter(p, px) for p in planes])
