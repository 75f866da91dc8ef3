"""The hue rose: a ring of hues, the picture's colours as petals, the scheme's needles to turn."""

import math
from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QBrush,
    QColor,
    QConicalGradient,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QPixmap,
)
from PySide6.QtWidgets import QSizePolicy, QWidget

from umber_compass.steps.rose import RoseParts
from umber_compass.window.theme import THEME, font

_RING = 11  # px, width of the hue ring
_KNOB = 11  # px, radius
_MARGIN = 30  # px round the ring, for numbers
_FULL_CHROMA = 0.22  # OKLCh, where a petal reaches the ring


class _Held(NamedTuple):
    kind: str  # needle or petal
    slot: str
    angle: float  # where it was taken


class Rose(QWidget):
    """Drag A and the whole scheme turns; drag another letter for the spread; drag a petal and its
    family turns. Arrow keys turn and spread by a degree, with Shift by ten."""

    turned = Signal(float)  # A's angle, wheel degrees
    spread = Signal(float)  # wheel degrees
    family = Signal(str, float, float)  # slot, from angle, to angle
    began = Signal()
    ended = Signal()
    pointed = Signal(str)  # a region's id

    def __init__(self) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAccessibleName(self.tr("Hue rose"))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumSize(240, 220)
        self._parts: RoseParts | None = None
        self._held: _Held | None = None
        self._ring: tuple[object, QPixmap] = (None, QPixmap())

    def sizeHint(self) -> QSize:
        return QSize(340, 330)

    def show_parts(self, parts: RoseParts) -> None:
        """The rose of a plan."""
        if parts != self._parts:
            self._parts = parts
            self.update()

    def _radius(self) -> float:
        return min(self.width(), self.height()) / 2 - _MARGIN

    def _middle(self) -> QPointF:
        return QPointF(self.width() / 2, self.height() / 2)

    def at(self, angle: float, radius: float) -> QPointF:
        """A place on the rose: wheel degrees from the top, clockwise, and px from the middle."""
        turn = math.radians(angle)
        return self._middle() + QPointF(math.sin(turn), -math.cos(turn)) * radius

    def _angle_of(self, place: QPointF) -> float:
        from_middle = place - self._middle()
        return math.degrees(math.atan2(from_middle.x(), -from_middle.y())) % 360

    def paintEvent(self, event: QPaintEvent) -> None:
        if self._parts is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._paint_ring(painter, self._parts)
        self._paint_arcs(painter, self._parts)
        self._paint_petals(painter, self._parts)
        self._paint_needles(painter, self._parts)
        self._paint_words(painter, self._parts)
        if self.hasFocus():
            painter.setPen(QPen(THEME.colour("line"), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))

    def _paint_ring(self, painter: QPainter, parts: RoseParts) -> None:
        """The ring, kept as a picture: it is costly to paint and seldom another one."""
        ratio = self.devicePixelRatioF()
        key = (self.size().toTuple(), ratio, parts.ring, THEME.room.name)
        if self._ring[0] != key:
            kept = QPixmap(self.size() * ratio)
            kept.setDevicePixelRatio(ratio)
            kept.fill(Qt.GlobalColor.transparent)
            inner = QPainter(kept)
            inner.setRenderHint(QPainter.RenderHint.Antialiasing)
            self._draw_ring(inner, parts)
            inner.end()
            self._ring = (key, kept)
        painter.drawPixmap(0, 0, self._ring[1])

    def _draw_ring(self, painter: QPainter, parts: RoseParts) -> None:
        fill = QConicalGradient(self._middle(), 90)
        count = len(parts.ring)
        for i, colour in enumerate(parts.ring):
            fill.setColorAt(1 - i / count, QColor(colour))
        fill.setColorAt(0, QColor(parts.ring[0]))
        radius = self._radius()
        painter.setPen(QPen(QBrush(fill), _RING))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawEllipse(self._middle(), radius - _RING / 2, radius - _RING / 2)
        painter.setPen(QPen(THEME.colour("well"), 1))
        for share in (1 / 3, 2 / 3, 1.0):
            inner = (radius - _RING - 4) * share
            painter.drawEllipse(self._middle(), inner, inner)

    def _wedge(self, first: float, last: float, radius: float) -> QPainterPath:
        """A sector from one wheel angle to another, clockwise."""
        middle = self._middle()
        box = QRectF(middle.x() - radius, middle.y() - radius, 2 * radius, 2 * radius)
        path = QPainterPath(middle)
        path.arcTo(box, 90 - first, -((last - first) % 360))
        path.closeSubpath()
        return path

    def _paint_arcs(self, painter: QPainter, parts: RoseParts) -> None:
        painter.setPen(QPen(THEME.colour("line"), 1, Qt.PenStyle.DashLine))
        painter.setBrush(THEME.colour("card"))
        for first, last in parts.arcs:
            painter.drawPath(self._wedge(first, last, self._radius() - _RING - 4))

    def _paint_petals(self, painter: QPainter, parts: RoseParts) -> None:
        full = self._radius() - _RING - 4
        for petal in parts.petals:
            length = full * min(petal.chroma / _FULL_CHROMA, 1.0)
            half = 1.6 + 9 * math.sqrt(petal.share)
            tip, middle = self.at(petal.angle, length), self._middle()
            across = self.at(petal.angle + 90, half) - middle
            path = QPainterPath(middle)
            path.lineTo(tip + across)
            path.lineTo(tip - across)
            path.closeSubpath()
            painter.setBrush(QColor(petal.hex))
            chosen = petal.region == parts.selected
            painter.setPen(QPen(THEME.colour("ink"), 2 if chosen else 0.6))
            painter.drawPath(path)

    def _paint_needles(self, painter: QPainter, parts: RoseParts) -> None:
        radius = self._radius() - _RING / 2
        for slot, angle in parts.needles.items():
            knob = self.at(angle, radius)
            painter.setPen(QPen(THEME.colour("ink"), 2.4 if slot == "A" else 1.4))
            painter.drawLine(self._middle(), knob)
            size = _KNOB + (2 if slot == "A" else 0)
            painter.setBrush(THEME.colour("ink" if slot == "A" else "card"))
            painter.setPen(QPen(THEME.colour("ink"), 1.6))
            painter.drawEllipse(knob, size, size)
            painter.setPen(THEME.colour("ground" if slot == "A" else "ink"))
            painter.setFont(font(13, True))
            box = QRectF(knob.x() - size, knob.y() - size, 2 * size, 2 * size)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, slot)

    def _paint_words(self, painter: QPainter, parts: RoseParts) -> None:
        painter.setFont(font(12))
        painter.setPen(THEME.colour("quiet"))
        words = [(self.tr("warm"), parts.warm), (self.tr("cool"), parts.cool)]
        taken = [a for _, a in words] + list(parts.needles.values())
        words += [
            (f"{a}°", float(a))
            for a in (0, 90, 180, 270)
            if min(abs((a - t + 180) % 360 - 180) for t in taken) > 9
        ]
        for text, angle in words:
            place = self.at(angle, self._radius() + 17)
            width = painter.fontMetrics().horizontalAdvance(text)
            left = min(max(place.x() - width / 2, 2), self.width() - width - 2)
            painter.drawText(QPointF(left, place.y() + 4), text)

    def _hit(self, place: QPointF) -> _Held | None:
        if self._parts is None:
            return None
        angle = self._angle_of(place)
        from_middle = place - self._middle()
        far = math.hypot(from_middle.x(), from_middle.y())
        for slot, needle in self._parts.needles.items():
            knob = self.at(needle, self._radius() - _RING / 2) - place
            if math.hypot(knob.x(), knob.y()) <= _KNOB + 6:
                return _Held("needle", slot, angle)
        if far > self._radius() - _RING - 4:
            return _Held("needle", "A", angle) if far <= self._radius() + 6 else None
        petal = self._petal_at(angle, far)
        return (
            _Held("petal", petal[0], angle) if petal and petal[0] in self._parts.needles else None
        )

    def _petal_at(self, angle: float, far: float) -> tuple[str, str] | None:
        """The slot and region of the petal at a place."""
        if self._parts is None or far < 8:
            return None
        full = self._radius() - _RING - 4
        near = [
            (abs((p.angle - angle + 180) % 360 - 180), p)
            for p in self._parts.petals
            if far <= full * min(p.chroma / _FULL_CHROMA, 1.0) + 6
        ]
        if not near:
            return None
        gap, petal = min(near, key=lambda n: n[0])
        return (petal.slot, petal.region) if gap * math.pi / 180 * far <= 8 else None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._held = self._hit(event.position())
        if self._held is not None:
            self.began.emit()
            self._drag_to(event.position())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held is not None:
            self._drag_to(event.position())
            return
        from_middle = event.position() - self._middle()
        far = math.hypot(from_middle.x(), from_middle.y())
        petal = self._petal_at(self._angle_of(event.position()), far)
        self.pointed.emit(petal[1] if petal else "")
        shape = Qt.CursorShape.OpenHandCursor if self._hit(event.position()) else None
        self.setCursor(shape or Qt.CursorShape.ArrowCursor)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._held is not None:
            self._held = None
            self.ended.emit()

    def _drag_to(self, place: QPointF) -> None:
        if self._held is None or self._parts is None:
            return
        angle = self._angle_of(place)
        if self._held.kind == "petal":
            self.family.emit(self._held.slot, self._held.angle, angle)
        elif self._held.slot in self._parts.spreads:
            base, sign = self._parts.spreads[self._held.slot]
            lead = self._parts.needles["A"]
            self.spread.emit(((angle - lead - base + 180) % 360 - 180) * sign)
        else:
            lead = self._parts.needles["A"]
            offset = self._parts.needles[self._held.slot] - lead
            self.turned.emit((angle - offset) % 360)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if self._parts is None:
            return
        step = 10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
        turn = {Qt.Key.Key_Left: -step, Qt.Key.Key_Right: step}.get(Qt.Key(event.key()))
        wider = {Qt.Key.Key_Down: -step, Qt.Key.Key_Up: step}.get(Qt.Key(event.key()))
        if turn is not None:
            self.turned.emit(self._parts.needles["A"] + turn)
        elif wider is not None and self._parts.spreads:
            self.spread.emit(self._parts.spread_deg + wider)
        else:
            super().keyPressEvent(event)
