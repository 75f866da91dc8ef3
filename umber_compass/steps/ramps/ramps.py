"""Each material's steps from dark to light, by its recipe."""

from collections.abc import Iterable, Mapping
from functools import lru_cache
from typing import NamedTuple

from umber_compass.colour.measured import Measured, measured
from umber_compass.colour.spaces import parse_hex, to_bytes
from umber_compass.picture.light import lights_of
from umber_compass.plan.model import Ramp, Region, Rig
from umber_compass.steps.harmony.colours import RegionColour
from umber_compass.steps.ramps.recipes import RECIPES, Ask
from umber_compass.work import Tick, idle

FIRST = Ramp(recipe="cool-warm")


class Steps(NamedTuple):
    """A ramp: its steps darkest first, and which of them is the base."""

    ramp: Ramp
    steps: tuple[Measured, ...]
    base: int


def make_steps(
    base_hex: str, ramp: Ramp, numbers: Mapping[str, float], rig: Rig | None = None
) -> Steps:
    """The steps of one colour. `numbers` are the practice's rules, `rig` the plan's light."""
    turning = RECIPES[ramp.recipe].turns
    degrees = numbers["ramp.degrees"] if turning else 0.0
    return _made(
        base_hex,
        ramp,
        degrees if ramp.degrees is None else ramp.degrees,
        numbers["ramp.spacing"],
        numbers["ramp.hsb"],
        rig if RECIPES[ramp.recipe].uses_light else None,
    )


@lru_cache(4096)  # most of a plan's ramps stay as they are while one is changed
def _made(
    base_hex: str, ramp: Ramp, degrees: float, spacing: float, points: float, rig: Rig | None
) -> Steps:
    ask = Ask(
        base=parse_hex(base_hex),
        darker=ramp.darker,
        lighter=ramp.lighter,
        degrees=degrees,
        spacing=spacing,
        points=points,
        lights=None if rig is None else lights_of(rig),
    )
    levels = to_bytes(RECIPES[ramp.recipe].steps(ask))
    return Steps(ramp, tuple(measured(levels, ("given",) * len(levels))), ramp.darker)


def ramp_of(recipes: Mapping[str, Ramp], region_id: str) -> Ramp:
    """The recipe chosen for a region, or the one every region begins with."""
    return recipes.get(region_id, FIRST)


def all_steps(
    regions: Iterable[Region],
    recipes: Mapping[str, Ramp],
    colours: Mapping[str, RegionColour],
    numbers: Mapping[str, float],
    rig: Rig,
    tick: Tick = idle,
) -> dict[str, tuple[Steps, ...]]:
    """Every region's ramp, by id; a gradient has one for each end. `numbers` are the rules."""
    found = {}
    for region in regions:
        tick(-1.0)
        ramp = ramp_of(recipes, region.id)
        ends = colours[region.id].ends
        found[region.id] = tuple(make_steps(e.hex, ramp, numbers, rig) for e in ends)
    return found
