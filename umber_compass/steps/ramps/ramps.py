"""Each material's steps from dark to light, by its recipe."""

from collections.abc import Mapping, Sequence
from functools import lru_cache
from typing import NamedTuple

import numpy as np

from umber_compass.colour.measured import Measured, measured
from umber_compass.colour.packed import Levels
from umber_compass.colour.spaces import Floats, parse_hex, to_bytes
from umber_compass.picture.light import lights_of
from umber_compass.plan.model import Ramp, Region
from umber_compass.plan.ramp_edits import FIRST
from umber_compass.plan.rig import Rig
from umber_compass.steps.harmony.colours import RegionColour
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
    base_hex: str, ramp: Ramp, numbers: Mapping[str, float], rig: Rig | None = None
) -> Steps:
    """The steps of one colour. `numbers` are the practice's rules, `rig` the plan's light."""
    own = rig if RECIPES[ramp.recipe].uses_light else None
    return _made(base_hex, ramp, *_numbers(ramp, numbers), own)


def _numbers(ramp: Ramp, numbers: Mapping[str, float]) -> tuple[float, float, float]:
    """Degrees, spacing and points of a ramp's steps."""
    degrees = numbers["ramp.degrees"] if RECIPES[ramp.recipe].turns else 0.0
    own = degrees if ramp.degrees is None else ramp.degrees
    return own, numbers["ramp.spacing"], numbers["ramp.hsb"]


@lru_cache(4096)  # most of a plan's ramps stay as they are while one is changed
def _made(
    base_hex: str, ramp: Ramp, degrees: float, spacing: float, points: float, rig: Rig | None
) -> Steps:
    ask = _ask(base_hex, ramp, degrees, spacing, points, rig)
    return _measured(ask, ramp, RECIPES[ramp.recipe].steps(ask))


def _ask(
    base_hex: str, ramp: Ramp, degrees: float, spacing: float, points: float, rig: Rig | None
) -> Ask:
    return Ask(
        base=parse_hex(base_hex),
        darker=ramp.darker,
        lighter=ramp.lighter,
        degrees=degrees,
        spacing=spacing,
        points=points,
        lights=None if rig is None else lights_of(rig),
        tint=None if ramp.tint is None else parse_hex(ramp.tint),
        spread=ramp.spread,
        same_in_grey=ramp.same_in_grey,
        dark_chroma=ramp.dark_chroma,
        light_chroma=ramp.light_chroma,
        grey_tint=ramp.grey_tint,
        darkest=ramp.darkest,
        picked=tuple(tuple(parse_hex(h).tolist()) for h in ramp.picked),
    )


def _measured(ask: Ask, ramp: Ramp, made: Floats) -> Steps:
    """Steps as they are shown: on 8 bits, none of them twice."""
    levels, base = to_bytes(made), to_bytes(ask.base)
    # A side without room gives steps to the other: the base is where it is.
    at = int(np.abs(levels.astype(int) - base.astype(int)).sum(axis=1).argmin())
    kept = _different(levels, at)
    steps = tuple(measured(levels[kept], ("given",) * len(kept)))
    return Steps(ramp, steps, kept.index(at), len(levels) - len(kept))


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
    regions: Sequence[Region],
    recipes: Mapping[str, Ramp],
    colours: Mapping[str, RegionColour],
    numbers: Mapping[str, float],
    rig: Rig,
    tick: Tick = idle,
) -> dict[str, tuple[Steps, ...]]:
    """Every region's ramp, by id; a gradient has one for each end. `numbers` are the rules."""
    many: dict[str, list[tuple[str, Ramp]]] = {}
    for region in regions:
        ramp = ramp_of(recipes, region.id)
        wanted = many.setdefault(ramp.recipe if RECIPES[ramp.recipe].many else "", [])
        wanted.extend((end.hex, ramp) for end in colours[region.id].ends)
    made: dict[tuple[str, Ramp], Steps] = {}
    for recipe, wanted in many.items():
        tick(-1.0)
        together = RECIPES[recipe].many if recipe else None
        if together is None:
            made.update(((h, r), make_steps(h, r, numbers, rig)) for h, r in wanted)
            continue
        asks = [_ask(h, r, *_numbers(r, numbers), None) for h, r in wanted]
        found = together(asks)
        each = zip(wanted, asks, found, strict=True)
        made.update((key, _measured(ask, key[1], steps)) for key, ask, steps in each)
    return {
        r.id: tuple(made[end.hex, ramp_of(recipes, r.id)] for end in colours[r.id].ends)
        for r in regions
    }
