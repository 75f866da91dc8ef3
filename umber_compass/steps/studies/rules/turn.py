"""The whole scheme turned on its wheel."""

from umber_compass.plan.edits import study, with_scheme
from umber_compass.plan.harmony_edits import turned
from umber_compass.plan.model import Plan
from umber_compass.steps.studies.spec import GrowRule, Soil, Version, lead_word

_STEP = 30


def _versions(plan: Plan, soil: Soil) -> list[Version]:
    lead, found = study(plan).scheme.lead_deg, []
    for by in range(_STEP, 360, _STEP):
        made = with_scheme(plan, lead_deg=turned(lead + by))
        word = lead_word(study(made))
        found.append(Version(f"{word.capitalize()} leads", f"the scheme turned {by}°", made))
    return found


RULE = GrowRule("turn", "Turn the scheme", "in steps of 30°", _versions)
