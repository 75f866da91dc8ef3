"""What a picture's calm places tell: whether colours stay the same from one to the next, as in
flats, or drift, as in what is shaded; and whether all of it is of one tint."""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import CLEAR, Packed, unpack
from umber_compass.colour.spaces import Floats

_SIDE = 8  # px of a place
_QUIET = 25  # percentile of the places' unrest that grain alone makes
_LEAST_PAIRS = 60  # of calm places beside each other, under which nothing is told
_NO_STEP = 0.02  # levels
_FAR = 4  # places apart, at which a drift is looked for
_SLOPE, _STEADY = (2.0, 24.0), 0.85  # levels a place; how much of a slope goes one way
_TINTED = 0.02  # of a place's light, by which a channel may be off in a grey
_PALE = 0.09  # the same, beyond which a tint is a colour
_TURN = 0.35  # radians about the tint that all places share
_MOSTLY = 0.97


class Calm(NamedTuple):
    """Shares of the steps between calm places: `still` within the grain, beside each other and some
    places apart; `same` without any step. `pairs` is how many were looked at, `calm` the share of
    places that are, `sloped` the share of those that lie within a slope from light to dark."""

    calm: float
    pairs: int
    still: float
    same: float
    sloped: float = 0.0

    @property
    def tells(self) -> bool:
        """Whether there are enough places to say anything."""
        return self.pairs >= _LEAST_PAIRS


def places_of(packed: Packed) -> tuple[Floats, Floats, Floats]:
    """Places of a picture, (h, w) 0x00RRGGBB: the mean colour of each, (rows, columns, 3) levels,
    how much its four quarters differ, and how much its px do."""
    rows, columns = packed.shape[0] // _SIDE, packed.shape[1] // _SIDE
    cut = packed[: rows * _SIDE, : columns * _SIDE]
    rgb = unpack(cut).astype(np.float32)
    half = _SIDE // 2
    each = rgb.reshape(rows, 2, half, columns, 2, half, 3)
    quarters = each.mean(axis=(2, 5))
    mean = quarters.mean(axis=(1, 3))
    square = (each * each).mean(axis=(1, 2, 4, 5))
    unrest = np.sqrt(np.maximum(square - mean * mean, 0)).max(axis=-1)
    apart = (quarters.max(axis=(1, 3)) - quarters.min(axis=(1, 3))).max(axis=-1)
    clear = (cut == CLEAR).reshape(rows, _SIDE, columns, _SIDE).any(axis=(1, 3))
    unrest[clear] = np.inf
    return mean, apart, unrest


def calm_of(packed: Packed) -> Calm:
    """What the steps between calm places of a picture are."""
    if min(packed.shape) < 2 * _SIDE:
        return Calm(0.0, 0, 0.0, 0.0)
    mean, apart, unrest = places_of(packed)
    there = np.isfinite(unrest)
    if not there.any():
        return Calm(0.0, 0, 0.0, 0.0)
    sloped = _sloped(mean, there)
    grain = float(np.percentile(unrest[there], _QUIET))
    calm = (apart <= max(2.0, 0.83 * grain)) & (unrest <= 1.8 * grain + 1.5)
    steps = _steps(mean, calm, 1)
    if not len(steps):
        return Calm(float(calm[there].mean()), 0, 0.0, 0.0, sloped)
    within = 0.75 + 3 * grain / _SIDE
    still = float((steps <= within).mean())
    # A slow drift is seen from further off.
    far = _steps(mean, calm, _FAR)
    if len(far) >= _LEAST_PAIRS:
        still = min(still, float((far <= within).mean()))
    same = float((steps <= _NO_STEP).mean())
    return Calm(float(calm[there].mean()), len(steps), still, same, sloped)


def _sloped(mean: Floats, there: npt.NDArray[np.bool_]) -> float:
    """The share of places round which it grows steadily lighter one way, as on what is modelled;
    areas of one colour beside each other go up and down."""
    from scipy.ndimage import uniform_filter

    if min(there.shape) < 5:
        return 0.0
    light = mean.mean(axis=-1)
    down, across = np.gradient(light)
    steep = np.hypot(down, across)
    along = np.hypot(uniform_filter(down, 3), uniform_filter(across, 3))
    steady = along >= _STEADY * np.maximum(uniform_filter(steep, 3), 1e-6)
    # A step between two areas is steep in one place; a slope is alike in several.
    even = _least(steep) >= 0.4 * steep
    found = steady & even & (along >= _SLOPE[0]) & (along <= _SLOPE[1]) & there
    return float(found.sum() / there.sum())


def _least(steep: Floats) -> Floats:
    from scipy.ndimage import minimum_filter

    return np.asarray(minimum_filter(steep, 3))


def _steps(mean: Floats, calm: npt.NDArray[np.bool_], by: int) -> Floats:
    """Levels between places so many apart, all calm between them, along the rows and columns."""
    found = []
    for m, c in ((mean, calm), (mean.swapaxes(0, 1), calm.T)):
        if c.shape[1] <= by:
            continue
        run = np.ones((c.shape[0], c.shape[1] - by), bool)
        for k in range(by + 1):
            run &= c[:, k : c.shape[1] - by + k]
        found.append(np.abs(m[:, by:] - m[:, :-by]).max(axis=-1)[run])
    return np.concatenate(found) if found else np.zeros(0)


def is_grey(packed: Packed) -> bool:
    """Whether a picture is of greys, or of one pale tint as toned paper and sepia are; its grain is
    not asked."""
    if min(packed.shape) < 2 * _SIDE:
        rgb = unpack(packed[packed != CLEAR]).astype(np.float32)
    else:
        mean, _, unrest = places_of(packed)
        rgb = mean[np.isfinite(unrest)]
    if not len(rgb):
        return False
    off = rgb / np.maximum(rgb.sum(axis=1, keepdims=True), 24) - 1 / 3
    far = np.abs(off).max(axis=1)
    tinted = far > _TINTED
    if tinted.mean() <= 1 - _MOSTLY:
        return True
    if np.percentile(far, 95) > _PALE:
        return False
    turn = (off[:, 0] - off[:, 1]) + 1j * (off[:, 2] - off[:, 1])
    turn = turn[tinted]
    common = turn.sum()
    return bool((np.abs(np.angle(turn / common)) <= _TURN).mean() >= _MOSTLY)
