"""A plain head of our own, parted into zones: what a base and its zones look like together."""

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from umber_compass.window.widgets.theme import THEME


class Head(QWidget):
    """Seen half from the side, turned to the left; zones by their names."""

    def __init__(self) -> None:
        super().__init__()
        self._base, self._zones = "#808080", dict[str, str]()
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(self.tr("Head in its zones"))

    def sizeHint(self) -> QSize:
        return QSize(150, 176)

    def show_zones(self, base: str, zones: dict[str, str]) -> None:
        """The base, and each zone's hex by name."""
        if (base, zones) != (self._base, self._zones):
            self._base, self._zones = base, zones
            self.update()

    def _colour(self, zone: str) -> QColor:
        return QColor(self._zones.get(zone, self._base))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._colour("neck"))
        painter.drawRoundedRect(QRectF(54, 122, 50, 54), 8, 8)
        painter.setBrush(self._colour("ears"))
        painter.drawEllipse(QPointF(126, 86), 13, 20)
        skull = QPainterPath()
        skull.moveTo(74, 8)
        skull.cubicTo(116, 6, 134, 40, 128, 82)
        skull.cubicTo(124, 116, 104, 148, 76, 152)
        skull.cubicTo(48, 150, 30, 120, 26, 84)
        skull.cubicTo(22, 40, 38, 10, 74, 8)
        painter.setBrush(QColor(self._base))
        painter.drawPath(skull)
        painter.setClipPath(skull)
        painter.setBrush(self._colour("brow"))
        painter.drawRect(QRectF(0, 0, 150, 56))
        painter.setBrush(self._colour("jaw"))
        painter.drawRect(QRectF(0, 116, 150, 60))
        painter.setBrush(self._colour("nose and cheeks"))
        painter.drawEllipse(QPointF(42, 98), 19, 15)
        painter.drawEllipse(QPointF(102, 98), 22, 16)
        nose = QPainterPath(QPointF(64, 66))
        nose.cubicTo(60, 84, 50, 98, 56, 106)
        nose.cubicTo(66, 112, 80, 108, 80, 102)
        nose.cubicTo(78, 90, 76, 78, 76, 66)
        painter.drawPath(nose)
        painter.setBrush(self._colour("eye sockets"))
        painter.drawEllipse(QPointF(47, 70), 13, 8)
        painter.drawEllipse(QPointF(93, 70), 15, 8)
        painter.setBrush(self._colour("mouth"))
        painter.drawEllipse(QPointF(68, 124), 17, 6)
        painter.setClipping(False)
        painter.setBrush(THEME.colour("ink"))
        for middle in (QPointF(47, 70), QPointF(92, 70)):
            painter.drawEllipse(middle, 2.6, 2.6)
        painter.setPen(QPen(THEME.colour("ink"), 1))
        painter.drawLine(QPointF(56, 124), QPointF(80, 124))
