"""Where two flat colours meet, a pixel is a mix of both: which two, and how much of each."""

from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import Floats

Labels: TypeAlias = npt.NDArray[np.uint16]  # (h, w), 0 where there is no region
Bytes: TypeAlias = npt.NDArray[np.uint8]
Ints: TypeAlias = npt.NDArray[np.intp]

_REACH = 2  # px; smoothing is one wide, a corner or a thin line needs one more
_CANDIDATES = 4
_OVERSHOOT = 0.25  # share by which sharpened or resized borders go beyond their two colours
# Nearest first, so that the first few different labels found are the likely ones.
_AROUND = sorted(
    ((dy, dx) for dy in range(-_REACH, _REACH + 1) for dx in range(-_REACH, _REACH + 1)),
    key=lambda d: d[0] ** 2 + d[1] ** 2,
)


class Borders(NamedTuple):
    """The mixed pixels of a sketch: place in the flat picture, the label that has more, the other,
    and the share 0.5-1 of the first."""

    place: Ints  # (n,)
    own: Labels  # (n,)
    other: Labels  # (n,)
    cover: npt.NDArray[np.float32]  # (n,)


class Mixes(NamedTuple):
    """The best explanation of some pixels as a mix of two main colours nearby."""

    own: Labels
    other: Labels
    cover: npt.NDArray[np.float32]
    residual: Floats  # levels of 255, how far the pixel is from that mix


def near_labels(pure: Labels, place: Ints) -> Labels:
    """Up to four different labels around each place, nearest first, (n, 4); 0 where fewer."""
    padded = np.pad(pure, _REACH)
    row, column = np.divmod(place, pure.shape[1])
    found = np.zeros((len(place), _CANDIDATES), np.uint16)
    count = np.zeros(len(place), np.intp)
    for dy, dx in _AROUND:
        here = padded[row + dy + _REACH, column + dx + _REACH]
        fresh = (here > 0) & (count < _CANDIDATES) & ~(found == here[:, None]).any(axis=1)
        at = np.flatnonzero(fresh)
        found[at, count[at]] = here[at]
        count[at] += 1
    return found


def explain(pixels: Bytes, near: Labels, colours: Floats) -> Mixes:
    """Each pixel, (n, 3) 8-bit, as a mix of two of the labels near it. `colours` are the main
    colours by label, (labels + 1, 3) in levels of 255. Mixed on encoded values, as the sketch's
    own smoothing was (docs/sketch.md)."""
    shown = pixels.astype(np.float32)
    best = Mixes(
        near[:, 0].copy(),
        near[:, 0].copy(),
        np.ones(len(near), np.float32),
        np.where(near[:, 0] > 0, np.abs(shown - colours[near[:, 0]]).max(axis=1), 1e9),
    )
    for i in range(_CANDIDATES):
        for j in range(i + 1, _CANDIDATES):
            _try_pair(shown, near[:, i], near[:, j], colours, best)
    return best


def _try_pair(shown: Floats, first: Labels, second: Labels, colours: Floats, best: Mixes) -> None:
    """Take a pair of labels wherever it explains a pixel better than what is known."""
    at = np.flatnonzero((first > 0) & (second > 0))
    a, b = colours[first[at]], colours[second[at]]
    span = b - a
    length = np.maximum((span * span).sum(axis=1), 1e-6)
    t = np.clip(((shown[at] - a) * span).sum(axis=1) / length, -_OVERSHOOT, 1 + _OVERSHOOT)
    residual = np.abs(shown[at] - a - t[:, None] * span).max(axis=1)
    t = np.clip(t, 0, 1)
    better = residual < best.residual[at] - 0.75  # a later pair must be clearly better
    at, t = at[better], t[better]
    more = t <= 0.5
    best.own[at] = np.where(more, first[at], second[at])
    best.other[at] = np.where(more, second[at], first[at])
    best.cover[at] = np.where(more, 1 - t, t)
    best.residual[at] = residual[better]


def find(rgb: Bytes, labels: Labels, colours: Floats) -> Borders:
    """The mixed pixels of a sketch, (h, w, 3), whose regions are known. A pixel's label stays; only
    what it is mixed with is found."""
    off = np.abs(rgb.astype(np.int16) - colours.astype(np.int16)[labels]).max(axis=2)
    away = (off > tolerance(off)) & (labels > 0)
    pure = np.where(away, 0, labels).astype(np.uint16)
    place = np.flatnonzero(away)
    mixes = explain(rgb.reshape(-1, 3)[place], near_labels(pure, place), colours)
    own = labels.reshape(-1)[place]
    known = ((mixes.own == own) | (mixes.other == own)) & (mixes.own != mixes.other)
    cover = np.where(mixes.own == own, mixes.cover, 1 - mixes.cover)
    other = np.where(mixes.own == own, mixes.other, mixes.own)
    return Borders(place[known], own[known], other[known], cover[known].astype(np.float32))


def tolerance(off: npt.NDArray[np.int16]) -> int:
    """Levels by which a flat area may differ from its main colour: 2, or 12 if the picture was
    stored with loss (fewer than three quarters of its pixels are then within 2)."""
    return 2 if float((off <= 2).mean()) >= 0.75 else 12
