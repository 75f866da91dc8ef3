"""Schemes on a wheel: where their hues stand, which one a picture follows, how to change it."""

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np
from msgspec.structs import replace

from umber_compass.colour.spaces import GREY_CHROMA, Floats, hue_distance
from umber_compass.colour.wheels import angle_of, hue_at
from umber_compass.plan.edits import Edit, each_part, study, with_study
from umber_compass.plan.model import Pinned, Plan, Planned, Scheme, Slot
from umber_compass.steps.schemes import SCHEMES, SchemeSpec
from umber_compass.words import words

_SECTOR_DEG = 9  # half width of a needle's sector, after the 18 degrees of Cohen-Or et al. 2006
_SUPPORT_SECTOR_DEG = 15  # neighbours spread wider
_PRICE_PER_DEGREE = 0.015  # degrees of cost for each degree covered (docs/harmony.md)
_PEDESTAL = 30  # percentile of the histogram that is taken for noise
_LEAD_PRICE_DEG = 4.0  # cost if slot A is not the hue that holds most of the picture


class Fit(NamedTuple):
    """The scheme a picture follows best."""

    scheme: Scheme
    cost_deg: float  # weighted distance of its colours to the scheme, degrees


def needle_angles(scheme: Scheme) -> dict[Slot, float]:
    """Each slot's angle on the wheel, degrees 0-360; the grey slot follows the lead."""
    angles: dict[Slot, float] = {
        n.slot: (scheme.lead_deg + n.from_lead(scheme.spread_deg)) % 360
        for n in SCHEMES[scheme.name].needles
    }
    return {**angles, "grey": angles["A"]}


def slot_hues(scheme: Scheme) -> dict[Slot, float]:
    """Each slot's OKLCh hue, degrees."""
    return {s: float(hue_at(scheme.wheel, a)) for s, a in needle_angles(scheme).items()}


def wished_shares(scheme: Scheme) -> dict[Slot, float]:
    """The share of the picture each slot should hold; greys take what is left."""
    own: dict[Slot, float] = {n.slot: n.share for n in SCHEMES[scheme.name].needles}
    wished = {s: scheme.shares.get(s, w) for s, w in own.items()}
    rest = max(0.0, 1 - sum(wished.values()))
    return {**wished, "grey": scheme.shares.get("grey", rest)}


def stray_deg(hues: Mapping[Slot, float], hue: float, arc_deg: float) -> tuple[float, Slot]:
    """How far outside the nearest arc of some slots' hues an OKLCh hue lies (0 inside), and whose
    arc that is."""
    far = {s: abs((h - hue + 180) % 360 - 180) for s, h in hues.items() if s != "grey"}
    slot = min(far, key=far.__getitem__)
    return max(0.0, far[slot] - arc_deg), slot


def nearest_slot(scheme: Scheme, hue: float) -> Slot:
    """The slot whose hue is nearest to an OKLCh hue."""
    return stray_deg(slot_hues(scheme), hue, 0)[1]


def planned_as(scheme: Scheme, value: float, chroma: float, hue: float | None) -> Planned:
    """A measured colour said in the scheme's terms: slot, offset, value, chroma."""
    if hue is None:
        return Planned(slot="grey", value=value, chroma=0.0)
    slot: Slot = "grey" if chroma < GREY_CHROMA else nearest_slot(scheme, hue)
    offset = float(hue_distance(slot_hues(scheme)[slot], hue))
    return Planned(slot=slot, hue_offset_deg=offset, value=value, chroma=chroma)


def fit_picture(hues: Floats, chromas: Floats, areas: Floats, wheel: str = "painter") -> Fit:
    """The scheme and lead that the picture's colours follow: OKLCh hues (n,) in degrees, chromas
    and areas. Template fitting in the manner of Cohen-Or et al. 2006 with our own eight schemes;
    all turns of a template at once, as a circular correlation."""
    strong = chromas >= GREY_CHROMA
    if not strong.any():
        return Fit(_scheme(SCHEMES["one-hue"], wheel, 0), 0.0)
    bins = np.round(angle_of(wheel, hues[strong])).astype(int) % 360
    weight = np.bincount(bins, areas[strong] * chromas[strong], 360)
    weight = np.maximum(weight - np.percentile(weight, _PEDESTAL), 0)
    area = np.bincount(bins, areas[strong], 360)
    fits = [
        _fit_template(s, wheel, weight / weight.sum(), area / area.sum()) for s in SCHEMES.values()
    ]
    return min(fits, key=lambda f: f.cost_deg)


def _scheme(spec: SchemeSpec, wheel: str, lead_deg: float) -> Scheme:
    return Scheme(wheel=wheel, name=spec.name, lead_deg=lead_deg, spread_deg=float(spec.spread_deg))  # type: ignore[arg-type]  # wheel is one of the literals


def _fit_template(spec: SchemeSpec, wheel: str, weight: Floats, area: Floats) -> Fit:
    around = np.arange(360.0)
    gaps, covered = [], np.zeros(360, bool)
    for needle in spec.needles:
        half = _SUPPORT_SECTOR_DEG if needle.part == "supports" else _SECTOR_DEG
        off = np.abs(hue_distance(needle.from_lead(spec.spread_deg), around))
        gaps.append(np.maximum(off - half, 0))
        covered |= off <= half
    cost = _at_every_turn(np.min(gaps, axis=0), weight) + _PRICE_PER_DEGREE * covered.sum()
    held = [_at_every_turn((g == 0).astype(float), area) for g in gaps]
    cost = cost + _LEAD_PRICE_DEG * (np.max(held, axis=0) - held[0])
    # Among equal turns the one whose needle stands in the middle of its hues.
    near_lead = _at_every_turn(np.minimum(np.abs(hue_distance(0, around)), 30), area)
    best = int((cost + 0.02 * near_lead).argmin())
    return Fit(_scheme(spec, wheel, float(best)), float(cost[best]))


def _at_every_turn(template: Floats, weight: Floats) -> Floats:
    """The sum of weight x template for the template turned by 0 to 359 degrees."""
    turned = np.fft.irfft(np.fft.rfft(weight) * np.conj(np.fft.rfft(template)), 360)
    return np.asarray(turned)


def choose_scheme(name: str) -> Edit:
    """Another scheme under the same lead. Colours keep their slot where the new scheme has it; the
    others go to the slot that does the same part, or to the lead."""
    spec = SCHEMES[name]

    def apply(plan: Plan) -> Plan:
        now = study(plan)
        if now.scheme.name == name:
            return plan
        old = {n.slot: n.part for n in SCHEMES[now.scheme.name].needles}
        move = _moves(old, {n.slot: n.part for n in spec.needles})
        scheme = replace(now.scheme, name=name, spread_deg=float(spec.spread_deg), shares={})

        def moved(colour: Planned | Pinned) -> Planned | Pinned:
            if isinstance(colour, Pinned) or colour.slot == "grey":
                return colour
            return replace(colour, slot=move[colour.slot])

        colours = {k: each_part(c, moved) for k, c in now.colours.items()}
        return with_study(plan, replace(now, scheme=scheme, colours=colours))

    return Edit(words("choose the scheme {title}", title=spec.title), apply)


def _moves(old: Mapping[Slot, str], new: Mapping[Slot, str]) -> dict[Slot, Slot]:
    """Where each old slot goes: the same part first, then the same letter, then the lead."""
    moves: dict[Slot, Slot] = {}
    for slot, part in old.items():
        same = [s for s, p in new.items() if p == part]
        rank = [s for s, p in old.items() if p == part].index(slot)
        fallback: Slot = slot if slot in new else "A"
        moves[slot] = same[min(rank, len(same) - 1)] if same else fallback
    return moves


def choose_wheel(wheel: str) -> Edit:
    """Another wheel. The leading hue stays where it is; the others stand anew from it."""

    def apply(plan: Plan) -> Plan:
        now = study(plan)
        hue = hue_at(now.scheme.wheel, now.scheme.lead_deg)
        lead = float(angle_of(wheel, hue)) % 360
        scheme = replace(now.scheme, wheel=wheel, lead_deg=lead)
        return with_study(plan, replace(now, scheme=scheme))

    return Edit(words("turn on the {wheel} wheel", wheel=WHEEL_TITLES[wheel]), apply)


WHEEL_TITLES = {"painter": "painter’s", "light": "light", "perceptual": "perceptual"}
