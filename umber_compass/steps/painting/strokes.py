"""How far areas of a painting differ by its brush strokes alone: what a small shape differs by may
be no more than that."""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import Floats
from umber_compass.steps.painting.aligning import Planes, Seen

_SIZES = (4, 8, 16, 32)  # px, the sides of squares in which strokes are averaged
_FULL = 0.6  # of a square, that must be seen
_ENOUGH = 24  # squares, of which a deviation can be told


class Strokes(NamedTuple):
    """By how much the means of squares differ within what was meant as one colour."""

    sizes: tuple[int, ...]  # px, of a square's side; none where nothing could be told
    deviations: Floats  # (sizes, 3): L*, OKLab a and b x 100

    def error(self, area_px: int) -> Floats:
        """The deviation of the mean of an area, (3,): of one between the sizes, between theirs; of
        a larger one, as of so many squares of the largest size; 0 where nothing can be told."""
        if not self.sizes:
            return np.zeros(3)
        side = float(np.sqrt(max(area_px, 1)))
        at = np.log(np.clip(side, self.sizes[0], self.sizes[-1]))
        logs = np.log(np.maximum(self.deviations, 1e-6))
        found = [np.interp(at, np.log(self.sizes), plane) for plane in logs.T]
        return np.asarray(np.exp(found) * min(1.0, self.sizes[-1] / side))


def strokes_of(evened: Planes, seen: Seen) -> Strokes:
    """The strokes of a painting. `evened` is what it differs by from the colour that is meant,
    (3, h, w), less the middle of that in each region; `seen` where that is known."""
    found: list[tuple[int, Floats]] = []
    for size in _SIZES:
        means = _means(evened, seen, size)
        if means.shape[1] < _ENOUGH:
            break
        # Of the middle two thirds: a spot of another colour is no stroke.
        low, high = np.percentile(means, (16, 84), axis=1)
        found.append((size, (high - low) / 2))
    return Strokes(tuple(s for s, _ in found), np.array([d for _, d in found]).reshape(-1, 3))


def _means(planes: Planes, seen: Seen, size: int) -> npt.NDArray[np.float32]:
    """The means of squares of which enough is seen, (3, n)."""
    height, width = (n // size * size for n in seen.shape)
    weight = seen[:height, :width].astype(np.float32)
    held = _summed(weight[None], size)[0]
    sums = _summed(planes[:, :height, :width] * weight, size)
    enough = held >= _FULL * size * size
    return np.asarray(sums[:, enough] / held[enough])


def _summed(planes: Planes, size: int) -> Planes:
    count, height, width = planes.shape
    squares = planes.reshape(count, height // size, size, width // size, size)
    return np.asarray(squares.sum(axis=(2, 4)))
