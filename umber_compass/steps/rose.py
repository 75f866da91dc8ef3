"""What the hue rose shows: ring, petals, needles and arcs, in wheel degrees."""

from functools import lru_cache
from typing import NamedTuple

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import encode, to_hex
from umber_compass.colour.wheels import angle_of, hue_at
from umber_compass.plan.edits import study
from umber_compass.plan.model import Scheme
from umber_compass.steps.harmony import needle_angles
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.schemes import SCHEMES


class Petal(NamedTuple):
    """One colour of the picture on the rose."""

    region: str
    slot: str
    angle: float  # wheel degrees
    chroma: float
    share: float
    hex: str


class RoseParts(NamedTuple):
    """What a hue rose shows; angles are wheel degrees."""

    ring: tuple[str, ...]  # hexes at equal steps of the wheel
    petals: tuple[Petal, ...]
    needles: dict[str, float]
    spreads: dict[str, tuple[float, float]]  # by slot that spreads: where from the lead, which way
    spread_deg: float
    arcs: tuple[tuple[float, float], ...]
    warm: float
    cool: float
    selected: str


WARM_HUE, COOL_HUE = 45.0, 222.0  # OKLCh; from Ou et al. 2004 (CIELAB 50 and 230)
_RING_STEPS, _RING_VALUE, _RING_CHROMA = 72, 66.0, 0.13


@lru_cache(3)
def ring(wheel: str) -> tuple[str, ...]:
    """The wheel's hues at equal steps from 0 degrees, all of one value, as hexes."""
    hues = hue_at(wheel, np.arange(_RING_STEPS) * 360 / _RING_STEPS)
    return tuple(to_hex(c) for c in encode(fit(_RING_VALUE, _RING_CHROMA, hues)))


def rose(
    scheme: Scheme, petals: tuple[Petal, ...], arc_deg: float, selected: str = ""
) -> RoseParts:
    """The rose of a scheme over the picture's colours; petals' angles are set here from OKLCh
    hues."""
    needles = {s: a for s, a in needle_angles(scheme).items() if s != "grey"}
    spreads: dict[str, tuple[float, float]] = {}
    for needle in SCHEMES[scheme.name].needles:
        way = needle.from_lead(1.0) - needle.from_lead(0.0)
        if way:
            spreads[needle.slot] = (needle.from_lead(0.0), way)
    arcs = []
    for slot in needles:
        hue = float(hue_at(scheme.wheel, needles[slot]))
        ends = (float(angle_of(scheme.wheel, hue + d)) for d in (-arc_deg, arc_deg))
        arcs.append((next(ends), next(ends)))
    return RoseParts(
        ring(scheme.wheel),
        tuple(p._replace(angle=float(angle_of(scheme.wheel, p.angle))) for p in petals),
        {str(s): a for s, a in needles.items()},
        spreads,
        scheme.spread_deg,
        tuple(arcs),
        float(angle_of(scheme.wheel, WARM_HUE)),
        float(angle_of(scheme.wheel, COOL_HUE)),
        selected,
    )


def rose_of(derived: Derived, selected: str = "") -> RoseParts:
    """The rose of a plan."""
    petals = tuple(
        Petal(r, e.slot, e.hue, e.chroma, derived.shares[r], e.hex)
        for r, colour in derived.colours.items()
        for e in colour.ends
        if e.hue is not None
    )
    arc = derived.rules["hue-off-scheme.arc"]
    return rose(study(derived.plan).scheme, petals, arc, selected)


def family_turn(wheel: str, start: float, end: float) -> float:
    """The OKLCh degrees between two angles of a wheel, by the shorter way."""
    return float((hue_at(wheel, end) - hue_at(wheel, start) + 180) % 360 - 180)
