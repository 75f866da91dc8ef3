"""Groups of depth moved together, and air between them: grounds, middle grounds, figures."""

from collections.abc import Mapping

import numpy as np
from msgspec.structs import replace

from umber_compass.colour.spaces import Floats, decode, oklab, parse_hex, polar
from umber_compass.plan.edits import Edit, each_part, study, with_colours
from umber_compass.plan.model import Colour, Pinned, Plan, Solid
from umber_compass.plan.ranges import bounded
from umber_compass.plan.terms import Value
from umber_compass.steps.harmony.colours import region_colours
from umber_compass.steps.harmony.edits import MOST_CHROMA
from umber_compass.steps.harmony.scheme import slot_hues
from umber_compass.steps.harmony.shifts import Shift, mean_lab, shift_colours, value_of
from umber_compass.words import words

GROUPS: dict[str, tuple[str, ...]] = {
    "ground": ("ground",),
    "middle ground": ("middle ground", "line"),
    "figure": ("figure", "focus"),
}
# How much of the air lies before each (studio rule, docs/focus.md): all before a ground, none
# before the focus.
AIR = {"ground": 1.0, "middle ground": 0.5, "line": 0.5, "figure": 0.12, "focus": 0.0}
_LEAST_CHROMA = 2e-3  # under which a mixed colour has no hue of its own


def members(plan: Plan, group: str) -> list[str]:
    """The regions of a group whose colours may be moved together, by id."""
    now = study(plan)
    return [r.id for r in plan.regions if r.role in GROUPS[group] and r.id not in now.locked]


def move_group(group: str, by: float, merge: bool = True) -> Edit:
    """A group's values moved together, L*; fixed and locked colours stay."""

    def change(plan: Plan) -> Plan:
        return shift_colours({r: Shift(value=by) for r in members(plan, group)})(plan)

    text = words("move the {group} by {by:+.0f} L*", group=group, by=by)
    return Edit(text, change, f"group value {group}" if merge else None)


def tone_group(group: str, times: float, merge: bool = True) -> Edit:
    """A group's chroma so many times as strong."""

    def one(solid: Solid) -> Solid:
        if isinstance(solid, Pinned):
            return solid
        return replace(solid, chroma=min(solid.chroma * times, MOST_CHROMA))

    def change(plan: Plan) -> Plan:
        colours = study(plan).colours
        mine = {r: each_part(colours[r], one) for r in members(plan, group)}
        return with_colours(plan, mine)

    text = words("bring the {group}’s chroma to {times:.0%}", group=group, times=times)
    return Edit(text, change, f"group chroma {group}" if merge else None)


def spread_group(group: str, times: float, merge: bool = True) -> Edit:
    """A group's values spread so many times as far from their middle."""

    def change(plan: Plan) -> Plan:
        now = study(plan)
        mine = members(plan, group)
        shown = region_colours(now.scheme, {r: now.colours[r] for r in mine})
        if not mine:
            return plan
        middle = float(np.mean([c.mean_value for c in shown.values()]))

        def one(solid: Solid) -> Solid:
            if isinstance(solid, Pinned):
                return solid
            return replace(solid, value=bounded(Value, middle + (solid.value - middle) * times))

        return with_colours(plan, {r: each_part(now.colours[r], one) for r in mine})

    text = words("bring the {group}’s contrast to {times:.0%}", group=group, times=times)
    return Edit(text, change, f"group contrast {group}" if merge else None)


def add_air(hex_text: str, share: float, merge: bool = True) -> Edit:
    """Every free colour brought toward the air's, the more the deeper it lies; `share`, 0-1, before
    the ground."""
    air = oklab(decode(parse_hex(hex_text)))

    def change(plan: Plan) -> Plan:
        now = study(plan)
        part_of = {r.id: AIR[r.role] * share for r in plan.regions if r.id not in now.locked}
        return with_colours(plan, _aired(plan, part_of, air))

    text = words("put {share:.0%} of air before the ground", share=share)
    return Edit(text, change, "air" if merge else None)


def _aired(plan: Plan, part_of: Mapping[str, float], air: Floats) -> dict[str, Colour]:
    now = study(plan)
    hues = slot_hues(now.scheme)
    shown = region_colours(now.scheme, now.colours)
    found: dict[str, Colour] = {}
    for region, share in part_of.items():
        before = mean_lab(shown[region])
        after = before + (air - before) * share
        light = value_of(after) - value_of(before)
        chroma, hue = (float(v) for v in polar(after)[1:])

        def one(solid: Solid, by: float = light, chroma: float = chroma, hue: float = hue) -> Solid:
            if isinstance(solid, Pinned):
                return solid
            turn = solid.hue_offset_deg
            if chroma > _LEAST_CHROMA:
                turn = (hue - hues.get(solid.slot, hues["A"]) + 180) % 360 - 180
            return replace(
                solid,
                value=bounded(Value, solid.value + by),
                chroma=min(chroma, MOST_CHROMA),
                hue_offset_deg=turn,
            )

        if share > 0:
            found[region] = each_part(now.colours[region], one)
    return found
