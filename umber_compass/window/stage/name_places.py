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
    from scipy.ndimage import distance_transform_edt, find_objects  # on the worker only

    small = np.ascontiguousarray(labels[::_STEP, ::_STEP])
    found: dict[int, tuple[float, float, float]] = {}
    for i, box in enumerate(find_objects(small.astype("int32"))):
        if box is None:
            continue
        inside = np.pad(small[box] == i + 1, 1)
        far = distance_transform_edt(inside)
        y, x = np.unravel_index(int(far.argmax()), far.shape)
        place = (box[1].start + x - 1) * _STEP + 2.0, (box[0].start + y - 1) * _STEP + 2.0
        found[i + 1] = (*place, float(far[y, x]) * _STEP)
    area = np.bincount(small.reshape(-1), minlength=int(small.max(initial=0)) + 1) / small.size
    return NamePlaces(found, small, (area < _SMALL).astype(np.float32)[small])
