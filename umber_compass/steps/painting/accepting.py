"""A painting's drift taken into the plan: each region planned in the colour that is painted."""

from collections.abc import Sequence
from functools import partial

import numpy as np
from msgspec.structs import replace

from umber_compass.colour.gamut import fit
from umber_compass.colour.measured import measure_hex
from umber_compass.colour.spaces import encode, luminance_of_value, to_hex, value_of_luminance
from umber_compass.plan.edits import Edit, each_part, study, with_colours
from umber_compass.plan.model import Pinned, Plan, Planned, Solid
from umber_compass.plan.ranges import bounded
from umber_compass.plan.terms import Value
from umber_compass.steps.harmony.edits import MOST_CHROMA
from umber_compass.steps.painting.comparing import Drift
from umber_compass.words import Words, words

_PALE = 0.02  # OKLCh chroma under which chroma is moved by an amount, and not by a factor


def accept(drifts: Sequence[Drift], names: dict[str, str]) -> Edit:
    """Plan some regions as they are painted, in one step; `names` are the regions' by id."""
    mine = {d.region: d for d in drifts}

    def change(plan: Plan) -> Plan:
        colours = study(plan).colours
        there = {r: d for r, d in mine.items() if r in colours}
        return with_colours(
            plan, {r: each_part(colours[r], partial(_as_painted, d)) for r, d in there.items()}
        )

    return Edit(_name_of(drifts, names), change)


def _name_of(drifts: Sequence[Drift], names: dict[str, str]) -> Words:
    if len(drifts) == 1:
        name = names.get(drifts[0].region, drifts[0].region)
        return words("plan {name} as it is painted", name=name)
    return words("plan {count} regions as they are painted", count=len(drifts))


def _as_painted(drift: Drift, solid: Solid) -> Solid:
    """A local colour that looks in its light as the painting does."""
    if isinstance(solid, Planned):
        hue = (solid.hue_offset_deg + (drift.hue or 0.0) + 180) % 360 - 180
        return replace(
            solid,
            value=_value(solid.value, drift),
            chroma=_chroma(solid.chroma, drift),
            hue_offset_deg=hue,
        )
    own = measure_hex(solid.hex)
    hue = (own.hue or 0.0) + (drift.hue or 0.0)
    wanted = fit(
        np.array([_value(own.value, drift)]),
        np.array([_chroma(own.chroma, drift)]),
        np.array([hue]),
    )
    return Pinned(hex=to_hex(encode(wanted[0])))


def _value(own: float, drift: Drift) -> float:
    """Light keeps its ratio: luminance grows by as much as the painting's does."""
    goal = max(drift.goal[0], 1.0)
    ratio = luminance_of_value(max(goal + drift.value, 0.0)) / luminance_of_value(goal)
    lum = min(float(luminance_of_value(own) * ratio), 1.0)
    return bounded(Value, float(value_of_luminance(np.array(lum))))


def _chroma(own: float, drift: Drift) -> float:
    goal = float(np.hypot(drift.goal[1], drift.goal[2])) / 100
    if goal < _PALE:
        return min(max(own + drift.chroma, 0.0), MOST_CHROMA)
    return min(max(own * (goal + drift.chroma) / goal, 0.0), MOST_CHROMA)
