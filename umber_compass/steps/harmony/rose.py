"""What the hue rose shows: ring, petals, needles and arcs, in wheel degrees."""

from collections.abc import Iterator
from functools import lru_cache
from typing import NamedTuple

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import encode, to_hex
from umber_compass.colour.wheels import angle_of, hue_at
from umber_compass.plan.model import Scheme
from umber_compass.steps.harmony.colours import RegionColour
from umber_compass.steps.harmony.scheme import needle_angles
from umber_compass.steps.harmony.schemes import FREE, spec_of
from umber_compass.steps.harmony.warmth import COOL_HUE, WARM_HUE


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
    free: bool  # each hue stands where it is put
    arcs: tuple[tuple[float, float], ...]
    warm: float
    cool: float


_RING_STEPS, _RING_VALUE, _RING_CHROMA = 72, 66.0, 0.13


@lru_cache(3)
def ring(wheel: str) -> tuple[str, ...]:
    """The wheel's hues at equal steps from 0 degrees, all of one value, as hexes."""
    hues = hue_at(wheel, np.arange(_RING_STEPS) * 360 / _RING_STEPS)
    return tuple(to_hex(c) for c in encode(fit(_RING_VALUE, _RING_CHROMA, hues)))


def rose(
    scheme: Scheme,
    colours: dict[str, RegionColour],
    shares: dict[str, float],
    arc_deg: float,
) -> RoseParts:
    """The rose of a scheme over the picture's colours; `arc_deg` is half an arc, OKLCh degrees."""
    needles = {s: a for s, a in needle_angles(scheme).items() if s != "grey"}
    halves = np.array([scheme.arcs.get(slot, arc_deg) for slot in needles], float)
    hues = hue_at(scheme.wheel, np.array(list(needles.values()), float))
    firsts = angle_of(scheme.wheel, hues - halves).tolist()
    lasts = angle_of(scheme.wheel, hues + halves).tolist()
    arcs = list(zip(firsts, lasts, strict=True))
    return RoseParts(
        ring(scheme.wheel),
        tuple(_petals(scheme, colours, shares)),
        {str(s): a for s, a in needles.items()},
        _spreads(scheme),
        scheme.spread_deg,
        scheme.name == FREE,
        tuple(arcs),
        *_poles(scheme.wheel),
    )


@lru_cache(3)
def _poles(wheel: str) -> tuple[float, float]:
    """Where warm and cool stand on a wheel."""
    return float(angle_of(wheel, WARM_HUE)), float(angle_of(wheel, COOL_HUE))


def _petals(
    scheme: Scheme, colours: dict[str, RegionColour], shares: dict[str, float]
) -> Iterator[Petal]:
    ends = [(r, e) for r, c in colours.items() for e in c.ends if e.hue is not None]
    angles = angle_of(scheme.wheel, np.array([e.hue for _, e in ends], float)).tolist()
    for (region_id, end), angle in zip(ends, angles, strict=True):
        yield Petal(region_id, end.slot, angle, end.chroma, shares[region_id], end.hex)


def _spreads(scheme: Scheme) -> dict[str, tuple[float, float]]:
    found: dict[str, tuple[float, float]] = {}
    for needle in spec_of(scheme).needles:
        start = needle.at(0.0, scheme.lead_at)
        way = needle.at(1.0, scheme.lead_at) - start
        if way:
            found[needle.slot] = (start, way)
    return found


def family_turn(wheel: str, start: float, end: float) -> float:
    """The OKLCh degrees between two angles of a wheel, by the shorter way."""
    return float((hue_at(wheel, end) - hue_at(wheel, start) + 180) % 360 - 180)
