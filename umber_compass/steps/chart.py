"""The paint chart: every material's colours in the plan's light, by named directions."""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.spaces import encode, hue_distance, parse_hex, to_bytes
from umber_compass.plan.edits import study
from umber_compass.plan.light_edits import rig_of
from umber_compass.steps.colouring import Measured, end_names, measure
from umber_compass.steps.light import Lights, lights_of, shade
from umber_compass.steps.lit import anchor_light, expose, local_light
from umber_compass.steps.pipeline import Derived


class Place(NamedTuple):
    """A named place on a form: how it turns to the key, N.L, and how open it lies."""

    name: str
    title: str
    turn: float
    openness: float


PLACES = (
    Place("lit", "lit", 1.0, 1.0),
    Place("halftone", "halftone", 0.5, 1.0),
    Place("terminator", "terminator", 0.0, 1.0),
    Place("core-shadow", "core shadow", -1.0, 1.0),
    Place("crevice", "crevice", -1.0, 0.25),
)


class Material(NamedTuple):
    """One row of the chart: a region, or one end of its gradient."""

    region: str
    name: str
    local: Measured
    lit: dict[str, Measured]  # by place
    rest: float | None  # L* by which its anchor misses the planned value; None without a light

    def turn_deg(self, place: str) -> float | None:
        """How far a place's hue turns from the local colour's, OKLCh degrees; None in grey."""
        there = self.lit[place]
        if self.local.hue is None or there.hue is None or self.local.is_grey or there.is_grey:
            return None
        return float(hue_distance(self.local.hue, there.hue))


def lights_for(derived: Derived) -> Lights:
    """The lights the plan is seen in, exposed; for a plan whose light is off, those it would begin
    with."""
    if derived.lit is not None:
        return derived.lit.lights
    rig = rig_of(derived.plan)
    lights = lights_of(rig)
    hexes = np.array([[parse_hex(c.first.hex) for c in derived.colours.values()]])
    local = local_light(to_bytes(hexes[0])).T
    light = np.tile(anchor_light("lit", lights), (len(local), 1))
    share = np.array([derived.shares[r] for r in derived.colours])
    return expose(local, light, share, lights)[0]


def chart(derived: Derived) -> list[Material]:
    """Every region's colours in the light, in the plan's order; a gradient's ends apart."""
    lights = lights_for(derived)
    planned = study(derived.plan).colours
    rows = []
    for region in derived.plan.regions:
        ends = derived.colours[region.id].ends
        rest = derived.lit.rest[region.id] if derived.lit is not None else None
        for end, said in zip(ends, end_names(planned[region.id]), strict=True):
            rows.append(Material(region.id, region.name + said, end, _places(end, lights), rest))
    return rows


def _places(local: Measured, lights: Lights) -> dict[str, Measured]:
    """A local colour at every place of the chart."""
    light = local_light(to_bytes(parse_hex(local.hex))[None])
    turn = np.array([p.turn for p in PLACES], np.float32)
    openness = np.array([p.openness for p in PLACES], np.float32)
    out = shade(np.repeat(light, len(PLACES), axis=1), turn, openness, lights)
    return {p.name: measure(c, local.slot) for p, c in zip(PLACES, encode(out).T, strict=True)}
