"""Changes to a plan, each with the name that undo shows.

An edit is a value: its name, a key that joins the moves of one drag into one step, and a function
from plan to plan. Edits that must compute a colour are made in steps/ from these.
"""

from collections.abc import Callable
from typing import NamedTuple, TypeAlias

from msgspec.structs import replace

from umber_compass.plan.model import (
    Colour,
    Gradient,
    Pinned,
    Plan,
    Planned,
    Ramp,
    Region,
    Role,
    Slot,
    Study,
)
from umber_compass.words import Words, words

End: TypeAlias = int  # 0 the only or first colour of a region, 1 the second of a gradient


class Edit(NamedTuple):
    """A named change. Edits with the same `merge` key that follow each other are one step."""

    name: Words
    apply: Callable[[Plan], Plan]
    merge: str | None = None


def study(plan: Plan) -> Study:
    """The study the plan shows."""
    return next(s for s in plan.studies if s.id == plan.current_study)


def region(plan: Plan, region_id: str) -> Region:
    """The region with this id."""
    return next(r for r in plan.regions if r.id == region_id)


def with_study(plan: Plan, changed: Study) -> Plan:
    """The plan with its current study replaced."""
    others = (changed if s.id == plan.current_study else s for s in plan.studies)
    return replace(plan, studies=tuple(others))


def with_scheme(plan: Plan, **changes: object) -> Plan:
    """The plan with some of its scheme's fields changed."""
    now = study(plan)
    return with_study(plan, replace(now, scheme=replace(now.scheme, **changes)))


def with_colours(plan: Plan, colours: dict[str, Colour]) -> Plan:
    """The plan with some regions' colours replaced."""
    now = study(plan)
    return with_study(plan, replace(now, colours={**now.colours, **colours}))


def part(colour: Colour, end: End) -> Planned | Pinned:
    """The solid colour at one end of a region's colour."""
    if isinstance(colour, Gradient):
        return colour.second if end else colour.first
    return colour


def with_part(colour: Colour, end: End, solid: Planned | Pinned) -> Colour:
    """A region's colour with one end replaced."""
    if isinstance(colour, Gradient):
        return replace(colour, second=solid) if end else replace(colour, first=solid)
    return solid


def each_part(colour: Colour, change: Callable[[Planned | Pinned], Planned | Pinned]) -> Colour:
    """A region's colour with the change made to both ends, or to its only colour."""
    if isinstance(colour, Gradient):
        return replace(colour, first=change(colour.first), second=change(colour.second))
    return change(colour)


def turn_lead(angle_deg: float) -> Edit:
    """The leading hue put at an angle of the wheel; the scheme turns with it."""
    return Edit(
        words("turn the scheme to {angle:.0f}°", angle=angle_deg % 360),
        lambda plan: with_scheme(plan, lead_deg=angle_deg % 360),
        "lead",
    )


def set_spread(spread_deg: float) -> Edit:
    """The angle between the hues that support or answer."""
    kept = min(max(spread_deg, 5.0), 90.0)
    return Edit(
        words("spread the scheme {angle:.0f}°", angle=kept),
        lambda plan: with_scheme(plan, spread_deg=kept),
        "spread",
    )


def set_wished_share(slot: Slot, share: float) -> Edit:
    """How much of the picture a slot should hold, 0-1."""

    def apply(plan: Plan) -> Plan:
        wished = {**study(plan).scheme.shares, slot: min(max(share, 0.0), 1.0)}
        return with_scheme(plan, shares=wished)

    return Edit(words("wish {slot} a share of {share:.0%}", slot=slot, share=share), apply, slot)


def turn_family(slot: Slot, turn_deg: float) -> Edit:
    """All colours of one slot turned by OKLCh degrees, from where they stood before the drag."""

    def turned(colour: Planned | Pinned) -> Planned | Pinned:
        if isinstance(colour, Pinned) or colour.slot != slot:
            return colour
        offset = (colour.hue_offset_deg + turn_deg + 180) % 360 - 180
        return replace(colour, hue_offset_deg=offset)

    def apply(plan: Plan) -> Plan:
        colours = study(plan).colours
        return with_colours(plan, {k: each_part(c, turned) for k, c in colours.items()})

    return Edit(
        words("turn family {slot} by {turn:+.0f}°", slot=slot, turn=turn_deg),
        apply,
        f"family {slot}",
    )


def set_colour(region_id: str, colour: Colour, name: Words, merge: str | None = None) -> Edit:
    """A region's whole colour replaced."""
    return Edit(name, lambda plan: with_colours(plan, {region_id: colour}), merge)


def set_recipe(region_id: str, ramp: Ramp, name: str) -> Edit:
    """How one region's steps are made."""

    def apply(plan: Plan) -> Plan:
        now = study(plan)
        return with_study(plan, replace(now, recipes={**now.recipes, region_id: ramp}))

    return Edit(
        words("{recipe} steps for {name}", recipe=ramp.recipe, name=name),
        apply,
        f"ramp {region_id} {ramp.recipe}",
    )


def set_all_recipes(ramp: Ramp) -> Edit:
    """The same recipe for every region."""

    def apply(plan: Plan) -> Plan:
        every = {r.id: ramp for r in plan.regions}
        return with_study(plan, replace(study(plan), recipes=every))

    return Edit(
        words("{recipe} steps for every region", recipe=ramp.recipe), apply, f"ramps {ramp.recipe}"
    )


def _with_region(plan: Plan, changed: Region) -> Plan:
    return replace(plan, regions=tuple(changed if r.id == changed.id else r for r in plan.regions))


def rename(region_id: str, name: str) -> Edit:
    """A region's name; an empty one is not taken."""
    kept = " ".join(name.split())[:200]

    def apply(plan: Plan) -> Plan:
        if not kept:
            return plan
        return _with_region(plan, replace(region(plan, region_id), name=kept))

    return Edit(words("name a region {name}", name=kept), apply)


def set_role(region_id: str, role: Role, name: str) -> Edit:
    """What part a region plays."""
    return Edit(
        words("make {name} {role}", name=name, role=role),
        lambda plan: _with_region(plan, replace(region(plan, region_id), role=role)),
    )


def set_title(title: str) -> Edit:
    """The plan's title."""
    kept = " ".join(title.split())[:200]
    return Edit(
        words("title the plan {title}", title=kept),
        lambda plan: replace(plan, title=kept) if kept else plan,
    )


def set_rule(key: str, number: float, title: str) -> Edit:
    """One number of the practice, for this plan."""
    return Edit(
        words("set {title} to {number:g}", title=title, number=number),
        lambda plan: replace(plan, overrides={**plan.overrides, key: number}),
        f"rule {key}",
    )


def drop_rules() -> Edit:
    """Every number of the practice back to what the practice says."""
    return Edit(words("restore the practice's numbers"), lambda plan: replace(plan, overrides={}))
