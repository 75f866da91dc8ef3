"""Which groups of value a grey picture falls into: the best division of its calm px."""

from itertools import pairwise
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import Floats

Grey = npt.NDArray[np.uint8]

LEAST, MOST = 2, 6
_CALM_PX, _CALM = 7, 70  # a px whose surroundings vary less than this percentile is calm
_BLUR = 1.5  # levels
_POWER = 0.25  # of shares: large areas are not divided, small groups are not lost
# Between two groups there is a valley: no more than this share of the lower of their peaks (studio
# rule, docs/sketch.md: chosen on drawings whose groups are known).
_VALLEY, _VALLEY_REACH = 0.35, 3


class Groups(NamedTuple):
    """Where groups of value begin and what each is on the mean."""

    edges: npt.NDArray[np.intp]  # (groups - 1,) the first level of each but the darkest
    means: Floats  # (groups,) levels of 255


def find_groups(grey: Grey, count: int | None) -> Groups:
    """The groups of a grey picture, (h, w), so many or as many as suit it."""
    weight = calm_histogram(grey)
    if count is not None:
        return _divided(weight, count)[0]
    held = weight ** (1 / _POWER)
    for k in range(MOST, LEAST, -1):
        found, _ = _divided(weight, k)
        if _parted(held, found):
            return found
    return _divided(weight, LEAST)[0]


def _parted(held: Floats, groups: Groups) -> bool:
    """Whether a valley lies between every two groups."""
    bounds = [0, *groups.edges.tolist(), 256]
    peaks = [float(held[a:b].max(initial=0)) for a, b in pairwise(bounds)]
    for i, edge in enumerate(bounds[1:-1]):
        low = float(held[max(edge - _VALLEY_REACH, 0) : edge + _VALLEY_REACH + 1].min())
        if low > _VALLEY * min(peaks[i], peaks[i + 1]):
            return False
    return True


def calm_histogram(grey: Grey) -> Floats:
    """How much of a picture's calm px has each level, (256,), evened out so that small groups
    count."""
    from scipy.ndimage import gaussian_filter1d, maximum_filter, minimum_filter

    spread = maximum_filter(grey, _CALM_PX) - minimum_filter(grey, _CALM_PX)
    calm = spread <= np.percentile(spread, _CALM)
    held = np.bincount(grey[calm], minlength=256).astype(float)
    held = gaussian_filter1d(held, _BLUR, mode="constant")
    held[held < 0.5] = 0
    return np.asarray((held / max(held.sum(), 1)) ** _POWER)


def _divided(weight: Floats, count: int) -> tuple[Groups, float]:
    """The division into so many groups of least squared spread, and that spread (dynamic
    programming over the 256 levels)."""
    level = np.arange(256.0)
    sums = [np.concatenate([[0.0], np.cumsum(weight * level**p)]) for p in range(3)]

    def spread(begin: npt.NDArray[np.intp], end: int) -> Floats:
        """Of the groups from each begin up to, without, the end."""
        w, x, xx = (s[end] - s[begin] for s in sums)
        return np.asarray(xx - x * x / np.maximum(w, 1e-12))

    begins = np.arange(256)
    best = np.array([spread(np.zeros(1, np.intp), e)[0] for e in range(257)])
    came: list[npt.NDArray[np.intp]] = []
    for _ in range(count - 1):
        now, origin = np.full(257, np.inf), np.zeros(257, np.intp)
        for end in range(1, 257):
            tried = best[:end] + spread(begins[:end], end)
            origin[end] = tried.argmin()
            now[end] = tried[origin[end]]
        best = now
        came.append(origin)
    edges: list[int] = []
    end = 256
    for origin in reversed(came):
        end = int(origin[end])
        edges.insert(0, end)
    bounds = [0, *edges, 256]
    means = [
        float((weight * level)[a:b].sum() / max(weight[a:b].sum(), 1e-12))
        for a, b in pairwise(bounds)
    ]
    return Groups(np.array(edges, np.intp), np.array(means)), float(best[256])
