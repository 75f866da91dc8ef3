"""Keys about the light: the rig, the ambient light, the tint where light turns, each lamp."""

from typing import Any

from umber_compass.plan.edits import Edit
from umber_compass.plan.light_edits import (
    rig_of,
    set_ambient,
    set_anchor,
    set_crevice,
    set_lamp,
    set_terminator,
    switch_rig,
)
from umber_compass.plan.model import Anchor, Percent, Plan, Strength
from umber_compass.plan.terms import Share
from umber_compass.steps.keys.spec import (
    COLOUR,
    NUMBER,
    SWITCH,
    Group,
    Key,
    Kind,
    number,
    one_of,
    only,
)
from umber_compass.steps.light.lamps import MOST_DEG, Stand, direction_of, stand_of
from umber_compass.words import Refusal, words


def _lamp_named(plan: Plan, text: str) -> str:
    names = [lamp.name for lamp in rig_of(plan).lamps]
    if text not in names:
        raise Refusal(f"lamp.{text}"[:60], words("is no lamp here; take {k}", k=", ".join(names)))
    return text


def _lamp(lamp: str, what: str, **changes: Any) -> Edit:
    return set_lamp(lamp, words("set {lamp}’s {what}", lamp=lamp, what=what), None, **changes)


def _stands(plan: Plan, lamp: str) -> Stand:
    return stand_of(rig_of(plan).lamp(lamp).direction)


def _stand(lamp: str, stand: Stand) -> Edit:
    return _lamp(lamp, "place", direction=direction_of(stand))


RIG = Group(
    (
        Key(
            "light.on",
            Kind(SWITCH),
            "whether the picture is lit",
            lambda p, _: rig_of(p).on,
            lambda p, _, x: switch_rig(x),
        ),
        Key(
            "light.anchor",
            one_of(Anchor),
            "what the exposure holds to the planned values",
            lambda p, _: rig_of(p).anchor,
            lambda p, _, x: set_anchor(x),
        ),
        Key(
            "ambient.colour",
            Kind(COLOUR),
            "the ambient light’s colour",
            lambda p, _: rig_of(p).ambient.hex,
            lambda p, _, x: set_ambient(words("colour the ambient light"), hex=x),
        ),
        Key(
            "ambient.strength",
            number(Strength, "%"),
            "how strong the ambient light is",
            lambda p, _: rig_of(p).ambient.strength,
            lambda p, _, x: set_ambient(words("set the ambient light’s strength"), strength=x),
        ),
        Key(
            "ambient.on",
            Kind(SWITCH),
            "whether the ambient light is on",
            lambda p, _: rig_of(p).ambient.on,
            lambda p, _, x: set_ambient(words("switch the ambient light"), on=x),
        ),
        Key(
            "terminator.colour",
            Kind(COLOUR),
            "the tint where light turns",
            lambda p, _: rig_of(p).terminator.hex,
            lambda p, _, x: set_terminator(words("colour the terminator"), hex=x),
        ),
        Key(
            "terminator.strength",
            number(Percent, "%"),
            "how strong that tint is",
            lambda p, _: rig_of(p).terminator.strength,
            lambda p, _, x: set_terminator(words("set the terminator’s strength"), strength=x),
        ),
        Key(
            "crevice",
            number(Percent, "%"),
            "how much closeness takes of the ambient light",
            lambda p, _: rig_of(p).crevice,
            lambda p, _, x: set_crevice(x),
        ),
    ),
    "",
    lambda plan: ("",),
    only,
)
LAMPS = Group(
    (
        Key(
            "lamp.SUBJECT.colour",
            Kind(COLOUR),
            "the lamp’s colour",
            lambda p, n: rig_of(p).lamp(n).hex,
            lambda p, n, x: _lamp(n, "colour", hex=x),
        ),
        Key(
            "lamp.SUBJECT.strength",
            number(Strength, "%"),
            "how strong it is",
            lambda p, n: rig_of(p).lamp(n).strength,
            lambda p, n, x: _lamp(n, "strength", strength=x),
        ),
        Key(
            "lamp.SUBJECT.angle",
            Kind(NUMBER, "° clockwise from above", 0, 360),
            "where round the picture it stands",
            lambda p, n: _stands(p, n).round_deg,
            lambda p, n, x: _stand(n, _stands(p, n)._replace(round_deg=x)),
        ),
        Key(
            "lamp.SUBJECT.off-front",
            Kind(NUMBER, "° off the front", 0, MOST_DEG),
            "how far it stands from the viewer’s axis",
            lambda p, n: _stands(p, n).off_deg,
            lambda p, n, x: _stand(n, _stands(p, n)._replace(off_deg=x)),
        ),
        Key(
            "lamp.SUBJECT.softness",
            number(Share, "0-1"),
            "how wide its light turns to shadow",
            lambda p, n: rig_of(p).lamp(n).softness,
            lambda p, n, x: _lamp(n, "softness", softness=x),
        ),
        Key(
            "lamp.SUBJECT.on",
            Kind(SWITCH),
            "whether it is on",
            lambda p, n: rig_of(p).lamp(n).on,
            lambda p, n, x: _lamp(n, "switch", on=x),
        ),
    ),
    "LAMP",
    lambda plan: (lamp.name for lamp in rig_of(plan).lamps),
    _lamp_named,
)
