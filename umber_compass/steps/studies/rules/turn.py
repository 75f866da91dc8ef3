"""The whole scheme turned on its wheel."""

from functools import partial

from umber_compass.plan.edits import study, with_scheme
from umber_compass.plan.harmony_edits import turned
from umber_compass.plan.model import Plan
from umber_compass.steps.harmony.families import hue_word
from umber_compass.steps.studies.grow_rule import GrowContext, GrowRule, Version

_STEP = 30


def _versions(plan: Plan, context: GrowContext) -> list[Version]:
    lead, found = study(plan).scheme.lead_deg, []
    for by in range(_STEP, 360, _STEP):
        to = turned(lead + by)
        title = f"{hue_word(study(plan).scheme.wheel, to).capitalize()} leads"
        make = partial(with_scheme, plan, lead_deg=to)
        found.append(Version(title, f"the scheme turned {by}°", make))
    return found


RULE = GrowRule("turn", "Turn the scheme", "in steps of 30°", _versions)
