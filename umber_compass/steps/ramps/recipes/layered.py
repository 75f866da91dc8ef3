"""What a layer makes of a base as more and more of it is laid on, in steps evenly apart."""

from collections.abc import Callable

import numpy as np

from umber_compass.colour.difference import ciede2000
from umber_compass.colour.spaces import Floats, cielab, decode
from umber_compass.steps.ramps.recipes.even import evenly
from umber_compass.steps.ramps.recipes.path import Sides
from umber_compass.steps.ramps.recipes.recipe import Ask

_SAMPLES = 65

Laid = Callable[[Floats, Floats], Floats]  # base encoded (3,), amounts (n, 1) -> encoded (n, 3)


def layered(ask: Ask, shade: Laid, light: Laid) -> Floats:
    """Encoded steps, (n, 3), darkest first."""
    amount = np.linspace(0, 1, _SAMPLES)[:, None]
    return evenly(ask, _side(shade(ask.base, amount)), _side(light(ask.base, amount)))


def _side(encoded: Floats) -> Sides:
    light = decode(np.clip(encoded, 0, 1))
    lab = cielab(light)
    far = np.concatenate([[0.0], np.cumsum(ciede2000(lab[:-1], lab[1:]))])
    return Sides(light[None], far[None])
