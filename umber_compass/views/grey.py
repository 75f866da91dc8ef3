"""Value alone: CIE L* of every px or shape, shown as the grey of that value."""

import numpy as np

from umber_compass.colour.spaces import LUMINANCE, Floats, decode, encode, value_of_luminance
from umber_compass.views.view import About, Picture, ViewSpec

_BETWEEN = (46.0, 58.0)  # L*, between which all that is no extreme is shown
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


def _by_shape(picture: Picture, about: About) -> Picture:
    values = values_of(picture)
    if about.labels is None:
        return as_grey(grey_of(values))
    flat = about.labels.reshape(-1).astype(np.intp)
    mean = np.bincount(flat, values.reshape(-1)) / np.maximum(np.bincount(flat), 1)
    return as_grey(grey_of(mean)[about.labels])


def _only_extremes(picture: Picture, about: About) -> Picture:
    """What lies beyond the limits for darks and lights, on grey."""
    values = values_of(picture)
    low, high = _BETWEEN
    span = max(about.light - about.dark, 1.0)
    calm = low + (np.clip(values, about.dark, about.light) - about.dark) / span * (high - low)
    shown = np.where(values < about.dark, 4.0, np.where(values > about.light, 99.0, calm))
    return as_grey(grey_of(shown))


def _see(picture: Picture, about: About) -> Picture:
    return as_grey(_GREY[_place(picture)])


VIEWS = (
    ViewSpec("grey", "Grey", "value alone (L*)", _see),
    ViewSpec("extremes", "Extremes only", "what lies beyond the limits for values", _only_extremes),
    ViewSpec("value-only", "Value only", "every shape at its mean value", _by_shape),
)
