"""Fixes that a highlight may have: another material for what shines, or none at all."""

from collections.abc import Callable, Iterable

from umber_compass.plan.model import Region
from umber_compass.plan.settings import change_setting
from umber_compass.plan.terms import Material
from umber_compass.steps.checks.check import Fix, upper
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

_MOST = 2


def other_materials(
    derived: Derived, region: Region, tried: Iterable[Material], good: Callable[[Derived], bool]
) -> list[Fix]:
    """The first two other materials of a region with which a plan is good."""
    fixes: list[Fix] = []
    for material in tried:
        edit = change_setting("region.REGION.material", material, region.id, region.name)
        if material != region.material and good(derived.of(edit.apply(derived.plan))):
            text = words("Make {name} {material}", name=upper(region.name), material=material)
            fixes.append(Fix(material, text, edit._replace(name=text)))
    return fixes[:_MOST]


def without_highlights() -> Fix:
    """Highlights left out of the picture."""
    out = change_setting("light.highlights", False)
    return Fix("no-highlights", words("Leave highlights out"), out)
