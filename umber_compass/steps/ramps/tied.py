"""Regions that are another's shade or light: their colours are steps of its ramp, and follow it."""

from collections.abc import Mapping

from umber_compass.colour.spaces import to_hex
from umber_compass.plan.edits import part
from umber_compass.plan.model import Colour, Pinned, Ramp, Scheme, ShadeOf
from umber_compass.plan.rig import Rig
from umber_compass.steps.harmony.colours import solid_levels
from umber_compass.steps.ramps.ramps import make_steps, ramp_of


def tied(
    colours: dict[str, Colour],
    shades: Mapping[str, ShadeOf],
    scheme: Scheme,
    recipes: Mapping[str, Ramp],
    numbers: Mapping[str, float],
    rig: Rig,
) -> dict[str, Colour]:
    """Every region's colour, by id: of those that are tied the step of the other's ramp, or its
    last where it has fewer. A tie to a region that is gone, or is tied itself, does nothing."""
    if not shades:
        return colours
    found = dict(colours)
    for region, shade in shades.items():
        if region not in colours or shade.of not in colours or shade.of in shades:
            continue
        level = solid_levels(scheme, [part(colours[shade.of], 0)])[0]
        made = make_steps(to_hex(level / 255), ramp_of(recipes, shade.of), numbers, rig)
        at = min(max(made.base + shade.step, 0), len(made.steps) - 1)
        found[region] = Pinned(hex=made.steps[at].hex)
    return found
