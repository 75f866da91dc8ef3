"""A ball painted in a ramp's steps alone, lit from the upper left."""

from functools import lru_cache

import numpy as np

from umber_compass.colour.measured import levels_of
from umber_compass.colour.packed import Packed
from umber_compass.colour.spaces import Floats
from umber_compass.steps.ramps.ramps import Steps

_LIGHT = np.array([-0.5, -0.62, 0.6]) / np.linalg.norm([-0.5, -0.62, 0.6])
_AMBIENT = 0.28  # of the light, from everywhere
_BASE = 0.62  # of the light, where the base is seen


def ball(ramp: Steps, px: int, ground: int) -> Packed:
    """The ball, (px, px) 0x00RRGGBB, on a ground 0xRRGGBB; without smooth edges, as a sprite."""
    lit = _lit(px)
    levels = np.array([levels_of(step.hex) for step in ramp.steps], np.uint32)
    count = len(levels)
    ends = [0.0, _BASE, 1.0]
    place = np.interp(lit, ends, [-0.49, ramp.base, count - 0.51])
    at = np.clip(np.round(place), 0, count - 1).astype(np.intp)
    packed = levels[:, 0] << 16 | levels[:, 1] << 8 | levels[:, 2]
    return np.where(lit < 0, np.uint32(ground), packed[at]).astype(np.uint32)


@lru_cache(8)
def _lit(px: int) -> Floats:
    """How much light each px has, 0-1; -1 beside the ball."""
    y, x = (np.mgrid[:px, :px] + 0.5) * 2 / px - 1
    inside = x * x + y * y <= 0.96
    z = np.sqrt(np.maximum(1 - x * x - y * y, 0))
    facing = np.maximum(x * _LIGHT[0] + y * _LIGHT[1] + z * _LIGHT[2], 0)
    return np.where(inside, np.clip((1 - _AMBIENT) * facing + _AMBIENT * (1 - y) / 2, 0, 1), -1)
