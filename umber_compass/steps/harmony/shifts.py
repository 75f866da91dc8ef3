"""Changes of planned colours by so much value, chroma and hue."""

from collections.abc import Callable, Mapping
from typing import NamedTuple

import numpy as np
from msgspec.structs import replace

from umber_compass.colour.spaces import Floats, decode, oklab, oklab_to_linear, parse_hex, value
from umber_compass.plan.edits import Edit, each_part, part, study, with_colours
from umber_compass.plan.model import Pinned, Plan, Planned
from umber_compass.plan.ranges import bounded
from umber_compass.plan.terms import Value
from umber_compass.steps.harmony.colours import RegionColour
from umber_compass.steps.harmony.edits import MOST_CHROMA
from umber_compass.words import words


class Shift(NamedTuple):
    """A change of one region's colour, both ends of a gradient: value L*, OKLCh chroma, OKLCh hue
    in degrees, each to be added."""

    value: float = 0.0
    chroma: float = 0.0
    hue_deg: float = 0.0
    shown: float = 1.0  # chroma the screen shows now: what is planned beyond it changes nothing


Shifts = Mapping[str, Shift]


def shift_colours(shifts: Shifts) -> Callable[[Plan], Plan]:
    """A change of plan that shifts some regions' planned colours; given ones stay."""

    def shifted(by: Shift) -> Callable[[Planned | Pinned], Planned | Pinned]:
        def one(solid: Planned | Pinned) -> Planned | Pinned:
            if isinstance(solid, Pinned):
                return solid
            return replace(
                solid,
                value=bounded(Value, solid.value + by.value),
                chroma=min(max(min(solid.chroma, by.shown) + by.chroma, 0.0), MOST_CHROMA)
                if by.chroma
                else solid.chroma,
                hue_offset_deg=(solid.hue_offset_deg + by.hue_deg + 180) % 360 - 180
                if by.hue_deg
                else solid.hue_offset_deg,
            )

        return one

    def apply(plan: Plan) -> Plan:
        colours = study(plan).colours
        return with_colours(
            plan, {r: each_part(colours[r], shifted(by)) for r, by in shifts.items()}
        )

    return apply


def shift_values(moved: Mapping[str, float]) -> Callable[[Plan], Plan]:
    """A change of plan that moves the planned values of some regions by some L* each."""
    return shift_colours({r: Shift(by) for r, by in moved.items()})


def shift_family(slot: str, by: float) -> Edit:
    """The planned values of one slot's colours moved together, L*, from where they stood before the
    drag; locked ones stay."""

    def change(plan: Plan) -> Plan:
        now = study(plan)
        mine = (r for r, c in now.colours.items() if getattr(part(c, 0), "slot", "") == slot)
        return shift_values({r: by for r in mine if r not in now.locked})(plan)

    return Edit(
        words("move family {slot} by {by:+.0f} L*", slot=slot, by=by), change, f"values {slot}"
    )


def all_shifts(taken: list[Shifts]) -> Callable[[Plan], Plan]:
    """The change of plan that makes several changes one after the other."""

    def apply(plan: Plan) -> Plan:
        for shifts in taken:
            plan = shift_colours(shifts)(plan)
        return plan

    return apply


def mean_lab(colour: RegionColour) -> Floats:
    """A region's own colour, OKLab (3,), in the middle of a gradient."""
    ends = [oklab(decode(parse_hex(e.hex))) for e in colour.ends]
    return np.asarray(sum(ends[1:], ends[0]) / len(ends))


def value_of(lab: Floats) -> float:
    """Value L* of an OKLab colour."""
    return float(value(np.maximum(oklab_to_linear(lab), 0.0)))
