"""Value over the whole picture: how much of it lies where on L*."""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import (
    Floats,
    decode,
    encode,
    luminance_of_value,
    to_hex,
    value,
    value_of_luminance,
)
from umber_compass.steps.codes import Grain

BINS = 100  # one for each point of L*


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


def measure_values(by_code: Floats, grain: Grain, dark: float, light: float) -> Values:
    """Values of a picture from L* by code; `dark` and `light` are L*. Label 0, which is no region,
    does not count."""
    weight = np.where(grain.label > 0, grain.pixels, 0).astype(float)
    weight /= max(weight.sum(), 1)
    bins = np.clip(by_code.astype(int), 0, BINS - 1)
    return Values(
        by_code,
        np.bincount(bins, weight, BINS).astype(float),
        float(weight[by_code < dark].sum()),
        float(weight[by_code > light].sum()),
    )


def flat_values(table: npt.NDArray[np.uint8]) -> Floats:
    """Value L* of 8-bit colours (codes, 3)."""
    return value(decode(table / 255))


def lit_range(values: Values, grain: Grain, label: int) -> tuple[float, float] | None:
    """Between which values L* nine tenths of a region lie in the picture that is shown; None where
    it holds no pixel."""
    at = np.flatnonzero(grain.label == label)
    order = at[np.argsort(values.by_code[at])]
    held = np.cumsum(grain.pixels[order])
    if not held.size or not held[-1]:
        return None
    low, high = (order[np.searchsorted(held, held[-1] * share)] for share in (0.05, 0.95))
    return float(values.by_code[low]), float(values.by_code[high])


def moved_values(by_code: Floats, planned: float, by: Floats | float) -> Floats:
    """Where values L* come to when the local colour's planned value moves by some L*: light keeps
    its ratio, so luminance grows by what the planned luminance grows by. Shapes are broadcast."""
    there = np.clip(planned + np.asarray(by), 0, 100)
    ratio = luminance_of_value(there) / np.maximum(luminance_of_value(planned), 1e-6)
    return value_of_luminance(np.clip(luminance_of_value(by_code) * ratio, 0, 1))


def grey_scale(count: int) -> tuple[str, ...]:
    """Greys at equal steps of value from black to white, as hexes."""
    return greys_of(np.linspace(0, 100, count).tolist())


def greys_of(values: list[float]) -> tuple[str, ...]:
    """The greys of some values L*, as hexes."""
    return tuple(to_hex(c) for c in encode(fit(np.array(values), 0.0, 0.0)))
