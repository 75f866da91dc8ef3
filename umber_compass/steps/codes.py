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
PackedRow: TypeAlias = npt.NDArray[np.uint32]  # (n,), the same


class Mask(NamedTuple):
    """One flat region's pixels within its box, for repainting it alone."""

    rows: slice
    columns: slice
    inside: npt.NDArray[np.bool_]
    borders: Ints  # which border pixels hold some of it


class Grain(NamedTuple):
    """What codes are measured by: whose each is, how much it holds, what it touches."""

    label: Ints  # (codes,)
    pixels: Ints  # (codes,)
    touching: Ints  # (pairs, 2) codes of different regions that share a border
    touch_px: Ints  # (pairs,) length of each such border, px
    pair: Ints  # (pairs,) which two labels meet there
    pair_labels: Ints  # (label pairs, 2)
    pair_px: Ints  # (label pairs,) length of their whole border, px


class Codes(NamedTuple):
    """A sketch ready to be painted with any colours."""

    shape: tuple[int, int]  # height, width in px
    spans: dict[int, Span]  # codes by label; label 0 has code 0
    run_length: Ints
    run_code: Ints
    place: Ints  # border pixels, in the flat picture
    own: Ints  # their codes
    other: Ints
    part: PackedRow  # of 256, the share of the first
    grain: Grain

    @property
    def size(self) -> int:
        """How many codes there are."""
        return len(self.grain.pixels)

    def areas(self, most: int) -> Ints:
        """Px of every label up to `most`, (most + 1,)."""
        found = np.bincount(self.grain.label, self.grain.pixels, most + 1)
        return np.asarray(found).astype(np.intp)


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
            inside = np.flatnonzero(labels.reshape(-1) == label)
            code.reshape(-1)[inside] += steps_along(axis, labels.shape, inside)
    flat = code.reshape(-1)
    other = first[borders.other] + _step_of_other(borders, axes, labels.shape)
    start = np.flatnonzero(_changes(code))
    label_of = np.repeat(list(spans), [b - a for a, b in spans.values()])
    return Codes(
        shape=(labels.shape[0], labels.shape[1]),
        spans=spans,
        run_length=np.diff(np.append(start, code.size)),
        run_code=flat[start],
        place=borders.place,
        own=flat[borders.place],
        other=other,
        part=parts_of(borders.cover),
        grain=grain_of(code, labels, label_of),
    )


def grain_of(code: Ints, labels: Labels, label_of: Ints, inward_px: int = 0) -> Grain:
    """What the codes of a sketch, (h, w), are measured by; `label_of` is each code's label. Codes
    that touch are taken some px inside their regions, where they are as thick as that."""
    pairs, length = _touching(code, labels, inward_px)
    pixels = np.bincount(code.reshape(-1), minlength=len(label_of))
    two = np.sort(label_of[pairs], axis=1)
    most = len(label_of) + 1
    key, pair = np.unique(two[:, 0] * most + two[:, 1], return_inverse=True)
    pair = pair.astype(np.intp)
    grain = Grain(
        label=label_of.astype(np.intp),
        pixels=pixels,
        touching=pairs,
        touch_px=length,
        pair=pair,
        pair_labels=np.stack(np.divmod(key, most), axis=-1),
        pair_px=np.bincount(pair, length, len(key)).astype(np.intp),
    )
    for array in grain:
        array.flags.writeable = False
    return grain


def _changes(code: Ints) -> npt.NDArray[np.bool_]:
    change = np.ones(code.shape, bool)
    change[:, 1:] = code[:, 1:] != code[:, :-1]
    return change


def steps_along(
    axis: tuple[float, ...],
    shape: tuple[int, ...],
    place: Ints,
    steps: int = GRADIENT_STEPS,
    threshold: Floats | float = 0.5,
) -> Ints:
    """Which step of a gradient lies at some places of the flat picture; `threshold`, 0-1, is where
    a step is rounded up."""
    height, width = shape[:2]
    y, x = np.divmod(place, width)
    x0, y0 = axis[0] * width, axis[1] * height
    dx, dy = axis[2] * width - x0, axis[3] * height - y0
    t = ((x + 0.5 - x0) * dx + (y + 0.5 - y0) * dy) / max(dx * dx + dy * dy, 1e-9)
    return np.asarray(np.clip(t, 0, 1) * (steps - 1) + threshold).astype(np.intp)


def _step_of_other(borders: Borders, axes: Axes, shape: tuple[int, ...]) -> Ints:
    step = np.zeros(len(borders.place), np.intp)
    for label, axis in axes.items():
        at = np.flatnonzero(borders.other == label)
        step[at] = steps_along(axis, shape, borders.place[at])
    return step


def _touching(code: Ints, labels: Labels, inward_px: int) -> tuple[Ints, Ints]:
    """Pairs of codes of different regions side by side, and how many pixels long each border is."""
    many = int(code.max(initial=0)) + 1
    keys = []
    for axis in (0, 1):
        along = np.moveaxis(labels, axis, 1)
        codes = np.moveaxis(code, axis, 1)
        row, column = np.nonzero(along[:, 1:] != along[:, :-1])
        a = codes[row, _inside(along, row, column, -inward_px)]
        b = codes[row, _inside(along, row, column + 1, inward_px)]
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


def mask_of(codes: Codes, labels: Labels, label: int) -> Mask:
    """What is needed to repaint one flat region alone."""
    inside = labels == label
    rows, columns = np.flatnonzero(inside.any(axis=1)), np.flatnonzero(inside.any(axis=0))
    box = (slice(rows[0], rows[-1] + 1), slice(columns[0], columns[-1] + 1))
    code = codes.spans[label][0]
    holding = np.flatnonzero((codes.own == code) | (codes.other == code))
    return Mask(*box, np.ascontiguousarray(inside[box]), holding)


def pack(levels: npt.NDArray[np.uint8]) -> PackedRow:
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
    picture[codes.place] = mixed_quickly(packed[codes.own], packed[codes.other], codes.part)
    return picture.reshape(codes.shape)


def paint_region(
    picture: Packed, codes: Codes, table: npt.NDArray[np.uint8], mask: Mask, label: int
) -> None:
    """One flat region repainted where it lies in a picture of the same sketch."""
    packed = pack(table)
    colour = packed[codes.spans[label][0]]
    np.copyto(picture[mask.rows, mask.columns], colour, where=mask.inside)
    at = mask.borders
    mixed = mixed_quickly(packed[codes.own[at]], packed[codes.other[at]], codes.part[at])
    picture.reshape(-1)[codes.place[at]] = mixed


def parts_of(cover: npt.NDArray[np.float32]) -> PackedRow:
    """Shares 0-1 as parts of 256, finer than any level of a border's smoothing."""
    return np.asarray(cover * 256 + 0.5).astype(np.uint32)


def mixed_quickly(top: PackedRow, under: PackedRow, part: PackedRow) -> PackedRow:
    """Packed colours mixed on encoded values, red and blue at once; `part` of 256 is the top's."""
    rest = np.uint32(256) - part
    red_blue, green = np.uint32(0xFF00FF), np.uint32(0x00FF00)
    sides = (top & red_blue) * part + (under & red_blue) * rest + np.uint32(0x800080)
    middle = (top & green) * part + (under & green) * rest + np.uint32(0x008000)
    return np.asarray((sides >> np.uint32(8)) & red_blue | (middle >> np.uint32(8)) & green)


def shares(codes: Codes) -> dict[int, float]:
    """The share of the picture each label holds, 0-1."""
    pixels = codes.grain.pixels
    total = pixels.sum()
    return {k: float(pixels[a:b].sum() / total) for k, (a, b) in codes.spans.items()}
