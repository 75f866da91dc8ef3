"""What codes are measured by: whose each is, how much it holds, what it touches."""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.picture.mixes import Ints, Labels


class Adjacency(NamedTuple):
    """What codes are measured by: whose each is, how much it holds, what it touches."""

    label: Ints  # (codes,)
    pixels: Ints  # (codes,)
    touching: Ints  # (pairs, 2) codes of different regions that share a border
    touch_px: Ints  # (pairs,) length of each such border, px
    pair: Ints  # (pairs,) which two labels meet there
    pair_labels: Ints  # (label pairs, 2)
    pair_px: Ints  # (label pairs,) length of their whole border, px


def adjacency_of(code: Ints, labels: Labels, label_of: Ints, inward_px: int = 0) -> Adjacency:
    """What the codes of a sketch, (h, w), are measured by; `label_of` is each code's label. Codes
    that touch are taken some px inside their regions, where they are as thick as that."""
    pairs, length = _touching(code, labels, inward_px)
    pixels = np.bincount(code.reshape(-1), minlength=len(label_of))
    two = np.sort(label_of[pairs], axis=1)
    most = len(label_of) + 1
    key, pair = np.unique(two[:, 0] * most + two[:, 1], return_inverse=True)
    pair = pair.astype(np.intp)
    adjacency = Adjacency(
        label=label_of.astype(np.intp),
        pixels=pixels,
        touching=pairs,
        touch_px=length,
        pair=pair,
        pair_labels=np.stack(np.divmod(key, most), axis=-1),
        pair_px=np.bincount(pair, length, len(key)).astype(np.intp),
    )
    for array in adjacency:
        array.flags.writeable = False
    return adjacency


def touching_pairs(part: npt.NDArray[np.integer]) -> tuple[Ints, Ints]:
    """The areas of a map, (h, w) numbered from 0, that lie side by side: (pairs, 2), the smaller
    number first, in rising order; and how long each border is, (pairs,) px."""
    many = int(part.max(initial=0)) + 1
    keys = []
    for a, b in ((part[:, 1:], part[:, :-1]), (part[1:], part[:-1])):
        at = a != b
        one, other = a[at].astype(np.int64), b[at].astype(np.int64)
        keys.append(np.minimum(one, other) * many + np.maximum(one, other))
    key, length = np.unique(np.concatenate(keys), return_counts=True)
    return np.stack(np.divmod(key, many), axis=-1), length


def _touching(code: Ints, labels: Labels, inward_px: int) -> tuple[Ints, Ints]:
    """Pairs of codes of different regions side by side, and how many pixels long each border is."""
    many = int(code.max(initial=0)) + 1
    keys = []
    for axis in (0, 1):
        along = np.moveaxis(labels, axis, 1)
        indexed = np.moveaxis(code, axis, 1)
        row, column = np.nonzero(along[:, 1:] != along[:, :-1])
        a = indexed[row, _inside(along, row, column, -inward_px)]
        b = indexed[row, _inside(along, row, column + 1, inward_px)]
        keys.append(np.minimum(a, b) * many + np.maximum(a, b))
    key, length = np.unique(np.concatenate(keys), return_counts=True)
    return np.stack(np.divmod(key, many), axis=-1), length


def _inside(labels: Labels, row: Ints, column: Ints, by: int) -> Ints:
    """Columns moved inward within their own region: the whole way, half of it, or not at all."""
    found = column
    for part in (by // 2, by):
        there = np.clip(column + part, 0, labels.shape[1] - 1)
        found = np.where(labels[row, there] == labels[row, column], there, found)
    return np.asarray(found)
