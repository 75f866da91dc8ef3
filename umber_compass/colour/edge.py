"""The edge of the screen's gamut as a table, for tens of thousands of colours at once: the greatest
chroma at each luminance and hue. Where few colours are asked, gamut.py is exact."""

from functools import lru_cache
from typing import TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.gamut import greatest_ratio
from umber_compass.colour.spaces import (
    LINEAR_TO_LMS,
    LMS_TO_LINEAR,
    LMS_TO_OKLAB,
    LUMINANCE,
    OKLAB_TO_LMS,
)

Rows: TypeAlias = npt.NDArray[np.float32]  # (3, n) linear light, a row for each channel
Row: TypeAlias = npt.NDArray[np.float32]

_HUES, _LIGHTS = 241, 81  # places round the plane; every 0.0125 of the cube root of luminance
_TO_LMS, _TO_LAB = LINEAR_TO_LMS.astype(np.float32), LMS_TO_OKLAB.astype(np.float32)
_FROM_LAB, _TO_LINEAR = OKLAB_TO_LMS.astype(np.float32), LMS_TO_LINEAR.astype(np.float32)
_LUM = LUMINANCE.astype(np.float32)


@lru_cache(1)
def table() -> npt.NDArray[np.float32]:
    """The greatest OKLab chroma / lightness the screen shows, by the cube root of luminance, 0-1
    (rows), and the hue's place round the plane, 0-4 (columns)."""
    lum = np.linspace(0, 1, _LIGHTS) ** 3
    place = np.linspace(0, 4, _HUES) % 4
    b = np.select([place <= 1, place <= 3], [place, 2 - place], place - 4)
    a = np.where((place > 1) & (place < 3), -1, 1) * (1 - np.abs(b))
    hue = np.arctan2(b, a)
    return greatest_ratio(np.clip(lum, 1e-4, 1)[:, None], hue[None]).astype(np.float32)


def toward_grey(light: Rows, lum: Row) -> Rows:
    """Colours, linear (3, n), of luminance (n,) with as much of their chroma as the screen shows,
    at the same OKLCh hue and luminance."""
    lab = _TO_LAB @ np.cbrt(_TO_LMS @ light)
    chroma = np.sqrt(lab[1] * lab[1] + lab[2] * lab[2])
    np.maximum(chroma, np.float32(1e-9), out=chroma)
    ratio = np.minimum(chroma / np.maximum(lab[0], np.float32(1e-6)), _edge_at(lum, lab))
    ratio /= chroma
    root = _FROM_LAB[:, 1:] @ (lab[1:] * ratio)
    root += _FROM_LAB[:, :1]
    found = _TO_LINEAR @ (root * root * root)
    found *= lum / np.maximum(_LUM @ found, np.float32(1e-9))
    return _within(found, lum)


def _turn_of(a: Row, b: Row) -> Row:
    """Where a hue stands round the OKLab plane, 0-4: the place on a diamond, which grows with the
    angle but needs no arc tangent."""
    place = b / np.maximum(np.abs(a) + np.abs(b), np.float32(1e-9))
    return np.asarray(np.where(a < 0, 2 - place, np.where(b < 0, place + 4, place)))


def _edge_at(lum: Row, lab: Rows) -> Row:
    """The greatest ratio, (n,), between the table's entries."""
    edge = table()
    row = np.minimum(np.cbrt(lum), 1) * np.float32(_LIGHTS - 1)
    column = _turn_of(lab[1], lab[2]) * np.float32((_HUES - 1) / 4)
    y = np.minimum(row.astype(np.intp), _LIGHTS - 2)
    x = np.minimum(column.astype(np.intp), _HUES - 2)
    down, right = row - y, column - x
    at, flat = y * _HUES + x, edge.reshape(-1)
    near = [np.take(flat, at + by, mode="clip") for by in (0, 1, _HUES, _HUES + 1)]
    above = near[0] * (1 - right) + near[1] * right
    below = near[2] * (1 - right) + near[3] * right
    return np.asarray(above * (1 - down) + below * down, np.float32)


def _within(light: Rows, lum: Row) -> Rows:
    """What the table's roundness left outside, brought in along the way to grey."""
    over = light.max(axis=0) - lum
    under = lum - light.min(axis=0)
    share = np.minimum(1, (1 - lum) / np.maximum(over, np.float32(1e-6)))
    share = np.minimum(share, lum / np.maximum(under, np.float32(1e-6)))
    return np.asarray(np.clip(lum + (light - lum) * share, 0, 1), np.float32)


def greatest_chroma(lum: Row, hue_deg: Row) -> Row:
    """The greatest OKLCh chroma that the screen shows at luminances 0-1 and hues in degrees, both
    (...), by the table: within .002."""
    hue = np.radians(hue_deg)
    flat = np.stack([np.ones(hue.size), np.cos(hue).reshape(-1), np.sin(hue).reshape(-1)])
    lab = flat.astype(np.float32)
    ratio = _edge_at(lum.reshape(-1).astype(np.float32), lab)
    root = _FROM_LAB[:, 1:] @ (lab[1:] * ratio) + _FROM_LAB[:, :1]
    whole = _LUM @ (_TO_LINEAR @ (root * root * root))
    lightness = np.cbrt(lum.reshape(-1) / np.maximum(whole, 1e-9))
    return np.asarray((ratio * lightness).reshape(hue.shape))
