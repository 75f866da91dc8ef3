"""The sketch in codes for light: one number a pixel for its region, facing, openness and place
along a gradient, whatever the light and the colours are (docs/engine.md).

A drag then shades some ten thousand codes exactly and looks every pixel up once.
"""

from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.picture.borders import Borders, Ints, Labels
from umber_compass.picture.codes import GRADIENT_STEPS, Axes, parts_of, steps_along
from umber_compass.picture.forms import FLAT, ROUND, SLOPE, SLOPE_NORMAL, Forms
from umber_compass.picture.grain import Grain, grain_of
from umber_compass.picture.layout import Dimension, Layout, Small, Wide, lay_out, numbers, places
from umber_compass.picture.light import Planar, Row

# Normals a side, odd so that one faces the viewer; the next is taken where codes are too many.
_GRIDS = (57, 41, 27)
MOST_CODES = 70_000
OPEN_LEVELS = 13
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


class Relief(NamedTuple):
    """A sketch ready to be lit."""

    shape: tuple[int, int]
    forms: Forms
    code: npt.NDArray[np.int32]  # (h x w,)
    local: Ints  # by code: which flat code gives its local colour
    normal: Planar  # (3, codes)
    openness: Row  # (codes,), 0-1
    place: Ints  # border pixels, in the flat picture
    own: Ints  # their codes
    other: Ints
    other_place: Ints  # the pixel of the other region that is mixed in
    cover: npt.NDArray[np.float32]
    part: npt.NDArray[np.uint32]  # the same, of 256
    begin: Ints  # the first code of each label that holds pixels; codes stand in their order
    weight: Row  # (codes,) share of its label's pixels
    grain: Grain

    @property
    def size(self) -> int:
        """How many codes there are."""
        return len(self.openness)


def encode_relief(
    labels: Labels, borders: Borders, axes: Axes, first: Ints, forms: Forms
) -> Relief:
    """The codes of a sketch with its forms. `first` is the first flat code of each label, `axes`
    its gradients."""
    code, kept, layout, grid = _numbered(labels, axes, forms)
    label, standing = places(kept, layout)
    local = _locals(label, standing["step"], axes, first, layout.counts[0])
    normal = _normals(label, standing["facing"], forms, grid)
    openness = np.square(standing["openness"].astype(np.float32) / np.float32(OPEN_LEVELS - 1))
    at = _other_places(labels, borders)
    inward = round(INWARD * labels.shape[1])
    grain = grain_of(code.reshape(labels.shape), labels, label, inward)
    area = np.bincount(label, grain.pixels)
    return Relief(
        shape=(labels.shape[0], labels.shape[1]),
        forms=forms,
        code=code.astype(np.int32),
        local=local,
        normal=normal,
        openness=openness,
        place=borders.place,
        own=code[borders.place],
        other=code[at],
        other_place=at,
        cover=borders.cover,
        part=parts_of(borders.cover),
        begin=np.flatnonzero(np.diff(label, prepend=-1)),
        weight=(grain.pixels / np.maximum(area[label], 1)).astype(np.float32),
        grain=grain,
    )


def _numbered(labels: Labels, axes: Axes, forms: Forms) -> tuple[Ints, Wide, Layout, int]:
    """Every px's code, the number each code stands for, how the numbers are laid out, and how many
    facings a side: fewer where the codes would be too many."""
    flat = labels.reshape(-1)
    dither = _tiled(_BAYER, labels.shape)
    steps, openness = _steps(labels, axes, forms, dither), _openness(forms, dither)
    for grid in _GRIDS:
        dimensions = [steps, _facing(flat, forms, grid, labels.shape[1]), openness]
        layout = lay_out(dimensions)
        wide = numbers(flat, dimensions, layout)
        held = np.zeros(int(layout.first[-1]), bool)
        held[wide] = True
        kept = np.flatnonzero(held)
        if len(kept) <= MOST_CODES:
            break
    dense = np.zeros(len(held), np.intp)
    dense[kept] = np.arange(len(kept))
    return dense[wide], kept, layout, grid


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


def _openness(forms: Forms, dither: Dither) -> Dimension:
    """How open px lie, spread by the square root: the eye parts little light more finely."""
    level = np.sqrt(forms.openness.astype(np.float32) / np.float32(255))
    level *= np.float32(OPEN_LEVELS - 1)
    level += dither
    count = np.full(len(forms.kind), OPEN_LEVELS, np.int64)
    return Dimension("openness", count, None, level.reshape(-1).astype(np.int8))


def _facing(flat: Labels, forms: Forms, grid: int, width: int) -> Dimension:
    """Which way px of round forms face."""
    is_round = forms.kind == ROUND
    place = np.flatnonzero(is_round[flat])
    count = np.where(is_round, grid * grid, 1).astype(np.int64)
    return Dimension("facing", count, place, _facings(forms, place, grid, width))


def _tiled(pattern: Dither, shape: tuple[int, ...]) -> Dither:
    """Thresholds over a picture, above 0 and under 1."""
    rows, columns = -(-shape[0] // 8), -(-shape[1] // 8)
    thresholds = (pattern + np.float32(0.5)) / np.float32(64)
    return np.tile(thresholds, (rows, columns))[: shape[0], : shape[1]]


def _facings(forms: Forms, place: Ints, grid: int, width: int) -> Small:
    """The facing of some pixels on a grid that keeps areas (Lambert 1772), dithered."""
    x = forms.nx.reshape(-1)[place].astype(np.float32)
    y = forms.ny.reshape(-1)[place].astype(np.float32)
    z = np.sqrt(np.maximum(1 - x * x - y * y, 0))
    z += 1
    np.sqrt(z, out=z)
    row, column = (place // width) % 8, place % width % 8
    pattern = (_BAYER + np.float32(0.5)) / 64
    # Two patterns that do not march together.
    places = []
    for side, threshold in ((x, pattern[row, column]), (y, pattern[column, (row + 3) % 8])):
        side /= z
        side *= np.float32((grid - 1) / 2)
        side += np.float32((grid - 1) / 2)
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


def _normals(label: Ints, facing: Wide, forms: Forms, grid: int) -> Planar:
    """By code, which way it faces, (3, codes)."""
    kind = forms.kind[label]
    normal = np.zeros((3, len(label)), np.float32)
    normal[:, kind == FLAT] = np.array([[0], [0], [1]])
    normal[:, kind == SLOPE] = np.array([SLOPE_NORMAL]).T
    normal[:, kind == ROUND] = _normals_at(facing[kind == ROUND], grid)
    return normal


def _normals_at(facing: Wide, grid: int) -> Planar:
    """The normals that stand on the grid's points."""
    points = np.stack([facing % grid, facing // grid]).astype(np.float32)
    points = points * np.float32(2 / (grid - 1)) - 1
    square = np.minimum((points**2).sum(axis=0), 1)
    out = np.empty((3, len(facing)), np.float32)
    out[:2] = points * np.sqrt(2 - square)
    out[2] = 1 - square
    return np.asarray(out / np.maximum(np.linalg.norm(out, axis=0), 1e-6), np.float32)


def _other_places(labels: Labels, borders: Borders) -> Ints:
    """For each border pixel the nearest pixel of the region it is mixed with; itself where there
    is none near."""
    row, column = np.divmod(borders.place, labels.shape[1])
    found = borders.place.copy()
    open_ = np.ones(len(found), bool)
    for dy, dx in _AROUND:
        if not open_.any():
            break
        y = np.clip(row + dy, 0, labels.shape[0] - 1)
        x = np.clip(column + dx, 0, labels.shape[1] - 1)
        hit = open_ & (labels[y, x] == borders.other)
        found[hit] = y[hit] * labels.shape[1] + x[hit]
        open_ &= ~hit
    return found
