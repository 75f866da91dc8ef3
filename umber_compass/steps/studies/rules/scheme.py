"""Another scheme under the same lead."""

from functools import partial

from msgspec.structs import replace

from umber_compass.plan.edits import each_part, part, study, with_study
from umber_compass.plan.model import Pinned, Plan, Planned, Scheme, Solid
from umber_compass.plan.terms import Slot
from umber_compass.steps.harmony.schemes import SCHEMES
from umber_compass.steps.studies.grow_rule import GrowContext, GrowRule, Version

_OFFSETS = 0.5  # of a colour’s turn from its slot that stays


def _versions(plan: Plan, context: GrowContext) -> list[Version]:
    now = study(plan)
    found = []
    for name, spec in SCHEMES.items():
        if name != now.scheme.name:
            scheme = replace(
                now.scheme,
                name=name,
                chosen=True,
                spread_deg=float(spec.spread_deg),
                lead_at="middle",
                shares={},
                offsets=(),
                chroma={},
                arcs={},
            )
            made = partial(_dealt, plan, scheme, context)
            found.append(Version(spec.title.capitalize(), "another scheme, the same lead", made))
    return found


def _dealt(plan: Plan, scheme: Scheme, context: GrowContext) -> Plan:
    """The plan's families dealt to the new scheme's slots: the fullest to the lead, the rest in
    turn; where there are more slots than families, what stands before the ground takes the
    rest."""
    now = study(plan)
    slots: list[Slot] = [n.slot for n in SCHEMES[scheme.name].needles]
    held: dict[Slot, float] = {}
    for region, colour in now.colours.items():
        solid = part(colour, 0)
        if isinstance(solid, Planned) and solid.slot != "grey":
            held[solid.slot] = held.get(solid.slot, 0.0) + context.shares[region]
    families = sorted(held, key=lambda s: (s != "A", -held[s]))
    to = {family: slots[min(i, len(slots) - 1)] for i, family in enumerate(families)}
    spare = slots[len(families) :]
    role = {r.id: r.role for r in plan.regions}
    colours, turn = {}, 0
    for region, colour in sorted(now.colours.items(), key=lambda c: -context.shares[c[0]]):
        first = part(colour, 0)
        own: Slot | None = None
        stands = spare and role[region] not in ("ground", "line")
        if stands and isinstance(first, Planned) and families[:1] == [first.slot]:
            own, turn = spare[turn % len(spare)], turn + 1
        if region in now.locked:
            colours[region] = colour
            continue

        def one(solid: Solid, own: Slot | None = own) -> Solid:
            if isinstance(solid, Pinned) or solid.slot == "grey":
                return solid
            turned = solid.hue_offset_deg * _OFFSETS
            return replace(solid, slot=own or to[solid.slot], hue_offset_deg=turned)

        colours[region] = each_part(colour, one)
    return with_study(plan, replace(now, scheme=scheme, colours=colours))


RULE = GrowRule("scheme", "Another scheme", "the same lead", _versions)
