"""The colours a plan comes to: every region's colour as the screen shows it, with its measures."""

from collections.abc import Iterable, Mapping
from typing import Any, NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.measured import Measured, measured
from umber_compass.colour.shaded import COOL_DEG, WARM_DEG, TwoLights, shaded
from umber_compass.colour.spaces import Floats, decode, oklab, parse_hex, polar, to_bytes, value
from umber_compass.picture.indexed import IndexedPicture
from umber_compass.picture.light import lights_of
from umber_compass.picture.shading import VALUE_OF_LEVEL
from umber_compass.plan.model import Colour, Gradient, Region, Scheme, Shading, Solid
from umber_compass.plan.rig import Rig
from umber_compass.steps.harmony.planned_levels import (
    PlannedLevels,
    Solids,
    planned_levels,
    shown,
    solids_of,
)

_NO_STOPS: Mapping[str, Floats] = {}


class RegionColour(NamedTuple):
    """A region's colour: one, or the two ends of a gradient."""

    first: Measured
    second: Measured | None

    @property
    def ends(self) -> tuple[Measured, ...]:
        """Its one or two colours."""
        return (self.first,) if self.second is None else (self.first, self.second)

    @property
    def mean_value(self) -> float:
        """Value L* in the middle of the region."""
        return sum(e.value for e in self.ends) / len(self.ends)


def end_names(colour: Colour) -> tuple[str, ...]:
    """What is added to a region's name for each of its colours: nothing for one colour, the place
    in the picture for the two ends of a gradient."""
    if not isinstance(colour, Gradient):
        return ("",)
    x0, y0, x1, y1 = colour.axis
    if abs(y1 - y0) >= abs(x1 - x0):
        return (" above", " below") if y0 <= y1 else (" below", " above")
    return (" left", " right") if x0 <= x1 else (" right", " left")


def solid_levels(scheme: Scheme, solids: Iterable[Solid]) -> npt.NDArray[np.uint8]:
    """8-bit colours, (n, 3), of solid colours under a scheme."""
    return shown(scheme, solids_of({str(i): solid for i, solid in enumerate(solids)}))


_Before: TypeAlias = tuple[tuple[Any, ...], dict[str, RegionColour]]


def region_colours(scheme: Scheme, colours: dict[str, Colour]) -> dict[str, RegionColour]:
    """Every region's colour under a scheme, by region id."""
    return measured_colours(planned_levels(scheme, colours))


def measured_colours(
    planned: PlannedLevels, before: _Before | None = None
) -> dict[str, RegionColour]:
    """Every region's colour with its measures, by region id. `before` is what an earlier call was
    given and gave: only colours that changed since are measured."""
    solids, levels = planned
    rows, found = np.arange(len(levels)), dict[int, Measured]()
    kept: dict[str, RegionColour] = {}
    if before is not None and before[0][0].solids.row is solids.row:
        then = before[0][0]
        other = (then.levels != levels).any(axis=1) | (then.solids.slot != solids.slot)
        rows, kept = np.flatnonzero(other), before[1]
    slots = tuple(solids.slots[i] for i in rows.tolist())
    if len(rows):
        found = dict(zip(rows.tolist(), measured(levels[rows], slots), strict=True))
    return {k: _again(k, at, last, found, kept) for k, at, last in _spans(solids)}


def _spans(solids: Solids) -> list[tuple[str, int, int]]:
    """Each region with its first and its last row."""
    begins = [*solids.row.values(), len(solids.slots)]
    return [(k, begins[i], begins[i + 1] - 1) for i, k in enumerate(solids.row)]


def _again(
    region_id: str,
    first: int,
    last: int,
    found: dict[int, Measured],
    kept: dict[str, RegionColour],
) -> RegionColour:
    if first not in found and last not in found:
        return kept[region_id]
    old = kept.get(region_id)
    one = found[first] if first in found or old is None else old.first
    if last == first:
        return RegionColour(one, None)
    return RegionColour(one, found[last] if last in found or old is None else old.second)


def shading_of(told: Shading | None, percent: float) -> Shading:
    """How the sketch's own shading goes through: as the study says, else at the practice's
    strength."""
    return Shading(strength=min(max(percent, 0.0), 200.0)) if told is None else told


def code_table(
    indexed: IndexedPicture,
    regions: Iterable[Region],
    planned: PlannedLevels,
    shading: Shading | None = None,
    rig: Rig | None = None,
    stops: Mapping[str, Floats] = _NO_STOPS,
    maps: Mapping[str, Floats] = _NO_STOPS,
) -> npt.NDArray[np.uint8]:
    """8-bit colours by code, (codes, 3). A gradient is mixed on encoded values, as a painting
    program's gradient is, so that its two hexes are all one needs. Code 0 is white paper. The
    artist's own shading goes through them where the sketch has any; `rig` gives its hues where it
    is to. `stops` are the 8-bit colours, (steps, 3), of regions with zones or patches; `maps` are
    the gradients, encoded (k, 3), that give shading its hues."""
    table = np.full((indexed.size, 3), 255, np.uint8)
    row = planned.solids.row
    regions = tuple(regions)
    held = [(row[r.id], *indexed.spans.get(r.label, (0, 0))) for r in regions]
    at, begins, ends = np.array([h for h in held if h[2] > h[1]], np.intp).reshape(-1, 3).T
    length = ends - begins
    codes = np.repeat(begins - np.cumsum(length) + length, length) + np.arange(int(length.sum()))
    table[codes] = np.repeat(planned.levels[at], length, axis=0)
    # A region has more than one code where it is a gradient.
    for k in np.flatnonzero(length > 1).tolist():
        if not planned.solids.is_gradient(int(at[k])):
            continue
        first, second = planned.levels[at[k]], planned.levels[at[k] + 1]
        t = indexed.along[begins[k] : ends[k], None]
        table[begins[k] : ends[k]] = (first * (1 - t) + second * t + 0.5).astype(np.uint8)
    for r in regions if stops else ():
        if r.id in stops and r.label in indexed.spans:
            begin, end = indexed.spans[r.label]
            step = np.round(indexed.along[begin:end] * (len(stops[r.id]) - 1)).astype(np.intp)
            table[begin:end] = (stops[r.id][step] + 0.5).astype(np.uint8)
    if indexed.off is not None and shading is not None and shading.on:
        through = _through(table, indexed, shading, rig)
        return _mapped(through, indexed, regions, maps) if maps else through
    return table


def _through(
    table: npt.NDArray[np.uint8], indexed: IndexedPicture, shading: Shading, rig: Rig | None
) -> npt.NDArray[np.uint8]:
    """Local colours by code with the sketch's own shading."""
    assert indexed.off is not None
    off = indexed.off.astype(float)
    moved = off * (shading.strength / 100)
    mean = VALUE_OF_LEVEL[indexed.key % 256] - off
    lights = lights_of(rig) if rig is not None else None
    two = None
    if lights is not None and not lights.is_dark:
        two = TwoLights(lights.ambient, lights.key.light)
    hue, poles = shading.hue, (COOL_DEG, WARM_DEG)
    if hue == "own":
        hue, poles = "cool-warm", (_hue_of(shading.shade_hex), _hue_of(shading.light_hex))
    elif hue != "cool-warm" and two is None:
        hue = "kept"
    through = to_bytes(shaded(table / 255, moved, hue, two, mean, poles))
    through[0] = table[0]
    return through


def _mapped(
    through: npt.NDArray[np.uint8],
    indexed: IndexedPicture,
    regions: Iterable[Region],
    maps: Mapping[str, Floats],
) -> npt.NDArray[np.uint8]:
    """Colours by code with the hues of regions' gradients, their values kept."""
    from umber_compass.colour.gradient_map import mapped  # few plans have gradients

    for r in regions:
        if r.id in maps and r.label in indexed.spans:
            part = slice(*indexed.spans[r.label])
            through[part] = to_bytes(mapped(value(decode(through[part] / 255)), maps[r.id]))
    return through


def _hue_of(hex_: str) -> float:
    return float(polar(oklab(decode(parse_hex(hex_))))[2])
