"""Keys about what stands where: the horizon, and the things, once they were told."""

from typing import Any

from umber_compass.plan.edits import Edit
from umber_compass.plan.model import Plan
from umber_compass.plan.scene import Thing
from umber_compass.plan.scene_edits import name_thing, place_foot, place_gap, set_horizon, stand_on
from umber_compass.plan.setting import CHOICE, NUMBER, TEXT, Kind
from umber_compass.steps.keys.key import Group, Key, only
from umber_compass.words import Refusal, words

THING = "thing."  # what keys of things begin with
_ON = ("floor", "wall", "air")


def _thing(plan: Plan, thing_id: str) -> Thing:
    return next(t for t in plan.scene.things or () if t.id == thing_id)


def _named(plan: Plan, text: str) -> str:
    """The id of a thing by its id or name."""
    things = plan.scene.things or ()
    found = [t.id for t in things if text in (t.id, t.name)]
    if not found:
        known = ", ".join(f"{t.id} ({t.name})" for t in things[:12]) or "none were found"
        raise Refusal(f"thing.{text}"[:60], words("is no thing here; take {k}", k=known))
    return found[0]


def _on(plan: Plan, thing: str, value: Any) -> Edit:
    own = _thing(plan, thing)
    return stand_on(plan.scene.things or (), own.id, value, own.name)


# fmt: off
SCENE = Group((
    Key("horizon", Kind(NUMBER, "of the height, 0-1", 0, 1),
        "where the floor ends and a wall begins; none while it is guessed",
        lambda p, _: p.scene.horizon, lambda p, _, x: set_horizon(x)),
), "", lambda plan: ("",), only)
THINGS = Group((
    Key("thing.SUBJECT.name", Kind(TEXT), "what the thing is called",
        lambda p, t: _thing(p, t).name, lambda p, t, x: name_thing(p.scene.things or (), t, x)),
    Key("thing.SUBJECT.on", Kind(CHOICE, choices=_ON),
        "what it stands on or hangs before, so that its shadow falls there",
        lambda p, t: _thing(p, t).on, _on),
    Key("thing.SUBJECT.foot", Kind(NUMBER, "of the height, 0-1", 0, 1),
        "where it stands, from above",
        lambda p, t: _thing(p, t).foot,
        lambda p, t, x: place_foot(p.scene.things or (), t, x, _thing(p, t).name)),
    Key("thing.SUBJECT.gap", Kind(NUMBER, "of the width, 0-1", 0, 1),
        "how far it hangs before a wall",
        lambda p, t: _thing(p, t).gap,
        lambda p, t, x: place_gap(p.scene.things or (), t, x, _thing(p, t).name)),
), "THING", lambda plan: (t.id for t in plan.scene.things or ()), _named)
# fmt: on
