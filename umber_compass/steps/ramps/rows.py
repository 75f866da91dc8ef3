"""The palette in rows: every region's darker, base and lighter, families together or as the artist
ordered them."""

from collections.abc import Mapping, Sequence
from typing import NamedTuple

from umber_compass.plan.edits import part
from umber_compass.plan.model import Planned, Study
from umber_compass.steps.harmony.colours import RegionColour
from umber_compass.steps.ramps.ramps import Steps

CORE_SHARE = 0.01  # of the picture, from which a colour is of the core


class ColourRow(NamedTuple):
    """One region's colours in the palette."""

    region: str
    slot: str
    darker: str
    base: str
    lighter: str
    core: bool  # it holds enough of the picture; else it is an extra


def row_order(study: Study, families: Sequence[str]) -> list[str]:
    """Region ids in the order of the palette's rows."""
    first = [r for r in study.row_order if r in families]
    return [*first, *(r for r in families if r not in first)]


def colour_rows(
    order: Sequence[str],
    study: Study,
    colours: Mapping[str, RegionColour],
    shares: Mapping[str, float],
    ramps: Mapping[str, Sequence[Steps]] | None,
) -> list[ColourRow]:
    """The rows of some regions; until the ramps are known darker and lighter are the base."""
    rows = []
    for region in order:
        base = colours[region].first.hex
        darker = lighter = base
        if ramps and ramps.get(region):
            ramp = ramps[region][0]
            darker = ramp.steps[max(ramp.base - 1, 0)].hex
            lighter = ramp.steps[min(ramp.base + 1, len(ramp.steps) - 1)].hex
        solid = part(study.colours[region], 0)
        slot = solid.slot if isinstance(solid, Planned) else "given"
        rows.append(ColourRow(region, slot, darker, base, lighter, shares[region] >= CORE_SHARE))
    return rows
