"""Soft fields within a region: a face's zones along an axis, and a second and third colour near its
own in patches. Value stays; only hue and chroma turn (docs/harmony.md)."""

from collections.abc import Iterable, Mapping

import numpy as np
from msgspec.structs import replace

from umber_compass.colour.gamut import fit
from umber_compass.colour.measured import Measured, measured
from umber_compass.colour.spaces import Floats, encode, parse_hex
from umber_compass.picture.indexed import GRADIENT_STEPS, Axes, gradient_axes
from umber_compass.plan.edits import Edit, study, with_study
from umber_compass.plan.model import Colour, Gradient, Plan, Region, Variation, Zones
from umber_compass.steps.harmony.planned_levels import PlannedLevels
from umber_compass.steps.harmony.zones import SCHOOLS, zones_of
from umber_compass.words import words

# By how much a second and a third colour turn from a region's own at full strength, OKLCh degrees,
# and what they have of its chroma (studio rule, by eye: seen, and still one material).
_TURN, _DULLER, _STRONGER = 16.0, 0.8, 1.15
_LEAST_CHROMA = 0.012  # that a grey is varied by
_ASPECT = 4 / 3  # patches are as wide as high in such a picture


def field_axes(
    regions: tuple[Region, ...],
    colours: Mapping[str, Colour],
    zones: Mapping[str, Zones],
    varied: Mapping[str, Variation],
) -> Axes:
    """Along which lines, or in which patches, each region's colour changes, by label: gradients,
    then zones that are shown, then patches."""
    found: Axes = {}
    for region in regions if zones or varied else ():
        patch, zone = varied.get(region.id), zones.get(region.id)
        if patch is not None and patch.strength > 0:
            found[region.label] = (0.0, 0.0, patch.size, patch.size * _ASPECT, float(patch.seed))
        if zone is not None and zone.axis is not None:
            found[region.label] = zone.axis
    return found | gradient_axes(regions, colours)


def field_stops(
    regions: Iterable[Region],
    planned: Mapping[str, Colour],
    levels: PlannedLevels,
    zones: Mapping[str, Zones],
    varied: Mapping[str, Variation],
) -> dict[str, Floats]:
    """The 8-bit colours, (steps, 3), that each region with a field has along it. Only those regions
    are measured: a picture that is dragged waits for it."""
    found: dict[str, Floats] = {}
    for region in regions if zones or varied else ():
        if isinstance(planned[region.id], Gradient):
            continue
        zone, patch = zones.get(region.id), varied.get(region.id)
        if zone is not None and zone.axis is not None:
            found[region.id] = _along_zones(_own(levels, region.id), zone)
        elif patch is not None and patch.strength > 0:
            found[region.id] = _in_patches(_own(levels, region.id), patch)
    return found


def _own(levels: PlannedLevels, region: str) -> Measured:
    """A region's own colour."""
    row = levels.solids.row[region]
    return measured(levels.levels[row : row + 1], ("A",))[0]


def _along_zones(own: Measured, zone: Zones) -> Floats:
    """A face's zones from its brow to its jaw, each going softly into the next."""
    places = SCHOOLS[zone.school].along
    hexes = {z.name: z.hex for z in zones_of(own, zone.school, zone.strength)}
    base = parse_hex(own.hex) * 255
    stops = np.array([parse_hex(hexes[n]) * 255 if n else base for _, n in places])
    at = np.array([t for t, _ in places])
    t = np.linspace(0, 1, GRADIENT_STEPS)
    return np.stack([np.interp(t, at, stops[:, i]) for i in range(3)], axis=1)


def _in_patches(first: Measured, patch: Variation) -> Floats:
    """From a second colour through a region's own to a third."""
    t = np.linspace(-1, 1, GRADIENT_STEPS) * patch.strength
    hue = (first.hue if first.hue is not None else 60.0) + _TURN * t
    times = np.where(t < 0, 1 + (1 - _DULLER) * t, 1 + (_STRONGER - 1) * t)
    chroma = np.maximum(first.chroma, _LEAST_CHROMA * np.abs(t)) * times
    return np.asarray(encode(fit(first.value, chroma, hue)) * 255)


def vary(region_ids: Iterable[str], strength: float, name: str) -> Edit:
    """Regions varied by a strength of 0-2 in patches of their own; none at 0."""
    mine, kept = tuple(region_ids), min(max(strength, 0.0), 2.0)

    def change(plan: Plan) -> Plan:
        now = study(plan)
        varied = dict(now.variations)
        for one in mine:
            before = varied.pop(one, Variation(seed=_seed_of(one)))
            if kept:
                varied[one] = Variation(seed=before.seed, strength=kept, size=before.size)
        return with_study(plan, replace(now, variations=varied))

    text = words("vary {name} by {strength:.0%}", name=name, strength=kept)
    return Edit(text, change, f"vary {' '.join(mine)}")


def other_patches(region_ids: Iterable[str], name: str) -> Edit:
    """Other patches of the same colours."""
    mine = tuple(region_ids)

    def change(plan: Plan) -> Plan:
        now = study(plan)
        varied = dict(now.variations)
        for one in mine:
            if one in varied:
                was = varied[one]
                seed = was.seed % 1_000_000 + 1
                varied[one] = Variation(seed=seed, strength=was.strength, size=was.size)
        return with_study(plan, replace(now, variations=varied))

    return Edit(words("other patches for {name}", name=name), change)


def _seed_of(region: str) -> int:
    """A seed of its own for each region, so that neighbours do not share patches."""
    return sum(ord(c) * (i + 7) for i, c in enumerate(region)) % 1_000_000 + 1
