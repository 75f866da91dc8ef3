"""Chroma brought down off the focus, or up all over."""

from functools import partial

from umber_compass.plan.model import Plan
from umber_compass.steps.harmony.leaning import strengthened
from umber_compass.steps.studies.spec import GrowRule, Soil, Version

_QUIETER, _STRONGER = (0.5, 1.0), (1.45, 1.25)  # times; of the focus


def _versions(plan: Plan, soil: Soil) -> list[Version]:
    return [
        Version("Quieter", "chroma halved off the focus", partial(strengthened, plan, *_QUIETER)),
        Version("Stronger", "chroma up by half", partial(strengthened, plan, *_STRONGER)),
    ]


RULE = GrowRule(
    "strength", "Quieter, stronger", "chroma off the focus halved, or up", _versions, "tone"
)
