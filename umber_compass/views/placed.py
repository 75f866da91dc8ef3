"""The same px elsewhere: left for right, upside down, or small on a wall."""

import numpy as np
from PIL import Image

from umber_compass.views.view import About, Picture, ViewSpec

_SPRITE = 3 * 128 * 128  # numbers of a picture that is drawn px by px
_WALL = 158  # level of the grey around it, a little darker than the gallery's


def _mirrored(picture: Picture, about: About) -> Picture:
    return np.ascontiguousarray(picture[:, ::-1])


def _upside_down(picture: Picture, about: About) -> Picture:
    return np.ascontiguousarray(picture[::-1])


def _small(picture: Picture, about: About) -> Picture:
    height, width = picture.shape[:2]
    size = max(1, round(width * about.small)), max(1, round(height * about.small))
    # Of a sprite whole px are seen from any distance.
    how = Image.Resampling.NEAREST if picture.size <= _SPRITE else Image.Resampling.BOX
    shrunk = np.asarray(Image.fromarray(picture).resize(size, how))
    wall = np.full_like(picture, _WALL)
    top, left = (height - size[1]) // 2, (width - size[0]) // 2
    wall[top : top + size[1], left : left + size[0]] = shrunk
    return wall


VIEWS = (
    ViewSpec("mirrored", "Mirrored", "left for right", _mirrored),
    ViewSpec("upside-down", "Upside down", "stood on its head", _upside_down),
    ViewSpec("small", "Across the room", "small, on a wall", _small),
)
