"""The borders of regions, the lighter the more they part: in value, hue and chroma together."""

import numpy as np

from umber_compass.colour.spaces import decode, oklab
from umber_compass.views.grey import as_grey
from umber_compass.views.view import About, Picture, ViewSpec

_FULL = 0.35  # OKLab, from which a border is white
_LIGHT = decode(np.arange(256) / 255).astype(np.float32)
_INWARD = 2  # px either side, beyond what is smoothed


def _see(picture: Picture, about: About) -> Picture:
    if about.labels is None:
        return np.zeros_like(picture)
    lab, labels = oklab(_LIGHT[picture]), about.labels
    found = np.zeros(labels.shape, np.float32)
    for axis in (0, 1):
        size = labels.shape[axis]
        at = np.arange(size - 1)
        one, other = (np.take(labels, i, axis) for i in (at, at + 1))
        low, high = np.maximum(at - _INWARD, 0), np.minimum(at + 1 + _INWARD, size - 1)
        gap = np.linalg.norm(np.take(lab, low, axis) - np.take(lab, high, axis), axis=-1)
        part = np.where(one != other, gap, 0).astype(np.float32)
        for shift in (0, 1):
            place = [slice(None), slice(None)]
            place[axis] = slice(shift, size - 1 + shift)
            np.maximum(found[tuple(place)], part, out=found[tuple(place)])
    level = np.clip(found / _FULL, 0, 1) ** 0.7 * 255
    return as_grey(level.astype(np.uint8))


VIEWS = (ViewSpec("borders", "Borders", "how strongly each border parts", _see),)
