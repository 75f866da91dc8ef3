"""The sketch in codes for light: one number a pixel for its region, facing, openness and place
along a gradient, whatever the light and the colours are (docs/engine.md).

A drag then shades some ten thousand codes exactly and looks every pixel up once.
"""

from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.steps.borders import Borders, Ints, Labels
from umber_compass.steps.codes import (
    GRADIENT_STEPS,
    Axes,
    Grain,
    grain_of,
    parts_of,
    steps_along,
)
from umber_compass.steps.forms import FLAT, ROUND, SLOPE, SLOPE_NORMAL, Forms
from umber_compass.steps.light import Planar, Row

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

Wide: TypeAlias = npt.NDArray[np.int64]


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


class _Blocks(NamedTuple):
    """How the codes of each label are laid out before the empty ones are dropped."""

    first: Wide  # by label
    normals: Wide  # how many facings
    steps: Wide  # how many steps of a gradient


def encode_relief(
    labels: Labels, borders: Borders, axes: Axes, first: Ints, forms: Forms
) -> Relief:
    """The codes of a sketch with its forms. `first` is the first flat code of each label, `axes`
    its gradients."""
    for grid in _GRIDS:
        blocks = _blocks(labels, axes, forms, grid)
        wide = _wide_codes(labels, axes, forms, blocks, grid)
        held = np.zeros(int(blocks.first[-1]), bool)
        held[wide] = True
        kept = np.flatnonzero(held)
        if len(kept) <= MOST_CODES:
            break
    dense = np.zeros(len(held), np.intp)
    dense[kept] = np.arange(len(kept))
    code = dense[wide]
    local, normal, openness, label = _meanings(kept, blocks, axes, first, forms, grid)
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


def _blocks(labels: Labels, axes: Axes, forms: Forms, grid: int) -> _Blocks:
    """Room for every facing, openness and step of each label."""
    most = len(forms.kind)
    normals = np.where(forms.kind == ROUND, grid * grid, 1).astype(np.int64)
    steps = np.ones(most, np.int64)
    for label in axes:
        if label < most:
            steps[label] = ROUND_STEPS if forms.kind[label] == ROUND else GRADIENT_STEPS
    size = normals * steps * OPEN_LEVELS
    return _Blocks(np.concatenate([[0], np.cumsum(size)]), normals, steps)


def _wide_codes(labels: Labels, axes: Axes, forms: Forms, blocks: _Blocks, grid: int) -> Wide:
    """Every pixel's code, flat, before empty ones are dropped."""
    height, width = labels.shape
    dither = _tiled(_BAYER, (height, width))
    flat = labels.reshape(-1)
    # Spread by the square root: the eye parts little light more finely than much.
    level = np.sqrt(forms.openness.astype(np.float32) / np.float32(255))
    level *= np.float32(OPEN_LEVELS - 1)
    level += dither
    wide = blocks.first[:-1][labels]
    wide += level.astype(np.int64) * blocks.steps[labels] * blocks.normals[labels]
    swollen = np.flatnonzero((forms.kind == ROUND)[flat])
    wide = wide.reshape(-1)
    wide[swollen] += _facings(forms, swollen, grid, width) * blocks.steps[flat[swollen]]
    for label, axis in axes.items():
        inside = np.flatnonzero(flat == label)
        if len(inside):
            steps = int(blocks.steps[label])
            t = steps_along(axis, (height, width), inside, steps, dither.reshape(-1)[inside])
            wide[inside] += t
    return wide


def _tiled(pattern: npt.NDArray[np.float32], shape: tuple[int, int]) -> npt.NDArray[np.float32]:
    """Thresholds over a picture, above 0 and under 1."""
    rows, columns = -(-shape[0] // 8), -(-shape[1] // 8)
    thresholds = (pattern + np.float32(0.5)) / np.float32(64)
    return np.tile(thresholds, (rows, columns))[: shape[0], : shape[1]]


def _facings(forms: Forms, place: Ints, grid: int, width: int) -> Wide:
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
        places.append(np.clip(side, 0, grid - 1).astype(np.int64))
    return places[1] * grid + places[0]


def _meanings(
    kept: Wide, blocks: _Blocks, axes: Axes, first: Ints, forms: Forms, grid: int
) -> tuple[Ints, Planar, Row, Ints]:
    """What each code stands for: flat code, normal, openness, label."""
    label = np.searchsorted(blocks.first, kept, side="right") - 1
    rest = kept - blocks.first[label]
    step = rest % blocks.steps[label]
    rest //= blocks.steps[label]
    facing = rest % blocks.normals[label]
    level = (rest // blocks.normals[label]).astype(np.float32)
    openness = np.square(level / np.float32(OPEN_LEVELS - 1))
    local = first[label].astype(np.intp)
    of_gradient = np.isin(label, list(axes))
    most = np.maximum(blocks.steps[label] - 1, 1)
    local[of_gradient] += (step * (GRADIENT_STEPS - 1) // most)[of_gradient]
    normal = np.zeros((3, len(kept)), np.float32)
    kind = forms.kind[label]
    normal[2] = 1
    for i in range(3):
        normal[i, kind == SLOPE] = SLOPE_NORMAL[i]
    swollen = kind == ROUND
    normal[:, swollen] = _normals_at(facing[swollen], grid)
    normal[:, kind == FLAT] = np.array([[0], [0], [1]])
    return local, normal, openness, label.astype(np.intp)


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
