"""A quiet check where a picture is clear, so that what is not painted is not taken for white."""

import numpy as np

from umber_compass.colour.packed import Packed
from umber_compass.picture.drawing import Drawing

_CELLS = 40  # along the longer side
_LIGHT, _DARK = 0xFFFFFF, 0xE6E6E6


class CheckPattern:
    """Lays the check into pictures of one drawing at a time."""

    def __init__(self) -> None:
        self._drawing: Drawing | None = None
        self._clear: np.ndarray[tuple[int, ...], np.dtype[np.intp]] | None = None
        self._pattern: Packed = np.zeros(0, np.uint32)

    def over(self, packed: Packed, drawing: Drawing) -> Packed:
        """A picture of a drawing, (h, w) 0x00RRGGBB, with the check where nothing is painted; the
        very same where everything is, or where the picture is of another size."""
        if packed.shape != drawing.labels.shape:
            return packed
        if drawing is not self._drawing:
            self._look_at(drawing)
        if self._clear is None:
            return packed
        out = packed.copy()
        out.reshape(-1)[self._clear] = self._pattern
        return out

    def _look_at(self, drawing: Drawing) -> None:
        self._drawing, self._clear = drawing, None
        labels = drawing.labels
        if labels.min(initial=1) > 0:
            return
        place = np.flatnonzero(labels.reshape(-1) == 0)
        y, x = np.divmod(place, labels.shape[1])
        cell = max(1, round(max(labels.shape) / _CELLS))
        even = (y // cell + x // cell) % 2 == 0
        self._clear = place
        self._pattern = np.where(even, _LIGHT, _DARK).astype(np.uint32)
