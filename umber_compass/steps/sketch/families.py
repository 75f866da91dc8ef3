"""Regions made one family: they follow one hue of the scheme, each from where it stands."""

from collections.abc import Sequence

from umber_compass.plan.edits import Edit, each_part, part, study, with_colours
from umber_compass.plan.model import Pinned, Plan, Planned, Solid
from umber_compass.steps.harmony.scheme import slot_hues
from umber_compass.words import words


def join_family(plan: Plan, ids: Sequence[str]) -> Edit:
    """Several regions made to follow the slot that the first of them follows, no colour changed: a
    turn is kept as an offset. Where the first is given or grey, the leading hue is taken."""
    now = study(plan)
    first = part(now.colours[ids[0]], 0)
    known = isinstance(first, Planned) and first.slot in slot_hues(now.scheme)
    slot = first.slot if isinstance(first, Planned) and known and first.slot != "grey" else "A"

    def change(plan: Plan) -> Plan:
        held = study(plan)
        hues = slot_hues(held.scheme)

        def follow(solid: Solid) -> Solid:
            if isinstance(solid, Pinned) or solid.slot == slot:
                return solid
            hue = hues.get(solid.slot, hues["A"]) + solid.hue_offset_deg
            turn = (hue - hues[slot] + 180) % 360 - 180
            return Planned(slot=slot, hue_offset_deg=turn, value=solid.value, chroma=solid.chroma)

        return with_colours(plan, {i: each_part(held.colours[i], follow) for i in ids})

    return Edit(words("make {count} regions one family", count=len(ids)), change)
