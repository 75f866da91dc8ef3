"""The sketch in codes for light: one number a pixel for its region, facing, occlusion and place
along a gradient, whatever the light and the colours are (docs/engine.md).

A drag then shades some ten thousand codes exactly and looks every pixel up once.
"""

from collections.abc import Callable
from functools import cache, partial
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import Floats
from umber_compass.picture.adjacency import Adjacency, adjacency_of
from umber_compass.picture.drawing import Drawing
from umber_compass.picture.forms import FLAT, ROUND, SLOPE, SLOPE_NORMAL, Forms
from umber_compass.picture.indexed import (
    GRADIENT_STEPS,
    Axes,
    IndexedPicture,
    nearest_codes,
    parts_of,
    steps_along,
)
from umber_compass.picture.layout import Dimension, Layout, Small, Wide, lay_out, numbers, places
from umber_compass.picture.light import Surface
from umber_compass.picture.mixes import Blends, Ints, Labels, areas
from umber_compass.picture.pieces import Pieces
from umber_compass.picture.shading import VALUE_OF_LEVEL, Shades
from umber_compass.picture.ways import Planar, Row

# Normals a side of a round region, odd so that one faces the viewer, and levels of occlusion: so
# many times the fourth root of its area, px, between the least and the most; fewer where codes are
# too many. Chosen by what each adds to the difference from the exact picture (docs/engine.md).
_GRID_PER_ROOT, _GRID = 6.5, (9, 71)
_FAMILIES = 0.42  # of that, where the edge between light and shade is found px by px
_OPEN_PER_ROOT, _OPEN = 2.0, (6, 24)
_SHADE_BESIDE, _SHADE_ALONE = 2.0, 0.5  # L* a step of kept shading, on round forms and on others
_FEWER = (1.0, 0.9, 0.8, 0.7, 0.6, 0.5, 0.4)
MOST_CODES = 70_000
# How far the dither moves a px, of a step: less than a whole one, so that a drag stays near the
# exact picture, and enough that no facet shows (docs/engine.md).
_SPREAD = np.float32(0.6)
# Borders are compared this share of the width inside each region: a rim that turns away for a px
# or two parts nothing to the eye (studio rule, docs/checks.md).
INWARD = 0.01
ROUND_STEPS = 32  # of a gradient on a round form, where facing multiplies the codes
_AROUND = sorted(
    ((dy, dx) for dy in range(-3, 4) for dx in range(-3, 4)), key=lambda d: d[0] ** 2 + d[1] ** 2
)
# Bayer 1973, 8 x 8: spreads the rounding evenly, so that no facet shows.
_BAYER = np.array(
    [
        [0, 32, 8, 40, 2, 34, 10, 42],
        [48, 16, 56, 24, 50, 18, 58, 26],
        [12, 44, 4, 36, 14, 46, 6, 38],
        [60, 28, 52, 20, 62, 30, 54, 22],
        [3, 35, 11, 43, 1, 33, 9, 41],
        [51, 19, 59, 27, 49, 17, 57, 25],
        [15, 47, 7, 39, 13, 45, 5, 37],
        [63, 31, 55, 23, 61, 29, 53, 21],
    ],
    np.float32,
)

Dither: TypeAlias = npt.NDArray[np.float32]  # (h, w) thresholds, 0-1


class SurfaceBuffers(NamedTuple):
    """A sketch ready to be lit."""

    shape: tuple[int, int]
    forms: Forms
    pieces: Pieces
    code: Ints  # (h x w,); as wide as an index, so that it need not be widened in every frame
    local: Ints  # by code: which flat code gives its local colour
    normal: Planar  # (3, codes)
    occlusion: Row  # (codes,), 0-1
    place: Ints  # border pixels, in the flat picture
    own: Ints  # their codes
    other: Ints
    other_place: Ints  # the pixel of the other region that is mixed in
    cover: npt.NDArray[np.float32]
    part: npt.NDArray[np.uint32]  # the same, of 256
    rest: Blends  # of codes
    rest_places: Ints  # (n, 3) the px that are blended there
    begin: Ints  # the first code of each label that holds pixels; codes stand in their order
    weight: Row  # (codes,) share of its label's pixels
    adjacency: Adjacency

    @property
    def size(self) -> int:
        """How many codes there are."""
        return len(self.occlusion)

    @property
    def surface(self) -> Surface:
        """The codes as places that are lit."""
        turned = self.forms.kind[self.adjacency.label] == ROUND
        return Surface(self.normal, self.occlusion, turned)


def encode_buffers(
    drawing: Drawing,
    axes: Axes,
    indexed: IndexedPicture,
    forms: Forms,
    pieces: Pieces,
    families: bool,
) -> SurfaceBuffers:
    """The codes of a sketch with its forms, from its flat codes and its gradients; fewer where
    light and shade are `families`, for which codes need not be as fine."""
    labels, borders = drawing.labels, drawing.borders
    fine = _FAMILIES if families else 1.0
    code, kept, layout = _numbered(labels, axes, forms, drawing.shades, fine)
    label, standing = places(kept, layout)
    pixels = np.maximum(np.bincount(code, minlength=len(label)), 1)
    if drawing.shades is None:
        first = np.array([indexed.spans.get(i, (0, 0))[0] for i in range(len(forms.kind))], np.intp)
        local = _locals(label, standing["step"], axes, first, layout.counts[0])
    else:
        level = np.bincount(code, drawing.shades.grey.reshape(-1), len(label)) / pixels
        most = np.maximum(layout.counts[0][label] - 1, 1)
        step = standing["step"] * (GRADIENT_STEPS - 1) // most
        local = nearest_codes(indexed, label, step, (level + 0.5).astype(np.intp))
        local[label == 0] = 0
    normal = _normals(label, code, pixels, forms)
    occlusion = np.bincount(code, forms.occlusion.reshape(-1), len(label)) / (255 * pixels)
    anywhere = cache(partial(_anywhere, labels.reshape(-1)))  # each label is looked for once
    at = _places_of(labels, borders.place, borders.other, anywhere)
    rest = borders.rest
    there = [_places_of(labels, rest.place, of, anywhere) for of in rest.of.T]
    places_there = np.stack(there, axis=1)
    inward = round(INWARD * labels.shape[1])
    adjacency = adjacency_of(code.reshape(labels.shape), labels, label, inward)
    area = np.bincount(label, adjacency.pixels)
    return SurfaceBuffers(
        shape=(labels.shape[0], labels.shape[1]),
        forms=forms,
        pieces=pieces,
        code=code,
        local=local,
        normal=normal,
        occlusion=occlusion.astype(np.float32),
        place=borders.place,
        own=code[borders.place],
        other=code[at],
        other_place=at,
        cover=borders.cover,
        part=parts_of(borders.cover),
        rest=Blends(rest.place, code[places_there], rest.share),
        rest_places=places_there,
        begin=np.flatnonzero(np.diff(label, prepend=-1)),
        weight=(adjacency.pixels / np.maximum(area[label], 1)).astype(np.float32),
        adjacency=adjacency,
    )


def _numbered(
    labels: Labels, axes: Axes, forms: Forms, shades: Shades | None, fine: float
) -> tuple[Ints, Wide, Layout]:
    """Every px's code, the number each code stands for, and how the numbers are laid out: with
    fewer facings where the codes would be too many."""
    flat = labels.reshape(-1)
    dither = _tiled(_BAYER, labels.shape)
    steps = _steps(labels, axes, forms, dither)
    root = areas(flat, len(forms.kind) - 1) ** 0.25
    for share in _FEWER:
        occlusion = _occlusion(flat, forms, dither, _open_levels(root, share * fine))
        grids = _grids(root, share * fine)
        dimensions = [steps, _facing(flat, forms, grids, labels.shape[1]), occlusion]
        if shades is not None:
            dimensions.append(_shade(flat, forms, shades))
        layout = lay_out(dimensions)
        wide = numbers(flat, dimensions, layout)
        held = np.zeros(int(layout.first[-1]), bool)
        held[wide] = True
        kept = np.flatnonzero(held)
        if len(kept) <= MOST_CODES:
            break
    dense = np.zeros(len(held), np.intp)
    dense[kept] = np.arange(len(kept))
    return dense[wide], kept, layout


def _steps(labels: Labels, axes: Axes, forms: Forms, dither: Dither) -> Dimension:
    """The steps of gradients: fewer on a round form, where facing multiplies the codes."""
    flat = labels.reshape(-1)
    count = np.ones(len(forms.kind), np.int64)
    place: list[Ints] = []
    index: list[Ints] = []
    for label, axis in axes.items():
        inside = np.flatnonzero(flat == label)
        if label >= len(count) or not len(inside):
            continue
        count[label] = ROUND_STEPS if forms.kind[label] == ROUND else GRADIENT_STEPS
        threshold = dither.reshape(-1)[inside]
        place.append(inside)
        index.append(steps_along(axis, labels.shape, inside, int(count[label]), threshold))
    nothing = np.zeros(0, np.intp)
    return Dimension(
        "step", count, np.concatenate([nothing, *place]), np.concatenate([nothing, *index])
    )


def _shade(flat: Labels, forms: Forms, shades: Shades) -> Dimension:
    """How light the artist's own shading is, a step for some L*; finer where no form is beside it.
    The painting dithers itself."""
    levels, size = np.arange(256), len(forms.kind)
    lowest, highest = np.full(size, 255), np.zeros(size, int)
    held = np.bincount(flat.astype(np.intp) * 256 + shades.grey.reshape(-1), minlength=size * 256)
    present = held.reshape(size, 256) > 0
    some = present.any(axis=1)
    lowest[some] = np.where(present, levels, 255).min(axis=1)[some]
    highest[some] = np.where(present, levels, 0).max(axis=1)[some]
    step = np.where(forms.kind == ROUND, _SHADE_BESIDE, _SHADE_ALONE)
    low = VALUE_OF_LEVEL[lowest]
    wide = np.maximum(VALUE_OF_LEVEL[highest] - low, 0)
    count = (wide / step).astype(np.int64) + 2
    count[~some] = 1
    table = np.round((VALUE_OF_LEVEL[None] - low[:, None]) / step[:, None])
    table = np.clip(table, 0, count[:, None] - 1).astype(np.int16)
    return Dimension("shade", count, None, table[flat, shades.grey.reshape(-1)])


def _occlusion(flat: Labels, forms: Forms, dither: Dither, count: Wide) -> Dimension:
    """How open px lie, spread by the square root: the eye parts little light more finely."""
    level = np.sqrt(forms.occlusion.reshape(-1).astype(np.float32) / np.float32(255))
    level *= (count - 1).astype(np.float32)[flat]
    level += _narrowed(dither).reshape(-1)
    return Dimension("occlusion", count, None, level.astype(np.int8))


def _open_levels(root: Floats, share: float) -> Wide:
    """Levels of ambient occlusion for each label, from the fourth root of its area, px."""
    return np.asarray(np.clip(root * (_OPEN_PER_ROOT * share), *_OPEN).astype(np.int64))


def _grids(root: Floats, share: float) -> Wide:
    """Normals a side for each label: more than a region has px for would only cost time."""
    wished = np.clip(root * (_GRID_PER_ROOT * share), _GRID[0], _GRID[1] * share)
    return np.asarray(wished.astype(np.int64) // 2 * 2 + 1)


def _facing(flat: Labels, forms: Forms, grids: Wide, width: int) -> Dimension:
    """Which way px of round forms face."""
    is_round = forms.kind == ROUND
    place = np.flatnonzero(is_round[flat])
    count = np.where(is_round, grids * grids, 1).astype(np.int64)
    side = grids.astype(np.int16)[flat[place]]
    return Dimension("facing", count, place, _facings(forms, place, side, width))


def _tiled(pattern: Dither, shape: tuple[int, ...]) -> Dither:
    """Thresholds over a picture, above 0 and under 1."""
    rows, columns = -(-shape[0] // 8), -(-shape[1] // 8)
    thresholds = (pattern + np.float32(0.5)) / np.float32(64)
    return np.tile(thresholds, (rows, columns))[: shape[0], : shape[1]]


def _narrowed(thresholds: Dither) -> Dither:
    """Thresholds drawn together round the middle of a step."""
    return np.asarray((thresholds - np.float32(0.5)) * _SPREAD + np.float32(0.5), np.float32)


def _facings(forms: Forms, place: Ints, grid: Small, width: int) -> Small:
    """The facing of some pixels on grids that keep areas (Lambert 1772), each of its own size,
    dithered."""
    x = forms.nx.reshape(-1)[place].astype(np.float32)
    y = forms.ny.reshape(-1)[place].astype(np.float32)
    z = np.sqrt(np.maximum(1 - x * x - y * y, 0))
    z += 1
    np.sqrt(z, out=z)
    row, column = (place // width) % 8, place % width % 8
    pattern = _narrowed((_BAYER + np.float32(0.5)) / np.float32(64))
    # Two patterns that do not march together.
    half = (grid - 1) * np.float32(0.5)
    places = []
    for side, threshold in ((x, pattern[row, column]), (y, pattern[column, (row + 3) % 8])):
        side /= z
        side *= half
        side += half
        side += threshold
        places.append(np.clip(side, 0, grid - 1).astype(np.int16))
    return places[1] * grid + places[0]


def _locals(label: Ints, step: Wide, axes: Axes, first: Ints, steps: Wide) -> Ints:
    """By code, the flat code that gives its local colour."""
    local = first[label].astype(np.intp)
    of_gradient = np.isin(label, list(axes))
    most = np.maximum(steps[label] - 1, 1)
    local[of_gradient] += (step * (GRADIENT_STEPS - 1) // most)[of_gradient]
    return local


def _normals(label: Ints, code: Ints, pixels: Ints, forms: Forms) -> Planar:
    """By code, which way its px face on the mean, (3, codes)."""
    kind = forms.kind[label]
    normal = np.zeros((3, len(label)), np.float32)
    normal[:, kind == FLAT] = np.array([[0], [0], [1]])
    normal[:, kind == SLOPE] = np.array([SLOPE_NORMAL]).T
    x, y = (n.reshape(-1).astype(np.float32) for n in (forms.nx, forms.ny))
    z = np.sqrt(np.maximum(1 - x * x - y * y, 0))
    mean = np.stack([np.bincount(code, side, len(label)) / pixels for side in (x, y, z)])
    mean /= np.maximum(np.linalg.norm(mean, axis=0), 1e-6)
    normal[:, kind == ROUND] = mean[:, kind == ROUND]
    return normal


def _anywhere(labels: Labels, label: int) -> int | None:
    """Some px of the flat picture that has a label; None where there is none."""
    held = np.flatnonzero(labels == label)
    return int(held[len(held) // 2]) if len(held) else None


def _places_of(
    labels: Labels,
    place: Ints,
    wanted: Ints | Labels,
    anywhere: Callable[[int], int | None],
) -> Ints:
    """For some px of the flat picture the nearest px of the label wanted for each; where there is
    none near, any that has it; itself where there is none at all."""
    row, column = np.divmod(place, labels.shape[1])
    found = place.copy()
    open_ = np.ones(len(found), bool)
    for dy, dx in _AROUND:
        if not open_.any():
            break
        y = np.clip(row + dy, 0, labels.shape[0] - 1)
        x = np.clip(column + dx, 0, labels.shape[1] - 1)
        hit = open_ & (labels[y, x] == wanted)
        found[hit] = y[hit] * labels.shape[1] + x[hit]
        open_ &= ~hit
    left = np.flatnonzero(open_)
    for label in np.unique(wanted[left]).tolist():
        somewhere = anywhere(label)
        if somewhere is not None:
            found[left[wanted[left] == label]] = somewhere
    return found
