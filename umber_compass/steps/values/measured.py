"""Value over the whole picture: how much of it lies where on L*."""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import Levels
from umber_compass.colour.spaces import (
    Floats,
    decode,
    luminance_of_value,
    value,
    value_of_luminance,
)
from umber_compass.picture.adjacency import Adjacency
from umber_compass.picture.buffers import SurfaceBuffers
from umber_compass.picture.exact import Exact, shaded_at
from umber_compass.picture.indexed import IndexedPicture
from umber_compass.picture.mixes import Labels
from umber_compass.picture.relit import Lit, values_of

_EVERY = 7  # px, prime to any usual width, so that they spread
BINS = 100  # one for each point of L*
_BLACK = 1.0  # L* under which a ratio of luminance says nothing


class Values(NamedTuple):
    """The picture's values."""

    by_code: Floats  # L* of each code
    histogram: Floats  # (100,) share of the picture in each point of L*
    darks: float  # share below the limit for darks
    lights: float  # share above the limit for lights

    @property
    def extremes(self) -> float:
        """Share of the picture beyond either limit."""
        return self.darks + self.lights


class Weights(NamedTuple):
    """What each code counts where a whole picture is measured, as shares; label 0, which is no
    region, counts nothing."""

    all: Floats  # (codes,)
    extremes: Floats  # (codes,) the same, but ink counts as no extreme


def code_weights(adjacency: Adjacency, ink: tuple[int, ...] = ()) -> Weights:
    """What each code counts; `ink` is labels. They do not hang on colours."""
    weight = np.where(adjacency.label > 0, adjacency.pixels, 0).astype(float)
    weight /= max(weight.sum(), 1)
    if not ink:
        return Weights(weight, weight)
    return Weights(weight, np.where(np.isin(adjacency.label, ink), 0.0, weight))


def measure_values(by_code: Floats, weights: Weights, dark: float, light: float) -> Values:
    """Values of a picture from L* by code; `dark` and `light` are L*."""
    bins = np.clip(by_code.astype(int), 0, BINS - 1)
    return Values(
        by_code,
        np.bincount(bins, weights.all, BINS).astype(float),
        float(weights.extremes[by_code < dark].sum()),
        float(weights.extremes[by_code > light].sum()),
    )


def flat_values(table: npt.NDArray[np.uint8]) -> Floats:
    """Value L* of 8-bit colours (codes, 3)."""
    return value(decode(table / 255))


def picture_values(
    table: Levels,
    weights: Weights,
    lit: Lit | None,
    dark: float,
    light: float,
) -> Values:
    """Values of the picture that is shown: lit where there is light, else flat. `table` is the
    flat picture's colours by flat code; `dark` and `light` are L*."""
    by_code = flat_values(table) if lit is None else values_of(lit.packed)
    return measure_values(by_code, weights, dark, light)


def exact_values(
    buffers: SurfaceBuffers,
    indexed: IndexedPicture,
    table: Levels,
    labels: Labels,
    lit: Lit,
    exact: Exact,
) -> Floats:
    """Value L* that the px of each code have on the mean where they are shaded exactly: every
    seventh px is, and a code that has none of those keeps its own."""
    place = np.arange(0, buffers.code.size, _EVERY)
    values = values_of(shaded_at(buffers, indexed, table, labels, exact, place))
    own = buffers.code[place]
    count = np.bincount(own, minlength=buffers.size)
    mean = np.bincount(own, values, buffers.size) / np.maximum(count, 1)
    return np.where(count > 0, mean, values_of(lit.packed))


def planned_histogram(table: Levels, weights: Weights) -> Floats:
    """The share of the picture in each point of L*, (100,), as its colours are planned, without
    light. `weights` are those of the flat picture."""
    return measure_values(flat_values(table), weights, 0, 100).histogram


def label_histograms(by_code: Floats, adjacency: Adjacency) -> Floats:
    """The px that each label holds in each point of L*, (labels, 100); nothing of label 0."""
    most = int(adjacency.label.max(initial=0)) + 1
    bins = np.clip(by_code.astype(np.intp), 0, BINS - 1)
    found = np.bincount(adjacency.label * BINS + bins, adjacency.pixels, most * BINS)
    histograms = found.reshape(most, BINS).astype(float)
    histograms[0] = 0
    return histograms


def region_values(values: Values, adjacency: Adjacency, label: int) -> tuple[Floats, Floats]:
    """The values L* of a region’s codes in the picture that is shown, and the px of each."""
    at = np.flatnonzero(adjacency.label == label)
    return values.by_code[at], adjacency.pixels[at].astype(float)


def mean_value(histogram: Floats) -> float:
    """The mean value L* of what has this many px in each point of it; 0 where it has none."""
    whole = float(histogram.sum())
    return float((np.arange(BINS) + 0.5) @ histogram) / whole if whole else 0.0


def median(histogram: Floats) -> float:
    """The value L* that half of a picture lies under, from its share in each point of L*."""
    held = np.cumsum(histogram)
    at = int(np.searchsorted(held, held[-1] / 2))
    before = float(held[at - 1]) if at else 0.0
    return at + (float(held[-1]) / 2 - before) / max(float(histogram[at]), 1e-9)


def lit_range(values: Values, adjacency: Adjacency, label: int) -> tuple[float, float] | None:
    """Between which values L* nine tenths of a region lie in the picture that is shown; None where
    it holds no pixel."""
    at = np.flatnonzero(adjacency.label == label)
    order = at[np.argsort(values.by_code[at])]
    held = np.cumsum(adjacency.pixels[order])
    if not held.size or not held[-1]:
        return None
    low, high = (order[np.searchsorted(held, held[-1] * share)] for share in (0.05, 0.95))
    return float(values.by_code[low]), float(values.by_code[high])


def moved_values(by_code: Floats, planned: float, by: Floats | float) -> Floats:
    """Where values L* come to when the local colour's planned value moves by some L*: light keeps
    its ratio, so luminance grows by what the planned luminance grows by. Shapes are broadcast.
    Black has no ratio to keep; its values move by the same L*."""
    if planned < _BLACK:
        return np.asarray(np.clip(by_code + np.asarray(by), 0, 100))
    there = np.clip(planned + np.asarray(by), 0, 100)
    ratio = luminance_of_value(there) / np.maximum(luminance_of_value(planned), 1e-6)
    return value_of_luminance(np.clip(luminance_of_value(by_code) * ratio, 0, 1))
