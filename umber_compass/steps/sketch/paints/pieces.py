"""A painting in small even pieces of like colour (simple linear iterative clustering, Achanta et
al. 2012)."""

from typing import TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import decode, oklab
from umber_compass.steps.sketch.joining import Parts

Colours: TypeAlias = npt.NDArray[np.float32]  # (h, w, 3)

PIECES = 600
_COMPACT, _ROUNDS = 8.0, 4
_SCALE, _TINT = 100.0, 2.5  # OKLab by this; a and b by this more
_LINEAR = decode(np.arange(256) / 255)


def colours_of(rgb: npt.NDArray[np.uint8]) -> Colours:
    """A picture, (h, w, 3) levels, in OKLab x 100 with a and b stretched."""
    found = oklab(_LINEAR[rgb]).astype(np.float32) * np.float32(_SCALE)
    found[..., 1:] *= np.float32(_TINT)
    return found


def pieces_of(colours: Colours) -> Parts:
    """Connected pieces of a picture, (h, w) numbered from 0, about `PIECES` of them."""
    height, width, _ = colours.shape
    step = max(np.sqrt(height * width / PIECES), 2.0)
    down, across = max(1, round(height / step)), max(1, round(width / step))
    y, x = np.indices((height, width), np.float32)
    row = np.minimum((y * down / height).astype(int), down - 1)
    column = np.minimum((x * across / width).astype(int), across - 1)
    own = row * across + column
    pull = np.float32(_COMPACT / step)
    for _ in range(_ROUNDS):
        own = _nearest(colours, own, (row, column), (down, across), pull)
    return _connected(own, colours)


def _nearest(
    colours: Colours,
    own: npt.NDArray[np.intp],
    cell: tuple[npt.NDArray[np.intp], npt.NDArray[np.intp]],
    cells: tuple[int, int],
    pull: np.float32,
) -> npt.NDArray[np.intp]:
    """The piece whose middle is nearest to each px, of the nine round its cell."""
    height, width, _ = colours.shape
    count = cells[0] * cells[1]
    flat = own.reshape(-1)
    held = np.bincount(flat, minlength=count)
    size = np.maximum(held, 1)
    y, x = np.indices((height, width), np.float32)
    features = [colours[..., i] for i in range(3)] + [y * pull, x * pull]
    middle = [(np.bincount(flat, f.reshape(-1), count) / size).astype(np.float32) for f in features]
    best = np.full(own.shape, np.inf, np.float32)
    found = own.copy()
    for dy in (-1, 0, 1):
        for dx in (-1, 0, 1):
            row = np.clip(cell[0] + dy, 0, cells[0] - 1)
            column = np.clip(cell[1] + dx, 0, cells[1] - 1)
            other = row * cells[1] + column
            far = np.zeros(own.shape, np.float32)
            for feature, m in zip(features, middle, strict=True):
                apart = feature - m[other]
                far += apart * apart
            far[held[other] == 0] = np.inf
            nearer = far < best
            best[nearer], found[nearer] = far[nearer], other[nearer]
    return found


def _connected(own: npt.NDArray[np.intp], colours: Colours) -> Parts:
    """Pieces that hang together: stray parts go to the neighbour with the longest border."""
    from umber_compass.steps.sketch.joining import borders_between, connected_parts, merged_specks

    part, count = connected_parts(own)
    size = np.bincount(part.reshape(-1), minlength=count).astype(float)
    mean = np.stack(
        [np.bincount(part.reshape(-1), colours[..., i].reshape(-1), count) / size for i in range(3)]
    ).T
    least = part.size / PIECES / 8
    return merged_specks(
        part,
        size,
        mean,
        borders_between(part),
        lambda area, apart: area < least,
        lambda border, apart: border / (5 + apart),
    )
