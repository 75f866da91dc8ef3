"""With eyes half closed: the light blurred as a squint blurs it, so that only large shapes stay."""

import numpy as np

from umber_compass.colour.spaces import decode, encode
from umber_compass.views.spec import Picture, ViewSpec

# A squint blurs by 4 to 12 arc-minutes; less than 1.5 % of the width would not be seen on screen.
_SIGMA = 0.015  # share of the picture's width
_LIGHT = decode(np.arange(256) / 255).astype(np.float32)


def _see(picture: Picture) -> Picture:
    from scipy.ndimage import gaussian_filter1d  # costs 0.3 s, so only where it is used

    light = _LIGHT[picture]
    for axis in (0, 1):
        light = gaussian_filter1d(
            light, _SIGMA * picture.shape[1], axis=axis, mode="nearest", truncate=3
        )
    return np.asarray(encode(np.clip(light, 0, 1)) * 255 + 0.5).astype(np.uint8)


VIEW = ViewSpec("squint", "Squint", "eyes half closed", _see)
