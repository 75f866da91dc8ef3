"""The lights swapped: the key’s colour with the ambient light’s, or the key on the other side."""

from functools import partial

from msgspec.structs import replace

from umber_compass.plan.light_edits import rig_of, with_rig
from umber_compass.plan.model import Plan
from umber_compass.plan.rig import Lamp
from umber_compass.steps.studies.grow_rule import GrowContext, GrowRule, Version


def _versions(plan: Plan, context: GrowContext) -> list[Version]:
    rig = rig_of(plan)
    if not rig.on:
        return []
    key, ambient = rig.key, rig.ambient
    swapped = replace(key, hex=ambient.hex)
    across = replace(key, direction=(-key.direction[0], key.direction[1], key.direction[2]))

    def lamps(changed: Lamp) -> tuple[Lamp, ...]:
        return tuple(changed if lamp is key else lamp for lamp in rig.lamps)

    made = (
        (
            "Lights swapped",
            "key and ambient exchange colours",
            replace(rig, ambient=replace(ambient, hex=key.hex), lamps=lamps(swapped)),
        ),
        ("Lit from across", "the key on the other side", replace(rig, lamps=lamps(across))),
    )
    return [Version(title, says, partial(with_rig, plan, r)) for title, says, r in made]


RULE = GrowRule("lights", "Swap the lights", "their colours, or their side", _versions, "light")
