"""Steps that the eye finds evenly far apart: CIEDE2000 along a way, as many as were asked."""

import numpy as np

from umber_compass.colour.spaces import Floats, decode, encode
from umber_compass.steps.ramps.recipes.path import Sides
from umber_compass.steps.ramps.recipes.recipe import Ask

_LEAST = 3.0  # CIEDE2000 a step, for which a side keeps its steps
# Closer in shade or in light: times the step on that side, and on the other.
_CLOSER, _WIDER = 0.7, 1.2


def evenly(ask: Ask, dark: Sides, light: Sides, at: int = 0, gives: bool = True) -> Floats:
    """Encoded steps, (n, 3), darkest first, of the base that stands at a place of the sides. A side
    without room gives its steps to the other, so that the base may stand elsewhere in it; where it
    stands is where it is exactly as it was given. Not where it `gives` none."""
    room_dark, room_light = float(dark.far[at, -1]), float(light.far[at, -1])
    darker, lighter = ask.darker, ask.lighter
    if gives and room_light < _LEAST * lighter and room_dark > room_light:
        lighter = int(room_light // _LEAST)
        darker = ask.darker + ask.lighter - lighter
    elif gives and room_dark < _LEAST * darker and room_light > room_dark:
        darker = int(room_dark // _LEAST)
        lighter = ask.darker + ask.lighter - darker
    wish_dark = ask.spacing * {"even": 1.0, "shade": _CLOSER, "light": _WIDER}[ask.spread]
    wish_light = ask.spacing * {"even": 1.0, "shade": _WIDER, "light": _CLOSER}[ask.spread]
    below = _picked(dark, at, darker, wish_dark)[::-1]
    above = _picked(light, at, lighter, wish_light)
    base = decode(ask.base)[None]
    return np.asarray(np.clip(encode(np.concatenate([below, base, above])), 0, 1))


def _picked(side: Sides, at: int, count: int, wish: float) -> Floats:
    """Linear light, (count, 3), from the base outward."""
    far = side.far[at]
    step = min(wish, float(far[-1]) / max(count, 1))
    wanted = step * np.arange(1, count + 1)
    return np.stack([np.interp(wanted, far, side.light[at, :, j]) for j in range(3)], axis=1)
