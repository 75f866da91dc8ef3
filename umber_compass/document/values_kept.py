"""Values of shaded regions after their px were changed by hand: every px keeps the value it has."""

from functools import partial

import numpy as np
import numpy.typing as npt
from msgspec.structs import replace

from umber_compass.colour.measured import measure_hex
from umber_compass.picture.drawing import Drawing
from umber_compass.plan.edits import each_part
from umber_compass.plan.model import Colour, Gradient, Pinned, Planned, Region, Solid, Study
from umber_compass.plan.regrouping import Fresh
from umber_compass.plan.terms import Id

_ALIKE = 0.05  # L* by which a region's mean may move and its value stays


def values_kept(
    before: Drawing,
    after: Drawing,
    regions: tuple[list[Region], list[Region]],
    sources: dict[Id, Id],
) -> Fresh:
    """Colours of the regions whose px changed, by study: each as far from the mean of its px as
    they were before, on the mean. `regions` are the old ones and the new; `sources` says which old
    one a new one takes its colour from. What is given stays as it is."""
    if before.shades is None or after.shades is None:
        return lambda study: {}
    was, now = before.shades.mean, after.shades.mean
    most = len(was)
    pairs = np.bincount(
        after.labels.reshape(-1).astype(np.intp) * most + before.labels.reshape(-1),
        minlength=len(now) * most,
    ).reshape(-1, most)
    old = {r.label: r for r in regions[0]}
    label = {r.id: r.label for r in regions[0]}

    def fresh(study: Study) -> dict[Id, Colour]:
        shift = np.zeros(most)
        for number, one in old.items():
            if number < most:
                shift[number] = value_of(study.colours[one.id]) - was[number]
        found: dict[Id, Colour] = {}
        for region in regions[1]:
            source = sources.get(region.id, region.id)
            wanted = _wanted(pairs[region.label], shift, float(now[region.label]))
            colour = study.colours[source]
            by = wanted - float(was[label[source]]) - float(shift[label[source]])
            if abs(by) > _ALIKE:
                found[region.id] = each_part(colour, partial(_moved, by))
        return found

    return fresh


def _wanted(held: npt.NDArray[np.intp], shift: npt.NDArray[np.float64], mean: float) -> float:
    """The value of a region of this mean whose px lay in some regions, each shifted by so much."""
    held = held.copy()
    held[0] = 0
    return mean + float(held @ shift) / max(int(held.sum()), 1)


def value_of(colour: Colour) -> float:
    """A region's value L*, of a gradient that of its middle."""
    if isinstance(colour, Gradient):
        return (value_of(colour.first) + value_of(colour.second)) / 2
    return colour.value if isinstance(colour, Planned) else measure_hex(colour.hex).value


def _moved(by: float, solid: Solid) -> Solid:
    if isinstance(solid, Pinned):
        return solid
    return replace(solid, value=min(max(solid.value + by, 0.0), 100.0))
