"""Palettes that belong to a plan: colours beside those of its regions, and one from outside with
the regions its colours went to."""

from typing import Annotated

from msgspec import Meta, field

from umber_compass.plan.terms import Hex, Id, Record

MOST_SWATCHES = 256  # of one palette that are kept in a plan

Said = Annotated[str, Meta(max_length=400)]


class Swatch(Record, frozen=True, kw_only=True):
    """One colour of a palette."""

    hex: Hex
    name: Said = ""
    note: Said = ""


class GivenPalette(Record, frozen=True, kw_only=True):
    """A palette from outside, and which of its colours each region took."""

    title: Said
    source: Said = ""  # whose it is, where it is from
    colours: Annotated[tuple[Swatch, ...], Meta(min_length=1, max_length=MOST_SWATCHES)]
    of: dict[Id, Annotated[int, Meta(ge=0, lt=MOST_SWATCHES)]] = field(default_factory=dict)

    def fault(self) -> str:
        """What is wrong with it that ranges cannot say; empty where nothing is."""
        if any(i >= len(self.colours) for i in self.of.values()):
            return "a region takes a colour its palette does not have"
        return ""
