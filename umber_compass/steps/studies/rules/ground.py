"""The ground turned light or dark; what stands on it keeps its order."""

from functools import partial

from msgspec.structs import replace

from umber_compass.plan.edits import each_part, study, with_colours
from umber_compass.plan.model import Pinned, Plan, Solid
from umber_compass.steps.studies.grow_rule import GrowContext, GrowRule, Version, ground_value

_LIGHT, _DARK = 80.0, 24.0  # L*
_SAME = 12.0  # L* within which a ground is that already
_KEPT, _MIDDLE = 0.5, 0.45  # of what parts grounds; of their move that middle grounds make


def _versions(plan: Plan, context: GrowContext) -> list[Version]:
    now = ground_value(plan, context.shares)
    found = []
    for title, value in (("Dark ground", _DARK), ("Light ground", _LIGHT)):
        if abs(now - value) > _SAME:
            says = "the ground’s values turned over"
            found.append(Version(title, says, partial(_turned, plan, now, value)))
    return found


def _turned(plan: Plan, before: float, value: float) -> Plan:
    now = study(plan)
    role = {r.id: r.role for r in plan.regions}

    def moved(solid: Solid, ground: bool) -> Solid:
        if isinstance(solid, Pinned):
            return solid
        if ground:
            to = value + (solid.value - before) * _KEPT
        else:
            to = solid.value + (value - before) * _MIDDLE
        return replace(solid, value=min(max(to, 8.0), 94.0))

    colours = {}
    for region, colour in now.colours.items():
        if region in now.locked or role[region] not in ("ground", "middle ground"):
            continue
        colours[region] = each_part(colour, partial(moved, ground=role[region] == "ground"))
    return with_colours(plan, colours)


RULE = GrowRule(
    "ground", "Turn the ground light or dark", "orders on the figure are kept", _versions, "ground"
)
