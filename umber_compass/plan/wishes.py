"""What the artist wishes of values and of what is met first; what is not said the practice says."""

from itertools import pairwise
from typing import Annotated, Literal, TypeAlias

from msgspec import Meta, field

from umber_compass.plan.terms import Id, Record, Share, Value

MOST_BANDS = 5

Number: TypeAlias = Annotated[float, Meta(ge=-100, le=100)]
# A wish by its name, or one part of a wish: `parting` or `parting.r3.r7`.
WishName: TypeAlias = Annotated[str, Meta(pattern=r"\A[A-Za-z0-9_.-]{1,140}\Z")]
FalloffOf: TypeAlias = Literal["chroma", "contrast", "hue"]
Level: TypeAlias = Annotated[float, Meta(ge=0, le=180)]
Span: TypeAlias = tuple[Level, Level]  # lowest and highest


class Wish(Record, frozen=True, kw_only=True):
    """What the artist said of one wish. A locked one is never dropped, nor changed by a key."""

    on: bool = True
    locked: bool = False
    number: Number | None = None  # None: the practice's


class Bands(Record, frozen=True, kw_only=True):
    """Two to five bands of value from dark to light: the edges between them, rising, and the share
    of the picture that each should hold."""

    edges: Annotated[tuple[Value, ...], Meta(min_length=1, max_length=MOST_BANDS - 1)]
    shares: Annotated[tuple[Share, ...], Meta(min_length=2, max_length=MOST_BANDS)]

    def fault(self) -> str:
        """What is wrong with them that ranges cannot say; empty where nothing is."""
        if len(self.shares) != len(self.edges) + 1:
            return "its value bands need one edge less than shares"
        if any(b <= a for a, b in pairwise(self.edges)):
            return "the edges of its value bands do not rise from dark to light"
        if sum(self.shares) > 1.0001:
            return "its value bands wish for more than the whole picture"
        return ""


class Wishes(Record, frozen=True, kw_only=True):
    """All that is wished of values."""

    bands: Bands | None = None  # None: those of the practice's own key
    order: tuple[Id, ...] = ()  # regions from the darkest to the lightest
    of: dict[WishName, Wish] = field(default_factory=dict)


class Point(Record, frozen=True, kw_only=True):
    """A place: shares of the picture's width and height, and a radius as a share of its width."""

    x: Share
    y: Share
    radius: Annotated[float, Meta(gt=0, le=1)]


class Focus(Record, frozen=True, kw_only=True):
    """What should be met first: regions, or a point with a radius."""

    regions: tuple[Id, ...] = ()
    point: Point | None = None


class Falloff(Record, frozen=True, kw_only=True):
    """Between which levels something should lie at the focus, and far from it; straight between."""

    near: Span
    far: Span

    def fault(self) -> str:
        """What is wrong with it that ranges cannot say; empty where nothing is."""
        if self.near[0] > self.near[1] or self.far[0] > self.far[1]:
            return "the lower edge of a fall-off stands above its upper edge"
        return ""
