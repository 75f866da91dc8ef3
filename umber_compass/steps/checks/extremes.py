"""Extremes are for accents: how much of the picture lies beyond the limits for darks and lights."""

import numpy as np

from umber_compass.plan.edits import Edit, part, study, with_colours, with_part
from umber_compass.plan.model import Plan, Planned
from umber_compass.steps.checks.spec import CheckSpec, Fix, Result, level_over, names
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

NAME = "extremes"


def _measure(derived: Derived) -> list[Result]:
    share = derived.values.extremes * 100
    note, warning = derived.rules["extremes.note"], derived.rules["extremes.warning"]
    level = level_over(share, note, warning)
    title = "Extremes stay accents" if level == "fine" else "Extremes hold too much"
    beyond = _beyond(derived)
    text = words(
        "{measured:.3g} % beyond {dark:g} and {light:g} L*, wanted {wanted:g} % or less",
        measured=share,
        dark=derived.rules["extremes.dark"],
        light=derived.rules["extremes.light"],
        wanted=note,
    )
    regions = tuple(sorted(beyond, key=lambda r: -beyond[r])) if level != "fine" else ()
    return [Result(NAME, level, regions, share, note, "%", words(title), text, whole=True)]


def _beyond(derived: Derived) -> dict[str, float]:
    """The share of the picture, 0-1, that each region holds beyond the limits."""
    low, high = derived.rules["extremes.dark"], derived.rules["extremes.light"]
    by_code, grain = derived.values.by_code, derived.grain
    out = (by_code < low) | (by_code > high)
    most = int(grain.label.max(initial=0)) + 1
    held = np.bincount(grain.label, grain.pixels * out, most)
    total = max(int(grain.pixels[grain.label > 0].sum()), 1)
    shares = {r.id: float(held[r.label]) / total for r in derived.plan.regions if r.label < most}
    return {r: s for r, s in shares.items() if s > 0}


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """The set of regions to bring inside the limits that costs least, as a 0/1 cover; and the same
    without its largest region, for another choice."""
    shares = _beyond(derived)
    plan = derived.plan
    colours = study(plan).colours
    movable = [r for r in shares if all(isinstance(part(colours[r], e), Planned) for e in (0, 1))]
    first = _cover(derived, shares, movable)
    if not first:
        return []
    second = _cover(
        derived, shares, [r for r in movable if r != max(first, key=shares.__getitem__)]
    )
    return [_fix(derived, chosen, i) for i, chosen in enumerate((first, second)) if chosen]


def _inside(value: float, derived: Derived) -> float:
    margin = derived.rules["fix.value"]
    low, high = derived.rules["extremes.dark"], derived.rules["extremes.light"]
    return min(max(value, low + margin), high - margin)


def _cover(derived: Derived, shares: dict[str, float], movable: list[str]) -> list[str]:
    """The cheapest regions to move, area times value moved; empty if all together are too few."""
    from scipy.optimize import (
        Bounds,
        LinearConstraint,
        milp,
    )  # costs 0.5 s, so only where it is used

    excess = float(derived.values.extremes) - derived.rules["extremes.note"] / 100
    area = np.array([shares[r] for r in movable])
    if not movable or area.sum() < excess:
        return []
    cost = [
        shares[r] * max(abs(e.value - _inside(e.value, derived)) for e in derived.colours[r].ends)
        for r in movable
    ]
    found = milp(
        np.array(cost) + 1e-6,
        constraints=LinearConstraint(area[None], excess, np.inf),
        integrality=np.ones(len(area), np.intp),
        bounds=Bounds(0, 1),
    )
    return [r for r, x in zip(movable, found.x, strict=True) if x > 0.5] if found.success else []


def _fix(derived: Derived, chosen: list[str], number: int) -> Fix:
    name = names(derived)[chosen[0]]
    ends = derived.colours[chosen[0]].ends
    wish = _inside(ends[0].value, derived)
    if len(chosen) == 1:
        up = wish > ends[0].value
        text = words(
            "Lighten {name} to {v:.0f}" if up else "Darken {name} to {v:.0f}", name=name, v=wish
        )
    else:
        text = words("Bring {count} regions inside", count=len(chosen))

    def apply(plan: Plan) -> Plan:
        return _moved_inside(plan, chosen, derived)

    return Fix(f"cover-{number}", text, Edit(text, apply))


def _moved_inside(plan: Plan, chosen: list[str], derived: Derived) -> Plan:
    from msgspec.structs import replace

    changed = {}
    for region_id in chosen:
        colour = study(plan).colours[region_id]
        for end in range(len(derived.colours[region_id].ends)):
            solid = part(colour, end)
            if isinstance(solid, Planned):
                moved = replace(solid, value=_inside(solid.value, derived))
                colour = with_part(colour, end, moved)
        changed[region_id] = colour
    return with_colours(plan, changed)


CHECK = CheckSpec(NAME, "values", _measure, _candidates)
