"""Another slot leads: two families exchange their hues."""

from functools import partial

from msgspec.structs import replace

from umber_compass.plan.edits import each_free, study
from umber_compass.plan.model import Plan
from umber_compass.plan.terms import Slot
from umber_compass.steps.harmony.families import hue_word
from umber_compass.steps.harmony.scheme import needle_angles
from umber_compass.steps.studies.grow_rule import GrowContext, GrowRule, Version


def _versions(plan: Plan, context: GrowContext) -> list[Version]:
    scheme, found = study(plan).scheme, []
    for slot, angle in needle_angles(scheme).items():
        if slot in ("A", "grey"):
            continue
        word = hue_word(scheme.wheel, angle)
        title, says = f"{word.capitalize()} leads", f"{slot} leads, A takes its place"
        found.append(Version(title, says, partial(_swapped, plan, slot)))
    return found


def _swapped(plan: Plan, slot: Slot) -> Plan:
    """The families of A and another slot with their hues exchanged; tinted greys go with A’s."""
    other: dict[Slot, Slot] = {"A": slot, slot: "A"}
    return each_free(plan, lambda s: replace(s, slot=other.get(s.slot, s.slot)))


RULE = GrowRule("lead", "Swap which hue leads", "two families exchange their hues", _versions)
