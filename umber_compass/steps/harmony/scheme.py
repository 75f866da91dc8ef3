"""Schemes on a wheel: where their hues stand, which one a picture follows, how to change it."""

from collections.abc import Mapping

from umber_compass.colour.spaces import GREY_CHROMA, hue_distance
from umber_compass.colour.wheels import hue_at
from umber_compass.plan.model import Planned, Scheme, Study
from umber_compass.plan.terms import Slot
from umber_compass.steps.harmony.schemes import spec_of
from umber_compass.words import Words, words

_NO_ARCS: Mapping[Slot, float] = {}


def needle_angles(scheme: Scheme) -> dict[Slot, float]:
    """Each slot's angle on the wheel, degrees 0-360; the grey slot follows the lead."""
    angles: dict[Slot, float] = {
        n.slot: (scheme.lead_deg + n.at(scheme.spread_deg, scheme.lead_at)) % 360
        for n in spec_of(scheme).needles
    }
    return {**angles, "grey": angles["A"]}


def slot_hues(scheme: Scheme) -> dict[Slot, float]:
    """Each slot's OKLCh hue, degrees."""
    return {s: float(hue_at(scheme.wheel, a)) for s, a in needle_angles(scheme).items()}


def wished_shares(scheme: Scheme) -> dict[Slot, float]:
    """The share of the picture each slot should hold; greys take what is left."""
    own: dict[Slot, float] = {n.slot: n.share for n in spec_of(scheme).needles}
    wished = {s: scheme.shares.get(s, w) for s, w in own.items()}
    rest = max(0.0, 1 - sum(wished.values()))
    return {**wished, "grey": scheme.shares.get("grey", rest)}


def stray_deg(
    hues: Mapping[Slot, float], hue: float, arc_deg: float, arcs: Mapping[Slot, float] = _NO_ARCS
) -> tuple[float, Slot]:
    """How far outside the nearest arc of some slots' hues an OKLCh hue lies (0 inside), and whose
    arc that is. `arcs` are half widths, OKLCh degrees, of slots whose arc is not the usual."""
    far = {
        s: abs((h - hue + 180) % 360 - 180) - arcs.get(s, arc_deg)
        for s, h in hues.items()
        if s != "grey"
    }
    slot = min(far, key=far.__getitem__)
    return max(0.0, far[slot]), slot


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


def as_read(study: Study) -> Words:
    """Which schemes the sketch was read to follow, in words."""
    if not study.readings:
        return words("It has no colour yet")
    first, *more = study.readings
    title = spec_of(first.scheme).title
    share = first.fit
    if first.free:
        return words("Read as free: it follows no scheme, the nearest is {title}", title=title)
    if more and more[0].near:
        also = spec_of(more[0].scheme).title
        line = "Read as {title}, or {also}; {share:.0%} of its colour lies on the first"
        return words(line, title=title, also=also, share=share)
    return words("Read as {title}; {share:.0%} of its colour lies on it", title=title, share=share)
