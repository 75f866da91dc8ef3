"""Changes to what stands where. A guess becomes the artist's own with the first of them: the
things as they were guessed are written into the plan together with what is changed."""

from msgspec.structs import replace

from umber_compass.plan.edits import Edit
from umber_compass.plan.model import Plan
from umber_compass.plan.ranges import bounded
from umber_compass.plan.scene import MOST_THINGS, Gap, Scene, Spot, Thing, Things
from umber_compass.plan.terms import Ground, Id, Share, Standing
from umber_compass.words import Refusal, Words, words


def tell_scene(name: Words, merge: str | None = None, **changes: object) -> Edit:
    """Something of the scene told."""
    return Edit(name, lambda plan: with_scene(plan, **changes), merge)


def with_scene(plan: Plan, **changes: object) -> Plan:
    """The plan with some of its scene changed."""
    return replace(plan, scene=replace(plan.scene, **changes))


def _kept(plan: Plan, guessed: Things) -> Things:
    return guessed if plan.scene.things is None else plan.scene.things


def change_thing(
    guessed: Things, thing_id: Id, name: Words, merge: str | None, changes: dict[str, object]
) -> Edit:
    """Some fields of one thing changed, numbers brought into their ranges. Raises Refusal, when it
    is made, where there is no such thing."""
    for key, kind in (("foot", Share), ("gap", Gap)):
        number = changes.get(key)
        if isinstance(number, int | float):
            changes[key] = bounded(kind, float(number))

    def change(plan: Plan) -> Plan:
        known = _kept(plan, guessed)
        if all(t.id != thing_id for t in known):
            raise Refusal(thing_id[:40], words("is no thing of this picture"))
        things = tuple(replace(t, **changes) if t.id == thing_id else t for t in known)
        return with_scene(plan, things=things)

    return Edit(name, change, merge)


def place_foot(guessed: Things, thing_id: Id, foot: float, name: str) -> Edit:
    """A thing's foot line at a share of the height."""
    text = words("let {name} stand at {n:.0%} of the height", name=name, n=foot)
    return change_thing(guessed, thing_id, text, f"foot {thing_id}", {"foot": foot})


def place_gap(guessed: Things, thing_id: Id, gap: float, name: str) -> Edit:
    """How far a thing hangs before a wall, a share of the width."""
    text = words("hang {name} {n:.0%} of the width before the wall", name=name, n=gap)
    return change_thing(guessed, thing_id, text, f"gap {thing_id}", {"gap": gap})


def stand_on(guessed: Things, thing_id: Id, on: Standing, name: str) -> Edit:
    """What a thing stands on, or hangs before."""
    said = {"floor": "stands on the floor", "wall": "hangs before a wall", "air": "casts no shadow"}
    text = words("{name} {said}", name=name, said=said[on])
    return change_thing(guessed, thing_id, text, None, {"on": on})


def name_thing(guessed: Things, thing_id: Id, name: str) -> Edit:
    """A thing called so. Raises Refusal for no name."""
    kept = " ".join(name.split())[:200]
    if not kept:
        raise Refusal("a thing", words("needs a name; write one"))
    told: dict[str, object] = {"name": kept}
    return change_thing(guessed, thing_id, words("call a thing {name}", name=kept), None, told)


def add_thing(guessed: Things, pieces: tuple[Spot, ...], name: str, on: Standing) -> Edit:
    """Another thing. Raises Refusal, when it is made, where there are too many."""

    def change(plan: Plan) -> Plan:
        known = _kept(plan, guessed)
        if len(known) >= MOST_THINGS:
            line = words("are as many as a picture holds; take one away first")
            raise Refusal(f"{len(known)} things", line)
        made = Thing(id=free_id(known), name=name, pieces=pieces, on=on)
        return with_scene(plan, things=(*known, made))

    return Edit(words("make {name} a thing of its own", name=name), change)


def free_id(things: Things) -> Id:
    """An id that none of some things has."""
    taken, number = {t.id for t in things}, 1
    while f"t{number}" in taken:
        number += 1
    return f"t{number}"


def remove_thing(guessed: Things, thing_id: Id, name: str) -> Edit:
    """A thing that is none any more: it casts nothing."""

    def change(plan: Plan) -> Plan:
        left = tuple(t for t in _kept(plan, guessed) if t.id != thing_id)
        return with_scene(plan, things=left)

    return Edit(words("{name} is no thing of its own", name=name), change)


def guess_again() -> Edit:
    """All that was told of things, the horizon and grounds given up for a guess."""
    return Edit(words("guess the things again"), lambda plan: replace(plan, scene=Scene()))


def set_horizon(share: float) -> Edit:
    """Where the floor ends, a share of the height."""
    kept = bounded(Share, share)
    text = words("let the floor end at {n:.0%} of the height", n=kept)
    return tell_scene(text, "horizon", horizon=kept)


def set_ground(region_id: Id, ground: Ground | None, name: str) -> Edit:
    """A region as floor, wall or sky; None lets it be guessed."""
    said = "what it is guessed to be" if ground is None else ground
    text = words("let {name} be {said}", name=name, said=said)

    def change(plan: Plan) -> Plan:
        kept = {k: v for k, v in plan.scene.grounds.items() if k != region_id}
        if ground is not None:
            kept[region_id] = ground
        return with_scene(plan, grounds=kept)

    return Edit(text, change)
