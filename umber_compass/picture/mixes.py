"""A pixel along a border as a mix of two flat colours: which two of those around it, and how much
of each. Mixed on encoded values, as the sketch's own smoothing was (docs/sketch.md)."""

from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import unpack
from umber_compass.colour.spaces import Floats

Labels: TypeAlias = npt.NDArray[np.uint16]  # (h, w), 0 where there is no region
Ints: TypeAlias = npt.NDArray[np.intp]
Row: TypeAlias = npt.NDArray[np.float32]

REACH = 4  # px; how far the two colours of a mix are looked for
_COUNTED = 4_000_000  # px at a time
_COMPARED = 8_000  # px at a time
_CELL = 16  # px; a side of the squares in which labels are noted
_CHUNK = 150_000  # px explained at a time
_GOOD = 1.6  # levels; a pair this near is taken without looking further
_BETTER = 0.75  # levels by which a later pair must be nearer
OVERSHOOT = 0.25  # share by which sharpened or resized borders go beyond their two colours
# Eight directions, two and two opposite: dy, dx.
_WAYS = ((0, 1), (0, -1), (1, 0), (-1, 0), (1, 1), (-1, -1), (1, -1), (-1, 1))
_OPPOSITE = ((0, 1), (2, 3), (4, 5), (6, 7))


class Mixes(NamedTuple):
    """The best explanation of some pixels as a mix of two main colours nearby."""

    own: Labels  # (n,) that which has more; 0 where nothing is near
    other: Labels
    cover: Row  # (n,) share of the first, 0.5-1; more where a border was sharpened beyond it
    residual: Row  # levels of 255, how far the pixel is from that mix


class Blends(NamedTuple):
    """Px that are more than two colours between them: places in the flat picture, three that are
    blended in each (labels, codes or px), and their shares, which sum to 1; under 0 or over 1
    where a border was sharpened."""

    place: Ints  # (n,)
    of: Ints  # (n, 3)
    share: Row  # (n, 3)


def some(mixes: Mixes, at: Ints) -> Mixes:
    """The explanations of some of the px."""
    return Mixes(mixes.own[at], mixes.other[at], mixes.cover[at], mixes.residual[at])


class Frame(NamedTuple):
    """Labels with a frame of zeros, so that what lies around a px can be read without a check."""

    flat: Labels  # (n,)
    width: int  # px, frame and all
    reach: int  # px, how wide the frame is

    def places(self, place: Ints) -> Ints:
        """Places of the flat picture as places here."""
        row, column = np.divmod(place, self.width - 2 * self.reach)
        return np.asarray((row + self.reach) * self.width + column + self.reach)


def framed(labels: Labels, reach: int = REACH) -> Frame:
    """Labels, (h, w), framed so wide that something may be looked for so many px away."""
    return Frame(np.pad(labels, reach).reshape(-1), labels.shape[1] + 2 * reach, reach)


def around(frame: Frame, place: Ints) -> Labels:
    """The first label in each of eight directions, (n, 8); 0 where there is none. `place` is in
    the flat picture."""
    at = frame.places(place)
    found = np.zeros((8, len(place)), frame.flat.dtype)
    for row, (dy, dx) in zip(found, _WAYS, strict=True):
        step = dy * frame.width + dx
        open_ = np.arange(len(place))
        for far in range(1, frame.reach + 1):
            here = frame.flat[at[open_] + far * step]
            row[open_] = here
            open_ = open_[here == 0]
    return found.T


def few(near: Labels) -> Labels:
    """The first four different labels of those around, (n, 4); 0 where fewer."""
    found = np.zeros((len(near), 4), near.dtype)
    count = np.zeros(len(near), np.intp)
    for way in range(8):
        here = near[:, way]
        fresh = (here > 0) & (count < 4) & ~(found == here[:, None]).any(axis=1)
        at = np.flatnonzero(fresh)
        found[at, count[at]] = here[at]
        count[at] += 1
    return found


def explain(
    packed: npt.NDArray[np.uint32],
    frame: Frame,
    place: Ints,
    colours: Floats,
    overshoot: float = OVERSHOOT,
) -> Mixes:
    """The px at some places of a picture, (h, w) 0x00RRGGBB, as mixes of the labels around them.
    `colours` are by label, (labels + 1, 3) in levels of 255."""
    flat, parts = packed.reshape(-1), []
    for begin in range(0, max(len(place), 1), _CHUNK):
        here = place[begin : begin + _CHUNK]
        shown = unpack(flat[here]).astype(np.float32)
        parts.append(_explained(shown, around(frame, here), colours, overshoot))
    return Mixes(*(np.concatenate(column) for column in zip(*parts, strict=True)))


def take(mixes: Mixes, at: Ints, other: Mixes) -> None:
    """Take other explanations of some of the px where they are nearer. In place."""
    far = other.residual
    better = far < mixes.residual[at]
    mixes.own[at[better]], mixes.other[at[better]] = other.own[better], other.other[better]
    mixes.cover[at[better]], mixes.residual[at[better]] = other.cover[better], far[better]


def _explained(shown: Row, near: Labels, colours: Floats, overshoot: float) -> Mixes:
    first = few(near)
    alone = np.abs(shown - colours[first[:, 0]]).max(axis=1)
    best = Mixes(
        first[:, 0].copy(),
        first[:, 0].copy(),
        np.ones(len(near), np.float32),
        np.where(first[:, 0] > 0, alone, 1e9).astype(np.float32),
    )
    for one, two in _OPPOSITE:
        _try(shown, near[:, one], near[:, two], colours, best, overshoot)
    for one in range(4):
        for two in range(one + 1, 4):
            _try(shown, first[:, one], first[:, two], colours, best, overshoot)
    return best


def _try(
    shown: Row, first: Labels, second: Labels, colours: Floats, best: Mixes, overshoot: float
) -> None:
    """Take a pair of labels wherever it explains a pixel better than what is known."""
    at = np.flatnonzero((first > 0) & (second > 0) & (first != second) & (best.residual > _GOOD))
    if not len(at):
        return
    t, residual = between(shown[at], colours[first[at]], colours[second[at]], overshoot)
    better = residual < best.residual[at] - _BETTER
    at, t = at[better], t[better]
    more = t <= 0.5
    best.own[at] = np.where(more, first[at], second[at])
    best.other[at] = np.where(more, second[at], first[at])
    best.cover[at] = np.where(more, 1 - t, t)
    best.residual[at] = residual[better]


def between(shown: Floats, a: Floats, b: Floats, overshoot: float) -> tuple[Row, Row]:
    """Where colours, (n, 3), lie on the way from a to b, 0-1 and a little beyond, and how far off
    that way they are, levels in the worst channel."""
    span = b - a
    length = np.maximum((span * span).sum(axis=1), 1e-6)
    t = np.clip(((shown - a) * span).sum(axis=1) / length, -overshoot, 1 + overshoot)
    apart = np.abs(shown - a - t[:, None] * span)
    return t, np.maximum(np.maximum(apart[:, 0], apart[:, 1]), apart[:, 2])


def of_three(shown: Row, near: Labels, colours: Floats) -> tuple[Labels, Row, Row]:
    """Colours, (n, 3), as blends of three of the labels near each, (n, 4): those labels (n, 3),
    their shares (n, 3), and how far off it is, levels."""
    labels = np.zeros((len(shown), 3), near.dtype)
    shares = np.zeros((len(shown), 3), np.float32)
    best = np.full(len(shown), 1e9, np.float32)
    for chosen in ((0, 1, 2), (0, 1, 3), (0, 2, 3), (1, 2, 3)):
        three = near[:, chosen]
        share, off = _barycentric(shown, colours[three])
        good = (three > 0).all(axis=1) & (share.min(axis=1) >= -0.02) & (off < best - _BETTER)
        labels[good], shares[good], best[good] = three[good], share[good], off[good]
    return labels, shares, best


def _barycentric(shown: Row, corners: Row) -> tuple[Row, Row]:
    """Shares, (n, 3), of three colours (n, 3, 3) that come nearest to a colour, and how far off."""
    a, b, c = corners[:, 0], corners[:, 1], corners[:, 2]
    u, v, w = b - a, c - a, shown - a
    uu, uv, vv = (u * u).sum(1), (u * v).sum(1), (v * v).sum(1)
    wu, wv = (w * u).sum(1), (w * v).sum(1)
    det = np.maximum(uu * vv - uv * uv, 1e-3)
    s, t = (vv * wu - uv * wv) / det, (uu * wv - uv * wu) / det
    off = np.abs(w - s[:, None] * u - t[:, None] * v).max(axis=1)
    return np.stack([1 - s - t, s, t], axis=1), off


def with_one(shown: Row, first: Labels, label: int, colours: Floats) -> Mixes:
    """Colours, (n, 3), as mixes of one of the labels near each, (n, 4), and one that need not be
    near, as ink."""
    found = np.zeros(len(shown), first.dtype)
    best, part = np.full(len(shown), 1e9, np.float32), np.zeros(len(shown), np.float32)
    for i in range(first.shape[1]):
        at = np.flatnonzero((first[:, i] > 0) & (first[:, i] != label))
        there = np.broadcast_to(colours[label], (len(at), 3))
        t, off = between(shown[at], colours[first[at, i]], there, 0.02)
        better = off < best[at]
        at, t, off = at[better], t[better], off[better]
        found[at], best[at], part[at] = first[at, i], off, np.clip(t, 0, 1)
    more, one = part > 0.5, first.dtype.type(label)
    own, other = np.where(more, one, found), np.where(more, found, one)
    return Mixes(own, other, np.maximum(part, 1 - part), best)


def nearest(levels: npt.NDArray[np.uint8], main: npt.NDArray[np.int16]) -> tuple[Ints, Row]:
    """Which of some main colours, (m, 3), is nearest to each of others, (n, 3), and how far it is,
    levels in the worst channel."""
    index, far = np.zeros(len(levels), np.intp), np.zeros(len(levels), np.float32)
    for begin in range(0, len(levels), _COMPARED):
        part = slice(begin, begin + _COMPARED)
        shown = levels[part].astype(np.int16)
        off = np.abs(shown[:, 0, None] - main[:, 0])  # channel by channel: much faster
        for i in (1, 2):
            np.maximum(off, np.abs(shown[:, i, None] - main[:, i]), out=off)
        index[part], far[part] = off.argmin(axis=1), off.min(axis=1)
    return index, far


def areas(labels: Labels, most: int) -> Ints:
    """Px of every label up to `most`, (most + 1,). Counted in parts: NumPy would widen a whole
    large picture to do it."""
    found, flat = np.zeros(most + 1, np.intp), labels.reshape(-1)
    for begin in range(0, flat.size, _COUNTED):
        found += np.bincount(flat[begin : begin + _COUNTED], minlength=most + 1)
    return found


def thin_labels(labels: Labels, least_px: int = 60, most: int = 8) -> list[int]:
    """Labels that hardly fill 2 x 2 px anywhere, as ink does, the largest first."""
    alike = labels[:-1, :-1] == labels[1:, 1:]
    alike &= (labels[:-1, :-1] == labels[1:, :-1]) & (labels[:-1, :-1] == labels[:-1, 1:])
    many = int(labels.max(initial=0)) + 1
    px = areas(labels, many - 1)
    blocks = areas(labels[:-1, :-1][alike], many - 1)
    thin = np.flatnonzero((blocks < px / 2) & (px >= least_px))
    thin = thin[thin > 0]
    return [int(i) for i in thin[np.argsort(-px[thin])][:most]]


def with_local(
    packed: npt.NDArray[np.uint32], labels: Labels, place: Ints, colours: Floats
) -> Mixes:
    """Some px as mixes of a label near each and one that lies within a few dozen px in whatever
    direction: a strip may come to an end just where it is mixed in."""
    shown = unpack(packed.reshape(-1)[place]).astype(np.float32)
    near = few(around(framed(labels), place))
    count = len(place)
    best = Mixes(
        near[:, 0].copy(),
        near[:, 0].copy(),
        np.ones(count, np.float32),
        np.full(count, 1e9, np.float32),
    )
    cells, cell_of = _cells(labels)
    here = cells[:, cell_of[place]]
    for label in np.flatnonzero(here.any(axis=1)):
        at = np.flatnonzero(here[label])
        take(best, at, with_one(shown[at], near[at], int(label), colours))
    return best


def _cells(labels: Labels) -> tuple[npt.NDArray[np.bool_], Ints]:
    """Which labels, 1 and more, lie in or beside each cell of some px, (labels, cells), and each
    px's cell."""
    height, width = labels.shape
    rows, columns = -(-height // _CELL), -(-width // _CELL)
    cell = (np.arange(height) // _CELL)[:, None] * columns + np.arange(width) // _CELL
    held = np.zeros((int(labels.max(initial=0)) + 1, rows * columns), bool)
    held[labels.reshape(-1), cell.reshape(-1)] = True
    held[0] = False
    framed_cells = np.pad(held.reshape(-1, rows, columns), ((0, 0), (1, 1), (1, 1)))
    wide = np.zeros((len(held), rows, columns), bool)
    for dy in range(3):
        for dx in range(3):
            wide |= framed_cells[:, dy : dy + rows, dx : dx + columns]
    return wide.reshape(len(held), -1), cell.reshape(-1)
