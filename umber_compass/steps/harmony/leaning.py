"""Whole palettes leaned: toward warm or cool, to another chroma, another key."""

from collections.abc import Mapping

import numpy as np
from msgspec.structs import replace

from umber_compass.plan.edits import each_free, each_part, study, with_colours
from umber_compass.plan.harmony_edits import half_turned
from umber_compass.plan.model import Pinned, Plan, Planned, Solid
from umber_compass.plan.terms import Slot
from umber_compass.steps.harmony.edits import MOST_CHROMA
from umber_compass.steps.harmony.scheme import slot_hues
from umber_compass.steps.harmony.warmth import WARM_HUE


def leaned(plan: Plan, by: float) -> Plan:
    """Every free colour moved so far in OKLab toward the warm pole, or from it where negative;
    values stay."""
    hues = slot_hues(study(plan).scheme)
    return each_free(plan, lambda solid: toward_warm(solid, by, hues))


def toward_warm(solid: Planned, by: float, hues: Mapping[Slot, float]) -> Planned:
    """A colour moved so far in OKLab toward the warm pole, in a scheme of such OKLCh hues in
    degrees by slot."""
    own, pole = hues.get(solid.slot, hues["A"]), np.radians(WARM_HUE)
    turn = np.radians(own + solid.hue_offset_deg)
    ab = solid.chroma * np.array([np.cos(turn), np.sin(turn)])
    ab = ab + by * np.array([np.cos(pole), np.sin(pole)])
    hue = float(np.degrees(np.arctan2(ab[1], ab[0])))
    return replace(
        solid,
        chroma=min(float(np.hypot(*ab)), MOST_CHROMA),
        hue_offset_deg=half_turned(hue - own),
    )


def strengthened(plan: Plan, times: float, of_focus: float) -> Plan:
    """Every free colour at so many times its chroma; the focus, and figures half the way, at its
    own factor."""
    now = study(plan)
    named = set(now.focus.regions) if now.focus is not None else set()
    factor = {}
    for region in plan.regions:
        is_focus = region.role == "focus" or region.id in named
        middle = (times + of_focus) / 2 if region.role == "figure" else times
        factor[region.id] = of_focus if is_focus else middle
    colours = {}
    for region_id, colour in now.colours.items():
        if region_id in now.locked:
            continue

        def one(solid: Solid, by: float = factor[region_id]) -> Solid:
            if isinstance(solid, Pinned):
                return solid
            return replace(solid, chroma=min(solid.chroma * by, MOST_CHROMA))

        colours[region_id] = each_part(colour, one)
    return with_colours(plan, colours)


def keyed(plan: Plan, by: float, contrast: float, middle: float) -> Plan:
    """Every free value spread so many times as far round a middle, L*, and moved by so much."""

    def one(solid: Planned) -> Planned:
        to = middle + (solid.value - middle) * contrast + by
        return replace(solid, value=min(max(to, 5.0), 96.0))

    return each_free(plan, one)
