"""A hue that appears once looks stuck on; echoed small elsewhere it belongs."""

from collections.abc import Callable

import numpy as np
from msgspec.structs import replace

from umber_compass.plan.edits import Edit, each_part, part, study, with_colours
from umber_compass.plan.model import Pinned, Plan, Planned, Solid
from umber_compass.plan.terms import Slot
from umber_compass.steps.checks.check import CheckSpec, Fix, Result, names, upper
from umber_compass.steps.harmony.places import SlotPlaces, places_of_region
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

NAME = "echo"
_OFFERED = 4


def _lonely(derived: Derived) -> list[SlotPlaces]:
    least, most = derived.rules["echo.least"] / 100, derived.rules["echo.most"] / 100
    return [p for p in derived.places if p.slot != "A" and p.many == 1 and least <= p.share <= most]


def _measure(derived: Derived) -> list[Result]:
    if not derived.places:
        return []
    word = {row.slot: row.name for row in derived.slot_shares}
    found = [
        Result(
            NAME,
            "note",
            place.regions,
            1.0,
            2.0,
            "places",
            words("{name} appears in one place only", name=upper(word.get(place.slot, "A hue"))),
            words("hue {slot}; repeated small elsewhere it would belong", slot=place.slot),
        )
        for place in _lonely(derived)
    ]
    if found:
        return found
    line = words("every hue that answers appears in two places or more")
    return [Result(NAME, "fine", (), 2.0, 2.0, "places", words("Every hue is echoed"), line)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """The hue repeated on a small region far from where it is, at that region's own value."""
    place = next((p for p in _lonely(derived) if p.regions == result.regions), None)
    if place is None or derived.parts is None:
        return []
    slot: Slot = place.slot
    chroma = max(derived.colours[r].first.chroma for r in place.regions)
    far = _far_regions(derived, place)
    found = []
    for region in far[:_OFFERED]:
        text = words("Echo on {name}", name=names(derived)[region])
        found.append(Fix(f"echo-{region}", text, Edit(text, _echoed(region, slot, chroma * 0.7))))
    return found


def _far_regions(derived: Derived, place: SlotPlaces) -> list[str]:
    """Small free regions, those that lie farthest from a place first."""
    assert derived.parts is not None
    there = np.array(place.centres)
    rows = []
    for region in derived.regions:
        solid = part(derived.study.colours[region.id], 0)
        free = isinstance(solid, Planned) and solid.slot != place.slot
        small = 0.001 <= derived.shares[region.id] <= derived.rules["echo.small"] / 100
        if not free or not small or region.id in derived.locked or region.role in ("focus", "line"):
            continue
        own = places_of_region(derived.parts, region.label)
        if len(own):
            away = np.linalg.norm(own[:, None] - there, axis=2).min()
            rows.append((float(away), region.id))
    return [r for _, r in sorted(rows, reverse=True)]


def _echoed(region: str, slot: Slot, chroma: float) -> Callable[[Plan], Plan]:
    def one(solid: Solid) -> Solid:
        if isinstance(solid, Pinned):
            return solid
        return replace(solid, slot=slot, hue_offset_deg=0.0, chroma=max(chroma, 0.04))

    def apply(plan: Plan) -> Plan:
        colour = study(plan).colours[region]
        return with_colours(plan, {region: each_part(colour, one)})

    return apply


_ABOUT = (
    "A hue that appears in one place looks stuck on; repeated small somewhere else, it belongs. "
    "Leave it alone where it is the one accent that is meant."
)
CHECK = CheckSpec(
    NAME,
    "harmony",
    _measure,
    _candidates,
    _ABOUT,
    "{count} hues appear once",
    looks=True,
    coloured=True,
)
