"""How strongly each region draws the eye in the picture that is shown, split in value, hue, chroma
and detail. Predicted from differences to what lies around; there is no gaze data behind it.

The method, its units and how often it was right on pictures with a known answer: docs/focus.md.
"""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.packed import PackedRow
from umber_compass.colour.spaces import Floats, decode, oklab
from umber_compass.picture.mixes import Ints
from umber_compass.steps.focus.lattice import Lattice, Row

PARTS = ("value", "hue", "chroma", "detail")
# By these a difference counts as 1 (studio rule, docs/focus.md; 0.7 to 1.4 times them change
# little).
UNITS = {"value": 0.30, "hue": 0.16, "chroma": 0.13, "detail": 0.075}
AROUND, OVERALL = 0.8, 0.2  # what lies beside counts so much, all of the picture so much
DULLER = 0.7  # what less chroma counts of as much more
_BOX = 0.09  # of the width, within which light and shade are no detail
_GRAIN = 0.9 / 255  # of a level's variance within a block
_MEAN, _TOP = 0.7, 0.3  # of detail: its root mean square, and the mean of the strongest fifth
_AT_ONCE = 60_000  # pairs of regions that are compared at a time
_MOST_NOISE, _BINS, _STRONG = 0.06, 48, 0.2


class Look(NamedTuple):
    """What each region looks like, by label: OKLab of its mean, and how much detail it has."""

    lab: Floats  # (labels, 3)
    detail: Row  # (labels,)


class Pull(NamedTuple):
    """How much each label draws the eye. 1 is a full unit of difference."""

    parts: Row  # (4, labels) value, hue, chroma, detail
    look: Look

    @property
    def total(self) -> Row:
        """All four together, (labels,)."""
        return np.asarray(self.parts.sum(axis=0))


def look_at(lattice: Lattice, colours: PackedRow) -> Look:
    """What each region looks like in a picture; `colours`, encoded, are those of the lattice's
    places, (k x k, blocks)."""
    most, inner = len(lattice.share), lattice.inner
    levels = [((colours >> np.uint32(s)) & np.uint32(255)).astype(np.float32) for s in (16, 8, 0)]
    mean = np.stack([c.mean(axis=0) for c in levels], axis=1)
    lab = oklab(decode(mean / np.float32(255)))
    own = lattice.inner_label
    count = np.maximum(np.bincount(own, minlength=most), 1)
    held = [np.bincount(own, lab[inner, i], most) / count for i in range(3)]
    whole = np.stack(held, axis=1)
    if not np.ptp(levels[1], axis=0)[inner].any() and not _varies(lab, whole, lattice):
        return Look(whole, np.zeros(most))
    adjacency = levels[1].var(axis=0)[inner] * np.float32(_GRAIN**2)
    return Look(whole, _detail(lattice, lab - whole[lattice.label], adjacency, count))


def _varies(lab: Floats, whole: Floats, lattice: Lattice) -> bool:
    return bool(np.abs(lab - whole[lattice.label])[lattice.inner].max(initial=0) > 1e-4)


def _detail(lattice: Lattice, off: Floats, adjacency: Floats, count: Row) -> Row:
    """How much detail every label has, (labels,), from how far each block is off its region's
    mean, (blocks, 3)."""
    most, own, inner = len(lattice.share), lattice.inner_label, lattice.inner
    plain = np.zeros(lattice.shape)
    plain.reshape(-1)[inner] = 1
    wide = max(1, round(_BOX * lattice.shape[1] / 2))
    maps = [np.where(plain > 0, off[:, i].reshape(lattice.shape), 0) for i in range(3)]
    light = maps[0]
    local = np.minimum(np.abs(light), np.abs(light - _box(light, plain, wide)))
    square = local.reshape(-1)[inner] ** 2 + adjacency
    for one in maps[1:]:
        square = square + 4 * _box(one, plain, 1).reshape(-1)[inner] ** 2
    spread = np.sqrt(np.bincount(own, square, most) / count)
    top = _top(np.sqrt(square), own, most)
    spread, top = (_without(each, _noise(each, lattice.share)) for each in (spread, top))
    return np.asarray(_MEAN * spread + _TOP * top)


def _box(one: Floats, plain: Floats, reach: int) -> Floats:
    """The mean within a square of so many blocks to each side, of what lies within regions."""
    return np.asarray(_sums(one, reach) / np.maximum(_sums(plain, reach), 1))


def _sums(one: Floats, reach: int) -> Floats:
    for axis in (0, 1):
        size = one.shape[axis]
        total = np.cumsum(np.insert(one, 0, 0, axis), axis)
        high = np.minimum(np.arange(size) + reach + 1, size)
        low = np.maximum(np.arange(size) - reach, 0)
        one = np.take(total, high, axis) - np.take(total, low, axis)
    return one


def _top(each: Floats, own: Ints, most: int) -> Row:
    """The mean of the strongest fifth of every label's blocks, by a histogram."""
    high = max(float(each.max(initial=0)), 1e-9)
    place = np.minimum((each / high * _BINS).astype(np.intp), _BINS - 1)
    key = own * _BINS + place
    size = most * _BINS
    count = np.bincount(key, minlength=size).reshape(most, _BINS)[:, ::-1]
    held = np.bincount(key, each, size).reshape(most, _BINS)[:, ::-1]
    wanted = np.maximum(count.sum(axis=1) * _STRONG, 1e-9)[:, None]
    before = np.cumsum(count, axis=1) - count
    part = np.clip((wanted - before) / np.maximum(count, 1), 0, 1)
    return np.asarray((held * part).sum(axis=1) / wanted[:, 0])


def _without(each: Row, noise: float) -> Row:
    return np.asarray(np.sqrt(np.maximum(each * each - noise * noise, 0)))


def _noise(each: Row, share: Row) -> float:
    """What a tenth of the picture has less of: the picture's own noise."""
    order = np.argsort(each)
    held = np.cumsum(share[order])
    at = order[min(int(np.searchsorted(held, 0.1)), len(order) - 1)]
    return min(float(each[at]), _MOST_NOISE)


def pull_of(lattice: Lattice, look: Look) -> Pull:
    """How strongly every region draws the eye."""
    return Pull(parts_of(lattice, look, np.arange(len(lattice.share))), look)


def parts_of(lattice: Lattice, look: Look, rows: Ints) -> Row:
    """The four parts of some labels' pull, (4, rows)."""
    lab, detail = look.lab[rows], look.detail[rows]
    near = lattice.near[rows]
    lonely = 1 - near.sum(axis=1)
    beside = near @ look.lab + lonely[:, None] * lab
    calm = near @ look.detail + lonely * detail
    chroma = np.hypot(lab[:, 1], lab[:, 2]) - np.hypot(beside[:, 1], beside[:, 2])
    around = differences(lab - beside, chroma, detail - calm)
    overall = _overall(look, lattice.share, rows)
    units = np.array([UNITS[p] for p in PARTS])[:, None]
    parts = lattice.size[rows] * (AROUND * around + OVERALL * overall) / units
    return np.asarray(np.where(lattice.share[rows] > 0, parts, 0.0))


def differences(lab: Floats, chroma: Floats, detail: Floats) -> Floats:
    """Differences in value, hue, chroma and detail, (4, ...), from those in OKLab (..., 3), in
    chroma and in detail (...)."""
    turn = np.sqrt(np.maximum(lab[..., 1] ** 2 + lab[..., 2] ** 2 - chroma**2, 0))
    stronger = np.where(chroma < 0, -DULLER * chroma, chroma)
    return np.stack([np.abs(lab[..., 0]), turn, stronger, np.maximum(detail, 0)])


def _overall(look: Look, share: Row, rows: Ints) -> Floats:
    """The mean difference of some labels to the whole picture, (4, rows)."""
    some = np.flatnonzero(share > 0)
    chroma = np.hypot(look.lab[:, 1], look.lab[:, 2])
    found = np.zeros((4, len(rows)))
    places = np.arange(len(rows))
    for part in np.array_split(places, max(1, len(rows) * len(some) // _AT_ONCE)):
        own = rows[part]
        each = differences(
            look.lab[own, None] - look.lab[some],
            chroma[own, None] - chroma[some],
            look.detail[own, None] - look.detail[some],
        )
        found[:, part] = each @ share[some]
    return found
