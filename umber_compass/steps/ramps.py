"""Each material's steps from dark to light, by its recipe."""

from collections.abc import Mapping
from typing import NamedTuple

from umber_compass.colour.spaces import parse_hex
from umber_compass.plan.edits import study
from umber_compass.plan.light_edits import rig_of
from umber_compass.plan.model import Plan, Ramp
from umber_compass.plan.practices import rules
from umber_compass.steps.colouring import Measured, RegionColour, measure
from umber_compass.steps.light import Lights, lights_of
from umber_compass.steps.recipes import RECIPES, Ask

DEFAULT = Ramp(recipe="cool-warm")


class Steps(NamedTuple):
    """A ramp: its steps darkest first, and which of them is the base."""

    ramp: Ramp
    steps: tuple[Measured, ...]
    base: int


def make_steps(
    base_hex: str, ramp: Ramp, numbers: Mapping[str, float], lights: Lights | None = None
) -> Steps:
    """The steps of one colour. `numbers` are the practice's rules, `lights` the plan's."""
    turning = RECIPES[ramp.recipe].turns
    degrees = numbers["ramp.degrees"] if turning else 0.0
    ask = Ask(
        base=parse_hex(base_hex),
        darker=ramp.darker,
        lighter=ramp.lighter,
        degrees=degrees if ramp.degrees is None else ramp.degrees,
        spacing=numbers["ramp.spacing"],
        points=numbers["ramp.hsb"],
        lights=lights,
    )
    made = RECIPES[ramp.recipe].steps(ask)
    return Steps(ramp, tuple(measure(c) for c in made), ramp.darker)


def ramp_of(plan: Plan, region_id: str) -> Ramp:
    """The recipe chosen for a region, or the one every region begins with."""
    return study(plan).recipes.get(region_id, DEFAULT)


def all_steps(plan: Plan, colours: Mapping[str, RegionColour]) -> dict[str, tuple[Steps, ...]]:
    """Every region's ramp, by id; a gradient has one for each end."""
    numbers, lights = rules(plan), lights_of(rig_of(plan))
    return {
        r.id: tuple(
            make_steps(e.hex, ramp_of(plan, r.id), numbers, lights) for e in colours[r.id].ends
        )
        for r in plan.regions
    }
