"""Layer modes as painting programs compute them, on encoded sRGB over an opaque ground.

Source: W3C Compositing and Blending Level 1. Light itself adds in linear light instead; that is
another school and not what a layer does.
"""

from collections.abc import Callable

import numpy as np

from umber_compass.colour.spaces import Floats

Mode = Callable[[Floats, Floats], Floats]
_LUMINOSITY = np.array([0.3, 0.59, 0.11])


def _screen(b: Floats, s: Floats) -> Floats:
    return b + s - b * s


def _hard_light(b: Floats, s: Floats) -> Floats:
    return np.where(s <= 0.5, b * 2 * s, _screen(b, 2 * s - 1))


def _soft_light(b: Floats, s: Floats) -> Floats:
    d = np.where(b <= 0.25, ((16 * b - 12) * b + 4) * b, np.sqrt(b))
    return np.where(s <= 0.5, b - (1 - 2 * s) * b * (1 - b), b + (2 * s - 1) * (d - b))


def _dodge(b: Floats, s: Floats) -> Floats:
    lit = np.minimum(1, b / np.where(s == 1, 1, 1 - s))
    return np.where(b == 0, 0, np.where(s == 1, 1, lit))


def _burn(b: Floats, s: Floats) -> Floats:
    burnt = 1 - np.minimum(1, (1 - b) / np.where(s == 0, 1, s))
    return np.where(b == 1, 1, np.where(s == 0, 0, burnt))


def _luminosity(c: Floats) -> Floats:
    return np.asarray((c @ _LUMINOSITY)[..., None])


def _clip_colour(c: Floats) -> Floats:
    lum = _luminosity(c)
    low, high = c.min(axis=-1, keepdims=True), c.max(axis=-1, keepdims=True)
    under, over = low < 0, high > 1
    c = np.where(under, lum + (c - lum) * lum / np.where(under, lum - low, 1), c)
    return np.where(over, lum + (c - lum) * (1 - lum) / np.where(over, high - lum, 1), c)


def _with_luminosity(c: Floats, of: Floats) -> Floats:
    return _clip_colour(c + _luminosity(of) - _luminosity(c))


def _spread(c: Floats) -> Floats:
    return np.asarray(c.max(axis=-1, keepdims=True) - c.min(axis=-1, keepdims=True))


def _with_saturation(c: Floats, of: Floats) -> Floats:
    span = _spread(c)
    return np.where(
        span == 0,
        0,
        (c - c.min(axis=-1, keepdims=True)) * _spread(of) / np.where(span == 0, 1, span),
    )


MODES: dict[str, Mode] = {
    "normal": lambda b, s: s + 0 * b,
    "multiply": lambda b, s: b * s,
    "screen": _screen,
    "overlay": lambda b, s: _hard_light(s, b),
    "hard-light": _hard_light,
    "soft-light": _soft_light,
    "color-dodge": _dodge,
    "color-burn": _burn,
    "darken": np.minimum,
    "lighten": np.maximum,
    "difference": lambda b, s: np.abs(b - s),
    "hue": lambda b, s: _with_luminosity(_with_saturation(s, b), b),
    "saturation": lambda b, s: _with_luminosity(_with_saturation(b, s), b),
    "color": lambda b, s: _with_luminosity(s, b),
    "luminosity": lambda b, s: _with_luminosity(b, s),
}


def blend(mode: str, base: Floats, top: Floats, opacity: float = 1.0) -> Floats:
    """Encoded colours of a layer over an opaque ground; `add` is min(1, base + opacity x top)."""
    base, top = np.asarray(base, float), np.asarray(top, float)
    if mode == "add":
        return np.minimum(1, base + opacity * top)
    return (1 - opacity) * base + opacity * MODES[mode](base, top)


MODE_NAMES = (*MODES, "add")
