"""Any picture read: its values, colours, harmony, temperature, and what is met first in it."""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.packed import CLEAR, Packed, unpack
from umber_compass.colour.spaces import Floats, decode, oklab, polar, value
from umber_compass.picture.adjacency import touching_pairs
from umber_compass.picture.mixes import Ints, Labels
from umber_compass.plan.terms import Wheel
from umber_compass.steps.focus.lattice import Lattice, joined, lattice_from
from umber_compass.steps.focus.places import places_of
from umber_compass.steps.focus.pull import look_at, pull_of
from umber_compass.steps.focus.strong_hues import is_strong, strong_by_hue
from umber_compass.steps.harmony.fit import Readings, read_schemes
from umber_compass.steps.harmony.picture_palette import PictureColour, nearest, palette_of
from umber_compass.steps.harmony.warmth import Temperature, temperature_of
from umber_compass.steps.sketch.kinds import flats
from umber_compass.words import Refusal

_MOST_PX = 400_000  # that are looked at
_WIDE = 232  # blocks across, by which a picture without regions is parted
_SMALL = 8  # blocks; a smaller part is its neighbour’s
_ENCLOSED, _HALO, _RING = 0.95, 0.1, 6  # a part wholly inside a small one, not much larger
_MOST_SPLIT = 4_000_000  # px up to which flats are looked for


class PictureReading(NamedTuple):
    """What a picture shows."""

    histogram: Floats  # (100,) share in each point of L*
    values: tuple[float, float, float]  # L* that 5, 50 and 95 % lie under
    extremes: float  # share beyond 20 and 80 L*
    palette: list[PictureColour]
    harmony: Readings
    temperature: Temperature
    strong: float  # share of strong colour
    strong_hues: dict[str, float]  # the same of each family of hues
    first: tuple[float, float] | None  # where the eye meets it; None where nothing leads


def read_picture(packed: Packed, wheel: Wheel, dark: float, light: float) -> PictureReading:
    """What a picture, (h, w) 0x00RRGGBB, shows. `dark` and `light`, L*, are the limits for
    extremes."""
    flat = packed.reshape(-1)
    px = flat[flat != CLEAR] & np.uint32(0xFFFFFF)
    px = px[:: max(1, len(px) // _MOST_PX)] if len(px) else np.array([0xFFFFFF], np.uint32)
    light_of = decode(unpack(px) / np.float32(255))
    values, lch = value(light_of), polar(oklab(light_of))
    histogram = np.bincount(np.clip(values.astype(int), 0, 99), minlength=100) / len(px)
    palette = palette_of(px)
    colours = np.array([polar(c.lab) for c in palette])
    share = np.array([c.share for c in palette])
    harmony = read_schemes(colours[:, 2], colours[:, 1], share, wheel)
    low, middle, high = (float(v) for v in np.percentile(values, (5, 50, 95)))
    return PictureReading(
        histogram,
        (low, middle, high),
        float(((values < dark) | (values > light)).mean()),
        palette,
        harmony,
        temperature_of(lch[:, 2], lch[:, 1]),
        float(is_strong(values, lch).mean()),
        strong_by_hue(values, lch),
        _first(packed & np.uint32(0xFFFFFF), packed, palette),
    )


def _first(
    shown: Packed, packed: Packed, palette: list[PictureColour]
) -> tuple[float, float] | None:
    """Where a picture is met first, shares of width and height."""
    labels = _regions(packed, palette)
    lattice = lattice_from(labels)
    look = look_at(lattice, shown.reshape(-1)[lattice.at])
    group = _enclosed(lattice)
    if (group != np.arange(len(group))).any():
        lattice = joined(lattice, group)
    places = places_of(lattice, pull_of(lattice, look))
    if not places.is_met:
        return None
    x, y = lattice.centre[places.order[0]].tolist()
    return x, y


def _regions(packed: Packed, palette: list[PictureColour]) -> Labels:
    """A picture’s regions: its flats, or, where it has none, touching blocks of like colour."""
    if packed.size <= _MOST_SPLIT:
        try:
            return flats.split(packed, "").labels
        except Refusal:
            pass
    return _parted(packed, np.array([c.lab for c in palette]))


def _parted(packed: Packed, centres: Floats) -> Labels:
    from scipy.ndimage import label, uniform_filter

    height, width = packed.shape
    block = max(1, round(width / _WIDE))
    rows, columns = max(height // block, 1), max(width // block, 1)
    kept = packed[: rows * block, : columns * block]
    levels = unpack(np.ascontiguousarray(kept)).reshape(rows, block, columns, block, 3)
    lab = oklab(decode(levels.mean(axis=(1, 3)) / 255))
    smooth = np.stack([uniform_filter(lab[..., i], 3) for i in range(3)], axis=-1)
    kind = nearest(smooth.reshape(-1, 3), centres).reshape(rows, columns)
    found = np.zeros((rows, columns), np.intp)
    for k in np.unique(kind):
        own, _ = label(kind == k)
        found = np.where(own > 0, own + found.max(), found)
    found = _without_crumbs(found)
    y = np.minimum(np.arange(height) // block, rows - 1)
    x = np.minimum(np.arange(width) // block, columns - 1)
    return np.asarray(found[y[:, None], x]).astype(np.uint16)


def _without_crumbs(found: Ints) -> Ints:
    """Parts numbered from 1, those too small given to what they touch most."""
    for _ in range(4):
        area = np.bincount(found.reshape(-1))
        small = (area > 0) & (area < _SMALL)
        if not small.any():
            break
        to = np.arange(len(area))
        pairs, length = touching_pairs(found)
        for pair in pairs[np.argsort(length, kind="stable")]:
            for one, other in (pair, pair[::-1]):
                if small[one] and not small[other]:
                    to[one] = other  # the longest border comes last
        found = to[found]
    _, numbered = np.unique(found, return_inverse=True)
    return np.asarray(numbered.reshape(found.shape) + 1)


def _enclosed(lattice: Lattice) -> Ints:
    """For every label the one it is a place with: what lies inside a small ring is one with it."""
    group = np.arange(len(lattice.share))
    outline = lattice.border.sum(axis=1) + lattice.frame
    for label in np.flatnonzero(lattice.share > 0).tolist():
        around = int(lattice.border[label].argmax())
        inside = lattice.border[label, around] >= _ENCLOSED * outline[label]
        ring = lattice.share[around] < _HALO and lattice.area[around] < _RING * lattice.area[label]
        if inside and ring:
            group[group == label] = group[around]
    return group
