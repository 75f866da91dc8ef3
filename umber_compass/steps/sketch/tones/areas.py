"""The connected areas of groups: evened out, soft edges and specks given to those beside them."""

import numpy as np
import numpy.typing as npt

from umber_compass.steps.sketch.joining import (
    Borders,
    Parts,
    borders_between,
    connected_parts,
    merged_specks,
)
from umber_compass.steps.sketch.tones.groups import Grey, Groups

_MAJORITY = 5  # px
_DISC = 3  # px, radius; a band narrower than twice this may be a soft edge
_TOUCHES = 0.2  # of a band's outline on its darker and on its lighter side, at least
_SPECK = 3e-4  # of the picture, that an area needs beside one 24 levels off
_LEVELS, _MOST_TIMES = 24.0, 6.0
_SPARE = 8.0  # levels added to a difference, so that the longest border counts among like ones
_BRIDGE, _LARGE = 9, 6.0  # px wide, at most; times a speck that both sides of it hold, at least
_BAND = 3  # px, in which a border is decided anew at full size


def grouped(grey: Grey, groups: Groups) -> npt.NDArray[np.uint8]:
    """Which group each px belongs to, (h, w), after two rounds of the majority round it."""
    from scipy.ndimage import uniform_filter

    group = np.searchsorted(groups.edges, grey, side="right").astype(np.uint8)
    for _ in range(2):
        held = [
            uniform_filter((group == g).astype(np.uint8) * np.uint8(250), _MAJORITY)
            for g in range(len(groups.means))
        ]
        group = np.stack(held).argmax(axis=0).astype(np.uint8)
    return group


def without_bands(group: npt.NDArray[np.uint8]) -> npt.NDArray[np.uint8]:
    """Groups, (h, w), with the bands of soft edges gone: what is narrow, of a middle group, and has
    a darker one on one side and a lighter one on the other."""
    from scipy.ndimage import (
        binary_dilation,
        binary_opening,
        distance_transform_edt,
        find_objects,
        label,
    )

    disc = np.hypot(*np.indices((2 * _DISC + 1, 2 * _DISC + 1)) - _DISC) <= _DISC + 0.3
    taken = np.zeros(group.shape, bool)
    for g in range(1, int(group.max())):
        mine = group == g
        removed = mine & ~binary_opening(mine, disc)
        part, _ = label(removed)
        for i, box in enumerate(find_objects(part)):
            wide = tuple(
                slice(max(s.start - 1, 0), min(s.stop + 1, n))
                for s, n in zip(box, group.shape, strict=True)
            )
            inside = part[wide] == i + 1
            ring = binary_dilation(inside) & ~inside
            beside = group[wide][ring]
            if len(beside) == 0:
                continue
            darker, lighter = float((beside < g).mean()), float((beside > g).mean())
            if min(darker, lighter) >= _TOUCHES:
                taken[wide] |= inside
    if not taken.any() or taken.all():
        return group
    rows, columns = distance_transform_edt(taken, return_distances=False, return_indices=True)
    return np.asarray(group[rows, columns])


def areas_of(group: npt.NDArray[np.uint8], grey: Grey) -> Parts:
    """The connected areas of groups, (h, w) numbered from 0, specks joined to what is beside
    them."""
    part, count = connected_parts(group)
    part, count = _without_bridges(part, count)
    size = np.bincount(part.reshape(-1), minlength=count)
    mean = np.bincount(part.reshape(-1), grey.reshape(-1), count) / np.maximum(size, 1)

    def is_speck(area: float, apart: float) -> bool:
        times = min(max((_LEVELS / max(apart, 1e-6)) ** 2, 1.0), _MOST_TIMES)
        return area < _SPECK * group.size * times

    def worth(border: float, apart: float) -> float:
        return border / (_SPARE + apart)

    borders: Borders = borders_between(part)
    return merged_specks(part, size.astype(float), mean[:, None], borders, is_speck, worth)


def _without_bridges(part: Parts, count: int) -> tuple[Parts, int]:
    """Areas parted where only a bridge a few px wide joins two large parts of one: two things of
    one value that come close to each other."""
    from scipy.ndimage import distance_transform_edt, find_objects, label, minimum_filter

    core = part.copy()
    inner = minimum_filter(part, _BRIDGE) == part
    inner &= -minimum_filter(-part, _BRIDGE) == part
    core[~inner] = -1
    found, least = part.copy(), _LARGE * _SPECK * part.size
    for i, box in enumerate(find_objects(part + 1)):
        inside = part[box] == i
        seed, many = label(core[box] == i)
        large = np.flatnonzero(np.bincount(seed.reshape(-1))[1:] >= least) + 1
        if many < 2 or len(large) < 2:
            continue
        kept = np.isin(seed, large)
        near = distance_transform_edt(~kept, return_distances=False, return_indices=True)
        owner = np.searchsorted(large, seed[near[0], near[1]])
        fresh = np.where(owner > 0, count - 1 + owner, i)
        found[box][inside] = fresh[inside]
        count += len(large) - 1
    return found, count


def at_full_size(small: Parts, grey: Grey, by: int = 2) -> Parts:
    """Areas found on a copy so many times smaller, (h, w) at the picture's own size: px near a
    border go to the area whose mean within a few px is nearest to what they are."""
    height, width = grey.shape
    rows = np.minimum(np.arange(height) // by, small.shape[0] - 1)
    columns = np.minimum(np.arange(width) // by, small.shape[1] - 1)
    large = small[rows[:, None], columns]
    count = int(small.max()) + 1
    size = np.maximum(np.bincount(large.reshape(-1), minlength=count), 1)
    mean = np.bincount(large.reshape(-1), grey.reshape(-1), count) / size
    edge = np.zeros(large.shape, bool)
    edge[:, 1:] |= large[:, 1:] != large[:, :-1]
    edge[1:] |= large[1:] != large[:-1]
    y, x = np.nonzero(_near(edge, _BAND))
    shown = grey[y, x].astype(float)
    best, owner = np.full(len(y), np.inf), large[y, x].copy()
    for dy, dx in ((0, 0), (0, 1), (0, -1), (1, 0), (-1, 0), (1, 1), (-1, -1), (1, -1), (-1, 1)):
        v = np.clip(y + dy * _BAND, 0, height - 1)
        u = np.clip(x + dx * _BAND, 0, width - 1)
        there = large[v, u]
        off = np.abs(mean[there] - shown)
        better = off < best - 1e-9
        best[better], owner[better] = off[better], there[better]
    found = large.copy()
    found[y, x] = owner
    return np.asarray(found)


def _near(edge: npt.NDArray[np.bool_], by: int) -> npt.NDArray[np.bool_]:
    from scipy.ndimage import maximum_filter

    return np.asarray(maximum_filter(edge, 2 * by + 1))
