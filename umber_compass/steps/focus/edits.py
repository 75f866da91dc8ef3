"""Changes of the focus that must know what it is now."""

from umber_compass.plan.edits import Edit, region, study
from umber_compass.plan.focus_edits import set_focus
from umber_compass.plan.model import Plan
from umber_compass.steps.focus.attention import focus_regions
from umber_compass.words import words


def toggle_focus(plan: Plan, region_id: str) -> Edit:
    """A region taken into the focus, or out of it."""
    now, name = focus_regions(plan.regions, study(plan).focus), region(plan, region_id).name
    if region_id in now:
        left = tuple(r for r in now if r != region_id)
        return set_focus(left, words("take {name} out of the focus", name=name))
    return set_focus((*now, region_id), words("take {name} into the focus", name=name))
