"""The paint chart: every material's colours in the plan's light, by named directions."""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.spaces import encode, hue_distance, to_bytes
from umber_compass.plan.edits import study
from umber_compass.plan.light_edits import rig_of
from umber_compass.steps.colouring import Measured, end_names, levels_of, measured
from umber_compass.steps.light import Lights, lights_of, shade
from umber_compass.steps.lit import anchor_light, expose, local_light
from umber_compass.steps.pipeline import Derived


class Place(NamedTuple):
    """A named place on a form: how it turns to the key, N.L, and how open it lies."""

    name: str
    title: str
    short: str  # where there is little room
    turn: float
    openness: float


PLACES = (
    Place("lit", "lit", "lit", 1.0, 1.0),
    Place("halftone", "halftone", "half", 0.5, 1.0),
    Place("terminator", "terminator", "term.", 0.0, 1.0),
    Place("core-shadow", "core shadow", "core", -1.0, 1.0),
    Place("crevice", "crevice", "crev.", -1.0, 0.25),
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
    table = np.array([levels_of(c.first.hex) for c in derived.colours.values()])
    local = local_light(table).T
    anchor = "lit" if rig.anchor == "mean" else rig.anchor  # a mean needs forms
    light = np.tile(anchor_light(anchor, lights), (len(local), 1))
    share = np.array([derived.shares[r] for r in derived.colours])
    return expose(local, light, share, lights)[0]


def chart(derived: Derived) -> list[Material]:
    """Every region's colours in the light, in the plan's order; a gradient's ends apart."""
    planned = study(derived.plan).colours
    rows, locals_ = [], []
    for region in derived.plan.regions:
        rest = derived.lit.rest[region.id] if derived.lit is not None else None
        ends = derived.colours[region.id].ends
        for end, said in zip(ends, end_names(planned[region.id]), strict=True):
            rows.append((region.id, region.name + said, end, rest))
            locals_.append(end)
    lit = _places(locals_, lights_for(derived))
    return [
        Material(r, n, end, there, rest) for (r, n, end, rest), there in zip(rows, lit, strict=True)
    ]


def _places(locals_: list[Measured], lights: Lights) -> list[dict[str, Measured]]:
    """Local colours at every place of the chart, all at once."""
    table = np.array([levels_of(m.hex) for m in locals_])
    count = len(PLACES)
    local = np.repeat(local_light(table), count, axis=1)
    turn = np.tile(np.array([p.turn for p in PLACES], np.float32), len(locals_))
    openness = np.tile(np.array([p.openness for p in PLACES], np.float32), len(locals_))
    levels = to_bytes(encode(shade(local, turn, openness, lights))).T
    slots = tuple(m.slot for m in locals_ for _ in PLACES)
    found = measured(np.ascontiguousarray(levels), slots)
    names = [p.name for p in PLACES]
    return [
        dict(zip(names, found[i * count : (i + 1) * count], strict=True))
        for i in range(len(locals_))
    ]
