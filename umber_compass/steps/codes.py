"""The sketch as codes: one number a pixel that stands for its colour, whatever the colours are.

A flat region is one code, a gradient one code for each of its steps along the axis. Codes depend on
the regions and the gradients' axes only, so a change of colour is a table of a few hundred entries
and one repeat of its runs (docs/engine.md).
"""

from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import Floats
from umber_compass.steps.borders import Borders, Ints, Labels

GRADIENT_STEPS = 128  # below one 8-bit level a step for any gradient the screen can show

Axes: TypeAlias = dict[int, tuple[float, float, float, float]]  # by label; x0 y0 x1 y1, shares
Span: TypeAlias = tuple[int, int]  # first code and one past the last
Packed: TypeAlias = npt.NDArray[np.uint32]  # (h, w), 0x00RRGGBB


class Mask(NamedTuple):
    """One flat region's pixels within its box, for repainting it alone."""

    rows: slice
    columns: slice
    inside: npt.NDArray[np.bool_]
    borders: Ints  # which border pixels hold some of it


class Codes(NamedTuple):
    """A sketch ready to be painted with any colours."""

    shape: tuple[int, int]  # height, width in px
    spans: dict[int, Span]  # codes by label; label 0 has code 0
    run_length: Ints
    run_code: Ints
    place: Ints  # border pixels, in the flat picture
    own: Ints  # their codes
    other: Ints
    cover: npt.NDArray[np.float32]
    pixels: Ints  # by code
    touching: Ints  # (pairs, 2) codes that share a border
    touch_px: Ints  # length of each such border, px

    @property
    def size(self) -> int:
        """How many codes there are."""
        return len(self.pixels)


def encode_sketch(labels: Labels, borders: Borders, axes: Axes) -> Codes:
    """The codes of a sketch for gradients with these axes."""
    most = int(labels.max(initial=0))
    spans, first = {0: (0, 1)}, np.zeros(most + 1, np.intp)
    for label in range(1, most + 1):
        begin = spans[label - 1][1]
        spans[label] = (begin, begin + (GRADIENT_STEPS if label in axes else 1))
        first[label] = begin
    code = first[labels]
    for label, axis in axes.items():
        if label <= most:
            inside = labels == label
            code[inside] += _steps_along(axis, labels.shape)[inside]
    flat = code.reshape(-1)
    other = first[borders.other] + _step_of_other(borders, axes, labels.shape)
    start = np.flatnonzero(_changes(code))
    pairs, length = _touching(code, labels)
    return Codes(
        shape=(labels.shape[0], labels.shape[1]),
        spans=spans,
        run_length=np.diff(np.append(start, code.size)),
        run_code=flat[start],
        place=borders.place,
        own=flat[borders.place],
        other=other,
        cover=borders.cover,
        pixels=np.bincount(flat, minlength=spans[most][1]),
        touching=pairs,
        touch_px=length,
    )


def _changes(code: Ints) -> npt.NDArray[np.bool_]:
    change = np.ones(code.shape, bool)
    change[:, 1:] = code[:, 1:] != code[:, :-1]
    return change


def _step_at(axis: tuple[float, ...], x: Floats, y: Floats, shape: tuple[int, ...]) -> Ints:
    """Which step of a gradient lies at pixels x, y."""
    height, width = shape[:2]
    x0, y0 = axis[0] * width, axis[1] * height
    dx, dy = axis[2] * width - x0, axis[3] * height - y0
    t = ((x + 0.5 - x0) * dx + (y + 0.5 - y0) * dy) / max(dx * dx + dy * dy, 1e-9)
    return np.asarray(np.clip(t, 0, 1) * (GRADIENT_STEPS - 1) + 0.5).astype(np.intp)


def _steps_along(axis: tuple[float, ...], shape: tuple[int, ...]) -> Ints:
    y, x = np.ogrid[: shape[0], : shape[1]]
    return _step_at(axis, x.astype(np.float32), y.astype(np.float32), shape)


def _step_of_other(borders: Borders, axes: Axes, shape: tuple[int, ...]) -> Ints:
    step = np.zeros(len(borders.place), np.intp)
    for label, axis in axes.items():
        at = np.flatnonzero(borders.other == label)
        y, x = np.divmod(borders.place[at], shape[1])
        step[at] = _step_at(axis, x, y, shape)
    return step


def _touching(code: Ints, labels: Labels) -> tuple[Ints, Ints]:
    """Pairs of codes of different regions side by side, and how many pixels long each border is."""
    many = int(code.max(initial=0)) + 1
    keys = []
    for here, there in (
        ((slice(None), slice(None, -1)), (slice(None), slice(1, None))),
        ((slice(None, -1), slice(None)), (slice(1, None), slice(None))),
    ):
        meet = labels[here] != labels[there]
        a, b = code[here][meet], code[there][meet]
        keys.append(np.minimum(a, b) * many + np.maximum(a, b))
    key, length = np.unique(np.concatenate(keys), return_counts=True)
    return np.stack(np.divmod(key, many), axis=-1), length


def mask_of(codes: Codes, labels: Labels, label: int) -> Mask:
    """What is needed to repaint one flat region alone."""
    inside = labels == label
    rows, columns = np.flatnonzero(inside.any(axis=1)), np.flatnonzero(inside.any(axis=0))
    box = (slice(rows[0], rows[-1] + 1), slice(columns[0], columns[-1] + 1))
    code = codes.spans[label][0]
    holding = np.flatnonzero((codes.own == code) | (codes.other == code))
    return Mask(*box, np.ascontiguousarray(inside[box]), holding)


def pack(levels: npt.NDArray[np.uint8]) -> npt.NDArray[np.uint32]:
    """8-bit colours (n, 3) as 0x00RRGGBB numbers (n,)."""
    wide = levels.astype(np.uint32)
    return np.asarray(wide[:, 0] << 16 | wide[:, 1] << 8 | wide[:, 2])


def unpack(picture: Packed) -> npt.NDArray[np.uint8]:
    """A packed picture (h, w) as 8-bit colours (h, w, 3)."""
    return picture.view(np.uint8).reshape(*picture.shape, 4)[..., 2::-1]


def paint(codes: Codes, table: npt.NDArray[np.uint8]) -> Packed:
    """The picture, smooth borders included, from 8-bit colours by code, (codes, 3)."""
    packed = pack(table)
    picture = np.repeat(packed[codes.run_code], codes.run_length)
    picture[codes.place] = _mixed(codes, table, slice(None))
    return picture.reshape(codes.shape)


def paint_region(
    picture: Packed, codes: Codes, table: npt.NDArray[np.uint8], mask: Mask, label: int
) -> None:
    """One flat region repainted where it lies in a picture of the same sketch."""
    colour = pack(table[codes.spans[label][0]][None])[0]
    np.copyto(picture[mask.rows, mask.columns], colour, where=mask.inside)
    picture.reshape(-1)[codes.place[mask.borders]] = _mixed(codes, table, mask.borders)


def _mixed(
    codes: Codes, table: npt.NDArray[np.uint8], which: slice | Ints
) -> npt.NDArray[np.uint32]:
    """Border pixels mixed on encoded values, packed."""
    own, other, cover = codes.own[which], codes.other[which], codes.cover[which]
    out = np.zeros(len(own), np.uint32)
    for channel in range(3):
        level = table[:, channel].astype(np.float32)
        top, under = level[own], level[other]
        top -= under
        top *= cover
        top += under
        top += 0.5
        out <<= 8
        out |= top.astype(np.uint32)
    return out


def shares(codes: Codes) -> dict[int, float]:
    """The share of the picture each label holds, 0-1."""
    total = codes.pixels.sum()
    return {k: float(codes.pixels[a:b].sum() / total) for k, (a, b) in codes.spans.items()}
