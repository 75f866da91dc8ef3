"""Colours that are given: which schemes and leads suit them, what those leave free, and grounds
that set them off."""

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.colour.measured import Measured, measure_hex
from umber_compass.colour.spaces import GREY_CHROMA, Floats, encode, hue_distance, to_hex
from umber_compass.colour.wheels import hue_at
from umber_compass.plan.edits import Edit, each_part, study, with_colours
from umber_compass.plan.model import Pinned, Plan, Planned, Scheme, Solid
from umber_compass.plan.terms import LeadAt, Slot, Wheel
from umber_compass.steps.harmony.colours import RegionColour, region_colours
from umber_compass.steps.harmony.fit import SPREADS
from umber_compass.steps.harmony.scheme import slot_hues
from umber_compass.steps.harmony.schemes import SCHEMES, SchemeSpec
from umber_compass.words import words

# Studio rule, docs/harmony.md: a given colour may lie 4 degrees beside its needle for nothing; 18
# more cost as much as a whole miss; a needle costs a little, and one that is left free is worth it.
_FREELY, _MISS = 4.0, 14.0
_PER_NEEDLE, _NONE_FREE = 0.02, 0.12
_STEP = 3  # wheel degrees between leads that are tried
_SHOWN = 5


class Suited(NamedTuple):
    """A scheme that suits the given colours."""

    scheme: Scheme
    title: str
    off: tuple[float, ...]  # OKLCh degrees of each given colour from its needle
    free: tuple[Slot, ...]  # slots no given colour stands on
    cost: float


class Ground(NamedTuple):
    """A ground that sets given colours off."""

    title: str
    hex: str
    slot: Slot
    value: float  # L*
    chroma: float
    away: float  # L* from the nearest given colour


def given_colours(colours: Mapping[str, RegionColour]) -> dict[str, Measured]:
    """The given colours that have a hue, by region."""
    found: dict[str, Measured] = {}
    for region, colour in colours.items():
        for end in colour.ends:
            if end.slot == "given" and end.hue is not None and end.chroma >= GREY_CHROMA:
                found.setdefault(region, end)
    return found


def suited(
    colours: Mapping[str, RegionColour], shares: Mapping[str, float], wheel: Wheel
) -> tuple[Suited, ...]:
    """Schemes and leads ranked by how well the given colours stand on them and what they leave
    free, the best of each scheme; none where nothing is given."""
    given = given_colours(colours)
    if not given:
        return ()
    hues = np.array([m.hue for m in given.values()], float)
    weight = np.sqrt([max(shares[r], 1e-4) for r in given])
    found = [_best(spec, hues, weight / weight.sum(), wheel) for spec in SCHEMES.values()]
    return tuple(sorted(found, key=lambda s: s.cost)[:_SHOWN])


def _best(spec: SchemeSpec, hues: Floats, weight: Floats, wheel: Wheel) -> Suited:
    """The lead and spread at which a scheme suits hues best."""
    leads = np.arange(0, 360, _STEP)
    ends: tuple[LeadAt, ...] = ("middle",)
    if any(n.end_led for n in spec.needles):
        ends = ("middle", "low", "high")
    best: Suited | None = None
    for lead_at in ends:
        for spread in SPREADS.get(spec.name, (spec.spread_deg,)):
            offsets = np.array([n.at(spread, lead_at) for n in spec.needles])
            needles = hue_at(wheel, leads[:, None] + offsets)  # (leads, needles)
            away = np.abs(hue_distance(needles[..., None], hues))  # (leads, needles, given)
            own, off = away.argmin(axis=1), away.min(axis=1)
            loss = (np.clip((off - _FREELY) / _MISS, 0, 3) ** 2 * weight).sum(axis=1)
            used = np.stack([(own == k).any(axis=1) for k in range(len(offsets))])
            left = len(offsets) - used.sum(axis=0)
            cost = loss + _PER_NEEDLE * len(offsets) + _NONE_FREE * (left == 0)
            at = int(cost.argmin())
            if best is None or cost[at] < best.cost - 1e-9:
                scheme = Scheme(
                    wheel=wheel,
                    name=spec.name,
                    lead_deg=float(leads[at]),
                    spread_deg=float(spread),
                    lead_at=lead_at,
                )
                free = tuple(n.slot for k, n in enumerate(spec.needles) if not used[k, at])
                best = Suited(scheme, spec.title, tuple(off[at].tolist()), free, float(cost[at]))
    assert best is not None
    return best


# What a ground may be: title, value, chroma (studio rule: quiet, and well away in value).
_KINDS = (("light ground", 84.0, 0.03), ("middle ground", 55.0, 0.035), ("dark ground", 24.0, 0.04))
_STEPS = (0.0, -5.0, 5.0, -10.0, 10.0)


def grounds_for(colours: Mapping[str, RegionColour], scheme: Scheme) -> tuple[Ground, ...]:
    """A light, a middle and a dark ground, each at the value near its own that lies farthest from
    the given colours and on the slot whose hue lies farthest from theirs; the one that parts best
    first. None where nothing is given."""
    given = [e for c in colours.values() for e in c.ends if e.slot == "given"]
    if not given:
        return ()
    hues: dict[Slot, float] = {s: h for s, h in slot_hues(scheme).items() if s != "grey"}
    coloured = [e.hue for e in given if e.hue is not None and e.chroma >= GREY_CHROMA]
    slot: Slot = max(
        hues, key=lambda s: min((abs(float(hue_distance(hues[s], h))) for h in coloured), default=0)
    )
    found = []
    for title, value, chroma in _KINDS:

        def away(at: float) -> float:
            return min(abs(at - e.value) for e in given)

        best = max((value + s for s in _STEPS), key=away)
        shown = to_hex(encode(fit(best, chroma, hues[slot])))
        found.append(Ground(title, shown, slot, best, measure_hex(shown).chroma, away(best)))
    return tuple(sorted(found, key=lambda g: -g.away))


def take_ground(ground: Ground) -> Edit:
    """The grounds brought to a value, slot and chroma; what parts them stays, at half."""
    return Edit(
        words("take a {title}", title=ground.title),
        lambda plan: regrounded(plan, ground.value, ground.slot, ground.chroma),
    )


def regrounded(plan: Plan, value: float, slot: Slot, chroma: float, kept: float = 0.5) -> Plan:
    """The plan with its grounds, free ones, round one value L*, on one slot and of one chroma;
    `kept` is how much of their differences in value stays."""
    now = study(plan)
    mine = [r.id for r in plan.regions if r.role == "ground" and r.id not in now.locked]
    shown = region_colours(now.scheme, {r: now.colours[r] for r in mine})
    free = {r: c for r, c in shown.items() if c.first.slot != "given"}
    if not free:
        return plan
    middle = float(np.mean([c.mean_value for c in free.values()]))

    def one(solid: Solid) -> Solid:
        if isinstance(solid, Pinned):
            return solid
        moved = value + (solid.value - middle) * kept
        return Planned(
            slot=slot,
            hue_offset_deg=(solid.hue_offset_deg * 0.5 if solid.slot == slot else 0.0),
            value=min(max(moved, 4.0), 97.0),
            chroma=chroma,
        )

    return with_colours(plan, {r: each_part(now.colours[r], one) for r in free})
