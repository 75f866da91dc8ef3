"""The sketch as codes: one number a pixel that stands for its colour, whatever the colours are.

A flat region is one code, a gradient one code for each of its steps along the axis. Codes depend on
the regions and the gradients' axes only, so a change of colour is a table of a few hundred entries
and one repeat of its runs (docs/engine.md).
"""

from collections.abc import Iterable, Mapping
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import Packed, PackedRow, pack
from umber_compass.colour.spaces import Floats
from umber_compass.picture.adjacency import Adjacency, adjacency_of
from umber_compass.picture.drawing import Drawing
from umber_compass.picture.mixes import Blends, Ints, Labels, Row
from umber_compass.picture.shading import VALUE_OF_LEVEL, Shades
from umber_compass.plan.model import Colour, Gradient, Region

GRADIENT_STEPS = 128  # at most two 8-bit levels a step, from black to white

# By label, shares of width and height: x0 y0 x1 y1 of a line along which a colour changes; or of
# patches: x0 y0 of their grid, width and height of a cell, and a seed.
Axes: TypeAlias = dict[int, tuple[float, ...]]
_PATCHED, _GRID = 5, 64  # numbers of a patches' entry; cells a side until they repeat
_CONTRAST = 1.7  # of patches, so that both ends are reached
Span: TypeAlias = tuple[int, int]  # first code and one past the last


class IndexedPicture(NamedTuple):
    """A sketch ready to be painted with any colours."""

    shape: tuple[int, int]  # height, width in px
    spans: dict[int, Span]  # codes by label; label 0 has code 0
    run_length: Ints
    run_code: Ints
    key: Ints  # (codes,) label, step and grey level as one number, rising
    along: Floats  # (codes,) place along a gradient, 0-1
    off: Row | None  # (codes,) L* off the region's mean, where the sketch is shaded
    place: Ints  # border pixels, in the flat picture
    own: Ints  # their codes
    other: Ints
    part: PackedRow  # of 256, the share of the first
    rest: Blends  # of codes
    adjacency: Adjacency

    @property
    def size(self) -> int:
        """How many codes there are."""
        return len(self.adjacency.pixels)

    def holds(self, label: int) -> bool:
        """Whether a label has any plain pixel here."""
        begin, end = self.spans.get(label, (0, 0))
        return end > begin and bool(self.adjacency.pixels[begin:end].any())

    def areas(self, most: int) -> Ints:
        """Px of every label up to `most`, (most + 1,)."""
        found = np.bincount(self.adjacency.label, self.adjacency.pixels, most + 1)
        return np.asarray(found).astype(np.intp)


def gradient_axes(regions: Iterable[Region], colours: Mapping[str, Colour]) -> Axes:
    """The axes of the regions that are gradients, by label."""
    found = ((r.label, colours[r.id]) for r in regions)
    return {label: c.axis for label, c in found if isinstance(c, Gradient)}


def index_drawing(drawing: Drawing, axes: Axes) -> IndexedPicture:
    """The codes of a drawing for gradients with these axes; where it is shaded, one code for each
    grey level of each region."""
    if drawing.shades is not None:
        return _shaded_codes(drawing, drawing.shades, axes)
    labels, borders = drawing.labels, drawing.borders
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
    other = _codes_at(borders.other, borders.place, first, axes, labels.shape)
    rest = borders.rest
    blended = [_codes_at(of, rest.place, first, axes, labels.shape) for of in rest.of.T]
    start = np.flatnonzero(_changes(code))
    label_of = np.repeat(list(spans), [b - a for a, b in spans.values()])
    step = np.arange(len(label_of)) - first[label_of]
    step[0] = 0
    return IndexedPicture(
        key=key_of(label_of, step, 0),
        along=_along(step),
        off=None,
        shape=(labels.shape[0], labels.shape[1]),
        spans=spans,
        run_length=np.diff(np.append(start, code.size)),
        run_code=flat[start],
        place=borders.place,
        own=flat[borders.place],
        other=other,
        part=parts_of(borders.cover),
        rest=Blends(rest.place, np.stack(blended, axis=1), rest.share),
        adjacency=adjacency_of(code, labels, label_of),
    )


def key_of(
    label: Ints | Labels, step: Ints | int, level: Ints | npt.NDArray[np.uint8] | int
) -> Ints:
    """A label, a step along its gradient and a grey level as one number."""
    wide = label.astype(np.intp) * GRADIENT_STEPS + step
    return np.asarray(wide * 256 + level)


def _along(step: Ints) -> Floats:
    """Places along a gradient, 0-1, of its steps."""
    return np.asarray(step / (GRADIENT_STEPS - 1))


def _shaded_codes(drawing: Drawing, shades: Shades, axes: Axes) -> IndexedPicture:
    """The codes of a shaded drawing: those that some px, or the other side of a border, has."""
    labels, borders = drawing.labels, drawing.borders
    flat = labels.reshape(-1)
    step = np.zeros(flat.shape, np.intp)
    for label, axis in axes.items():
        inside = np.flatnonzero(flat == label)
        step[inside] = steps_along(axis, labels.shape, inside)
    whole = key_of(flat, step, shades.grey.reshape(-1))
    whole[flat == 0] = 0
    other_step = _codes_at(
        borders.other,
        borders.place,
        np.zeros(int(labels.max(initial=0)) + 1, np.intp),
        axes,
        labels.shape,
    )
    beside = key_of(borders.other, other_step, shades.other)
    beside[borders.other == 0] = 0
    held = np.zeros(int(max(whole.max(initial=0), beside.max(initial=0))) + 1, bool)
    held[0] = True
    held[whole] = True
    held[beside] = True
    key = np.flatnonzero(held)
    number = np.zeros(len(held), np.int32)
    number[key] = np.arange(len(key))
    code = number[whole].astype(np.intp)
    label_of, rest = np.divmod(key, GRADIENT_STEPS * 256)
    most = int(labels.max(initial=0))
    bounds = np.searchsorted(label_of, np.arange(most + 2))
    spans = {i: (int(bounds[i]), int(bounds[i + 1])) for i in range(most + 1)}
    off = VALUE_OF_LEVEL[rest % 256] - shades.mean[label_of]
    off[0] = 0
    none = borders.rest
    return IndexedPicture(
        shape=(labels.shape[0], labels.shape[1]),
        spans=spans,
        run_length=np.ones(code.size, np.intp),
        run_code=code,
        key=key,
        along=_along(rest // 256),
        off=off.astype(np.float32),
        place=borders.place,
        own=code[borders.place],
        other=number[beside].astype(np.intp),
        part=parts_of(borders.cover),
        rest=Blends(none.place, none.of, none.share),
        adjacency=adjacency_of(code.reshape(labels.shape), labels, label_of),
    )


def nearest_codes(indexed: IndexedPicture, label: Ints, step: Ints, level: Ints) -> Ints:
    """For labels, gradient steps and grey levels the code that is nearest among the label's own."""
    wanted = key_of(label, step, level)
    at = np.clip(np.searchsorted(indexed.key, wanted), 1, indexed.size - 1)
    before = np.abs(indexed.key[at - 1] - wanted) < np.abs(indexed.key[at] - wanted)
    found = np.where(before, at - 1, at)
    # Only another label's may be nearer than the nearest of one's own: its first or last then.
    begin = np.array(
        [indexed.spans.get(i, (0, 1))[0] for i in range(int(label.max(initial=0)) + 1)]
    )
    end = np.array([indexed.spans.get(i, (0, 1))[1] for i in range(int(label.max(initial=0)) + 1)])
    return np.asarray(np.clip(found, begin[label], np.maximum(end[label] - 1, begin[label])))


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
    if len(axis) == _PATCHED:
        t = _patches((x + 0.5) / width, (y + 0.5) / height, axis)
        return np.asarray(t * (steps - 1) + threshold).astype(np.intp)
    x0, y0 = axis[0] * width, axis[1] * height
    dx, dy = axis[2] * width - x0, axis[3] * height - y0
    t = ((x + 0.5 - x0) * dx + (y + 0.5 - y0) * dy) / max(dx * dx + dy * dy, 1e-9)
    return np.asarray(np.clip(t, 0, 1) * (steps - 1) + threshold).astype(np.intp)


def _patches(x: Floats, y: Floats, axis: tuple[float, ...]) -> Floats:
    """How far, 0-1, soft patches are from one colour to the other at some places, shares of width
    and height: two layers of smooth noise, the second half as large."""
    x0, y0, wide, high, seed = axis
    grid = np.random.default_rng(int(seed)).random((2, _GRID, _GRID))
    found = np.zeros(np.shape(x))
    for layer, weight, fine in ((0, 0.7, 1.0), (1, 0.3, 2.0)):
        u, v = (x - x0) / wide * fine, (y - y0) / high * fine
        i, j = np.floor(u).astype(np.intp), np.floor(v).astype(np.intp)
        s, t = u - i, v - j
        s, t = s * s * (3 - 2 * s), t * t * (3 - 2 * t)
        own = grid[layer]
        a, b = own[j % _GRID, i % _GRID], own[j % _GRID, (i + 1) % _GRID]
        c, d = own[(j + 1) % _GRID, i % _GRID], own[(j + 1) % _GRID, (i + 1) % _GRID]
        found += weight * ((a * (1 - s) + b * s) * (1 - t) + (c * (1 - s) + d * s) * t)
    return np.asarray(np.clip(0.5 + (found - 0.5) * _CONTRAST, 0, 1))


def _codes_at(
    label: Ints | Labels, place: Ints, first: Ints, axes: Axes, shape: tuple[int, ...]
) -> Ints:
    """The codes that labels have, or would have, at some places of the flat picture."""
    code = first[label]
    for gradient, axis in axes.items():
        at = np.flatnonzero(label == gradient)
        code[at] += steps_along(axis, shape, place[at])
    return code


def paint(indexed: IndexedPicture, table: npt.NDArray[np.uint8]) -> Packed:
    """The picture, smooth borders included, from 8-bit colours by code, (codes, 3)."""
    packed = pack(table)
    if indexed.off is None:
        picture = np.repeat(packed[indexed.run_code], indexed.run_length)
    else:  # a code a px: nothing to repeat
        picture = np.take(packed, indexed.run_code, mode="clip")
    picture[indexed.place] = mixed_quickly(packed[indexed.own], packed[indexed.other], indexed.part)
    picture[indexed.rest.place] = blended(packed[indexed.rest.of], indexed.rest.share)
    return picture.reshape(indexed.shape)


_RED_BLUE, _GREEN, _EIGHT = np.uint32(0xFF00FF), np.uint32(0x00FF00), np.uint32(8)
_HALF_RED_BLUE, _HALF_GREEN = np.uint32(0x800080), np.uint32(0x008000)


class Gathered(NamedTuple):
    """A picture px by px: which code each shows, and which are mixed of two or three."""

    shape: tuple[int, int]
    code: Ints
    place: Ints
    own: Ints
    other: Ints
    part: PackedRow
    rest: Blends


def gathered(indexed: IndexedPicture) -> Gathered:
    """Codes px by px."""
    code = codes_by_px(indexed)
    return Gathered(
        indexed.shape, code, indexed.place, indexed.own, indexed.other, indexed.part, indexed.rest
    )


def codes_by_px(indexed: IndexedPicture) -> Ints:
    """Which code each px has, (h x w,)."""
    return (
        indexed.run_code
        if indexed.off is not None
        else np.repeat(indexed.run_code, indexed.run_length)
    )


def parts_of(cover: npt.NDArray[np.float32]) -> PackedRow:
    """Shares 0-1 as parts of 256, finer than any level of a border's smoothing."""
    return np.asarray(cover * 256 + 0.5).astype(np.uint32)


def mixed_quickly(top: PackedRow, under: PackedRow, part: PackedRow) -> PackedRow:
    """Packed colours mixed on encoded values, red and blue at once; `part` of 256 is the top's. The
    difference may be less than nothing: it comes right again where the whole is added up."""
    sides, more = under & _RED_BLUE, top & _RED_BLUE
    _mix(sides, more, part, _HALF_RED_BLUE, _RED_BLUE)
    middle = under & _GREEN
    np.bitwise_and(top, _GREEN, out=more)
    _mix(middle, more, part, _HALF_GREEN, _GREEN)
    middle |= sides
    return middle


def _mix(under: PackedRow, top: PackedRow, part: PackedRow, half: np.uint32, of: np.uint32) -> None:
    """Parts of two packed colours mixed, in the place of the lower one; nothing else is made."""
    top -= under
    top *= part
    under <<= _EIGHT
    under += top
    under += half
    under >>= _EIGHT
    under &= of


def blended(packed: Packed, share: Floats) -> PackedRow:
    """Packed colours, (n, 3), blended on encoded values by their shares, (n, 3), kept within what
    a level can be."""
    found = np.zeros(len(packed), np.uint32)
    three, shares = np.ascontiguousarray(packed.T), np.ascontiguousarray(share.T)
    for shift in (16, 8, 0):
        levels = ((three >> np.uint32(shift)) & np.uint32(255)).astype(np.float32)
        levels *= shares
        level = levels[0] + levels[1] + levels[2] + np.float32(0.5)
        found |= np.clip(level, 0, 255).astype(np.uint32) << np.uint32(shift)
    return found


def region_shares(indexed: IndexedPicture, regions: Iterable[Region]) -> dict[str, float]:
    """The share of what is painted that each region holds, 0-1, by id."""
    pixels, grain_label = indexed.adjacency.pixels, indexed.adjacency.label
    total = max(int(pixels[grain_label > 0].sum()), 1)
    spans = ((r.id, indexed.spans.get(r.label, (0, 0))) for r in regions)
    return {r: float(pixels[a:b].sum() / total) for r, (a, b) in spans}
