"""What stands where: the things of a sketch, and its floor, walls and sky. All of it is guessed
(steps/light/things.py) until the artist says otherwise."""

from typing import Annotated, Literal, TypeAlias

from msgspec import Meta, field

from umber_compass.plan.terms import Ground, Id, Name, Record, Share, Standing

MOST_THINGS, MOST_PIECES = 64, 512
Spot: TypeAlias = tuple[Share, Share]  # shares of width and height
Gap: TypeAlias = Annotated[float, Meta(ge=0, le=1)]  # of the picture's width
FIRST_GAP = 0.04


class Thing(Record, frozen=True, kw_only=True):
    """Connected pieces of regions that stand together. A piece is told by a place inside it, so
    that it stays what it is when regions are named, joined or split."""

    id: Id
    name: Name
    pieces: Annotated[tuple[Spot, ...], Meta(max_length=MOST_PIECES)] = ()
    on: Standing = "floor"
    foot: Share | None = None  # of the height, where it stands; None: at its lowest px
    gap: Gap = FIRST_GAP  # how far it hangs before a wall


Things: TypeAlias = Annotated[tuple[Thing, ...], Meta(max_length=MOST_THINGS)]
GroundOrAuto: TypeAlias = Ground | Literal["auto"]


class Scene(Record, frozen=True, kw_only=True):
    """What the artist said of the things and grounds; what is None or left out is guessed."""

    things: Things | None = None
    horizon: Share | None = None  # of the height, where the floor ends and a wall begins
    grounds: dict[Id, Ground] = field(default_factory=dict)
