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
    found: dict[str, Floats] = {}
    if shading.hue == "gradient" and shading.stops:
        found = dict.fromkeys((r.id for r in regions), _encoded(shading.stops))
    elif shading.hue == "ramp":
        for r in regions:
            ramp = ramp_of(recipes, r.id)
            made = [make_steps(end.hex, ramp, numbers, rig) for end in colours[r.id].ends]
            found[r.id] = _encoded([step.hex for steps in made for step in steps.steps])
    found |= {id_: _encoded(ramp.over) for id_, ramp in recipes.items() if ramp.over}
    return found or _NONE


def _encoded(hexes: Sequence[str]) -> Floats:
    return np.array([levels_of(hex_) for hex_ in hexes], float).reshape(-1, 3) / 255
