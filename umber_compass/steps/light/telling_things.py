"""Things as they stand, as the plan holds them: for edits that begin from a guess."""

from msgspec.structs import replace

from umber_compass.picture.pieces import Pieces
from umber_compass.plan.edits import Edit
from umber_compass.plan.scene import MOST_PIECES, Spot, Thing, Things
from umber_compass.plan.scene_edits import add_thing, tell_scene
from umber_compass.plan.terms import Standing as Standing_
from umber_compass.steps.light.standing import Standing, Stands
from umber_compass.words import words


def as_told(pieces: Pieces | None, standing: Standing | None) -> Things:
    """The things of a picture as a plan holds them, none where nothing is known of them."""
    if pieces is None or standing is None:
        return ()
    return tuple(
        Thing(
            id=t.id,
            name=t.name or t.id,
            pieces=_spots(pieces, t.members),
            on=t.placed.on,
            foot=round(t.placed.foot, 5),
            gap=t.placed.gap,
        )
        for t in standing.things
    )


def _spots(pieces: Pieces, members: tuple[int, ...]) -> tuple[Spot, ...]:
    """A place inside each piece; the largest where they are too many."""
    largest = sorted(members, key=lambda m: -int(pieces.area[m]))[:MOST_PIECES]
    return tuple(pieces.place(m) for m in sorted(largest))


def thing_of(standing: Standing | None, piece: int) -> Stands | None:
    """The thing that a piece belongs to."""
    if standing is None:
        return None
    return next((t for t in standing.things if piece in t.members), None)


def in_or_out(
    pieces: Pieces, standing: Standing, thing_id: str, piece: int, region: str
) -> Edit | None:
    """A piece taken into a thing, and out of any other; or out of it, if it is in. None where there
    is no such thing."""
    lead = next((t for t in standing.things if t.id == thing_id), None)
    if lead is None:
        return None
    comes_in = piece not in lead.members
    things = []
    for told, own in zip(as_told(pieces, standing), standing.things, strict=True):
        members = set(own.members) - {piece}
        if own is lead and comes_in:
            members.add(piece)
        same = members == set(own.members)
        things.append(told if same else replace(told, pieces=_spots(pieces, tuple(members))))
    said = "take {piece} into {name}" if comes_in else "leave {piece} out of {name}"
    return tell_scene(words(said, piece=region, name=lead.name), things=tuple(things))


def of_its_own(pieces: Pieces, standing: Standing, piece: int, name: str) -> Edit:
    """A piece as a thing of its own, on the floor if that lies under it."""
    bottom = int(pieces.box[piece][3]) / pieces.number.shape[0]
    on: Standing_ = "floor" if standing.stage.floor and bottom > standing.stage.horizon else "wall"
    return add_thing(as_told(pieces, standing), (pieces.place(piece),), name, on)
