"""Another mood: lead, chroma, key and contrast brought within its conventions."""

from functools import partial

from umber_compass.plan.edits import study
from umber_compass.plan.model import Plan
from umber_compass.plan.moods import MOODS
from umber_compass.steps.harmony.moody import moody
from umber_compass.steps.studies.grow_rule import GrowContext, GrowRule, Version


def _versions(plan: Plan, context: GrowContext) -> list[Version]:
    own = study(plan).mood
    return [
        Version(
            mood.title,
            f"{mood.title.lower()}: {mood.says}",
            partial(moody, plan, mood.name, context.shares),
        )
        for mood in MOODS.values()
        if mood.wishes and (own is None or own.name != mood.name)
    ]


RULE = GrowRule("mood", "Another mood", "sombre, tender, festive …", _versions)
