"""Light blurred: as with eyes half closed, so that only large shapes stay; and as it reaches the
eye where the piece is seen."""

from functools import lru_cache

import numpy as np

from umber_compass.colour.spaces import Floats, decode, encode
from umber_compass.views.view import Picture, ViewSpec

# A squint blurs by 4 to 12 arc-minutes; less than 1.5 % of the width would not be seen on screen.
_SIGMA = 0.015  # share of the picture's width
_REACH = 3  # sigmas, beyond which the bell is nothing
_LIGHT = decode(np.arange(256) / 255).astype(np.float32)


def _seen(picture: Picture, share: float) -> Picture:
    light = blurred(np.asarray(_LIGHT[picture]), share)
    return np.asarray(encode(np.clip(light, 0, 1)) * 255 + 0.5).astype(np.uint8)


def blurred(light: Floats, share: float) -> Floats:
    """Light, (h, w, c), blurred by a bell of a share of the picture's width."""
    height, width = light.shape[:2]
    sigma = share * width
    light = (_bell(height, sigma) @ light.reshape(height, -1)).reshape(light.shape)
    return np.asarray(np.einsum("xw,hwc->hxc", _bell(width, sigma), light, optimize=True))


@lru_cache(8)
def _bell(size: int, sigma: float) -> Floats:
    """What each px of a line takes from every other, (size, size); beyond its ends the last px goes
    on. As a matrix, so that nothing need be imported for it."""
    reach = round(_REACH * sigma + 0.5)
    steps = np.arange(-reach, reach + 1)
    share = np.exp(-0.5 * (steps / max(sigma, 1e-6)) ** 2)
    share /= share.sum()
    found = np.zeros((size, size))
    rows = np.repeat(np.arange(size), len(steps))
    columns = np.clip(np.add.outer(np.arange(size), steps), 0, size - 1).reshape(-1)
    np.add.at(found, (rows, columns), np.tile(share, size))
    narrow = found.astype(np.float32)
    narrow.flags.writeable = False
    return narrow


VIEWS = (
    ViewSpec("squint", "Squint", "eyes half closed", lambda p, _: _seen(p, _SIGMA)),
    ViewSpec(
        "far",
        "From its place",
        "what the eye still parts where the piece is seen",
        lambda p, about: _seen(p, about.blur),
    ),
)
