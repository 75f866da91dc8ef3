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

_HUES, _LIGHTS = 181, 81  # every 2 degrees; every 0.0125 of the cube root of luminance
_TO_LMS, _TO_LAB = LINEAR_TO_LMS.astype(np.float32), LMS_TO_OKLAB.astype(np.float32)
_FROM_LAB, _TO_LINEAR = OKLAB_TO_LMS.astype(np.float32), LMS_TO_LINEAR.astype(np.float32)
_LUM = LUMINANCE.astype(np.float32)


@lru_cache(1)
def table() -> npt.NDArray[np.float32]:
    """The greatest OKLab chroma / lightness the screen shows, by the cube root of luminance, 0-1
    (rows), and hue, 0-360 degrees (columns)."""
    lum = np.linspace(0, 1, _LIGHTS) ** 3
    hue = np.radians(np.linspace(0, 360, _HUES))
    return greatest_ratio(np.clip(lum, 1e-4, 1)[:, None], hue[None]).astype(np.float32)


def toward_grey(light: Rows, lum: Row) -> Rows:
    """Colours, linear (3, n), of luminance (n,) with as much of their chroma as the screen shows,
    at the same OKLCh hue and luminance."""
    lab = _TO_LAB @ np.cbrt(_TO_LMS @ light)
    chroma = np.hypot(lab[1], lab[2])
    hue = np.degrees(np.arctan2(lab[2], lab[1])) % 360
    ratio = np.minimum(chroma / np.maximum(lab[0], np.float32(1e-6)), _edge_at(lum, hue))
    turn = np.stack(
        [
            np.ones_like(ratio),
            ratio * lab[1] / np.maximum(chroma, np.float32(1e-9)),
            ratio * lab[2] / np.maximum(chroma, np.float32(1e-9)),
        ]
    )
    found = _TO_LINEAR @ (_FROM_LAB @ turn) ** 3
    found *= lum / np.maximum(_LUM @ found, np.float32(1e-9))
    return _within(found, lum)


def _edge_at(lum: Row, hue: Row) -> Row:
    """The greatest ratio, (n,), between the table's entries."""
    edge = table()
    row = np.clip(np.cbrt(lum), 0, 1) * np.float32(_LIGHTS - 1)
    column = hue * np.float32((_HUES - 1) / 360)
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
