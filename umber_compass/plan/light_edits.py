"""Changes to a plan's lights."""

from msgspec.structs import replace

from umber_compass.plan.edits import Edit, study, with_study
from umber_compass.plan.model import Anchor, Form, Plan, Rig
from umber_compass.words import Words, words

OFF = Rig(on=False)


def rig_of(plan: Plan) -> Rig:
    """The rig of the plan's study; one that is off until the artist thinks of light."""
    return study(plan).rig or OFF


def with_rig(plan: Plan, rig: Rig) -> Plan:
    """The plan with another rig."""
    return with_study(plan, replace(study(plan), rig=rig))


def lit(plan: Plan) -> Plan:
    """The plan with its rig on, as it stands or as every rig begins."""
    return plan if rig_of(plan).on else with_rig(plan, replace(rig_of(plan), on=True))


def switch_rig(on: bool) -> Edit:
    """The whole light on or off; off, the picture is flat."""
    return Edit(
        words("turn the light on" if on else "turn the light off"),
        lambda plan: with_rig(plan, replace(rig_of(plan), on=on)),
    )


def set_key(name: Words, merge: str | None = None, **changes: object) -> Edit:
    """The key light changed; the light is on then."""

    def apply(plan: Plan) -> Plan:
        rig = rig_of(plan)
        key = replace(rig.lamps[0], **changes)
        return with_rig(plan, replace(rig, on=True, lamps=(key, *rig.lamps[1:])))

    return Edit(name, apply, merge)


def set_ambient(name: Words, merge: str | None = None, **changes: object) -> Edit:
    """The ambient light changed; the light is on then."""

    def apply(plan: Plan) -> Plan:
        rig = rig_of(plan)
        return with_rig(plan, replace(rig, on=True, ambient=replace(rig.ambient, **changes)))

    return Edit(name, apply, merge)


def set_terminator(name: Words, merge: str | None = None, **changes: object) -> Edit:
    """The tint where light turns changed."""

    def apply(plan: Plan) -> Plan:
        rig = rig_of(plan)
        changed = replace(rig.terminator, **changes)
        return with_rig(plan, replace(rig, on=True, terminator=changed))

    return Edit(name, apply, merge)


def set_crevice(percent: float) -> Edit:
    """How much closeness to what lies in front takes of the ambient light, in percent."""
    kept = min(max(percent, 0.0), 100.0)
    return Edit(
        words("set crevices to {n:.0f} %", n=kept),
        lambda plan: with_rig(plan, replace(rig_of(plan), on=True, crevice=kept)),
        "crevice",
    )


def set_anchor(anchor: Anchor) -> Edit:
    """What the exposure holds to the planned values."""
    return Edit(
        words("hold the {anchor} to the planned value", anchor=anchor),
        lambda plan: with_rig(plan, replace(rig_of(plan), on=True, anchor=anchor)),
    )


def set_form(region_id: str, form: Form, name: str) -> Edit:
    """The form a region is lit as."""
    return Edit(
        words("light {name} as {form}", name=name, form=form),
        lambda plan: _changed(plan, region_id, form=form, shares_form_with=None),
    )


def share_form(region_id: str, with_id: str | None, name: str, other: str) -> Edit:
    """A region made one surface with another, or on its own again."""
    text = "make {name} one surface with {other}" if with_id else "make {name} its own surface"
    return Edit(
        words(text, name=name, other=other),
        lambda plan: _changed(plan, region_id, shares_form_with=with_id),
    )


def set_front(region_id: str, front: int | None, name: str) -> Edit:
    """A region's place from back (0) to front, or None for the order of roles and areas."""
    return Edit(
        words("move {name} forward or back", name=name),
        lambda plan: _changed(plan, region_id, front=front),
        f"front {region_id}",
    )


def _changed(plan: Plan, region_id: str, **changes: object) -> Plan:
    regions = (replace(r, **changes) if r.id == region_id else r for r in plan.regions)
    return replace(plan, regions=tuple(regions))
