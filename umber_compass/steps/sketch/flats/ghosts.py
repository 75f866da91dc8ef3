"""Thin colours of a resized or smoothed picture that are no colours of it: what smoothing leaves
beside a line, or between two areas."""

import numpy as np

from umber_compass.colour.packed import unpack
from umber_compass.picture.adjacency import touching_pairs
from umber_compass.picture.mixes import thin_labels
from umber_compass.steps.sketch.flats.known import FIRST, Known

_LIKE = 20  # levels from the colour it belongs to, at most
_BESIDE = 0.15  # of its outline along that colour, at least
_MOST = 64  # thin colours that are looked at
_TIMES = 1.5  # as much area that colour has, at least


def without_ghosts(known: Known) -> Known:
    """Labels with each ghost given to the colour beside it that it is nearest to."""
    fresh = [i for i in thin_labels(known.labels, 1, _MOST) if i >= FIRST]
    if not fresh:
        return known
    pairs, length = touching_pairs(known.labels)
    area = np.bincount(known.labels.reshape(-1), minlength=FIRST + len(known.colours))
    wide = unpack(known.colours).astype(np.int16)
    owner = np.arange(FIRST + len(known.colours), dtype=known.labels.dtype)
    for ghost in sorted(fresh, key=lambda i: int(area[i])):
        mine = (pairs == ghost).any(axis=1)
        others = np.where(pairs[mine, 0] == ghost, pairs[mine, 1], pairs[mine, 0])
        along = length[mine]
        good = (others >= FIRST) & (along >= _BESIDE * along.sum())
        good &= area[others] >= _TIMES * area[ghost]
        if not good.any():
            continue
        others = others[good]
        far = np.abs(wide[others - FIRST] - wide[ghost - FIRST]).max(axis=1)
        if far.min() <= _LIKE:
            owner[ghost] = others[far.argmin()]
    while (owner[owner] != owner).any():
        owner = owner[owner]
    return known._replace(labels=owner[known.labels])
