"""Changes to how a plan's shade and light steps are made."""

from msgspec.structs import replace

from umber_compass.plan.edits import Edit, study, with_study
from umber_compass.plan.model import Plan, Ramp
from umber_compass.words import words

FIRST = Ramp(recipe="cool-warm")  # what every region begins with


def set_recipe(region_id: str, ramp: Ramp, name: str) -> Edit:
    """How one region's steps are made."""

    def change(plan: Plan) -> Plan:
        now = study(plan)
        return with_study(plan, replace(now, recipes={**now.recipes, region_id: ramp}))

    text = words("{recipe} steps for {name}", recipe=ramp.recipe, name=name)
    return Edit(text, change, f"ramp {region_id} {ramp.recipe}")


def set_all_recipes(ramp: Ramp) -> Edit:
    """The same recipe for every region."""

    def change(plan: Plan) -> Plan:
        every = {r.id: ramp for r in plan.regions}
        return with_study(plan, replace(study(plan), recipes=every))

    text = words("{recipe} steps for every region", recipe=ramp.recipe)
    return Edit(text, change, f"ramps {ramp.recipe}")
