"""The axis of the chosen gradient on the stage: a line with an end at each of its colours, dragged
by the ends. The picture follows when the hand lets go, for its codes hang on the axis."""

import math
from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen

from umber_compass.colour.spaces import Floats, to_hex
from umber_compass.plan.model import Axis, Gradient
from umber_compass.steps.pipeline import Derived

_RADIUS, _GRIP = 9.0, 5.0  # px


class AxisMark(NamedTuple):
    """A gradient, or a region's zones: the axis, shares of width and height, both colours."""

    region: str
    axis: Axis
    hexes: tuple[str, str]
    zones: bool = False  # whether it is that of a face's zones


def mark_of(derived: Derived, selected: str) -> AxisMark | None:
    """The axis of the chosen region; None where it is no gradient."""
    colour, shown = derived.planned.get(selected), derived.colours.get(selected)
    zone, stops = derived.zones.get(selected), derived.stops.get(selected)
    if zone is not None and zone.axis is not None and stops is not None:
        return AxisMark(selected, zone.axis, (_hex(stops[0]), _hex(stops[-1])), zones=True)
    if not isinstance(colour, Gradient) or shown is None or shown.second is None:
        return None
    return AxisMark(selected, colour.axis, (shown.first.hex, shown.second.hex))


def _hex(levels: Floats) -> str:
    return to_hex(levels / 255)


class AxisHandles:
    """The line, and which of its ends is held."""

    def __init__(self) -> None:
        self.mark: AxisMark | None = None
        self.held: int | None = None

    def show(self, mark: AxisMark | None) -> bool:
        """Another axis; not while one is held. Gives whether anything changed."""
        if self.held is not None or mark == self.mark:
            return False
        self.mark = mark
        return True

    def ends(self, frame: QRectF) -> list[QPointF]:
        """Where both ends stand on the widget."""
        if self.mark is None:
            return []
        x0, y0, x1, y1 = self.mark.axis
        return [
            QPointF(frame.x() + x * frame.width(), frame.y() + y * frame.height())
            for x, y in ((x0, y0), (x1, y1))
        ]

    def hit(self, place: QPointF, frame: QRectF) -> int | None:
        """The end under a place."""
        for i, end in enumerate(self.ends(frame)):
            if math.hypot(end.x() - place.x(), end.y() - place.y()) <= _RADIUS + _GRIP:
                return i
        return None

    def press(self, place: QPointF, frame: QRectF) -> bool:
        """Take an end in hand, if there is one."""
        self.held = self.hit(place, frame)
        return self.held is not None

    def move(self, place: QPointF, frame: QRectF) -> None:
        """Bring the held end to a place, within the picture."""
        if self.mark is None or self.held is None:
            return
        x = min(max((place.x() - frame.x()) / frame.width(), 0.0), 1.0)
        y = min(max((place.y() - frame.y()) / frame.height(), 0.0), 1.0)
        x0, y0, x1, y1 = self.mark.axis
        axis = (x, y, x1, y1) if self.held == 0 else (x0, y0, x, y)
        self.mark = self.mark._replace(axis=axis)

    def release(self) -> AxisMark | None:
        """Let go; gives the axis as it stands where one was held."""
        held, self.held = self.held, None
        return self.mark if held is not None else None

    def paint(self, painter: QPainter, frame: QRectF) -> None:
        """The line, and both ends in their colours."""
        if self.mark is None:
            return
        first, second = self.ends(frame)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for colour, width in (("#141414", 3.0), ("white", 1.4)):
            painter.setPen(QPen(QColor(colour), width))
            painter.drawLine(first, second)
        for end, colour in zip((first, second), self.mark.hexes, strict=True):
            painter.setPen(QPen(QColor("white"), 4))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawEllipse(end, _RADIUS, _RADIUS)
            painter.setPen(QPen(QColor("#141414"), 2))
            painter.setBrush(QColor(colour))
            painter.drawEllipse(end, _RADIUS, _RADIUS)
