"""Each material's steps from dark to light, by its recipe."""

from collections.abc import Mapping
from functools import lru_cache
from typing import NamedTuple

from umber_compass.colour.spaces import parse_hex, to_bytes
from umber_compass.plan.edits import study
from umber_compass.plan.light_edits import rig_of
from umber_compass.plan.model import Plan, Ramp, Rig
from umber_compass.plan.practices import rules
from umber_compass.steps.colouring import Measured, RegionColour, measured
from umber_compass.steps.light import lights_of
from umber_compass.steps.recipes import RECIPES, Ask

DEFAULT = Ramp(recipe="cool-warm")


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
        rig if RECIPES[ramp.recipe].lit else None,
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


def ramp_of(plan: Plan, region_id: str) -> Ramp:
    """The recipe chosen for a region, or the one every region begins with."""
    return study(plan).recipes.get(region_id, DEFAULT)


def all_steps(plan: Plan, colours: Mapping[str, RegionColour]) -> dict[str, tuple[Steps, ...]]:
    """Every region's ramp, by id; a gradient has one for each end."""
    numbers, rig = rules(plan), rig_of(plan)
    return {
        r.id: tuple(
            make_steps(e.hex, ramp_of(plan, r.id), numbers, rig) for e in colours[r.id].ends
        )
        for r in plan.regions
    }
