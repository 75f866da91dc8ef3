"""Which schemes a picture follows: templates of our own eight, in the manner of Cohen-Or et al.
2006, each held against the regions' hues; the lead is the family that holds most. Docs:
docs/harmony.md."""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.spaces import GREY_CHROMA, Floats, hue_distance
from umber_compass.colour.wheels import angle_of, hue_at
from umber_compass.plan.harmony_edits import turned
from umber_compass.plan.model import Scheme
from umber_compass.plan.terms import LeadAt, Wheel
from umber_compass.steps.harmony.schemes import SCHEMES, SchemeSpec

# All weights below were fitted to generated pictures of known scheme (docs/harmony.md).
SPREADS = {
    "neighbours": (22, 30, 38),
    "neighbours-opposite": (22, 30, 38),
    "split-opposite": (22, 30, 38),
    "two-pairs": (43, 51, 59, 67),
}  # between needles, wheel degrees: those that are tried
_UNCOLOURED = 0.02  # mean OKLCh chroma under which a picture has no colour yet
_END_LED_SPREADS = (24, 34)
_END_LED = ("neighbours", "neighbours-opposite")
_BIN_DEG, _FEW = 3, 8  # more coloured regions than a few are merged by hue
# Width of the density of hue, degrees; share of its top from which a peak leads.
_DENSITY_DEG, _PEAK = 8.0, 0.88
_LEAD_SHIFT_DEG = 9.5  # OKLCh degrees by which a lead may stand beside its family’s mean
_FREE_FROM = 0.20  # loss from which no scheme fits
_ALSO_WITHIN = 0.3  # cost by which a second reading is as likely
_READINGS = 3
_NEAR_DEG = 18  # of a needle, that count as held by the scheme


class Reading(NamedTuple):
    """One scheme that a picture may follow."""

    scheme: Scheme
    cost: float
    loss: float  # how much of the picture it leaves out, 0 none
    fit: float  # share of what has colour that lies near its hues, 0-1


class Readings(NamedTuple):
    """The schemes a picture may follow, best first, at most three."""

    ranked: tuple[Reading, ...]

    @property
    def best(self) -> Reading:
        """The likeliest."""
        return self.ranked[0]

    @property
    def is_free(self) -> bool:
        """Whether none of them fits: the best is only the nearest."""
        return self.best.loss > _FREE_FROM

    @property
    def also(self) -> Reading | None:
        """A second one that is as likely."""
        second = self.ranked[1] if len(self.ranked) > 1 else None
        near = second is not None and second.cost - self.best.cost < _ALSO_WITHIN
        return second if near and not self.is_free else None


class _Hues(NamedTuple):
    """What has colour in a picture, (n,) each."""

    hue: Floats  # OKLCh degrees
    angle: Floats  # on the wheel
    holds: Floats  # share x chroma: what leads is what holds most
    heard: Floats  # share, strengthened by chroma so that accents are heard


class _Template(NamedTuple):
    """A scheme at one spread, its hues counted from the lead."""

    spec: SchemeSpec
    spread: float
    lead_at: LeadAt
    offsets: Floats  # (needles,) wheel degrees, the lead first


class _Group(NamedTuple):
    """Templates with as many needles."""

    templates: tuple[_Template, ...]
    offsets: Floats  # (templates, needles)
    price: Floats  # (templates,)


def uncoloured(chromas: Floats, areas: Floats) -> bool:
    """Whether a picture has no colour yet: its mean OKLCh chroma, by the areas of its colours."""
    return float(chromas @ areas) < _UNCOLOURED * max(float(areas.sum()), 1e-9)


def read_schemes(
    hues: Floats, chromas: Floats, areas: Floats, wheel: Wheel = "painter"
) -> Readings:
    """The schemes that regions of these OKLCh hues (n,), degrees, chromas and areas may follow."""
    colour = _coloured(hues, chromas, areas, wheel)
    if not len(colour.hue):
        plain = Scheme(wheel=wheel, name="one-hue", chosen=False, lead_deg=0.0, spread_deg=0.0)
        return Readings((Reading(plain, 0.0, 0.0, 1.0),))
    best: dict[str, Reading] = {}
    for lead_hue in _lead_hues(colour):
        leads, shifts = _leads_beside(lead_hue, wheel)
        for group in _GROUPS:
            for found in _best_of(group, colour, wheel, leads, shifts):
                known = best.get(found.scheme.name)
                if known is None or found.cost < known.cost:
                    best[found.scheme.name] = found
    return Readings(tuple(sorted(best.values(), key=lambda r: r.cost)[:_READINGS]))


def _coloured(hues: Floats, chromas: Floats, areas: Floats, wheel: Wheel) -> _Hues:
    strong = chromas >= GREY_CHROMA
    share = areas[strong] / max(areas.sum(), 1e-9)
    hue, chroma = hues[strong] % 360, chromas[strong]
    holds, heard = share * chroma, share * np.clip(chroma / 0.1, 0.15, 1.5) ** 0.4
    if len(hue) > _FEW:
        bins = (hue // _BIN_DEG).astype(int)
        kept, where = np.unique(bins, return_inverse=True)
        turn = np.exp(1j * np.radians(hue)) * holds
        mean = np.bincount(where, turn.real) + 1j * np.bincount(where, turn.imag)
        hue = np.degrees(np.angle(mean)) % 360
        holds, heard = (np.bincount(where, w, len(kept)) for w in (holds, heard))
    return _Hues(hue, angle_of(wheel, hue), holds, heard)


def _lead_hues(colour: _Hues) -> list[float]:
    """The hues of the families that hold most: two at most."""
    grid = np.arange(0.0, 360.0, _BIN_DEG)
    near = np.exp(-0.5 * (hue_distance(colour.hue, grid[:, None]) / _DENSITY_DEG) ** 2)
    density = near @ colour.holds
    is_peak = (density >= np.roll(density, 1)) & (density > np.roll(density, -1))
    peaks = np.flatnonzero(is_peak & (density >= _PEAK * density.max()))
    if not len(peaks):
        peaks = np.array([int(density.argmax())])
    found = []
    for peak in peaks[np.argsort(-density[peaks])][:2]:
        off = hue_distance(grid[peak], colour.hue)
        weight = colour.holds * near[peak]
        found.append(float(grid[peak] + (off * weight).sum() / max(weight.sum(), 1e-12)) % 360)
    return found


def _leads_beside(hue: float, wheel: Wheel) -> tuple[Floats, Floats]:
    """Angles where a lead of this hue may stand, and how many OKLCh degrees each is beside it. A
    wheel degree is 0.2 to 2.5 OKLCh degrees, so the steps follow the wheel."""
    middle = float(angle_of(wheel, hue))
    sides = [
        float(hue_distance(middle, float(angle_of(wheel, hue + d))))
        for d in (-_LEAD_SHIFT_DEG, _LEAD_SHIFT_DEG)
    ]
    steps = int(np.clip(np.ceil(max(abs(s) for s in sides) / 9), 1, 4))
    parts = np.arange(1, steps + 1) / steps
    angles = (middle + np.concatenate([[0.0], *(s * parts for s in sides)])) % 360
    return angles, np.abs(hue_distance(hue, hue_at(wheel, angles)))


def _best_of(
    group: _Group, colour: _Hues, wheel: Wheel, leads: Floats, shifts: Floats
) -> list[Reading]:
    """Each template of a group at the lead, of some, where it costs least."""
    needles = (leads[:, None] + group.offsets[:, None]) % 360  # (templates, leads, needles)
    hue_off = hue_distance(hue_at(wheel, needles)[..., None], colour.hue)
    wheel_off = hue_distance(needles[..., None], colour.angle)
    off = np.where(np.abs(hue_off) <= np.abs(wheel_off), hue_off, wheel_off)
    nearest = np.abs(off).argmin(axis=2)  # (templates, leads, colours)
    count = group.offsets.shape[1]
    mine = nearest[:, :, None] == np.arange(count)[:, None]  # (.., needles, colours)
    signed = np.take_along_axis(off, nearest[:, :, None], axis=2)[:, :, 0]
    lost = np.clip((np.abs(signed) - 7) / 11, 0, 1) ** 2
    heard = colour.heard
    fill = np.minimum((mine * (heard * (1 - lost))[:, :, None]).sum(axis=3) / 0.02, 1)
    weight = (mine * heard).sum(axis=3)
    mean_off = (mine * (heard * signed)[:, :, None]).sum(axis=3) / np.maximum(weight, 1e-9)
    loss = (heard * lost).sum(axis=2) / heard.sum() + 1.5 * (1 - fill).sum(axis=2)
    held = (mine * colour.holds).sum(axis=3)
    beside = np.minimum(fill * (mean_off / 12) ** 2, 3).sum(axis=2)
    cost = 1.1 * np.log1p(loss / 0.03) + 0.4 * beside + 0.045 * shifts
    cost += 50.0 * (held[..., 0] < held.max(axis=2) * 0.999) + group.price[:, None]
    near = (colour.holds * (np.abs(signed) <= _NEAR_DEG)).sum(axis=2) / colour.holds.sum()
    found = []
    for k, (template, at) in enumerate(zip(group.templates, cost.argmin(axis=1), strict=True)):
        scheme = _scheme_of(template, float(leads[at]), held[k, at], wheel)
        numbers = (float(a[k, at]) for a in (cost, loss, near))
        found.append(Reading(scheme, *numbers))
    return found


def _scheme_of(template: _Template, lead: float, held: Floats, wheel: Wheel) -> Scheme:
    """The scheme of a template at a lead; `held` is what each needle holds."""
    spec, lead_at = template.spec, template.lead_at
    if spec.name in _END_LED and lead_at != "middle" and held[1] >= 0.5 * held[0]:
        # The one between them leads.
        lead, lead_at = lead + float(template.offsets[1]), "middle"
    return Scheme(
        wheel=wheel,
        name=spec.name,
        chosen=False,
        lead_deg=turned(lead),
        spread_deg=float(template.spread),
        lead_at=lead_at,
    )


def _templates() -> list[_Template]:
    made = []
    for spec in SCHEMES.values():
        stands: tuple[tuple[LeadAt, tuple[float, ...]], ...]
        own = tuple(map(float, SPREADS.get(spec.name, (spec.spread_deg,))))
        if spec.name in _END_LED:
            stands = (("middle", own), ("low", _END_LED_SPREADS), ("high", _END_LED_SPREADS))
        elif spec.name == "two-pairs":
            stands = (("low", own), ("high", own))
        else:
            stands = (("middle", own),)
        for lead_at, spreads in stands:
            for spread in spreads:
                offsets = np.array([n.at(spread, lead_at) for n in spec.needles], float)
                made.append(_Template(spec, spread, lead_at, offsets))
    return made


def _groups() -> list[_Group]:
    """The templates, those with as many needles together, for they are fitted at once."""
    every = _templates()
    made = []
    for count in sorted({len(t.offsets) for t in every}):
        own = tuple(t for t in every if len(t.offsets) == count)
        price = np.array([_price(t) for t in own])
        made.append(_Group(own, np.stack([t.offsets for t in own]), price))
    return made


def _price(template: _Template) -> float:
    """What a template costs whatever it is fitted to."""
    spec = template.spec
    price = 0.10 * (len(template.offsets) - 1)
    if spec.name in SPREADS:
        price += 0.15 + 0.05 * abs(template.spread - spec.spread_deg) / 10
    if template.lead_at != "middle" and spec.name in _END_LED:
        price += 0.4
    return price


_GROUPS = _groups()
