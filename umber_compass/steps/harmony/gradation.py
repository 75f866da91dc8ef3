"""A gradation across the whole picture: hue, temperature or value from side to side, laid over
chosen regions; and the axis of one region's gradient."""

from collections.abc import Iterable, Mapping
from typing import Literal, TypeAlias

import numpy as np
from msgspec.structs import replace

from umber_compass.plan.edits import Edit, study, with_colours
from umber_compass.plan.harmony_edits import half_turned
from umber_compass.plan.model import Axis, Colour, Gradient, Pinned, Plan, Planned, Solid
from umber_compass.plan.ranges import bounded
from umber_compass.plan.terms import Share, Slot, Value
from umber_compass.steps.harmony.leaning import toward_warm
from umber_compass.steps.harmony.scheme import slot_hues
from umber_compass.words import words

Kind: TypeAlias = Literal["hue", "temperature", "value"]
Hues: TypeAlias = Mapping[Slot, float]  # OKLCh degrees by slot
Way: TypeAlias = Literal["down", "across", "falling", "rising"]

# Unit, and the greatest amount from one side to the other.
KINDS: dict[Kind, tuple[str, float]] = {
    "temperature": ("%", 100.0),
    "value": ("L*", 50.0),
    "hue": ("°", 90.0),
}
WAYS: dict[Way, Axis] = {
    "down": (0.5, 0.0, 0.5, 1.0),
    "across": (0.0, 0.5, 1.0, 0.5),
    "falling": (0.0, 0.0, 1.0, 1.0),
    "rising": (0.0, 1.0, 1.0, 0.0),
}
_FULL_WARMTH = 0.08  # OKLab toward a pole, at 100 % (studio rule, docs/harmony.md)


def lay_gradation(regions: Iterable[str], kind: Kind, amount: float, way: Way) -> Edit:
    """Some regions with a gradation over them: at the beginning of the way half the amount is
    added, at its end half is taken. A region of one colour becomes a gradient along the way, the
    ends of another are moved by where they lie. Fixed and locked colours stay."""
    chosen = tuple(regions)
    most = KINDS[kind][1]
    kept = min(max(amount, -most), most)

    def change(plan: Plan) -> Plan:
        now = study(plan)
        hues = slot_hues(now.scheme)
        free = [r for r in chosen if r in now.colours and r not in now.locked]
        laid = {r: _laid(now.colours[r], kind, kept, WAYS[way], hues) for r in free}
        return with_colours(plan, laid)

    text = words("lay a gradation of {kind} over {n} regions", kind=kind, n=len(chosen))
    return Edit(text, change if kept else lambda plan: plan, "gradation")


def _laid(colour: Colour, kind: Kind, amount: float, axis: Axis, hues: Hues) -> Colour:
    if isinstance(colour, Pinned):
        return colour
    if isinstance(colour, Planned):
        first, second = (_moved(colour, kind, by * amount, hues) for by in (0.5, -0.5))
        return Gradient(first=first, second=second, axis=axis)
    ends = ((colour.first, colour.axis[:2]), (colour.second, colour.axis[2:]))
    first, second = (
        _moved(solid, kind, (0.5 - _along(axis, place)) * amount, hues) for solid, place in ends
    )
    return replace(colour, first=first, second=second)


def _along(axis: Axis, place: tuple[float, ...]) -> float:
    """How far along an axis a place lies, 0-1."""
    start, way = np.array(axis[:2]), np.array(axis[2:]) - np.array(axis[:2])
    return float(np.clip((np.array(place) - start) @ way / max(way @ way, 1e-9), 0, 1))


def _moved(solid: Solid, kind: Kind, by: float, hues: Hues) -> Solid:
    if isinstance(solid, Pinned):
        return solid
    if kind == "value":
        return replace(solid, value=bounded(Value, solid.value + by))
    if kind == "hue":
        return replace(solid, hue_offset_deg=half_turned(solid.hue_offset_deg + by))
    return toward_warm(solid, by / KINDS["temperature"][1] * _FULL_WARMTH, hues)


def set_axis(region: str, axis: tuple[float, float, float, float], name: str) -> Edit:
    """The axis of a region's gradient, shares of the picture's width and height."""
    x0, y0, x1, y1 = (bounded(Share, part) for part in axis)

    def change(plan: Plan) -> Plan:
        colour = study(plan).colours[region]
        if not isinstance(colour, Gradient):
            return plan
        return with_colours(plan, {region: replace(colour, axis=(x0, y0, x1, y1))})

    return Edit(words("turn the gradient of {name}", name=name), change, f"axis {region}")
