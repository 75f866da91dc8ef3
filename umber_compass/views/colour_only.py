"""Hue and chroma alone: every px at one value."""

from collections.abc import Callable

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import Floats, decode, encode, oklab, polar
from umber_compass.views.view import About, Picture, ViewSpec

_VALUE = 62.0  # L*, at which most hues are seen
_BITS = 5  # of each channel, by which colours are gathered


def each_colour(picture: Picture, change: Callable[[Floats, Floats], Floats]) -> Picture:
    """A picture whose colours are changed: from their levels, (n, 3), and how many px each has,
    (n,), to encoded ones, 0-1."""
    small = picture >> (8 - _BITS)
    key = (small[..., 0].astype(np.intp) << 2 * _BITS) | (small[..., 1].astype(np.intp) << _BITS)
    key |= small[..., 2]
    flat = key.reshape(-1)
    count = np.bincount(flat, minlength=1 << 3 * _BITS)
    used = np.flatnonzero(count)
    sums = [np.bincount(flat, picture[..., i].reshape(-1), len(count))[used] for i in range(3)]
    mean = np.stack(sums, axis=1) / count[used][:, None]
    shown = np.zeros((len(count), 3), np.uint8)
    shown[used] = np.asarray(change(mean, count[used].astype(float)) * 255 + 0.5).astype(np.uint8)
    return np.ascontiguousarray(shown[key])


def _at_one_value(mean: Floats, _: Floats) -> Floats:
    lch = polar(oklab(decode(mean / 255)))
    return encode(fit(_VALUE, lch[:, 1], lch[:, 2]))


def _see(picture: Picture, about: About) -> Picture:
    return each_colour(picture, _at_one_value)


VIEWS = (ViewSpec("colour-only", "Colour only", "hue and chroma at one value", _see),)
