"""The lamps on and round the stage's picture: painted, found under the hand, dragged."""

import math
from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen

from umber_compass.plan.rig import Pool, Rig
from umber_compass.steps.light.lamps import direction_at, place_of
from umber_compass.window.widgets.theme import font

RADIUS = 14.0  # px
_DOTS = Qt.PenStyle.DotLine
_NEAR_RIM = 5.0  # px


class LampMark(NamedTuple):
    """One lamp as it stands on the stage."""

    name: str
    letter: str
    hex: str
    direction: tuple[float, float, float]
    on: bool
    pool: Pool | None = None  # where a spot's light falls


def marks_of(rig: Rig) -> list[LampMark]:
    """Every lamp of a rig, the key first, each with the first letter of its name."""
    key = rig.key
    return [
        LampMark(x.name, x.name[0].upper(), x.hex, x.direction, x.on, None if x is key else x.pool)
        for x in rig.ranked
    ]


def at(mark: LampMark, frame: QRectF) -> QPointF:
    """Where a lamp stands round a picture's frame; a spot in the middle of its light."""
    if mark.pool is not None:
        away = QPointF(mark.pool.x * frame.width(), mark.pool.y * frame.height())
        return frame.topLeft() + away
    x, y = place_of(mark.direction)
    return frame.center() + QPointF(x * frame.width() / 2, y * frame.height() / 2)


def beyond(marks: list[LampMark]) -> float:
    """How far beyond the frame lamps stand at most, a share of the picture's side."""
    places = (place_of(mark.direction) for mark in marks if mark.pool is None)
    return max((max(abs(x), abs(y), 1.0) - 1 for x, y in places), default=0.0) / 2


def direction_from(place: QPointF, frame: QRectF) -> tuple[float, float, float]:
    """The direction of a lamp put at a place of the widget."""
    away = place - frame.center()
    return direction_at(away.x() / (frame.width() / 2), away.y() / (frame.height() / 2))


class Held(NamedTuple):
    """What of a lamp a hand holds."""

    mark: LampMark
    rim: bool = False  # of a spot, how far its light reaches, not where

    def moved(self, place: QPointF, frame: QRectF) -> tuple[float, float] | float:
        """Of a spot, the shares of width and height of the middle of its light, or the radius of
        it, that a place of the widget stands for."""
        if self.rim:
            away = at(self.mark, frame) - place
            return math.hypot(away.x(), away.y()) / frame.width()
        away = place - frame.topLeft()
        return away.x() / frame.width(), away.y() / frame.height()


def hit(marks: list[LampMark], place: QPointF, frame: QRectF) -> Held | None:
    """The lamp under a place of the widget, or the rim of a spot's light."""
    rims = []
    for mark in marks:
        away = at(mark, frame) - place
        far = math.hypot(away.x(), away.y())
        if far <= RADIUS + 4:
            return Held(mark)
        if mark.pool is not None and abs(far - mark.pool.radius * frame.width()) <= _NEAR_RIM:
            rims.append(mark)
    return Held(rims[0], True) if rims else None


def paint(painter: QPainter, marks: list[LampMark], frame: QRectF, focused: bool) -> None:
    """Each lamp as a disc of its colour with a line to where it shines; hollow if it stands
    behind, and crossed out if it is off."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    for mark in marks:
        place = at(mark, frame)
        for pen in (QPen(QColor(0, 0, 0, 110), 3.0), QPen(QColor("white"), 1.4, _DOTS)):
            painter.setPen(pen)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            if mark.pool is None:
                painter.drawLine(place, frame.center())
            else:
                far = mark.pool.radius * frame.width()
                painter.drawEllipse(place, far, far)
        behind = mark.direction[2] < 0
        painter.setPen(QPen(QColor("white"), 4))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawEllipse(place, RADIUS, RADIUS)
        painter.setPen(QPen(QColor("#141414"), 3.0 if focused else 2.0))
        fill = QColor("#e8e8e8") if behind else QColor(mark.hex)
        painter.setBrush(fill)
        painter.drawEllipse(place, RADIUS, RADIUS)
        if behind:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(QColor(mark.hex), 4))
            painter.drawEllipse(place, RADIUS - 4, RADIUS - 4)
        dark = behind or fill.lightnessF() > 0.5
        painter.setPen(QColor("#141414") if dark else QColor("white"))
        painter.setFont(font(13, True))
        box = QRectF(place.x() - RADIUS, place.y() - RADIUS, 2 * RADIUS, 2 * RADIUS)
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, mark.letter)
        if not mark.on:
            painter.setPen(QPen(QColor("#141414"), 2))
            slant = QPointF(RADIUS, -RADIUS) * 0.8
            painter.drawLine(place - slant, place + slant)
