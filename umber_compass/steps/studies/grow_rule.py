"""What a rule for growing studies is made of."""

from collections.abc import Callable
from typing import NamedTuple

import numpy as np

from umber_compass.plan.edits import study
from umber_compass.plan.model import Plan, Study
from umber_compass.plan.palettes import GivenPalette
from umber_compass.steps.harmony.colours import region_colours
from umber_compass.steps.harmony.families import hue_word
from umber_compass.steps.harmony.touching import Touching


class GrowContext(NamedTuple):
    """What rules may look at beside the plan they change."""

    shares: dict[str, float]
    touching: Touching
    library: tuple[GivenPalette, ...]


class Version(NamedTuple):
    """One version: its title, what it is in a few words, and what makes the plan that shows it."""

    title: str
    says: str
    make: Callable[[], Plan]


class GrowRule(NamedTuple):
    """A rule: how it is called, what it does, and the versions it makes of a plan's study."""

    name: str
    title: str
    says: str
    versions: Callable[[Plan, GrowContext], list[Version]]
    kind: str = "hue"  # what it changes; two of a kind are not laid over each other
    near: bool = False  # whether its versions are wished though they lie near each other
    holds: bool = True  # whether skin, fur and locked colours are put back to what they were


def lead_word(of: Study) -> str:
    """The leading hue of a study in a word."""
    return hue_word(of.scheme.wheel, of.scheme.lead_deg)


def ground_value(plan: Plan, shares: dict[str, float]) -> float:
    """The mean value L* of a plan's grounds by area; of all regions where none is a ground."""
    now = study(plan)
    shown = region_colours(now.scheme, now.colours)
    mine = grounds_of(plan)
    weight = [shares.get(r, 0.0) + 1e-9 for r in mine]
    return float(np.average([shown[r].mean_value for r in mine], weights=weight))


def grounds_of(plan: Plan) -> list[str]:
    """The regions that are grounds; all of them where none is."""
    return [r.id for r in plan.regions if r.role == "ground"] or [r.id for r in plan.regions]
