"""Where things stand on the hue rose, and what lies under the hand."""

import math
from typing import NamedTuple

from PySide6.QtCore import QPointF

from umber_compass.steps.harmony.rose import Petal, RoseParts
from umber_compass.window.widgets.dial import RING, Dial

KNOB = 11  # px, radius
_FULL_CHROMA = 0.22  # OKLCh, where a petal reaches the ring
_GRIP = 6  # px beside a knob or the ring that still hold it
_PETAL_GRIP = 8  # px beside a petal that still hold it


class Grip(NamedTuple):
    """What a hand took, and where."""

    kind: str  # needle or petal
    slot: str
    angle: float  # wheel degrees
    knob: bool = False  # taken by its knob


def reach(petal: Petal, longest: float) -> float:
    """How long a petal is, px, where the longest is so long."""
    return longest * min(petal.chroma / _FULL_CHROMA, 1.0)


def hit(parts: RoseParts, dial: Dial, place: QPointF) -> Grip | None:
    """What lies under the hand: a knob, the ring (which turns the lead), a petal, or nothing."""
    angle = dial.angle_of(place)
    for slot, needle in parts.needles.items():
        knob = dial.at(needle, dial.radius - RING / 2) - place
        if math.hypot(knob.x(), knob.y()) <= KNOB + _GRIP:
            return Grip("needle", slot, angle, True)
    far = dial.far(place)
    if far > dial.inner:
        return Grip("needle", "A", angle) if far <= dial.radius + _GRIP else None
    petal = petal_at(parts, dial, place)
    return Grip("petal", petal.slot, angle) if petal and petal.slot in parts.needles else None


def petal_at(parts: RoseParts, dial: Dial, place: QPointF) -> Petal | None:
    """The petal at a place."""
    angle, far = dial.angle_of(place), dial.far(place)
    if far < _PETAL_GRIP:
        return None
    near = [
        (abs((p.angle - angle + 180) % 360 - 180), p)
        for p in parts.petals
        if far <= reach(p, dial.inner) + _GRIP
    ]
    if not near:
        return None
    gap, petal = min(near, key=lambda n: n[0])
    return petal if math.radians(gap) * far <= _PETAL_GRIP else None
