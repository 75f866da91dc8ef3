"""The colour of outlines round a material: nearly black, a little stronger than its darkest
step."""

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.colour.measured import levels_of
from umber_compass.colour.spaces import decode, encode, oklab, polar, to_hex, value
from umber_compass.steps.ramps.ramps import Steps

_SHARE, _MOST, _LEAST = 0.5, 14.0, 4.0  # of the darkest step's L*, and L* between which it stays
_STRONGER = 1.25  # times the chroma


def outline_of(ramp: Steps) -> str:
    """The outline's hex."""
    light = decode(np.array([levels_of(ramp.steps[0].hex)]) / 255)
    _, chroma, hue = polar(oklab(light))[0]
    dark = float(np.clip(float(value(light)[0]) * _SHARE, _LEAST, _MOST))
    return to_hex(encode(fit(np.array([dark]), np.array([chroma * _STRONGER]), np.array([hue]))[0]))
