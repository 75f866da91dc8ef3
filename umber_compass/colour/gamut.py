"""The colour with a given value, chroma and hue that the screen can show.

Value and hue are kept exactly; only chroma gives way. In OKLab, light scales as the cube of
lightness, so for a fixed ratio s = chroma / lightness the luminance fixes the lightness in closed
form: one bisection over s finds the greatest chroma, no inner solve is needed.
"""

from collections.abc import Callable
from typing import TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import (
    LMS_TO_LINEAR,
    LUMINANCE,
    OKLAB_TO_LMS,
    Floats,
    luminance_of_value,
)

Held: TypeAlias = npt.NDArray[np.bool_]

_BITS = 26  # of precision of a ratio: far below a level of 255
_PLACES, _FEW = 15, 600
_LUMINANCE_OF_LMS = LUMINANCE @ LMS_TO_LINEAR
_EDGE = 1e-7  # linear light; far below one 8-bit level


def _turned(hue_rad: Floats) -> Floats:
    """How the three cone roots grow with the ratio in the direction of a hue, (n, 3)."""
    turn = np.stack([np.cos(hue_rad), np.sin(hue_rad)], axis=-1)
    return np.asarray(turn @ OKLAB_TO_LMS[:, 1:].T)


def _scaled(ratio: Floats, turn: Floats, lum: Floats) -> tuple[Floats, Floats]:
    """Cubed cone roots (n, 3) and the factor (n,) that brings them to the luminance."""
    roots = OKLAB_TO_LMS[:, 0] + ratio[..., None] * turn
    cubes = roots * roots * roots  # a power would cost five times as much
    return cubes, lum / np.maximum(cubes @ _LUMINANCE_OF_LMS, 1e-9)


def _light(ratio: Floats, turn: Floats, lum: Floats) -> Floats:
    cubes, scale = _scaled(ratio, turn, lum)
    return np.asarray((cubes @ LMS_TO_LINEAR.T) * scale[..., None])


def _shown(light: Floats) -> Held:
    return np.asarray((light.min(axis=-1) >= -_EDGE) & (light.max(axis=-1) <= 1 + _EDGE))


def _greatest(good: Callable[[Floats], Held], high: Floats) -> Floats:
    """The greatest ratio, from 0 to `high`, up to which `good` holds. A few colours are searched
    in many places at once, because a call then costs more than its numbers; many by halving."""
    places = _PLACES if high.size <= _FEW else 1
    low, span = np.zeros(high.shape), high
    steps = np.arange(1, places + 1).reshape(-1, *([1] * high.ndim)) / (places + 1)
    for _ in range(round(_BITS / np.log2(places + 1))):
        held = np.logical_and.accumulate(good(low + span * steps), axis=0).sum(axis=0)
        span = span / (places + 1)
        low = low + span * held
    return low


def greatest_ratio(lum: Floats, hue_rad: Floats) -> Floats:
    """The greatest OKLab chroma / lightness that the screen shows at a luminance, 0-1, and a hue in
    radians; the two are broadcast against each other."""
    y, h = np.broadcast_arrays(np.asarray(lum, float), np.asarray(hue_rad, float))
    turn = _turned(h)
    return _greatest(lambda ratio: _shown(_light(ratio, turn, y)), np.ones(y.shape))


def fit(value: Floats | float, chroma: Floats | float, hue_deg: Floats | float) -> Floats:
    """Linear light, (..., 3), of value L*, OKLCh chroma and hue in degrees, chroma lowered as far
    as sRGB asks. The three are broadcast against each other."""
    v, c, h = np.broadcast_arrays(
        np.clip(np.asarray(value, float), 0, 100),
        np.maximum(np.asarray(chroma, float), 0),
        np.radians(np.asarray(hue_deg, float)),
    )
    lum, turn = luminance_of_value(v), _turned(h)

    def below_wish(ratio: Floats) -> Held:
        return np.asarray(ratio * np.cbrt(_scaled(ratio, turn, lum)[1]) <= c)

    wish = _greatest(below_wish, np.ones(v.shape))
    light = _light(wish, turn, lum)
    out = ~_shown(light)
    if out.any():
        # Only what is truly outside is lowered: the gamut has dents near blue, and a halving
        # that starts beyond one would stop before a colour that the screen can show.
        t, y = turn[out], lum[out]
        light[out] = _light(_greatest(lambda r: _shown(_light(r, t, y)), wish[out]), t, y)
    return np.clip(light, 0, 1)
