"""Changes to a plan's scheme and families that need no colour to be computed."""

from itertools import pairwise

from msgspec.structs import replace

from umber_compass.plan.edits import Edit, each_part, study, with_colours, with_scheme
from umber_compass.plan.model import Colour, Pinned, Plan, Solid
from umber_compass.plan.terms import Slot
from umber_compass.words import Words, words

LEAST_SPREAD, MOST_SPREAD = 5.0, 90.0  # wheel degrees


def turned(angle_deg: float) -> float:
    """An angle brought into 0 to under 360; a rounding below nought is nought, not 360."""
    return angle_deg % 360 % 360


def half_turned(angle_deg: float) -> float:
    """An angle brought into -180 to under 180."""
    return (angle_deg + 180) % 360 - 180


def turn_lead(angle_deg: float) -> Edit:
    """The leading hue put at an angle of the wheel; the scheme turns with it."""
    return Edit(
        words("turn the scheme to {angle:.0f}°", angle=turned(angle_deg)),
        lambda plan: with_scheme(plan, lead_deg=turned(angle_deg)),
        "lead",
    )


_FREE_SLOTS: tuple[Slot, ...] = ("B", "C", "D")


def set_offset(slot: Slot, offset_deg: float) -> Edit:
    """Where a hue of a free scheme stands from the lead, wheel degrees."""

    def change(plan: Plan) -> Plan:
        offsets = list(study(plan).scheme.offsets)
        at = _FREE_SLOTS.index(slot)
        if at >= len(offsets):
            return plan
        offsets[at] = turned(offset_deg)
        return with_scheme(plan, offsets=tuple(offsets), chosen=True)

    text = words("put {slot} at {deg:.0f}° from the lead", slot=slot, deg=turned(offset_deg))
    return Edit(text, change, f"offset {slot}")


def add_hue() -> Edit:
    """One more hue in a free scheme, in the widest gap of its wheel; three at most beside A."""

    def change(plan: Plan) -> Plan:
        offsets = study(plan).scheme.offsets
        if len(offsets) >= len(_FREE_SLOTS):
            return plan
        stand = sorted((0.0, *offsets))
        gaps = [(b - a, a) for a, b in pairwise((*stand, 360.0))]
        wide, start = max(gaps)
        return with_scheme(plan, offsets=(*offsets, turned(start + wide / 2)), chosen=True)

    return Edit(words("add a hue"), change)


def turn_family(slot: Slot, turn_deg: float) -> Edit:
    """All colours of one slot turned by OKLCh degrees, from where they stood before the drag."""

    def one(colour: Solid) -> Solid:
        if isinstance(colour, Pinned) or colour.slot != slot:
            return colour
        return replace(colour, hue_offset_deg=half_turned(colour.hue_offset_deg + turn_deg))

    def change(plan: Plan) -> Plan:
        colours = study(plan).colours
        return with_colours(plan, {k: each_part(c, one) for k, c in colours.items()})

    text = words("turn family {slot} by {turn:+.0f}°", slot=slot, turn=turn_deg)
    return Edit(text, change, f"family {slot}")


def set_colour(region_id: str, colour: Colour, name: Words, merge: str | None = None) -> Edit:
    """A region's whole colour replaced."""
    return Edit(name, lambda plan: with_colours(plan, {region_id: colour}), merge)
