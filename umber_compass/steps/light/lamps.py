"""Where a lamp stands, in words, in angles, and round a picture's frame.

On the picture a lamp stands on an ellipse scaled to the frame: the middle is straight from the
front, the frame's edge a right angle from the viewer's axis, outside it behind (docs/light.md).
"""

import math
from typing import NamedTuple

from umber_compass.picture.light import unit
from umber_compass.plan.rig import Pool
from umber_compass.words import Words, words

EDGE = 1.0  # distance from the middle, in half frames, of a lamp at a right angle
FURTHEST = 1.25
MOST_DEG = 150.0  # from the front, the furthest behind that a lamp can stand
# Clockwise from above, an eighth each.
_BEFORE = (
    "from above, {off:.0f}° off the front",
    "from the upper right, {off:.0f}° off the front",
    "from the right, {off:.0f}° off the front",
    "from the lower right, {off:.0f}° off the front",
    "from below, {off:.0f}° off the front",
    "from the lower left, {off:.0f}° off the front",
    "from the left, {off:.0f}° off the front",
    "from the upper left, {off:.0f}° off the front",
)
_BEHIND = (
    "from above, {off:.0f}° off the front, behind",
    "from the upper right, {off:.0f}° off the front, behind",
    "from the right, {off:.0f}° off the front, behind",
    "from the lower right, {off:.0f}° off the front, behind",
    "from below, {off:.0f}° off the front, behind",
    "from the lower left, {off:.0f}° off the front, behind",
    "from the left, {off:.0f}° off the front, behind",
    "from the upper left, {off:.0f}° off the front, behind",
)
_IN_FRONT_DEG = 8  # within which a lamp is said to stand straight from the front


class Angles(NamedTuple):
    """Where a lamp stands: degrees round the frame clockwise from above, degrees off the front."""

    round_deg: float
    off_deg: float


def angles_of(direction: tuple[float, float, float]) -> Angles:
    """Where a direction, x right, y down, z toward the viewer, stands."""
    x, y, z = unit(direction)
    off = math.degrees(math.acos(max(-1.0, min(1.0, z))))
    around = math.degrees(math.atan2(x, -y)) % 360 if math.hypot(x, y) > 1e-6 else 0.0
    return Angles(around, min(off, MOST_DEG))


def direction_of(angles: Angles) -> tuple[float, float, float]:
    """The unit direction of a lamp that stands there."""
    off = math.radians(min(max(angles.off_deg, 0.0), MOST_DEG))
    turn = math.radians(angles.round_deg)
    flat = math.sin(off)
    return flat * math.sin(turn), -flat * math.cos(turn), math.cos(off)


def place_of(direction: tuple[float, float, float]) -> tuple[float, float]:
    """A lamp's place round a frame: x right and y down from the middle, in half frames."""
    angles = angles_of(direction)
    if angles.off_deg <= 90:
        far = angles.off_deg / 90
    else:
        far = EDGE + (angles.off_deg - 90) / (MOST_DEG - 90) * (FURTHEST - EDGE)
    turn = math.radians(angles.round_deg)
    return far * math.sin(turn), -far * math.cos(turn)


def direction_at(x: float, y: float) -> tuple[float, float, float]:
    """The direction of a lamp put at a place round the frame, in half frames from the middle."""
    far = math.hypot(x, y)
    if far <= EDGE:
        off = far * 90
    else:
        behind = min(far, FURTHEST) - EDGE
        off = 90 + behind / (FURTHEST - EDGE) * (MOST_DEG - 90)
    around = math.degrees(math.atan2(x, -y)) % 360 if far > 1e-9 else 0.0
    return direction_of(Angles(around, off))


def stepped(
    direction: tuple[float, float, float], across: float, down: float
) -> tuple[float, float, float]:
    """The direction after a step round the frame, in degrees to the right and down."""
    x, y = place_of(direction)
    return direction_at(x + across / 90, y + down / 90)


def in_words(direction: tuple[float, float, float], pool: Pool | None = None) -> Words:
    """Where a lamp shines from, as `from the upper left, 52° off the front`; of a spot, where its
    light falls."""
    if pool is not None:
        line = "on {x:.0%} of the width, {y:.0%} of the height"
        return words(line, x=pool.x, y=pool.y)
    angles = angles_of(direction)
    if angles.off_deg < _IN_FRONT_DEG:
        return words("straight from the front")
    eighth = int((angles.round_deg + 22.5) // 45) % 8
    return words((_BEHIND if angles.off_deg > 90 else _BEFORE)[eighth], off=angles.off_deg)
