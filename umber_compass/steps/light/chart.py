"""The paint chart: every material's colours in the plan's light, by named places on its form."""

from collections.abc import Mapping
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
from umber_compass.picture.finish import FINISHES, Finish
from umber_compass.picture.light import Lights, Surface, unit
from umber_compass.picture.relit import Lit, local_light
from umber_compass.picture.shade import shade
from umber_compass.plan.model import Colour, Region
from umber_compass.plan.rig import Rig
from umber_compass.plan.terms import ChartPlace, Way
from umber_compass.steps.harmony.colours import RegionColour, end_names
from umber_compass.steps.light.exposure import Samples, anchor_light, expose, surface_at
from umber_compass.work import Tick, idle


class Place(NamedTuple):
    """A named place on a form."""

    name: ChartPlace
    title: str
    short: str  # where there is little room
    cosine: float = 1.0  # N.L of the key
    occlusion: float = 1.0
    has_key: bool = True  # whether the key's light reaches it, as far as its form goes
    ways: tuple[Way, ...] = ("soft", "painter", "two-tones", "three-tones")  # that have it


_ROUND: tuple[Way, ...] = ("soft", "painter")
_HALVES: tuple[Way, ...] = ("soft", "painter", "three-tones")
PLACES = (
    Place("highlight", "highlight", "high"),
    Place("lit", "light", "light"),
    Place("halftone", "halftone", "half", 0.5, ways=_HALVES),
    Place("terminator", "terminator", "term.", 0.0, ways=_ROUND),
    Place("core-shadow", "core shadow", "core", -1.0),
    Place("cast-shadow", "cast shadow", "cast", has_key=False),
    Place("bounce", "bounce", "bou.", ways=_ROUND),
    Place("crevice", "crevice", "crev.", -1.0, 0.25),
)
_BELOW = (0.0, 0.97, 0.2431)  # the normal of what turns to the ground


def places_in(lights: Lights, casts: bool) -> tuple[Place, ...]:
    """The places that a picture in these lights has."""
    found = [p for p in PLACES if lights.way in p.ways]
    absent = {"bounce"} if lights.ground is None else set()
    if not casts:
        absent.add("cast-shadow")
    return tuple(p for p in found if p.name not in absent)


class Row(NamedTuple):
    """One row of the chart: a region, or one end of its gradient."""

    region: str
    name: str
    local: Measured
    places: dict[str, Measured]  # by the name of the place
    rest: float | None  # L* by which its anchor misses the planned value; None without a light
    by_hand: frozenset[str] = frozenset()  # the places that the artist corrected

    def turn_deg(self, place: str) -> float | None:
        """How far a place's hue turns from the local colour's, OKLCh degrees; None in grey, and
        where it has no such place."""
        there = self.places.get(place)
        if (
            there is None
            or self.local.hue is None
            or there.hue is None
            or self.local.is_grey
            or there.is_grey
        ):
            return None
        return float(hue_distance(self.local.hue, there.hue))


def lights_for(
    lit: Lit | None,
    lights: Lights,
    rig: Rig,
    colours: dict[str, RegionColour],
    shares: dict[str, float],
) -> Lights:
    """The lights the plan is seen in, exposed. Where the light is off there are no forms: they are
    exposed as if every region had a side that faces the key."""
    if lit is not None:
        return lit.lights
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
    casts: bool,
    finishes: Mapping[int, Finish],
    corrected: Mapping[str, Mapping[ChartPlace, str]],
    tick: Tick = idle,
) -> list[Row]:
    """Every region's colours in the light, in the plan's order; a gradient's ends apart. What was
    `corrected` by hand, by region, stands in its place; of a gradient at its first end."""
    rows: list[tuple[str, str, Measured, float | None]] = []
    made: list[Finish] = []
    for region in regions:
        rest = lit.rest[region.id] if lit is not None else None
        ends = colours[region.id].ends
        for end, said in zip(ends, end_names(planned[region.id]), strict=True):
            rows.append((region.id, region.name + said, end, rest))
            made.append(finishes.get(region.label, FINISHES["matte"]))
    places = at_places([row[2] for row in rows], made, lights, places_in(lights, casts))
    found: list[Row] = []
    for (r, name, end, rest), there in zip(rows, places, strict=True):
        first = not found or found[-1].region != r
        own = {p: h for p, h in corrected.get(r, {}).items() if first and p in there}
        shown = dict(there)
        shown.update({p: _by_hand(h, end) for p, h in own.items()})
        found.append(Row(r, name, end, shown, rest, frozenset(own)))
    return found


def _by_hand(hex_: str, local: Measured) -> Measured:
    return measured(np.array([levels_of(hex_)]), (local.slot,))[0]


def at_places(
    locals_: list[Measured], finishes: list[Finish], lights: Lights, places: tuple[Place, ...]
) -> list[dict[str, Measured]]:
    """Local colours at every place of the chart, all at once."""
    table = np.array([levels_of(m.hex) for m in locals_])
    count = len(places)
    local = np.repeat(local_light(table), count, axis=1)
    surface = _surface(lights, places)
    many = len(locals_)
    every = Surface(
        np.tile(surface.normal, many),
        np.tile(surface.occlusion, many),
        np.tile(surface.turned, many),
    )
    kept = np.tile(np.array([p.has_key for p in places], np.float32), len(locals_))
    parts: dict[Finish, list[int]] = {}
    for i, finish in enumerate(finishes):
        if finish.name != "matte":
            parts.setdefault(finish, []).extend(range(i * count, (i + 1) * count))
    at = {finish: np.array(places) for finish, places in parts.items()}
    beside = [kept, *(np.ones_like(kept) for _ in lights.others)]
    levels = to_bytes(encode(shade(local, every, lights, beside, parts=at))).T
    slots = tuple(m.slot for m in locals_ for _ in places)
    found = measured(np.ascontiguousarray(levels), slots)
    names = [p.name for p in places]
    return [
        {
            name: one
            for name, one in zip(names, found[i * count : (i + 1) * count], strict=True)
            if name != "highlight" or (finishes[i].gloss and lights.highlights)
        }
        for i in range(len(locals_))
    ]


def _surface(lights: Lights, places: tuple[Place, ...]) -> Surface:
    """The places as they turn: by N.L, or where a highlight lies, or to the ground."""
    cosines = np.array([p.cosine for p in places])
    found = surface_at(cosines, np.array([p.occlusion for p in places]), lights)
    x, y, z = lights.key.direction
    half = unit((x, y, z + 1.0))
    for i, place in enumerate(places):
        if place.name == "highlight":
            found.normal[:, i] = half
        elif place.name == "bounce":
            found.normal[:, i] = _BELOW
    return found
