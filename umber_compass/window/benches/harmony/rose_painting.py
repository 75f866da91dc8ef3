"""How the hue rose is painted."""

import math

from PySide6.QtCore import QCoreApplication, QPointF, QRectF, Qt
from PySide6.QtGui import (
    QBrush,
    QColor,
    QConicalGradient,
    QPainter,
    QPainterPath,
    QPen,
    QPixmap,
)
from PySide6.QtWidgets import QWidget

from umber_compass.steps.harmony.rose import RoseParts
from umber_compass.window.benches.harmony.dial import KNOB, reach
from umber_compass.window.widgets.dial import RING, Dial
from umber_compass.window.widgets.theme import THEME, font

_OUTLINED = 80  # petals up to which each has an outline: more would be one dark disc, and slow


def _tr(text: str) -> str:
    return QCoreApplication.translate("Rose", text)


class Ring:
    """The ring of hues, kept as a picture: it is costly to paint and seldom another one."""

    def __init__(self) -> None:
        self._key: object = None
        self._kept = QPixmap()

    def paint(self, painter: QPainter, widget: QWidget, parts: RoseParts) -> None:
        """The ring on a widget."""
        ratio = widget.devicePixelRatioF()
        key = (widget.size().toTuple(), ratio, parts.ring, THEME.room.name)
        if self._key != key:
            self._kept = QPixmap(widget.size() * ratio)
            self._kept.setDevicePixelRatio(ratio)
            self._kept.fill(Qt.GlobalColor.transparent)
            inner = QPainter(self._kept)
            inner.setRenderHint(QPainter.RenderHint.Antialiasing)
            _draw_ring(inner, parts, Dial(widget.width(), widget.height()))
            inner.end()
            self._key = key
        painter.drawPixmap(0, 0, self._kept)


def _draw_ring(painter: QPainter, parts: RoseParts, dial: Dial) -> None:
    fill = QConicalGradient(dial.middle, 90)
    count = len(parts.ring)
    for i, colour in enumerate(parts.ring):
        fill.setColorAt(1 - i / count, QColor(colour))
    fill.setColorAt(0, QColor(parts.ring[0]))
    painter.setPen(QPen(QBrush(fill), RING))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawEllipse(dial.middle, dial.radius - RING / 2, dial.radius - RING / 2)
    painter.setPen(QPen(THEME.colour("well"), 1))
    for share in (1 / 3, 2 / 3, 1.0):
        painter.drawEllipse(dial.middle, dial.inner * share, dial.inner * share)


def paint(painter: QPainter, parts: RoseParts, selected: str, dial: Dial) -> None:
    """Arcs, petals, needles and words over the ring."""
    _paint_arcs(painter, parts, dial)
    _paint_petals(painter, parts, selected, dial)
    _paint_needles(painter, parts, dial)
    _paint_words(painter, parts, dial)


def _wedge(dial: Dial, first: float, last: float, radius: float) -> QPainterPath:
    """A sector from one wheel angle to another, clockwise."""
    middle = dial.middle
    box = QRectF(middle.x() - radius, middle.y() - radius, 2 * radius, 2 * radius)
    path = QPainterPath(middle)
    path.arcTo(box, 90 - first, -((last - first) % 360))
    path.closeSubpath()
    return path


def _paint_arcs(painter: QPainter, parts: RoseParts, dial: Dial) -> None:
    painter.setPen(QPen(THEME.colour("line"), 1, Qt.PenStyle.DashLine))
    painter.setBrush(THEME.colour("card"))
    for first, last in parts.arcs:
        painter.drawPath(_wedge(dial, first, last, dial.inner))


def _paint_petals(painter: QPainter, parts: RoseParts, selected: str, dial: Dial) -> None:
    many = len(parts.petals) > _OUTLINED
    thin, thick = QPen(THEME.colour("ink"), 0.6), QPen(THEME.colour("ink"), 2)
    usual, middle = QPen(Qt.PenStyle.NoPen) if many else thin, dial.middle
    x, y, longest = middle.x(), middle.y(), dial.inner
    painter.setPen(usual)
    for petal in parts.petals:
        turn, length = math.radians(petal.angle), reach(petal, longest)
        half = 1.6 + 9 * math.sqrt(petal.share)
        sin, cos = math.sin(turn), math.cos(turn)
        tip_x, tip_y, across, down = x + sin * length, y - cos * length, cos * half, sin * half
        chosen = petal.region == selected
        painter.setBrush(QColor(petal.hex))
        if chosen:
            painter.setPen(thick)
        painter.drawPolygon(
            (middle, QPointF(tip_x + across, tip_y + down), QPointF(tip_x - across, tip_y - down))
        )
        if chosen:
            painter.setPen(usual)


def _paint_needles(painter: QPainter, parts: RoseParts, dial: Dial) -> None:
    radius = dial.radius - RING / 2
    for slot, angle in parts.needles.items():
        knob = dial.at(angle, radius)
        painter.setPen(QPen(THEME.colour("ink"), 2.4 if slot == "A" else 1.4))
        painter.drawLine(dial.middle, knob)
        size = KNOB + (2 if slot == "A" else 0)
        painter.setBrush(THEME.colour("ink" if slot == "A" else "card"))
        painter.setPen(QPen(THEME.colour("ink"), 1.6))
        painter.drawEllipse(knob, size, size)
        painter.setPen(THEME.colour("ground" if slot == "A" else "ink"))
        painter.setFont(font(13, True))
        box = QRectF(knob.x() - size, knob.y() - size, 2 * size, 2 * size)
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, slot)


def _paint_words(painter: QPainter, parts: RoseParts, dial: Dial) -> None:
    painter.setFont(font(12))
    painter.setPen(THEME.colour("quiet"))
    words = [(_tr("warm"), parts.warm), (_tr("cool"), parts.cool)]
    taken = [a for _, a in words] + list(parts.needles.values())
    words += [
        (f"{a}°", float(a))
        for a in (0, 90, 180, 270)
        if min(abs((a - t + 180) % 360 - 180) for t in taken) > 9
    ]
    for text, angle in words:
        place = dial.at(angle, dial.radius + 17)
        width = painter.fontMetrics().horizontalAdvance(text)
        left = min(max(place.x() - width / 2, 2), dial.width - width - 2)
        painter.drawText(QPointF(left, place.y() + 4), text)
