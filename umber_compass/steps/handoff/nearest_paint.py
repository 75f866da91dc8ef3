"""What a colour of the picture is called in the plan: the nearest place of its region's chart, or
step of its ramp."""

from collections.abc import Iterator
from typing import NamedTuple

import numpy as np

from umber_compass.colour.difference import ciede2000
from umber_compass.colour.measured import Measured, levels_of, measured
from umber_compass.colour.spaces import cielab, decode
from umber_compass.steps.handoff.card import Paint
from umber_compass.steps.light.chart import PLACES
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.ramps.sharing import Ramps


class Near(NamedTuple):
    """A colour of the plan, and how far another is from it."""

    paint: Paint
    value: float  # L*
    apart: float  # CIEDE2000
    lighter: float  # L*, by which the other is lighter


def paints_of(derived: Derived, region: str) -> list[Paint]:
    """The colours a region is painted with, as far as they are known: local, chart, ramp."""
    name = next((r.name for r in derived.regions if r.id == region), "")
    found = [Paint(e.hex, name) for e in derived.colours[region].ends] if name else []
    return list(dict.fromkeys([*found, *_of_chart(derived, region), *_of_ramps(derived, region)]))


def _of_chart(derived: Derived, region: str) -> Iterator[Paint]:
    if derived.lit is None:
        return
    for row in derived.chart or ():
        if row.region == region:
            for place in PLACES:
                if place.name in row.places:
                    yield Paint(row.places[place.name].hex, f"{row.name}, {place.title}")


def _of_ramps(derived: Derived, region: str) -> Iterator[Paint]:
    name = next((r.name for r in derived.regions if r.id == region), "")
    for ramp in (derived.ramps or Ramps()).get(region, ()):
        for i, step in enumerate(ramp.steps):
            by = i - ramp.base
            if by:
                yield Paint(step.hex, f"{name}, step {by:+d}".replace("-", "−"))


def nearest_paint(derived: Derived, hex_: str, region: str = "") -> Near | None:
    """The colour of the plan that is nearest to a hex: of one region, or of all."""
    ids = [region] if region else [r.id for r in derived.regions]
    paints = [p for i in ids for p in paints_of(derived, i)]
    if not paints:
        return None
    levels = np.stack([levels_of(p.hex) for p in paints])
    own = levels_of(hex_)[None]
    apart = ciede2000(cielab(decode(levels / 255)), cielab(decode(own / 255)))
    best = int(np.argmin(apart))
    there: Measured = measured(levels[best][None], ("given",))[0]
    mine = measured(own, ("given",))[0]
    return Near(paints[best], there.value, float(apart[best]), mine.value - there.value)
