"""An ordered dither: a threshold for each px, the same four by four over and over (Bayer 1973)."""

import numpy as np

from umber_compass.colour.spaces import Floats

_BAYER = np.array([[0, 8, 2, 10], [12, 4, 14, 6], [3, 11, 1, 9], [15, 7, 13, 5]])


def thresholds(height: int, width: int) -> Floats:
    """Thresholds between 0 and 1, (h, w)."""
    tiles = (height // 4 + 1, width // 4 + 1)
    return np.asarray(np.tile((_BAYER + 0.5) / 16, tiles)[:height, :width])
