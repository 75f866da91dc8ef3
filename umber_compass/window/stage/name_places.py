"""Where names stand on the picture: well inside their region; and what they would hide there."""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from PySide6.QtCore import QRectF

from umber_compass.picture.mixes import Labels

_STEP = 4  # px of the picture for each px that is looked at
_SMALL = 0.03  # share of the picture under which a region is a thing rather than a ground


class NamePlaces(NamedTuple):
    """For each label the place in px furthest from its border, and how far that is; and what
    matters where, at quarter size."""

    places: dict[int, tuple[float, float, float]]
    labels: Labels
    matters: npt.NDArray[np.float32]

    def covered(self, plate: QRectF, label: int) -> float:
        """How much a plate, in picture px, hides of a region or of small things, 0-1."""
        rows = slice(max(int(plate.top()) // _STEP, 0), int(plate.bottom()) // _STEP + 1)
        columns = slice(max(int(plate.left()) // _STEP, 0), int(plate.right()) // _STEP + 1)
        under = self.labels[rows, columns]
        if not under.size:
            return 1.0
        own = float((under == label).mean())
        return own + float(self.matters[rows, columns].mean())


def name_places(labels: Labels) -> NamePlaces:
    """Where every region's name can stand."""
    small = np.ascontiguousarray(labels[::_STEP, ::_STEP])
    far = _depth(small).reshape(-1)
    flat = small.reshape(-1)
    order = np.argsort(far, kind="stable")
    deepest = np.zeros(int(flat.max(initial=0)) + 1, np.intp)
    deepest[flat[order]] = order  # the last written is the furthest in
    rows, columns = np.divmod(deepest, small.shape[1])
    found = {
        label: (columns[label] * _STEP + 2.0, rows[label] * _STEP + 2.0, float(far[at]) * _STEP)
        for label, at in enumerate(deepest.tolist())
        if label and flat[at] == label
    }
    area = np.bincount(flat) / small.size
    return NamePlaces(found, small, (area < _SMALL).astype(np.float32)[small])


def _depth(labels: Labels) -> npt.NDArray[np.float32]:
    """How many px deep in its region each px lies: regions give way px by px from all sides, by
    turns also over the corners, which comes near a circle. (SciPy's distance is exact, but costs
    half a second to import just when the hand starts.)"""
    height, width = labels.shape
    framed = np.pad(labels.astype(np.int32), 1, constant_values=-1)
    alive, depth = framed >= 0, np.zeros(framed.shape, np.float32)
    same = {
        (dy, dx): framed[1:-1, 1:-1] == framed[1 + dy : 1 + dy + height, 1 + dx : 1 + dx + width]
        for dy in (-1, 0, 1)
        for dx in (-1, 0, 1)
    }
    for turn in range(max(height, width)):
        depth += alive
        inner = alive[1:-1, 1:-1].copy()
        for (dy, dx), alike in same.items():
            if turn % 2 or not (dy and dx):
                inner &= alike & alive[1 + dy : 1 + dy + height, 1 + dx : 1 + dx + width]
        if not inner.any():
            break
        alive = np.zeros_like(alive)
        alive[1:-1, 1:-1] = inner
    return depth[1:-1, 1:-1]
