"""The picture at noon, under an overcast sky, at dusk, at night, at a feast: every colour near its
own, the order of values and every gradient kept."""

from functools import partial

import numpy as np

from umber_compass.colour.spaces import hue_distance
from umber_compass.plan.edits import each_part, study, with_colours
from umber_compass.plan.first import FirstLight
from umber_compass.plan.model import Pinned, Plan, Planned, Solid
from umber_compass.steps.first.lights import LIGHTS, SKIN, in_light
from umber_compass.steps.first.materials import material_of
from umber_compass.steps.harmony.living import is_living
from umber_compass.steps.harmony.scheme import planned_as, slot_hues
from umber_compass.steps.studies.grow_rule import GrowContext, GrowRule, Version

# How far a colour goes from its own: OKLCh degrees, times its chroma, L*; at night values fall
# further (studio rule, docs/first-colours.md). A grey takes at most so much chroma.
_TURN, _CHROMA, _VALUE, _NIGHT, _GREY = 14.0, (0.55, 1.15), 11.0, 24.0, 0.02


def _versions(plan: Plan, context: GrowContext) -> list[Version]:
    return [
        Version(light.title.capitalize(), light.says, partial(_lit, plan, name))
        for name, light in LIGHTS.items()
        if name != "noon"
    ]


def _lit(plan: Plan, name: FirstLight) -> Plan:
    """The plan in a light; fixed and locked colours stay, and so does what glows."""
    now = study(plan)
    living = {r.id for r in plan.regions if is_living(r)}
    hues = slot_hues(now.scheme)

    def one(solid: Solid, part: float) -> Solid:
        if isinstance(solid, Pinned):
            return solid
        hue = hues.get(solid.slot, hues["A"]) + solid.hue_offset_deg
        chroma = solid.chroma * now.scheme.chroma.get(solid.slot, 1.0)
        value, strength, turned = in_light(np.array([solid.value, chroma, hue]), name, part)
        most = _NIGHT if name == "night" else _VALUE
        value = float(np.clip(value, solid.value - most, solid.value + _VALUE))
        turn = float(np.clip(hue_distance(hue, turned), -_TURN, _TURN))
        grey = chroma < _GREY
        most_chroma = max(_CHROMA[1], LIGHTS[name].chroma)
        low, high = (0.0, _GREY) if grey else (_CHROMA[0] * chroma, most_chroma * chroma)
        to = float(turned) if grey else hue + turn
        made: Planned = planned_as(
            now.scheme,
            min(max(value, 0.0), 100.0),
            float(np.clip(strength, low, high)),
            to % 360,
        )
        return made

    glowing = {r.id for r in plan.regions if material_of(r) == "glow"}
    colours = {
        region: each_part(colour, partial(one, part=SKIN if region in living else 1.0))
        for region, colour in now.colours.items()
        if region not in now.locked and region not in glowing
    }
    return with_colours(plan, colours)


RULE = GrowRule(
    "daylight",
    "Overcast, dusk, night, festive",
    "each colour near its own",
    _versions,
    "tone",
    near=True,
    holds=False,
)
