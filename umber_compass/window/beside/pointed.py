"""A picture that is pointed at, and the colour that lies there, large enough to be judged."""

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from umber_compass.window.widgets.picture_box import PictureBox


class Chip(QWidget):
    """One colour."""

    def __init__(self) -> None:
        super().__init__()
        self._colour = QColor()
        self.setFixedSize(34, 34)

    def show_hex(self, hex_: str) -> None:
        """Show a colour."""
        self._colour = QColor(hex_)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        if self._colour.isValid():
            QPainter(self).fillRect(QRectF(self.rect()), self._colour)


class Pointed(PictureBox):
    """Says where the hand is on the picture, and where it is pressed."""

    hovered = Signal(float, float)  # shares of its width and height

    def __init__(self, name: str, height: int) -> None:
        super().__init__(name, height)
        self.setMouseTracking(True)
        self.setCursor(Qt.CursorShape.CrossCursor)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        box, at = self.frame(), event.position()
        if box.contains(at):
            self.hovered.emit(
                (at.x() - box.left()) / box.width(), (at.y() - box.top()) / box.height()
            )
