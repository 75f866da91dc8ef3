"""Changes to a plan's lights."""

from typing import Any

from msgspec.structs import replace

from umber_compass.plan.edits import Edit, study, with_study
from umber_compass.plan.model import Plan, Study
from umber_compass.plan.ranges import bounded
from umber_compass.plan.rig import Ambient, Lamp, Part, Percent, Rig, Strength, Terminator
from umber_compass.plan.terms import Share
from umber_compass.words import Refusal, Words, words

OFF = Rig(on=False)


def rig_of(plan: Plan) -> Rig:
    """The rig of the plan's study; one that is off until the artist thinks of light."""
    return rig_in(study(plan))


def rig_in(now: Study) -> Rig:
    """The rig of a study; one that is off until the artist thinks of light."""
    return now.rig or OFF


def with_rig(plan: Plan, rig: Rig) -> Plan:
    """The plan with another rig."""
    return with_study(plan, replace(study(plan), rig=rig))


def light_on(plan: Plan) -> Plan:
    """The plan with its rig on, as it stands or as every rig begins."""
    return plan if rig_of(plan).on else with_rig(plan, replace(rig_of(plan), on=True))


def light_off(plan: Plan) -> Plan:
    """The plan with its rig off: flat."""
    return with_rig(plan, replace(rig_of(plan), on=False)) if rig_of(plan).on else plan


_BOUNDS: dict[str, dict[type, Any]] = {
    "strength": {Lamp: Strength, Ambient: Strength, Terminator: Percent},
    "softness": {Lamp: Share},
}


def _kept(record: Lamp | Ambient | Terminator, changes: dict[str, Any]) -> Any:
    """A record of the rig with some fields changed, numbers brought into their ranges."""
    kept = dict(changes)
    for name, kinds in _BOUNDS.items():
        if name in kept:
            kept[name] = bounded(kinds[type(record)], kept[name])
    if "direction" in kept:
        kept["direction"] = tuple(bounded(Part, a) for a in kept["direction"])
    return replace(record, **kept)


def set_lamp(lamp: str, name: Words, merge: str | None = None, **changes: Any) -> Edit:
    """The lamp of this name changed; the light is on then. Raises Refusal, when it is made, where
    the plan has no such lamp."""

    def change(plan: Plan) -> Plan:
        rig = rig_of(plan)
        if all(one.name != lamp for one in rig.lamps):
            raise Refusal(lamp, words("is no lamp of this plan"))
        lamps = (_kept(one, changes) if one.name == lamp else one for one in rig.lamps)
        return with_rig(plan, replace(rig, on=True, lamps=tuple(lamps)))

    return Edit(name, change, merge)


def set_ambient(name: Words, merge: str | None = None, **changes: Any) -> Edit:
    """The ambient light changed; the light is on then."""

    def change(plan: Plan) -> Plan:
        rig = rig_of(plan)
        return with_rig(plan, replace(rig, on=True, ambient=_kept(rig.ambient, changes)))

    return Edit(name, change, merge)
