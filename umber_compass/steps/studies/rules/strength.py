"""Chroma brought down off the focus, or up all over."""

from functools import partial

from umber_compass.plan.edits import study
from umber_compass.plan.model import Plan
from umber_compass.steps.harmony.colours import region_colours
from umber_compass.steps.harmony.leaning import strengthened
from umber_compass.steps.harmony.mood import mood_measures
from umber_compass.steps.studies.grow_rule import GrowContext, GrowRule, Version

_STRONG = 11.0  # mean OKLCh chroma x 100 from which nothing stronger is offered
_QUIETER, _STRONGER = (0.5, 1.0), (1.45, 1.25)  # times; of the focus


def _versions(plan: Plan, context: GrowContext) -> list[Version]:
    now = study(plan)
    chroma = mood_measures(region_colours(now.scheme, now.colours), context.shares)["chroma"]
    quieter = partial(strengthened, plan, *_QUIETER)
    found = [Version("Quieter", "chroma halved off the focus", quieter)]
    if chroma < _STRONG:
        stronger = partial(strengthened, plan, *_STRONGER)
        found.append(Version("Stronger", "chroma up by half", stronger))
    return found


RULE = GrowRule(
    "strength", "Quieter, stronger", "chroma off the focus halved, or up", _versions, "tone"
)
