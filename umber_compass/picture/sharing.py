"""Shares of light, mixed on encoded values. A share of light looks like less of it than in light:
it is raised, by a power that hangs on how bright both ends are (`bends`)."""

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import PackedRow
from umber_compass.picture.indexed import mixed_quickly
from umber_compass.picture.screen import shouldered
from umber_compass.picture.ways import Row

_LEAST_POWER, _POWER_STEP, _POWERS = 0.8, 0.15, 24
_SHARES = np.arange(256) / 255
# Parts of 256 by power and share of 255.
PARTS = np.stack(
    [
        np.round(256 * (1 - (1 - _SHARES) ** (_LEAST_POWER + _POWER_STEP * i))).astype(np.uint32)
        for i in range(_POWERS)
    ]
)
PARTS_ONE_AFTER_OTHER = PARTS.reshape(-1)
_USUAL = 3  # of the powers, 1.25: nearest where nothing more is known
_FOR_SHINE = 7  # 1.85: a highlight is brighter by more
USUAL_PARTS, SHINE_PARTS = PARTS[_USUAL], PARTS[_FOR_SHINE]


def bends(dark: Row, bright: Row) -> npt.NDArray[np.uint8]:
    """Which power raises shares of light, (codes,), for luminances of both ends: the one that half
    of the light is shown right by, the shoulder of the screen included."""
    half_lit = (dark + bright) * np.float32(0.5)
    ends = [np.sqrt(np.maximum(shouldered(lum), 0)) for lum in (dark, half_lit, bright)]
    apart = np.maximum(ends[2] - ends[0], np.float32(1e-3))
    half = np.clip((ends[1] - ends[0]) / apart, 0.02, 0.98)
    power = np.log2(1 / (1 - half))
    step = (power - np.float32(_LEAST_POWER)) * np.float32(1 / _POWER_STEP) + np.float32(0.5)
    found = np.asarray(np.clip(step, 0, _POWERS - 1), np.uint8)
    found[ends[2] - ends[0] < 1e-3] = _USUAL
    return found


def mixed_parts(bright: PackedRow, under: PackedRow, share: Row) -> PackedRow:
    """Codes of which a share 0-1 lies in a highlight, (codes,), as they are on the mean."""
    level = np.clip(share * 255 + 0.5, 0, 255).astype(np.uint8)
    return mixed_quickly(bright, under, SHINE_PARTS[level])
