"""Colours of a flats picture that are tones of one material: brushed ones that interleave, and the
bands of a gradient. Two colours that areas of their own hold are never joined."""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.picture.adjacency import touching_pairs
from umber_compass.picture.mixes import Labels

Bytes = npt.NDArray[np.uint8]

_NEAR = 18  # levels between tones of one material, at most
_THIN = 0.2  # an area's mean width over the root of its px: less for stripes and flecks
_SHARED = 0.15  # of the shorter outline, along which two tones meet
_FEWEST = 4  # tones of a material
_INSIDE = 0.55  # of their outlines, that lie between them


class United(NamedTuple):
    """Labels from 0 as they came, with tones of one material given one; its mean colour."""

    labels: Labels  # (h, w)
    colours: Bytes  # (n, 3), those that are gone included
    joined: int  # colours that went into others


def united(labels: Labels, colours: Bytes, first: int) -> United:
    """Tones joined. `first` is the label of the first colour; lower ones are no region."""
    pairs, length = touching_pairs(labels)
    kept = (pairs >= first).all(axis=1)
    one, other = (pairs[kept] - first).T
    length = length[kept].astype(float)
    count = len(colours)
    area = np.bincount(labels.reshape(-1), minlength=count + first)[first:].astype(float)
    outline = np.asarray(np.bincount(one, length, count) + np.bincount(other, length, count), float)
    width = 2 * area / np.maximum(outline, 1) / np.sqrt(np.maximum(area, 1))
    wide = colours.astype(np.int16)
    apart = np.abs(wide[one] - wide[other]).max(axis=1)
    shared = length / np.maximum(np.minimum(outline[one], outline[other]), 1)
    meets = (apart <= _NEAR) & (shared >= _SHARED)
    meets &= (width[one] <= _THIN) & (width[other] <= _THIN)
    if np.count_nonzero(meets) < _FEWEST - 1:
        return United(labels, colours, 0)
    return _joined(labels, colours, first, area, (one, other, length, meets), outline)


def _joined(
    labels: Labels,
    colours: Bytes,
    first: int,
    area: npt.NDArray[np.floating],
    borders: tuple[npt.NDArray[np.intp], ...],
    outline: npt.NDArray[np.floating],
) -> United:
    from scipy.sparse import coo_array
    from scipy.sparse.csgraph import connected_components

    one, other, length, meets = borders
    count = len(colours)
    graph = coo_array((np.ones(int(meets.sum())), (one[meets], other[meets])), (count, count))
    _, group = connected_components(graph, directed=False)
    size = np.bincount(group)
    within = group[one] == group[other]
    inside = 2 * np.bincount(group[one[within]], length[within], len(size))
    whole = np.bincount(group, outline, len(size))
    good = (size >= _FEWEST) & (inside >= _INSIDE * whole)
    owner, mean = np.arange(count), colours.copy()
    for material in np.flatnonzero(good).tolist():
        tones = np.flatnonzero(group == material)
        lead = tones[area[tones].argmax()]
        owner[tones] = lead
        weight = area[tones] / area[tones].sum()
        mean[lead] = (weight @ colours[tones] + 0.5).astype(np.uint8)
    table = np.concatenate([np.arange(first), owner + first]).astype(labels.dtype)
    return United(table[labels], mean, int((owner != np.arange(count)).sum()))
