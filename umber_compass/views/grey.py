"""Value alone: CIE L* of every pixel, shown as the grey of that value."""

import numpy as np

from umber_compass.colour.spaces import LUMINANCE, Floats, decode, encode, value_of_luminance
from umber_compass.views.spec import About, Picture, ViewSpec

_STEPS = 4096  # of luminance
_LIGHT = decode(np.arange(256) / 255).astype(np.float32)
_GREY = np.asarray(encode(np.linspace(0, 1, _STEPS + 1)) * 255 + 0.5).astype(np.uint8)
_VALUE = value_of_luminance(np.linspace(0, 1, _STEPS + 1)).astype(np.float32)


def _place(picture: Picture) -> "np.ndarray[tuple[int, ...], np.dtype[np.intp]]":
    """Luminance in steps, (h, w)."""
    lum = sum(_LIGHT[picture[..., i]] * np.float32(LUMINANCE[i]) for i in range(3))
    return np.asarray(lum * _STEPS + 0.5).astype(np.intp)


def values_of(picture: Picture) -> Floats:
    """Value L* of every px, (h, w)."""
    return np.asarray(_VALUE[_place(picture)])


def as_grey(level: "np.ndarray[tuple[int, ...], np.dtype[np.uint8]]") -> Picture:
    """Levels, (h, w), as a picture without colour."""
    return np.repeat(level[..., None], 3, axis=2)


def grey_of(values: Floats) -> "np.ndarray[tuple[int, ...], np.dtype[np.uint8]]":
    """The levels that show values L*, of any shape."""
    from umber_compass.colour.spaces import luminance_of_value

    return np.asarray(encode(luminance_of_value(values)) * 255 + 0.5).astype(np.uint8)


def _see(picture: Picture, about: About) -> Picture:
    return as_grey(_GREY[_place(picture)])


VIEW = ViewSpec("grey", "Grey", "value alone (L*)", _see)
