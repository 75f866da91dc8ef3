"""A sketch as the eye's first look takes it: coarse blocks, and who borders on whom.

Found once for a sketch, whatever its colours are (method and figures: docs/focus.md).
"""

from typing import Any, NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.picture.drawing import Drawing
from umber_compass.picture.mixes import Ints, Labels
from umber_compass.work import Tick, idle

Row: TypeAlias = npt.NDArray[np.floating[Any]]
Flags: TypeAlias = npt.NDArray[np.bool_]

_WIDE, _BLOCKS = 640, 232  # px and blocks across, about which a picture is looked at
_FRAME = 0.6  # of a border without contrast, as which the picture's frame counts
_THIN, _THINNER = 0.03, 0.02  # of the width: from where a region is looked through, and how soon
_LINE = 0.5  # thinness from which a region between others is an outline
_THROUGH = 2  # times: a rim round an outline is looked through too
_SEEN = 0.0006  # of the picture: half of a region this large is seen
_FEW = 6  # blocks, under which a region's interior is all that is plainly its own


class Lattice(NamedTuple):
    """Blocks, (rows, columns), and the regions' places and neighbours, by label."""

    at: Ints  # (k x k, blocks) places in the picture that make each block
    shape: tuple[int, int]
    label: Ints  # (blocks,) whose each is
    inner: Ints  # blocks that lie within their region
    inner_label: Ints
    share: Row  # (labels,) of all that is painted
    size: Row  # (labels,) how much a region's area lets it be seen, 0-1
    near: Row  # (labels, labels) how much each counts for the mean neighbour; rows sum to 1 or less
    border: Row  # (labels, labels) px of the border two share
    frame: Row  # (labels,) px of the picture's frame each has
    area: Row  # (labels,) px
    deep: Row  # (labels,) blocks well within each
    thin: Row  # (labels,) 0-1, how far a region is looked through
    is_line: Flags  # (labels,) thin and between others: it belongs to a figure, and is none itself
    centre: Row  # (labels, 2) x, y as shares of the picture's width and height
    aspect: float  # width over height
    columns: int  # px across, at which borders are counted


def lattice_of(drawing: Drawing, tick: Tick = idle) -> Lattice:
    """The lattice of a drawing."""
    tick(-1.0)
    return lattice_from(drawing.labels)


def lattice_from(labels: Labels) -> Lattice:
    """The lattice of label pixels, (h, w)."""
    height, width = labels.shape
    stride = max(1, width // _WIDE)
    block = max(1, min(round(width / stride / _BLOCKS), height // stride or 1))
    coarse = labels[::stride, ::stride].astype(np.intp)
    most = int(labels.max(initial=0)) + 1
    at, own, pure = _blocks(coarse, block, stride, width)
    inner, deep = _inner(own, pure, most)
    border, frame = _borders(coarse, most)
    area = np.bincount(coarse.reshape(-1), minlength=most).astype(float)
    area[0] = 0.0
    shaped = _shaped(border, frame, area, deep, coarse.shape[1])
    return Lattice(
        at=at,
        shape=own.shape,
        label=own.reshape(-1),
        inner=inner,
        inner_label=own.reshape(-1)[inner],
        border=border,
        frame=frame,
        area=area,
        deep=deep,
        centre=_centres(coarse, area),
        aspect=width / height,
        columns=coarse.shape[1],
        **shaped,
    )


def _shaped(border: Row, frame: Row, area: Row, deep: Row, columns: int) -> dict[str, Any]:
    """What follows from regions' borders and areas."""
    share = area / max(area.sum(), 1.0)
    wide = 2 * area / np.maximum(border.sum(axis=1) + frame, 1) / columns
    thin = np.where(area > 0, np.clip((_THIN - wide) / _THINNER, 0, 1), 0.0)
    beside = (border > 0).sum(axis=1)
    return {
        "share": share,
        "size": share / (share + _SEEN),
        "near": _near(border, frame, thin),
        "thin": thin,
        "is_line": (thin >= _LINE) & (beside >= 2) & (deep < _FEW),
    }


def joined(lattice: Lattice, group: Ints) -> Lattice:
    """The lattice with some labels taken as one, (labels,) the label each goes to. Only what places
    are found by; blocks stay as they were."""
    most = len(group)
    border = np.zeros((most, most))
    a, b = np.nonzero(lattice.border)
    np.add.at(border, (group[a], group[b]), lattice.border[a, b])
    np.fill_diagonal(border, 0.0)
    frame = np.bincount(group, lattice.frame, most).astype(float)
    area = np.bincount(group, lattice.area, most).astype(float)
    deep = np.bincount(group, lattice.deep, most).astype(float)
    centre = [np.bincount(group, lattice.centre[:, i] * lattice.area, most) for i in (0, 1)]
    middle = np.stack(centre, axis=1) / np.maximum(area, 1e-9)[:, None]
    shaped = _shaped(border, frame, area, deep, lattice.columns)
    return lattice._replace(
        border=border, frame=frame, area=area, deep=deep, centre=middle, **shaped
    )


def _blocks(coarse: Ints, block: int, stride: int, width: int) -> tuple[Ints, Ints, Flags]:
    """The places of every block's px, (k x k, blocks); whose each block is, and whether its four
    corners are too, (rows, columns)."""
    rows, columns = coarse.shape[0] // block, coarse.shape[1] // block
    whole = coarse[: rows * block, : columns * block].reshape(rows, block, columns, block)
    middle = block // 2
    own = np.ascontiguousarray(whole[:, middle, :, middle])
    corners = (whole[:, i, :, j] == own for i in (0, -1) for j in (0, -1))
    pure = np.logical_and.reduce(list(corners))
    y = (np.arange(rows * block) * stride).reshape(rows, block)
    x = (np.arange(columns * block) * stride).reshape(columns, block)
    place = y[:, :, None, None] * width + x
    return place.transpose(1, 3, 0, 2).reshape(block * block, -1), own, pure


def _inner(own: Ints, pure: Flags, most: int) -> tuple[Ints, Row]:
    """Blocks well within their regions; where there are few, all that are plainly the region's;
    where there are none, all that are its at all. And how many lie well within each, (labels,)."""
    deep = pure.copy()
    for axis in (0, 1):
        for step in (1, -1):
            beside, their = np.roll(pure, step, axis), np.roll(own, step, axis)
            same = beside & (their == own)
            edge = [slice(None), slice(None)]
            edge[axis] = slice(0, 1) if step == 1 else slice(-1, None)
            same[tuple(edge)] = False
            deep &= same
    flat = own.reshape(-1)
    kind = np.where(deep, 2, np.where(pure, 1, 0)).reshape(-1)
    count = [np.bincount(flat[kind >= k], minlength=most) for k in (2, 1)]
    least = np.where(count[0] >= _FEW, 2, np.where(count[1] > 0, 1, 0))
    inner = np.flatnonzero((kind >= least[flat]) & (flat > 0))
    return inner, count[0].astype(float)


def _borders(coarse: Ints, most: int) -> tuple[Row, Row]:
    """Px of border that every two labels share, (labels, labels), and each has with the frame."""
    border = np.zeros((most, most))
    for one, other in ((coarse[:, 1:], coarse[:, :-1]), (coarse[1:], coarse[:-1])):
        differ = np.flatnonzero((one != other).reshape(-1))
        a, b = one.reshape(-1)[differ], other.reshape(-1)[differ]
        border += np.bincount(a * most + b, minlength=most * most).reshape(most, most)
    border += border.T
    border[0], border[:, 0] = 0.0, 0.0
    sides = np.concatenate([coarse[0], coarse[-1], coarse[:, 0], coarse[:, -1]])
    return border, np.bincount(sides, minlength=most).astype(float)


def _near(border: Row, frame: Row, thin: Row) -> Row:
    """How much each label counts for another's mean neighbour. A thin one is looked through: its
    part goes to its own neighbours, or outlines and rims would hide a figure."""
    whole = border.sum(axis=1)
    near: Row = border / np.maximum(whole + _FRAME * frame, 1e-9)[:, None]
    for u in np.flatnonzero(thin > 0).tolist() * _THROUGH:
        met = np.flatnonzero(near[:, u] > 0)
        met = met[met != u]
        beside = np.flatnonzero(border[u] > 0)
        total = whole[u] - border[u, met]  # without the one that looks
        met, total = met[total > 0], total[total > 0]
        passed = near[met, u] * thin[u]
        near[met, u] -= passed
        each = passed / total
        near[np.ix_(met, beside)] += each[:, None] * border[u, beside]
        near[met, met] -= each * border[u, met]
    return near


def _centres(coarse: Ints, area: Row) -> Row:
    """The middle of every label's px, shares of width and height, (labels, 2)."""
    height, width = coarse.shape
    flat, most = coarse.reshape(-1), len(area)
    y, x = np.divmod(np.arange(flat.size), width)
    found = np.stack([np.bincount(flat, along + 0.5, most) for along in (x, y)], axis=1)
    whole = np.maximum(area, 1)[:, None] * np.array([width, height], float)
    middle: Row = found / whole
    return middle
