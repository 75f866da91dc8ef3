"""The paint chart: every material's colours in the plan's light, by named places on its form."""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.measured import Measured, levels_of, measured
from umber_compass.colour.spaces import (
    encode,
    hue_distance,
    luminance,
    to_bytes,
    value_of_luminance,
)
from umber_compass.picture.light import Lights, lights_of, shade
from umber_compass.picture.relit import Lit, local_light
from umber_compass.plan.model import Colour, Region, Rig
from umber_compass.steps.harmony.colours import RegionColour, end_names
from umber_compass.steps.light.exposure import Samples, anchor_light, cosines_at, expose
from umber_compass.work import Tick, idle


class Place(NamedTuple):
    """A named place on a form: how it turns to the key, N.L, and how open it lies."""

    name: str
    title: str
    short: str  # where there is little room
    cosine: float
    occlusion: float


PLACES = (
    Place("lit", "lit", "lit", 1.0, 1.0),
    Place("halftone", "halftone", "half", 0.5, 1.0),
    Place("terminator", "terminator", "term.", 0.0, 1.0),
    Place("core-shadow", "core shadow", "core", -1.0, 1.0),
    Place("crevice", "crevice", "crev.", -1.0, 0.25),
)


class Row(NamedTuple):
    """One row of the chart: a region, or one end of its gradient."""

    region: str
    name: str
    local: Measured
    places: dict[str, Measured]  # by the name of the place
    rest: float | None  # L* by which its anchor misses the planned value; None without a light

    def turn_deg(self, place: str) -> float | None:
        """How far a place's hue turns from the local colour's, OKLCh degrees; None in grey."""
        there = self.places[place]
        if self.local.hue is None or there.hue is None or self.local.is_grey or there.is_grey:
            return None
        return float(hue_distance(self.local.hue, there.hue))


def lights_for(
    lit: Lit | None, rig: Rig, colours: dict[str, RegionColour], shares: dict[str, float]
) -> Lights:
    """The lights the plan is seen in, exposed. Where the light is off there are no forms: they are
    exposed as if every region had a side that faces the key."""
    if lit is not None:
        return lit.lights
    lights = lights_of(rig)
    ends = [np.array([levels_of(c.ends[i].hex) for c in colours.values()]) for i in (0, -1)]
    local = (local_light(ends[0]) + local_light(ends[1])) / 2
    light = anchor_light(rig.anchor, lights)
    wished = value_of_luminance(luminance(local.T))
    lum = luminance((local * light[:, None]).T)
    count = len(wished)
    share = np.array([shares[r] for r in colours])
    samples = Samples(np.arange(count), np.ones(count), lum, wished, share)
    return expose(samples, lights)[0]


def chart(
    regions: tuple[Region, ...],
    planned: dict[str, Colour],
    colours: dict[str, RegionColour],
    lit: Lit | None,
    lights: Lights,
    tick: Tick = idle,
) -> list[Row]:
    """Every region's colours in the light, in the plan's order; a gradient's ends apart."""
    rows, locals_ = [], []
    for region in regions:
        rest = lit.rest[region.id] if lit is not None else None
        ends = colours[region.id].ends
        for end, said in zip(ends, end_names(planned[region.id]), strict=True):
            rows.append((region.id, region.name + said, end, rest))
            locals_.append(end)
    places = _places(locals_, lights)
    return [
        Row(r, n, end, there, rest) for (r, n, end, rest), there in zip(rows, places, strict=True)
    ]


def _places(locals_: list[Measured], lights: Lights) -> list[dict[str, Measured]]:
    """Local colours at every place of the chart, all at once."""
    table = np.array([levels_of(m.hex) for m in locals_])
    count = len(PLACES)
    local = np.repeat(local_light(table), count, axis=1)
    cosines = cosines_at(np.array([p.cosine for p in PLACES]), lights)
    every = [np.tile(t, len(locals_)) for t in cosines]
    occlusion = np.tile(np.array([p.occlusion for p in PLACES], np.float32), len(locals_))
    levels = to_bytes(encode(shade(local, every, occlusion, lights))).T
    slots = tuple(m.slot for m in locals_ for _ in PLACES)
    found = measured(np.ascontiguousarray(levels), slots)
    names = [p.name for p in PLACES]
    return [
        dict(zip(names, found[i * count : (i + 1) * count], strict=True))
        for i in range(len(locals_))
    ]
