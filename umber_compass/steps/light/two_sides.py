"""What the light makes of each material on its two sides: in the light, and in shade."""

from collections.abc import Mapping
from typing import NamedTuple

from umber_compass.colour.measured import Measured
from umber_compass.picture.finish import FINISHES, Finish
from umber_compass.picture.relit import Lit
from umber_compass.plan.model import Region
from umber_compass.steps.harmony.colours import RegionColour
from umber_compass.steps.light.chart import PLACES, at_places

_LEAST = 0.0015  # of the picture, from which a material counts
_SHINY = 0.2  # gloss from which a highlight is met before other things
_ASKED = ("highlight", "lit", "core-shadow")


class Sides(NamedTuple):
    """A material in the light and out of it."""

    region: str
    name: str
    role: str
    local: Measured
    lit: Measured
    shade: Measured
    highlight: Measured | None  # None where it is not shiny

    def kept_share(self) -> float:
        """Of its chroma, what it keeps in shade, 0-1."""
        return self.shade.chroma / max(self.local.chroma, 1e-6)


def two_sides(
    regions: tuple[Region, ...],
    colours: dict[str, RegionColour],
    shares: dict[str, float],
    lit: Lit | None,
    finishes: Mapping[int, Finish],
) -> tuple[Sides, ...]:
    """Both sides of every material that is large enough and takes light; none without a light."""
    if lit is None:
        return ()
    matte = FINISHES["matte"]
    made = [(r, finishes.get(r.label, matte)) for r in regions if shares[r.id] >= _LEAST]
    own = [(r, f) for r, f in made if f.lit and r.role != "line"]
    places = tuple(p for p in PLACES if p.name in _ASKED)
    locals_ = [colours[r.id].ends[0] for r, _ in own]
    if not own:
        return ()
    found = at_places(locals_, [f for _, f in own], lit.lights, places)
    return tuple(
        Sides(
            r.id,
            r.name,
            r.role,
            local,
            at["lit"],
            at["core-shadow"],
            at.get("highlight") if finish.gloss >= _SHINY else None,
        )
        for (r, finish), local, at in zip(own, locals_, found, strict=True)
    )
