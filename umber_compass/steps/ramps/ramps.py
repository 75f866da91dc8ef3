"""Each material's steps from dark to light, by its recipe."""

from collections.abc import Iterable, Mapping
from functools import lru_cache
from typing import NamedTuple

from umber_compass.colour.measured import Measured, measured
from umber_compass.colour.packed import Levels
from umber_compass.colour.spaces import parse_hex, to_bytes
from umber_compass.picture.light import lights_of
from umber_compass.plan.model import Ramp, Region, Scheme
from umber_compass.plan.ramp_edits import FIRST
from umber_compass.plan.rig import Rig
from umber_compass.steps.harmony.colours import RegionColour
from umber_compass.steps.harmony.scheme import slot_hues
from umber_compass.steps.ramps.recipes import RECIPES, Ask
from umber_compass.words import Words, words
from umber_compass.work import Tick, idle


class Steps(NamedTuple):
    """A ramp: its steps darkest first, and which of them is the base."""

    ramp: Ramp
    steps: tuple[Measured, ...]
    base: int
    left_out: int = 0  # steps that would be the same as others

    @property
    def says(self) -> Words | None:
        """That steps were left out; None where none was."""
        if not self.left_out:
            return None
        return words("{n} of the steps fall together with others", n=self.left_out)


def make_steps(
    base_hex: str,
    ramp: Ramp,
    numbers: Mapping[str, float],
    rig: Rig | None = None,
    family_hue: float | None = None,
) -> Steps:
    """The steps of one colour. `numbers` are the practice's rules, `rig` the plan's light,
    `family_hue` the OKLCh hue its family stands at."""
    turning = RECIPES[ramp.recipe].turns
    degrees = numbers["ramp.degrees"] if turning else 0.0
    return _made(
        base_hex,
        ramp,
        degrees if ramp.degrees is None else ramp.degrees,
        numbers["ramp.spacing"],
        numbers["ramp.hsb"],
        rig if RECIPES[ramp.recipe].uses_light else None,
        family_hue,
    )


@lru_cache(4096)  # most of a plan's ramps stay as they are while one is changed
def _made(
    base_hex: str,
    ramp: Ramp,
    degrees: float,
    spacing: float,
    points: float,
    rig: Rig | None,
    family_hue: float | None,
) -> Steps:
    ask = Ask(
        base=parse_hex(base_hex),
        darker=ramp.darker,
        lighter=ramp.lighter,
        degrees=degrees,
        spacing=spacing,
        points=points,
        lights=None if rig is None else lights_of(rig),
        family_hue=family_hue,
    )
    levels = to_bytes(RECIPES[ramp.recipe].steps(ask))
    kept = _different(levels, ramp.darker)
    steps = tuple(measured(levels[kept], ("given",) * len(kept)))
    return Steps(ramp, steps, kept.index(ramp.darker), len(levels) - len(kept))


def _different(levels: Levels, base: int) -> list[int]:
    """Which steps are different, those nearer to the base first asked."""
    seen: set[bytes] = set()
    kept = []
    for i in sorted(range(len(levels)), key=lambda i: abs(i - base)):
        if levels[i].tobytes() not in seen:
            seen.add(levels[i].tobytes())
            kept.append(i)
    return sorted(kept)


def ramp_of(recipes: Mapping[str, Ramp], region_id: str) -> Ramp:
    """The recipe chosen for a region, or the one every region begins with."""
    return recipes.get(region_id, FIRST)


def all_steps(
    regions: Iterable[Region],
    recipes: Mapping[str, Ramp],
    colours: Mapping[str, RegionColour],
    numbers: Mapping[str, float],
    rig: Rig,
    scheme: Scheme,
    tick: Tick = idle,
) -> dict[str, tuple[Steps, ...]]:
    """Every region's ramp, by id; a gradient has one for each end. `numbers` are the rules."""
    found, said = {}, {str(slot): hue for slot, hue in slot_hues(scheme).items()}
    for region in regions:
        tick(-1.0)
        ramp = ramp_of(recipes, region.id)
        ends = colours[region.id].ends
        found[region.id] = tuple(
            make_steps(e.hex, ramp, numbers, rig, said.get(e.slot)) for e in ends
        )
    return found
