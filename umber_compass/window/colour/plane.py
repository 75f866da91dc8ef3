"""The plane: chroma to the right, value upward, at one hue."""

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QImage, QPainter, QPen

from umber_compass.steps.harmony.picking import BEYOND, most_chroma, plane
from umber_compass.window.widgets.instrument import Hand, Instrument
from umber_compass.window.widgets.theme import THEME

_FINE = 2  # px of the widget for one of the plane
_STEP_VALUE, _STEP_CHROMA = 1.0, 0.005


class Plane(Instrument):
    """Says which value and chroma are wanted."""

    wanted = Signal(float, float)  # L*, OKLCh
    smooth = True
    framed = True
    grabs = Qt.CursorShape.CrossCursor

    def __init__(self) -> None:
        name = self.tr("Chroma to the right, value upward; what no screen shows is left out")
        super().__init__(name, (190, 170), (False, False))
        self.setToolTip(name)
        self._hue, self._value, self._chroma = 0, 50.0, 0.1
        self._key: tuple[object, ...] = ()
        self._image = QImage()

    def show_colour(self, value: float, chroma: float, hue_deg: float) -> None:
        """The colour that is marked."""
        self._hue, self._value, self._chroma = round(hue_deg) % 360, value, chroma
        self.setAccessibleDescription(f"L* {value:.0f}, {chroma:.3f}")
        self.update()

    def grip(self, place: QPointF) -> str:
        return "colour"

    def dragged(self, held: object, hand: Hand) -> None:
        x = min(max(hand.place.x() / self.width(), 0.0), 1.0)
        y = min(max(hand.place.y() / self.height(), 0.0), 1.0)
        self.wanted.emit(100 * (1 - y), x * most_chroma(self._hue))

    def stepped(self, right: int, up: int, hand: Hand) -> bool:
        times = 5 if hand.shift else 1
        value = min(max(self._value + up * _STEP_VALUE * times, 0.0), 100.0)
        self.wanted.emit(value, max(self._chroma + right * _STEP_CHROMA * times, 0.0))
        return True

    def paint(self, painter: QPainter) -> None:
        self._renew()
        painter.drawImage(QRectF(self.rect()), self._image)
        x = self._chroma / max(most_chroma(self._hue), 1e-6) * self.width()
        at = QPointF(min(x, self.width() - 1), (1 - self._value / 100) * self.height())
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for colour, wide in (("#ffffff", 4.0), ("#141414", 2.0)):
            painter.setPen(QPen(QColor(colour), wide))
            painter.drawEllipse(at, 6, 6)

    def _renew(self) -> None:
        size = (max(self.width() // _FINE, 8), max(self.height() // _FINE, 8))
        key = (self._hue, size, THEME.room.name)
        if key == self._key:
            return
        packed = plane(self._hue, *size)
        empty = THEME.colour("card").rgb() & 0xFFFFFF
        shown = np.where(packed == BEYOND, empty, packed).astype(np.uint32) | np.uint32(0xFF000000)
        data = np.ascontiguousarray(shown)
        made = QImage(data.data, size[0], size[1], size[0] * 4, QImage.Format.Format_RGB32)
        self._image, self._key = made.copy(), key
