"""What gives the artist's own shading its hues where that is a gradient: one for the whole picture,
each region's own ramp, or a gradient that one region has alone."""

from collections.abc import Mapping, Sequence
from typing import TypeAlias

import numpy as np

from umber_compass.colour.measured import levels_of
from umber_compass.colour.spaces import Floats
from umber_compass.plan.model import Ramp, Region, Shading
from umber_compass.plan.rig import Rig
from umber_compass.steps.harmony.colours import RegionColour
from umber_compass.steps.ramps.ramps import make_steps, ramp_of

ShadeMaps: TypeAlias = Mapping[str, Floats]  # by region, encoded stops (k, 3)
_NONE: ShadeMaps = {}


def shade_maps(
    shading: Shading,
    regions: Sequence[Region],
    recipes: Mapping[str, Ramp],
    colours: Mapping[str, RegionColour],
    numbers: Mapping[str, float],
    rig: Rig,
) -> ShadeMaps:
    """The stops of every region's gradient, by id: its own, else what all follow; nothing where
    hue follows otherwise."""
    if not shading.on:
        return _NONE
    own = {k: _encoded(ramp.over) for k, ramp in recipes.items() if ramp.over}
    shared = _shared(shading, regions, recipes, colours, numbers, rig)
    return {**shared, **own} if own else shared


def _shared(
    shading: Shading,
    regions: Sequence[Region],
    recipes: Mapping[str, Ramp],
    colours: Mapping[str, RegionColour],
    numbers: Mapping[str, float],
    rig: Rig,
) -> ShadeMaps:
    if shading.hue not in ("gradient", "ramp"):
        return _NONE
    if shading.hue == "gradient":
        stops = _encoded(shading.stops)
        return {r.id: stops for r in regions} if len(stops) else _NONE
    return {
        r.id: _encoded(
            [
                step.hex
                for end in colours[r.id].ends
                for step in make_steps(end.hex, ramp_of(recipes, r.id), numbers, rig).steps
            ]
        )
        for r in regions
    }


def _encoded(hexes: Sequence[str]) -> Floats:
    return np.array([levels_of(hex_) for hex_ in hexes], float).reshape(-1, 3) / 255
