"""Regions found on a small copy, brought to the picture's own size."""

import numpy as np
import numpy.typing as npt

from umber_compass.steps.sketch.joining import Parts
from umber_compass.steps.sketch.paints.pieces import colours_of

_AWAY = 10  # px at which a region's colour is looked for
_WAYS = ((0, 1), (0, -1), (1, 0), (-1, 0), (1, 1), (-1, -1), (1, -1), (-1, 1))
_ROWS = 256


def at_full_size(small: Parts, rgb: npt.NDArray[np.uint8], by: int) -> Parts:
    """Regions, (h, w) of the picture: px near a border take the one whose colour some px away is
    nearest to theirs."""
    from scipy.ndimage import maximum_filter, uniform_filter

    height, width = rgb.shape[:2]
    rows = np.minimum(np.arange(height) // by, small.shape[0] - 1)
    columns = np.minimum(np.arange(width) // by, small.shape[1] - 1)
    edge = np.zeros(small.shape, bool)
    edge[:, 1:] |= small[:, 1:] != small[:, :-1]
    edge[1:] |= small[1:] != small[:-1]
    near = maximum_filter(edge, 3)
    large, band = small[rows[:, None], columns], near[rows[:, None], columns]
    y, x = np.nonzero(band)
    smooth = np.stack([uniform_filter(rgb[..., i], 3) for i in range(3)], axis=-1)
    found = large.copy()
    for part in np.array_split(np.arange(len(y)), max(1, len(y) // 200_000)):
        v, u = y[part], x[part]
        own = colours_of(smooth[v, u][None])[0]
        best, owner = np.full(len(v), np.inf, np.float32), large[v, u].copy()
        for dy, dx in _WAYS:
            row, column = (
                np.clip(v + dy * _AWAY, 0, height - 1),
                np.clip(u + dx * _AWAY, 0, width - 1),
            )
            far = colours_of(smooth[row, column][None])[0]
            off = ((far - own) ** 2).sum(axis=1)
            better = off < best
            best[better], owner[better] = off[better], large[row, column][better]
        found[v, u] = owner
    return np.asarray(found)
