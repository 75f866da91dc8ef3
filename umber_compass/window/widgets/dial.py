"""A round instrument: where angles stand, and which angle a place is."""

import math
from typing import NamedTuple

from PySide6.QtCore import QPointF

RING = 11  # px, width of the hue ring
_MARGIN = 30  # px round the ring, for numbers


class Dial(NamedTuple):
    """The rose on a widget of this size, px. Angles are wheel degrees from the top, clockwise."""

    width: float
    height: float

    @property
    def radius(self) -> float:
        """Of the ring's outer edge, px."""
        return min(self.width, self.height) / 2 - _MARGIN

    @property
    def inner(self) -> float:
        """How far petals reach, px."""
        return self.radius - RING - 4

    @property
    def middle(self) -> QPointF:
        """The middle of the widget."""
        return QPointF(self.width / 2, self.height / 2)

    def at(self, angle: float, far: float) -> QPointF:
        """A place so many px from the middle."""
        turn = math.radians(angle)
        return self.middle + QPointF(math.sin(turn), -math.cos(turn)) * far

    def angle_of(self, place: QPointF) -> float:
        """The wheel angle of a place, 0-360."""
        away = place - self.middle
        return math.degrees(math.atan2(away.x(), -away.y())) % 360

    def far(self, place: QPointF) -> float:
        """How far a place lies from the middle, px."""
        away = place - self.middle
        return math.hypot(away.x(), away.y())
