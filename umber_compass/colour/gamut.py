"""The colour with a given value, chroma and hue that the screen can show.

Value and hue are kept exactly; only chroma gives way. In OKLab, light scales as the cube of
lightness, so for a fixed ratio s = chroma / lightness the luminance fixes the lightness in closed
form, and every channel and the luminance are cubics in s: no inner solve is needed.
"""

from typing import NamedTuple, TypeAlias

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
_NEWTON = 7  # steps: from the farthest start the last changes nothing
_LUMINANCE_OF_LMS = LUMINANCE @ LMS_TO_LINEAR
_EDGE = 1e-7  # linear light; far below one 8-bit level


class _Cubics(NamedTuple):
    """What grows with the ratio in the direction of a hue, as cubics: (4, ..., n) from the constant
    to the cube, of the three channels, (4, 3, n), and of the luminance, (4, n). Neither is scaled
    to a luminance yet."""

    channels: Floats
    lum: Floats


def _cubics(hue_rad: Floats) -> _Cubics:
    """The cubics at hues, (n,): the cone roots are 1 + ratio x turn."""
    turn = OKLAB_TO_LMS[:, 1:] @ np.stack([np.cos(hue_rad), np.sin(hue_rad)])
    powers = np.stack([np.ones_like(turn), 3 * turn, 3 * turn * turn, turn * turn * turn])
    return _Cubics(LMS_TO_LINEAR @ powers, _LUMINANCE_OF_LMS @ powers)


def _at(cubic: Floats, ratio: Floats) -> Floats:
    """A cubic's value, (..., n)."""
    return np.asarray(((cubic[3] * ratio + cubic[2]) * ratio + cubic[1]) * ratio + cubic[0])


def _light(ratio: Floats, cubics: _Cubics, lum: Floats) -> Floats:
    """Linear light, (n, 3), at a luminance."""
    scale = lum / np.maximum(_at(cubics.lum, ratio), 1e-9)
    return np.asarray((_at(cubics.channels, ratio) * scale).T)


def _shown(light: Floats) -> Held:
    return np.asarray((light.min(axis=-1) >= -_EDGE) & (light.max(axis=-1) <= 1 + _EDGE))


def _greatest(cubics: _Cubics, lum: Floats, high: Floats) -> Floats:
    """The greatest ratio, (n,), from 0 to `high`, up to which the screen shows the light. A few
    colours are searched in many places at once, because a call then costs more than its numbers;
    many by halving."""
    places = _PLACES if high.size <= _FEW else 1
    low, span = np.zeros(high.shape), high
    steps = np.arange(1, places + 1)[:, None] / (places + 1)
    channels, whole = cubics.channels[:, :, None], cubics.lum[:, None]
    for _ in range(round(_BITS / np.log2(places + 1))):
        ratio = low + span * steps
        light, most = _at(channels, ratio) * lum, _at(whole, ratio)
        good = ((light >= -_EDGE * most) & (light <= (1 + _EDGE) * most)).all(axis=0)
        span = span / (places + 1)
        low = low + span * np.logical_and.accumulate(good, axis=0).sum(axis=0)
    return low


def greatest_ratio(lum: Floats, hue_rad: Floats) -> Floats:
    """The greatest OKLab chroma / lightness that the screen shows at a luminance, 0-1, and a hue in
    radians; the two are broadcast against each other."""
    y, h = np.broadcast_arrays(np.asarray(lum, float), np.asarray(hue_rad, float))
    found = _greatest(_cubics(h.reshape(-1)), y.reshape(-1), np.ones(y.size))
    return found.reshape(y.shape)


def fit(value: Floats | float, chroma: Floats | float, hue_deg: Floats | float) -> Floats:
    """Linear light, (..., 3), of value L*, OKLCh chroma and hue in degrees, chroma lowered as far
    as sRGB asks. The three are broadcast against each other."""
    v, c, h = np.broadcast_arrays(
        np.clip(np.asarray(value, float), 0, 100),
        np.maximum(np.asarray(chroma, float), 0),
        np.radians(np.asarray(hue_deg, float)),
    )
    shape = v.shape
    lum, cubics = luminance_of_value(v.reshape(-1)), _cubics(h.reshape(-1))
    wish = _wished(cubics, lum, c.reshape(-1))
    light = _light(wish, cubics, lum)
    out = np.flatnonzero(~_shown(light))
    if len(out):
        # Only what is truly outside is lowered: the gamut has dents near blue, and a halving
        # that starts beyond one would stop before a colour that the screen can show.
        some = _Cubics(cubics.channels[..., out], cubics.lum[..., out])
        light[out] = _light(_greatest(some, lum[out], wish[out]), some, lum[out])
    return np.clip(light, 0, 1).reshape(*shape, 3)


def _wished(cubics: _Cubics, lum: Floats, chroma: Floats) -> Floats:
    """The ratio, (n,), at which colours of a luminance have a chroma, by Newton's steps on
    ratio = chroma x cube root of (luminance's cubic / luminance); at most 1."""
    share = chroma / np.cbrt(np.maximum(lum, 1e-9))
    ratio = np.minimum(share, 1.0)
    slope = np.stack([cubics.lum[1], 2 * cubics.lum[2], 3 * cubics.lum[3]])
    for _ in range(_NEWTON):
        whole = np.maximum(_at(cubics.lum, ratio), 1e-9)
        root = np.cbrt(whole)
        rise = (slope[2] * ratio + slope[1]) * ratio + slope[0]
        off = ratio - share * root
        steep = np.maximum(1 - share * rise / (3 * root * root), 0.05)
        ratio = np.clip(ratio - off / steep, 0, 1)
    return np.asarray(ratio)
