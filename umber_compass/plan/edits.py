"""What an edit is, and the parts of a plan that edits reach for.

An edit is a value: its name, a change from plan to plan, and a key that joins the moves of one drag
into one step. The edits themselves stand beside their step: sketch_edits, harmony_edits,
light_edits, ramp_edits, practice_edits; those that must compute a colour are in
steps/harmony/edits.py.
"""

from collections.abc import Callable
from typing import Any, NamedTuple, TypeAlias

from msgspec.structs import replace

from umber_compass.plan.model import Colour, Gradient, Pinned, Plan, Planned, Region, Solid, Study
from umber_compass.plan.ranges import checked
from umber_compass.words import Words

End: TypeAlias = int  # 0 the only or first colour of a region, 1 the second of a gradient


class Edit(NamedTuple):
    """A named change. Edits with the same `merge` key that follow each other are one step."""

    name: Words
    change: Callable[[Plan], Plan]
    merge: str | None = None
    says: Callable[[Plan, Plan], Words] | None = None  # what came of it, from the plan before

    def apply(self, plan: Plan) -> Plan:
        """The plan after the change, within the records' ranges. Raises Refusal if it would leave
        them."""
        return checked(plan, self.change(plan))


def study(plan: Plan) -> Study:
    """The study the plan shows."""
    return next(s for s in plan.studies if s.id == plan.current_study)


def region(plan: Plan, region_id: str) -> Region:
    """The region with this id. Raises KeyError where there is none."""
    found = find_region(plan, region_id)
    if found is None:
        raise KeyError(region_id)
    return found


def find_region(plan: Plan, region_id: str) -> Region | None:
    """The region with this id, or None: nothing may be chosen."""
    return next((r for r in plan.regions if r.id == region_id), None)


def region_of_label(plan: Plan, label: int) -> Region | None:
    """The region whose pixels have this number, or None."""
    return next((r for r in plan.regions if r.label == label), None)


def with_study(plan: Plan, changed: Study) -> Plan:
    """The plan with its current study replaced."""
    others = (changed if s.id == plan.current_study else s for s in plan.studies)
    return replace(plan, studies=tuple(others))


def with_scheme(plan: Plan, **changes: Any) -> Plan:
    """The plan with some of its scheme's fields changed."""
    now = study(plan)
    return with_study(plan, replace(now, scheme=replace(now.scheme, **changes)))


def with_colours(plan: Plan, colours: dict[str, Colour]) -> Plan:
    """The plan with some regions' colours replaced."""
    now = study(plan)
    return with_study(plan, replace(now, colours={**now.colours, **colours}))


def with_region(plan: Plan, region_id: str, **changes: Any) -> Plan:
    """The plan with some of a region's fields changed."""
    regions = (replace(r, **changes) if r.id == region_id else r for r in plan.regions)
    return replace(plan, regions=tuple(regions))


def part(colour: Colour, end: End) -> Solid:
    """The solid colour at one end of a region's colour."""
    if isinstance(colour, Gradient):
        return colour.second if end else colour.first
    return colour


def with_part(colour: Colour, end: End, solid: Solid) -> Colour:
    """A region's colour with one end replaced."""
    if isinstance(colour, Gradient):
        return replace(colour, second=solid) if end else replace(colour, first=solid)
    return solid


def each_part(colour: Colour, change: Callable[[Solid], Solid]) -> Colour:
    """A region's colour with the change made to both ends, or to its only colour."""
    if isinstance(colour, Gradient):
        return replace(colour, first=change(colour.first), second=change(colour.second))
    return change(colour)


def each_free(plan: Plan, change: Callable[[Planned], Solid]) -> Plan:
    """The plan with the change made to every colour of the study that is neither locked nor
    given."""

    def free(solid: Solid) -> Solid:
        return solid if isinstance(solid, Pinned) else change(solid)

    now = study(plan)
    mine = {r: c for r, c in now.colours.items() if r not in now.locked}
    return with_colours(plan, {r: each_part(c, free) for r, c in mine.items()})
