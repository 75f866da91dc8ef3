"""A local colour through the artist's own shading: value is exact, chroma and hue go with it.

Value V = local + what the px is off its region's mean, with soft ends; saturation, chroma / L,
gives way toward the lights and grows a little into the darks; hue is kept, or leans cool in shade
and warm in light, or follows two lights (docs/sketch.md; the curves are studio rules, measured
there).
"""

from functools import cache
from typing import NamedTuple

import numpy as np

from umber_compass.colour.gamut import greatest_ratio
from umber_compass.colour.spaces import (
    LMS_TO_LINEAR,
    LUMINANCE,
    OKLAB_TO_LMS,
    Floats,
    decode,
    encode,
    luminance_of_value,
    oklab,
    value,
)

_TOP, _FOOT = 94.0, 6.0  # L* from which the ends are soft
_DARKER, _LIGHTER = 0.25, 0.5  # by which saturation grows and gives way
COOL_DEG, WARM_DEG = 264.0, 90.0  # OKLCh
_TURN_DEG, _FULL = 15.0, 30.0  # greatest turn, and the L* off the mean at which it is reached
_CHANGED = 8.0  # L* from the sketch's own mean, from which the ends are wholly soft
_VALUES, _HUES = 101, 180
_GREY = 0.004  # chroma / L below which a colour stays grey
_ANCHOR_FACING = 0.75  # N.L that a region's mean value stands for


class TwoLights(NamedTuple):
    """What shade and light are lit by: linear light, (3,) each."""

    ambient: Floats
    key: Floats


def values_through(local: Floats, off: Floats, mean: Floats | None = None) -> Floats:
    """Value L*, (n,), of local values moved by some L*: softly at both ends, exact at 0. Where the
    local value is still the `mean` of what the sketch shows there, it is exact everywhere: what
    was not changed comes back as it was."""
    moved = local + off
    top = np.maximum(_TOP, local)
    room = np.maximum(100 - top, 1e-6)
    high = top + room * (1 - np.exp(-np.maximum(moved - top, 0) / room))
    foot = np.minimum(_FOOT, local)
    depth = np.maximum(foot, 1e-6)
    low = foot - depth * (1 - np.exp(-np.maximum(foot - moved, 0) / depth))
    found = np.asarray(np.where(moved > top, high, np.where(moved < foot, low, moved)))
    if mean is None:
        return found
    changed = np.clip(np.abs(local - mean) / _CHANGED, 0, 1)
    return np.asarray(changed * found + (1 - changed) * np.clip(moved, 0, 100))


def shaded(
    local: Floats,
    off: Floats,
    hue: str = "kept",
    lights: TwoLights | None = None,
    mean: Floats | None = None,
    poles: tuple[float, float] = (COOL_DEG, WARM_DEG),
) -> Floats:
    """Encoded colours, (n, 3), of local ones, (n, 3) encoded, at some L* off their own value, (n,).
    `hue` is kept, cool-warm or rig; the last needs lights. `mean`, (n,) L*, is what the sketch
    shows there on the mean; `poles`, OKLCh degrees, are what shade and light lean to."""
    linear = decode(local)
    own = value(linear)
    shown = values_through(own, off, mean)
    if hue == "rig" and lights is not None:
        linear = _between(linear, own, shown, lights)
    lab = oklab(linear)
    chroma, lightness = np.hypot(lab[:, 1], lab[:, 2]), np.maximum(lab[:, 0], 1e-6)
    turn = np.arctan2(lab[:, 2], lab[:, 1])
    if hue == "cool-warm":
        turn = _leaned(turn, off, poles)
    ratio = chroma / lightness
    down = 1 + _DARKER * (own - shown) / np.maximum(own, 1e-6)
    up = 1 - _LIGHTER * (shown - own) / np.maximum(100 - own, 1e-6)
    ratio = ratio * np.clip(np.where(shown < own, down, up), 0, 2)
    ratio = np.where(ratio < _GREY, ratio, np.minimum(ratio, _most(shown, turn)))
    # The very same colour where nothing is off: no rounding of the gamut's table shows.
    ratio = np.where(np.abs(off) < 1e-6, chroma / lightness, ratio)
    return np.asarray(encode(_light(shown, ratio, turn)))


def _leaned(turn: Floats, off: Floats, poles: tuple[float, float]) -> Floats:
    """Hues, radians, drawn toward one pole in shade and the other in light; never past."""
    most = np.sin(np.radians(_TURN_DEG))
    cool = most * np.clip(-off / _FULL, 0, 1)
    warm = most * np.clip(off / _FULL, 0, 1)
    there = np.exp(1j * turn)
    there = there + cool * np.exp(1j * np.radians(poles[0]))
    return np.asarray(np.angle(there + warm * np.exp(1j * np.radians(poles[1]))))


def _between(linear: Floats, own: Floats, shown: Floats, lights: TwoLights) -> Floats:
    """Local colours as two lights would have them at the value that is shown: less of the key in
    shade, more in light."""
    a, k = lights.ambient, lights.key
    a_y, k_y = float(a @ LUMINANCE), max(float(k @ LUMINANCE), 1e-6)
    share = luminance_of_value(shown) / np.maximum(luminance_of_value(own), 1e-6)
    reached = np.maximum((share * (a_y + _ANCHOR_FACING * k_y) - a_y) / k_y, 0)
    lit = a + reached[:, None] * k
    anchor = np.maximum(a + _ANCHOR_FACING * k, 1e-6)
    return np.asarray(np.maximum(linear, 1e-6) * np.maximum(lit, 1e-6) / anchor)


def _light(values: Floats, ratio: Floats, turn: Floats) -> Floats:
    """Linear light, (n, 3), of value, chroma / L and hue; what lies outside the screen goes toward
    the grey of its luminance."""
    roots = 1 + ratio[:, None] * (
        np.stack([np.cos(turn), np.sin(turn)], axis=1) @ OKLAB_TO_LMS[:, 1:].T
    )
    light = roots**3 @ LMS_TO_LINEAR.T
    lum = luminance_of_value(values)
    light *= (lum / np.maximum(light @ LUMINANCE, 1e-9))[:, None]
    grey = lum[:, None]
    over = np.where(light > 1, (1 - grey) / np.maximum(light - grey, 1e-9), 1.0)
    under = np.where(light < 0, grey / np.maximum(grey - light, 1e-9), 1.0)
    kept = np.clip(np.minimum(over, under).min(axis=1), 0, 1)[:, None]
    return np.asarray(np.clip(grey + (light - grey) * kept, 0, 1))


@cache
def _table() -> Floats:
    """The greatest chroma / L of the screen, by value L* and hue, (101, 181)."""
    hues = np.radians(np.arange(_HUES + 1) * 360 / _HUES)
    lum = luminance_of_value(np.arange(_VALUES, dtype=float))
    return np.asarray(greatest_ratio(lum[:, None], hues[None]))


def _most(values: Floats, turn: Floats) -> Floats:
    """The greatest chroma / L, (n,), between the places of the table."""
    table = _table()
    v = np.clip(values, 0, _VALUES - 1)
    h = (np.degrees(turn) % 360) * _HUES / 360
    row, column = np.minimum(v.astype(int), _VALUES - 2), np.minimum(h.astype(int), _HUES - 1)
    dv, dh = v - row, h - column
    near = table[row, column] * (1 - dh) + table[row, column + 1] * dh
    far = table[row + 1, column] * (1 - dh) + table[row + 1, column + 1] * dh
    return np.asarray(near * (1 - dv) + far * dv)
