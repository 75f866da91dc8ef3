"""The rig: the lamps a picture is lit by, and how their light is drawn."""

from typing import Annotated, Literal, TypeAlias

from msgspec import Meta

from umber_compass.plan.terms import Hex, Id, Record, Share, Way

Strength: TypeAlias = Annotated[float, Meta(ge=0, le=1000)]  # percent of the lamp's colour
Percent: TypeAlias = Annotated[float, Meta(ge=0, le=100)]
LampName: TypeAlias = Annotated[str, Meta(pattern=r"\A[a-z][a-z0-9-]{0,39}\Z")]
Rank: TypeAlias = Annotated[int, Meta(ge=1, le=99)]
Part: TypeAlias = Annotated[float, Meta(ge=-1, le=1)]
Direction: TypeAlias = tuple[Part, Part, Part]  # toward the lamp: x right, y down, z to the viewer
Anchor: TypeAlias = Literal["lit", "halftone", "mean"]
Exposed: TypeAlias = Literal["planned", "region", "off"]
Volume: TypeAlias = Literal["medium", "big"]  # forms as they are, or drawn together
Exaggeration: TypeAlias = Annotated[float, Meta(ge=0, le=2)]


class Ambient(Record, frozen=True, kw_only=True):
    """Light from everywhere: from the sky above, and thrown back by the ground below."""

    hex: Hex = "#b3cfe4"  # the sky's
    strength: Strength = 65.0
    on: bool = True
    ground: Hex | None = None  # None: the floor's own colour
    bounce: Exaggeration = 1.0  # times what the ground throws back


class Pool(Record, frozen=True, kw_only=True):
    """Where the light of a spot falls: a disc on the picture."""

    x: Share = 0.5  # of the width
    y: Share = 0.5  # of the height
    radius: Annotated[float, Meta(ge=0.01, le=1)] = 0.2  # of the width
    fall: Annotated[float, Meta(ge=0.02, le=1)] = 0.5  # of the radius, over which it fades


class Lamp(Record, frozen=True, kw_only=True):
    """Light from one side. Softness widens the place where light turns to shadow."""

    name: LampName = "key"
    rank: Rank = 1  # 1 leads
    hex: Hex = "#ffd9a0"
    strength: Strength = 90.0
    direction: Direction = (-0.6, -0.5, 0.6244998)
    softness: Share = 0.4
    on: bool = True
    spares: tuple[Id, ...] = ()  # regions that it does not light
    edge_hex: Hex = "#ff7a4a"
    edge: Percent = 0.0  # a tint just inside the border of its light
    pool: Pool | None = None  # it lights a disc alone; None: the whole picture


class Terminator(Record, frozen=True, kw_only=True):
    """A tint where light turns to shadow."""

    hex: Hex = "#c8505a"
    strength: Percent = 0.0


class Glow(Record, frozen=True, kw_only=True):
    """What regions that glow throw on what is near."""

    strength: Strength = 60.0
    reach: Annotated[float, Meta(ge=0.02, le=1)] = 0.18  # of the picture's width


class Rig(Record, frozen=True, kw_only=True):
    """The lights. While it is off the picture is flat. Lamps have names of their own."""

    on: bool = True
    way: Way = "painter"
    shadows: bool = True  # whether the key casts them
    highlights: bool = True  # on what is shiny
    ambient: Ambient = Ambient()
    lamps: Annotated[tuple[Lamp, ...], Meta(min_length=1, max_length=12)] = (Lamp(),)
    terminator: Terminator = Terminator()
    crevice: Percent = 28.0  # of what closeness takes
    anchor: Anchor = "lit"
    exposed: Exposed = "planned"
    fixed: Annotated[float, Meta(ge=0.001, le=1000)] = 0.8  # the exposure while that is off
    held: Id | None = None  # the region whose value the exposure holds
    volume: Volume = "medium"
    reaches_far: bool = False  # whether lamps light sky and sea too
    glow: Glow = Glow()

    @property
    def ranked(self) -> tuple[Lamp, ...]:
        """The lamps by rank, those that light the whole picture first."""
        return tuple(sorted(self.lamps, key=lambda lamp: (lamp.pool is not None, lamp.rank)))

    @property
    def key(self) -> Lamp:
        """The lamp that leads: of those that light the whole picture the first of the lowest
        rank."""
        return self.ranked[0]

    def lamp(self, name: str) -> Lamp:
        """The lamp with a name. Raises StopIteration where there is none."""
        return next(lamp for lamp in self.lamps if lamp.name == name)
