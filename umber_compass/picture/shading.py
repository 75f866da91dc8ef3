"""The artist's own light and dark within each region: what of a sketch's greys is shading, and
where two regions meet, how much of each a px holds."""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import Levels, Packed, unpack
from umber_compass.colour.spaces import LUMINANCE, Floats, decode, encode, value_of_luminance
from umber_compass.picture.borders import Borders
from umber_compass.picture.mixes import Blends, Ints, Labels

_LINEAR = decode(np.arange(256) / 255).astype(np.float32)
# Of a grey level, 0-255, its value L*.
VALUE_OF_LEVEL = np.asarray(value_of_luminance(decode(np.arange(256) / 255)), np.float32)
REACH = 12  # px from a border within which it may be soft
_ASKED = 160  # px of each border that are asked how soft it is
_CLEAR_STEP = 8.0  # levels between both sides, from which a border says how soft it is
_LEAST_STEP = 6.0  # L* between both sides, under which cover cannot be read from grey
_EVEN_COVER = 0.75  # of the last px of a border that does not part in value
_SOFT_END = 0.9
_LEAST_COVER = 0.3  # of its own side that a mixed px holds
_BEYOND = (1, 2, 4)  # px beyond the soft part at which each side's own grey is read
_ROWS = 512


class Shades(NamedTuple):
    """A sketch's own grey, and what each region's is on the mean."""

    grey: Levels  # (h, w) level of luminance; along borders that of the px's own side
    other: npt.NDArray[np.uint8]  # (border px,) that of the other side
    mean: npt.NDArray[np.float32]  # (labels + 1,) value L*


def grey_levels(packed: Packed) -> Levels:
    """The grey, 0-255 encoded, of each px's luminance, (h, w)."""
    out = np.empty(packed.shape, np.uint8)
    for top in range(0, packed.shape[0], _ROWS):
        rgb = unpack(packed[top : top + _ROWS])
        lum = np.zeros(rgb.shape[:2], np.float32)
        for i, weight in enumerate(LUMINANCE):
            lum += _LINEAR[rgb[..., i]] * np.float32(weight)
        out[top : top + _ROWS] = (encode(np.clip(lum, 0, 1)) * 255 + 0.5).astype(np.uint8)
    return out


def means_by_label(grey: Levels, labels: Labels) -> npt.NDArray[np.float32]:
    """Each label's mean value L*, (labels + 1,)."""
    flat = labels.reshape(-1)
    most = int(flat.max(initial=0)) + 1
    held = np.bincount(flat, minlength=most)
    total = np.bincount(flat, VALUE_OF_LEVEL[grey].reshape(-1), most)
    return np.asarray(total / np.maximum(held, 1), np.float32)


def shades_of(
    packed: Packed, labels: Labels, mean: npt.NDArray[np.float32] | None = None
) -> tuple[Borders, Shades]:
    """The borders of a shaded sketch, (h, w) 0x00RRGGBB, and its shading. `mean` are its labels'
    values, where this is only a part of it."""
    grey = grey_levels(packed)
    means = means_by_label(grey, labels) if mean is None else mean
    smooth = _smoothed(grey)
    edge = _Edges(labels)
    if not len(edge.place):
        return _no_borders(), Shades(grey, np.zeros(0, np.uint8), means)
    near = _near(labels, edge)
    soft = _softness(edge, smooth, labels)
    inside = near.far <= soft[edge.pair[near.edge]]
    place, at, far = near.place[inside], near.edge[inside], near.far[inside]
    own_first = labels.reshape(-1)[place] == edge.own[at]
    place, at, far = place[own_first], at[own_first], far[own_first]
    levels = np.append(_levels_of(means), 0)
    width = soft[edge.pair[at]]
    ga = _beyond(edge, at, smooth, labels, -1, width, levels)
    gb = _beyond(edge, at, smooth, labels, 1, width, levels)
    shown = grey.reshape(-1)[place].astype(np.float32)
    cover = _cover(shown, ga, gb, far)
    gb = np.round(gb)
    own, mixed = _told_back(shown, gb, cover)
    out = grey.copy()
    out.reshape(-1)[place[mixed]] = own[mixed]
    none = Blends(np.zeros(0, np.intp), np.zeros((0, 3), np.intp), np.zeros((0, 3), np.float32))
    borders = Borders(place[mixed], edge.own[at[mixed]], edge.other[at[mixed]], cover[mixed], none)
    return borders, Shades(out, gb[mixed].astype(np.uint8), means)


def _told_back(
    shown: npt.NDArray[np.float32], gb: npt.NDArray[np.float32], cover: npt.NDArray[np.float32]
) -> tuple[npt.NDArray[np.uint8], npt.NDArray[np.bool_]]:
    """The grey of its own side that, mixed with the other side's, gives back what a px shows; and
    where there is one. Elsewhere what it shows is all its own."""
    part = np.maximum(cover, 1e-3)
    own = np.clip(np.round((shown - (1 - part) * gb) / part), 0, 255)
    back = own * cover + gb * (1 - cover)
    mixed = (cover >= _LEAST_COVER) & (cover < 0.995) & (np.abs(back - shown) <= 1)
    return own.astype(np.uint8), mixed


def _no_borders() -> Borders:
    nothing = np.zeros(0, np.intp)
    rest = Blends(nothing, np.zeros((0, 3), np.intp), np.zeros((0, 3), np.float32))
    return Borders(
        nothing, np.zeros(0, np.uint16), np.zeros(0, np.uint16), np.zeros(0, np.float32), rest
    )


def _levels_of(values: npt.NDArray[np.float32]) -> npt.NDArray[np.float32]:
    """Grey levels of values L*."""
    return np.interp(values, VALUE_OF_LEVEL, np.arange(256)).astype(np.float32)


def _smoothed(grey: Levels) -> npt.NDArray[np.float32]:
    from scipy.ndimage import uniform_filter

    return np.asarray(uniform_filter(grey.astype(np.float32), 3))


class _Edges:
    """The px that stand along another region: whose they are, what they touch, and which way that
    lies."""

    def __init__(self, labels: Labels) -> None:
        height, width = labels.shape
        at = np.zeros(labels.shape, bool)
        across, down = labels[:, 1:] != labels[:, :-1], labels[1:] != labels[:-1]
        at[:, 1:] |= across
        at[:, :-1] |= across
        at[1:] |= down
        at[:-1] |= down
        at &= labels > 0
        self.mask, self.shape = at, (height, width)
        self.place = np.flatnonzero(at)
        self.y, self.x = np.divmod(self.place, width)
        self.own = labels.reshape(-1)[self.place]
        ny, nx = np.zeros(len(self.place), np.float32), np.zeros(len(self.place), np.float32)
        self.other = np.zeros(len(self.place), labels.dtype)
        nearest = np.full(len(self.place), 99)
        for dy in range(-2, 3):
            for dx in range(-2, 3):
                v = np.clip(self.y + dy, 0, height - 1)
                u = np.clip(self.x + dx, 0, width - 1)
                there = labels[v, u]
                off = there != self.own
                ny += np.where(off, dy, 0)
                nx += np.where(off, dx, 0)
                closer = off & (dy * dy + dx * dx < nearest)
                self.other[closer], nearest[closer] = there[closer], dy * dy + dx * dx
        length = np.hypot(ny, nx)
        flat = length < 1e-3
        self.ny, self.nx = ny / np.maximum(length, 1e-3), nx / np.maximum(length, 1e-3)
        self.ny[flat] = 1.0
        low, high = np.minimum(self.own, self.other), np.maximum(self.own, self.other)
        key = low.astype(np.int64) << 16 | high
        _, pair = np.unique(key, return_inverse=True)
        self.pair = pair.astype(np.intp)

    def along(self, at: Ints, by: Floats) -> tuple[Ints, Ints]:
        """The px some way along the normals of some edge px, positive into the other side."""
        v = np.round(self.y[at] + self.ny[at] * by).astype(np.intp)
        u = np.round(self.x[at] + self.nx[at] * by).astype(np.intp)
        return np.clip(v, 0, self.shape[0] - 1), np.clip(u, 0, self.shape[1] - 1)


class _Near(NamedTuple):
    """Px near a border: the edge px each is nearest to, and how far it lies from the border."""

    place: Ints
    edge: Ints
    far: npt.NDArray[np.float32]


def _near(labels: Labels, edge: _Edges) -> _Near:
    from scipy.ndimage import distance_transform_edt

    far, (v, u) = distance_transform_edt(~edge.mask, return_indices=True)
    place = np.flatnonzero((far.reshape(-1) < REACH) & (labels.reshape(-1) > 0))
    number = np.zeros(labels.size, np.intp)
    number[edge.place] = np.arange(len(edge.place))
    target = v.reshape(-1)[place].astype(np.intp) * labels.shape[1] + u.reshape(-1)[place]
    return _Near(place, number[target], (far.reshape(-1)[place] + 0.5).astype(np.float32))


def _softness(
    edge: _Edges, smooth: npt.NDArray[np.float32], labels: Labels
) -> npt.NDArray[np.float32]:
    """By pair of regions, how many px from its border the greys of both sides are mixed."""
    count = int(edge.pair.max()) + 1
    order = np.argsort(edge.pair, kind="stable")
    held = np.bincount(edge.pair, minlength=count)
    start = np.concatenate([[0], np.cumsum(held)[:-1]])
    rank = np.arange(len(order)) - np.repeat(start, held)
    step = np.maximum(held // _ASKED, 1)
    asked = order[rank % np.repeat(step, held) == 0]
    ga = _mean_at(edge, asked, smooth, labels, -1, (8.0, 10.0, 12.0))
    gb = _mean_at(edge, asked, smooth, labels, 1, (8.0, 10.0, 12.0))
    good = np.isfinite(ga) & np.isfinite(gb) & (np.abs(ga - gb) >= _CLEAR_STEP)
    found = np.full(count, 1.0, np.float32)
    asked, ga, gb = asked[good], ga[good], gb[good]
    if not len(asked):
        return found
    open_ = np.ones(count, bool)
    pair = edge.pair[asked]
    for k in range(REACH):
        v, u = edge.along(asked, np.full(len(asked), -float(k)))
        own = labels[v, u] == edge.own[asked]
        part = np.where(own, (smooth[v, u] - gb) / (ga - gb), np.nan)
        middle = _medians(part, pair, count)
        done = open_ & (middle >= _SOFT_END)
        found[done] = k + 0.5
        open_ &= ~done
    found[open_ & (np.bincount(pair, minlength=count) > 0)] = REACH - 4
    return found


def _medians(values: Floats, group: Ints, count: int) -> Floats:
    """The median of each group's values, NaN where it has none."""
    good = np.isfinite(values)
    v, g = values[good], group[good]
    order = np.lexsort((v, g))
    v, g = v[order], g[order]
    held = np.bincount(g, minlength=count)
    start = np.concatenate([[0], np.cumsum(held)[:-1]])
    found = np.full(count, np.nan)
    some = held > 0
    found[some] = v[start[some] + held[some] // 2]
    return found


def _mean_at(
    edge: _Edges,
    at: Ints,
    smooth: npt.NDArray[np.float32],
    labels: Labels,
    side: int,
    by: tuple[float, ...],
) -> npt.NDArray[np.float32]:
    """The mean grey some px inside one side of the border, of those px that are its; NaN where
    none is."""
    wanted = edge.own[at] if side < 0 else edge.other[at]
    total, held = np.zeros(len(at), np.float32), np.zeros(len(at), np.float32)
    for k in by:
        v, u = edge.along(at, np.full(len(at), side * k))
        good = labels[v, u] == wanted
        total += np.where(good, smooth[v, u], 0)
        held += good
    with np.errstate(invalid="ignore", divide="ignore"):
        return np.asarray(total / held, np.float32)


def _beyond(
    edge: _Edges,
    at: Ints,
    smooth: npt.NDArray[np.float32],
    labels: Labels,
    side: int,
    soft: npt.NDArray[np.float32],
    otherwise: npt.NDArray[np.float32],
) -> npt.NDArray[np.float32]:
    """The grey of one side where its border is no longer soft; its region's mean where that is too
    thin."""
    # Counted once for each edge px, not for each px near it.
    unique, back = np.unique(at, return_inverse=True)
    width = np.zeros(len(edge.place), np.float32)
    width[at] = soft
    wanted = edge.own[unique] if side < 0 else edge.other[unique]
    total, held = np.zeros(len(unique), np.float32), np.zeros(len(unique), np.float32)
    for k in _BEYOND:
        v, u = edge.along(unique, side * (width[unique] + k))
        good = labels[v, u] == wanted
        total += np.where(good, smooth[v, u], 0)
        held += good
    found = np.where(held > 0, total / np.maximum(held, 1), otherwise[wanted])
    return np.asarray(found[back], np.float32)


def _cover(
    shown: npt.NDArray[np.float32],
    ga: npt.NDArray[np.float32],
    gb: npt.NDArray[np.float32],
    far: npt.NDArray[np.float32],
) -> npt.NDArray[np.float32]:
    """How much of its own side a border px holds, 0.5 to 1: its label says that it holds most."""
    apart = ga - gb
    step = np.abs(_value(ga) - _value(gb))
    read = np.clip((shown - gb) / np.where(np.abs(apart) < 1e-3, 1, apart), 0, 1)
    even = np.where(far <= 0.5, _EVEN_COVER, 1.0)
    return np.asarray(np.where(step < _LEAST_STEP, even, read), np.float32)


def _value(level: npt.NDArray[np.float32]) -> npt.NDArray[np.float32]:
    return np.asarray(VALUE_OF_LEVEL[np.clip(level + 0.5, 0, 255).astype(np.intp)])
