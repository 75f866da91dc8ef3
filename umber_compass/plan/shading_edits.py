"""Changes to how the sketch's own light and dark goes through the colours."""

from msgspec.structs import replace

from umber_compass.plan.edits import Edit, study, with_study
from umber_compass.plan.model import Doubled, Plan, Shading, ShadingHue, Study
from umber_compass.plan.ranges import bounded
from umber_compass.words import words


def shading_of(now: Study) -> Shading:
    """How a study shades; as the sketch is where nothing was said."""
    return now.shading or Shading()


def _changed(plan: Plan, **changes: object) -> Plan:
    now = study(plan)
    return with_study(plan, replace(now, shading=replace(shading_of(now), **changes)))


def switch_shading(on: bool) -> Edit:
    """The artist's own shading, or flat colours."""
    text = words("keep your shading") if on else words("leave your shading out")
    return Edit(text, lambda plan: _changed(plan, on=on))


def set_shading_strength(percent: float) -> Edit:
    """How strong the shading is, percent of the sketch's."""
    kept = bounded(Doubled, percent)
    return Edit(
        words("set your shading to {n:.0f} %", n=kept),
        lambda plan: _changed(plan, strength=kept),
        "shading strength",
    )


def set_shading_hue(hue: ShadingHue) -> Edit:
    """What hue does in shade and light."""
    says = {"kept": "keeps its hue", "cool-warm": "cools and warms", "rig": "follows the lamps"}
    return Edit(
        words("let shading that {says}", says=says[hue]), lambda plan: _changed(plan, hue=hue)
    )


def shade_beside(beside: bool) -> Edit:
    """The shading beside the forms, or instead of them."""
    text = words("shade beside the forms") if beside else words("shade instead of forms")
    return Edit(text, lambda plan: _changed(plan, beside=beside))
