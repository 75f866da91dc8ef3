"""Pictures of a painting's drift: where it lies, and what the painting would be without it."""

from collections.abc import Mapping, Sequence

import numpy as np

from umber_compass.colour.packed import CLEAR, Packed, pack, unpack
from umber_compass.colour.spaces import (
    Floats,
    decode,
    encode,
    luminance_of_value,
    oklab,
    oklab_to_linear,
    to_bytes,
)
from umber_compass.picture.mixes import Labels
from umber_compass.steps.painting.aligning import Planes
from umber_compass.steps.painting.comparing import Drift

DARKER, LIGHTER = (58, 118, 214), (236, 148, 52)  # painted darker, and lighter, than planned
_FULL = 14.0  # L*, that is shown in full colour
_TRACE = 2.0  # L*, under which nothing is shown
_WIDE = 7.0  # px, over which strokes are smoothed
_DIM, _MIDDLE = 0.45, 52.0  # of the painting's contrast, about this L*
_STRIPE = 7  # px
_BARE = 0.2  # encoded grey, where nothing is painted


def drift_map(
    on_grid: Packed,
    planes: Planes,
    goal: Planes,
    labels: Labels,
    drifts: Sequence[Drift],
    by_id: Mapping[str, int],
) -> Packed:
    """The painting in dim greys, blue where it is darker than planned and orange where lighter; a
    region whose hue or chroma drifted is in its own colour with stripes of the planned one. `by_id`
    are the regions' labels."""
    from scipy.ndimage import gaussian_filter

    shown = (on_grid != CLEAR).astype(np.float32)
    held = np.maximum(gaussian_filter(shown, _WIDE), 1e-3)
    off = gaussian_filter((planes[0] - goal[0]) * shown, _WIDE) / held
    grey = encode(luminance_of_value((planes[0] - _MIDDLE) * _DIM + _MIDDLE))[..., None]
    strength = np.clip((np.abs(off) - _TRACE) / (_FULL - _TRACE), 0, 1)[..., None]
    tint = np.where(off[..., None] < 0, DARKER, LIGHTER) / 255
    rgb: Floats = grey * (1 - strength) + tint * (0.35 * grey + 0.65) * strength
    turned = [d for d in drifts if {"hue", "chroma"} & set(d.drifted)]
    if turned:
        rgb = _striped(rgb, on_grid, labels, turned, by_id)
    rgb = np.where(shown[..., None] > 0, rgb, _BARE)
    return pack(to_bytes(np.clip(rgb, 0, 1)))


def _striped(
    rgb: Floats,
    on_grid: Packed,
    labels: Labels,
    turned: Sequence[Drift],
    by_id: Mapping[str, int],
) -> Floats:
    """Regions in their painted colours, with stripes of those colours as they were planned."""
    mine = np.zeros(int(labels.max(initial=0)) + 1, bool)
    mine[[by_id[d.region] for d in turned]] = True
    y, x = np.indices(labels.shape)
    stripe = ((x + y) // _STRIPE) % 2 == 0
    planned = mended(on_grid, labels, turned, by_id)
    both = np.where(stripe, planned, on_grid) & np.uint32(0xFFFFFF)
    return np.where(mine[labels][..., None], unpack(both) / 255, rgb)


def mended(
    on_grid: Packed, labels: Labels, drifts: Sequence[Drift], by_id: Mapping[str, int]
) -> Packed:
    """The painting with its drift taken back, region by region, strokes and all."""
    moved = [d for d in drifts if d.drifted]
    if not moved:
        return on_grid
    by = np.zeros((int(labels.max(initial=0)) + 1, 3))
    for drift in moved:
        by[by_id[drift.region]] = _oklab_by(drift)
    lab = oklab(decode(unpack(on_grid & np.uint32(0xFFFFFF)) / 255)) - by[labels]
    found = pack(to_bytes(encode(np.clip(oklab_to_linear(lab), 0, 1))))
    return np.where(on_grid == CLEAR, on_grid, found)


def _oklab_by(drift: Drift) -> Floats:
    """A drift as a difference of OKLab, (3,): about right, for the lightness of OKLab is not L*."""
    before, after = (
        np.cbrt(luminance_of_value(max(v, 0.0)))
        for v in (drift.goal[0], drift.goal[0] + drift.value)
    )
    goal = np.hypot(drift.goal[1], drift.goal[2]) / 100
    hue = np.arctan2(drift.goal[2], drift.goal[1])
    then = hue + np.radians(drift.hue or 0.0)
    chroma = goal + drift.chroma
    return np.array(
        [
            after - before,
            chroma * np.cos(then) - goal * np.cos(hue),
            chroma * np.sin(then) - goal * np.sin(hue),
        ],
        float,
    )
