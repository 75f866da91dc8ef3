"""Everything leaned toward warm or toward cool."""

from functools import partial

from umber_compass.plan.model import Plan
from umber_compass.steps.harmony.leaning import leaned
from umber_compass.steps.studies.grow_rule import GrowContext, GrowRule, Version

_BY = 0.035  # OKLab toward a pole


def _versions(plan: Plan, context: GrowContext) -> list[Version]:
    return [
        Version("Warmer", "all leaned toward warm", partial(leaned, plan, _BY)),
        Version("Cooler", "all leaned toward cool", partial(leaned, plan, -_BY)),
    ]


RULE = GrowRule("temperature", "Warmer, cooler", "all leaned toward a pole", _versions)
