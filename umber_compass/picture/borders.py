"""Where two flat colours meet, a pixel is a mix of both: which two, and how much of each."""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import Packed, unpack
from umber_compass.colour.spaces import Floats
from umber_compass.picture.mixes import (
    Blends,
    Ints,
    Labels,
    Mixes,
    Row,
    around,
    explain,
    few,
    framed,
    of_three,
    some,
    take,
    thin_labels,
    with_local,
    with_one,
)

_STRIP_PX = 4_000_000  # looked at at a time
_WHITE = 255.0
_GOOD = 3.0  # levels; a mix this near is taken without looking further
_FURTHER = 10  # px; how far the colours of a soft border are looked for
_WORTH = 1.0  # levels by which a blend must be nearer than the flat colour


class Borders(NamedTuple):
    """The mixed pixels of a sketch: place in the flat picture, the label whose it is, the other, 0
    where nothing is painted there, and the share 0-1 of the first. Few are more than that."""

    place: Ints  # (n,)
    own: Labels  # (n,)
    other: Labels  # (n,)
    cover: Row  # (n,)
    rest: Blends  # of labels


def find(packed: Packed, labels: Labels, colours: Floats) -> Borders:
    """The mixed pixels of a sketch, (h, w) 0x00RRGGBB, whose regions are known; `colours` are their
    main ones by label, (labels + 1, 3) in levels of 255. A pixel's label stays; only what it is
    mixed with is found."""
    off = _off(packed, labels, colours)
    place = np.flatnonzero((off > tolerance(off)) & (labels > 0))
    clear = len(colours)  # white where nothing is painted
    pure = np.where(labels > 0, labels, clear).astype(np.uint16)
    pure.reshape(-1)[place] = 0
    known = np.concatenate([colours, [[_WHITE] * 3]]).astype(np.float32)
    mixes = explain(packed, framed(pure), place, known)
    own = labels.reshape(-1)[place]
    first = mixes.own == own
    fits = (first | (mixes.other == own)) & (mixes.own != mixes.other)
    fits &= (mixes.residual <= _GOOD) & (mixes.cover <= 1)
    other = np.where(first, mixes.other, mixes.own)
    other[other == clear] = 0
    cover = np.where(first, mixes.cover, 1 - mixes.cover)
    open_ = np.flatnonzero(~fits)
    far = off.reshape(-1)[place[open_]].astype(np.float32)
    left = some(mixes, open_)
    rest = _blends(packed, pure, place[open_], left, known, far)
    rest.of[rest.of == clear] = 0
    return Borders(place[fits], own[fits], other[fits], cover[fits], rest)


def _blends(
    packed: Packed, pure: Labels, place: Ints, mixes: Mixes, colours: Floats, off: Row
) -> Blends:
    """Px that are not simply between their own colour and one beside it: sharpened beyond both, of
    other colours, of colours further off, of ink, of three. What nothing explains stays out."""
    if not len(place):
        return Blends(place, np.zeros((0, 3), np.intp), np.zeros((0, 3), np.float32))
    open_ = np.flatnonzero(mixes.residual > _GOOD)
    wider = explain(packed, framed(pure, _FURTHER), place[open_], colours)
    take(mixes, open_, wider)
    of, share, best = _as_three(mixes)
    at = np.flatnonzero(best > _GOOD)
    if len(at):
        _better(of, share, best, at, _as_three(with_local(packed, pure, place[at], colours)))
        at = at[best[at] > _GOOD]
    near = few(around(framed(pure), place[at]))
    shown = unpack(packed.reshape(-1)[place[at]]).astype(np.float32)
    for ink in thin_labels(pure) if len(at) else ():
        _better(of, share, best, at, _as_three(with_one(shown, near, ink, colours)))
    _better(of, share, best, at, of_three(shown, near, colours))
    good = best < off - _WORTH
    return Blends(place[good], of[good], share[good].astype(np.float32))


def _as_three(mixes: Mixes) -> tuple[Ints, Floats, Row]:
    """Mixes of two as blends of three, the third of which has no share; and how far off."""
    of = np.stack([mixes.own, mixes.other, mixes.other], axis=1).astype(np.intp)
    share = np.stack([mixes.cover, 1 - mixes.cover, np.zeros(len(of))], axis=1)
    return of, share, mixes.residual.copy()


def _better(
    of: Ints, share: Floats, best: Row, at: Ints, found: tuple[Ints | Labels, Floats, Row]
) -> None:
    """Take what is clearly nearer. In place."""
    good = found[2] < best[at] - 1
    of[at[good]], share[at[good]], best[at[good]] = found[0][good], found[1][good], found[2][good]


def _off(packed: Packed, labels: Labels, colours: Floats) -> npt.NDArray[np.uint8]:
    """How far each px is from its region's main colour, (h, w), levels in the worst channel."""
    height, width = labels.shape
    main, high = colours.astype(np.int16), max(1, _STRIP_PX // width)
    off = np.empty(labels.shape, np.uint8)
    for top in range(0, height, high):
        rows = slice(top, top + high)
        apart = np.abs(unpack(packed[rows]).astype(np.int16) - main[labels[rows]])
        off[rows] = np.maximum(np.maximum(apart[..., 0], apart[..., 1]), apart[..., 2])
    return off


def tolerance(off: npt.NDArray[np.uint8]) -> int:
    """Levels by which a flat area may differ from its main colour: 2, or 12 if the picture was
    stored with loss (fewer than three quarters of its pixels are then within 2)."""
    return 2 if float((off <= 2).mean()) >= 0.75 else 12
