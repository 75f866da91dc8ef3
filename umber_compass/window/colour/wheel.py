"""The ring of the plan's wheel with the letters of its scheme."""

from collections.abc import Mapping

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QBrush, QColor, QConicalGradient, QPainter, QPen

from umber_compass.window.widgets.dial import Dial
from umber_compass.window.widgets.instrument import Hand, Instrument
from umber_compass.window.widgets.theme import THEME, font

_WIDE, _LETTER = 12, 9  # px: of the ring; a letter's radius
_EDGE = 14  # px round the ring


class Wheel(Instrument):
    """Says which wheel angle is wanted; a letter takes that hue of the scheme."""

    wanted = Signal(float)
    smooth = True
    framed = True
    grabs = Qt.CursorShape.PointingHandCursor

    def __init__(self) -> None:
        super().__init__(self.tr("Hue on the plan’s wheel"), (140, 140), (False, False))
        self.setToolTip(self.tr("Drag the hue; a letter is a hue of the scheme"))
        self._ring: tuple[str, ...] = ("#808080",)
        self._needles: Mapping[str, float] = {}
        self._angle = 0.0

    def show_wheel(self, ring: tuple[str, ...], needles: Mapping[str, float], angle: float) -> None:
        """The ring's hexes from 0 degrees on, the scheme's hues by slot, the angle that is
        marked."""
        self._ring, self._needles, self._angle = ring, needles, angle
        self.setAccessibleDescription(f"{angle:.0f}°")
        self.update()

    @property
    def _dial(self) -> Dial:
        return Dial(self.width(), self.height())

    @property
    def _radius(self) -> float:
        return min(self.width(), self.height()) / 2 - _EDGE

    def grip(self, place: QPointF) -> str | None:
        far = self._dial.far(place)
        return "hue" if far > self._radius * 0.3 else None

    def pressed(self, hand: Hand) -> None:
        """A letter that is pressed is taken exactly."""
        dial = self._dial
        for angle in self._needles.values():
            away = dial.at(angle, self._radius - _WIDE / 2) - hand.place
            if away.manhattanLength() <= _LETTER + 3:
                self._held = None
                self.wanted.emit(angle)

    def dragged(self, held: object, hand: Hand) -> None:
        self.wanted.emit(self._dial.angle_of(hand.place))

    def stepped(self, right: int, up: int, hand: Hand) -> bool:
        self.wanted.emit((self._angle + (right + up) * (5 if hand.shift else 1)) % 360)
        return True

    def paint(self, painter: QPainter) -> None:
        dial, radius = self._dial, self._radius
        fill = QConicalGradient(dial.middle, 90)
        for i, colour in enumerate(self._ring):
            fill.setColorAt(1 - i / len(self._ring), QColor(colour))
        fill.setColorAt(0, QColor(self._ring[0]))
        painter.setPen(QPen(QBrush(fill), _WIDE))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawEllipse(dial.middle, radius - _WIDE / 2, radius - _WIDE / 2)
        self._paint_letters(painter, dial, radius)
        painter.setPen(QPen(THEME.colour("ink"), 2))
        painter.drawLine(
            dial.at(self._angle, radius - _WIDE - 12), dial.at(self._angle, radius + 6)
        )
        painter.setFont(font(13))
        painter.drawText(QRectF(self.rect()), Qt.AlignmentFlag.AlignCenter, f"{self._angle:.0f}°")

    def _paint_letters(self, painter: QPainter, dial: Dial, radius: float) -> None:
        painter.setFont(font(11, True))
        for slot, angle in self._needles.items():
            at = dial.at(angle, radius - _WIDE / 2)
            painter.setPen(QPen(THEME.colour("ground"), 1))
            painter.setBrush(THEME.colour("ink"))
            painter.drawEllipse(at, _LETTER, _LETTER)
            box = QRectF(at.x() - 9, at.y() - 9, 18, 18)
            painter.setPen(THEME.colour("ground"))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, slot)
            painter.setBrush(Qt.BrushStyle.NoBrush)
