"""A colour as a small button."""

from PySide6.QtCore import QRectF
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QPushButton

from umber_compass.window.widgets.theme import THEME


class SwatchChip(QPushButton):
    """A colour to be chosen, its name in the tip."""

    def __init__(self, title: str, colour: str) -> None:
        super().__init__()
        self._colour = QColor(colour)
        self.setCheckable(True)
        self.setAccessibleName(title)
        self.setToolTip(title)
        self.setFixedSize(24, 22)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        box = QRectF(self.rect()).adjusted(2, 2, -2, -2)
        painter.fillRect(box, self._colour)
        seen = self.isChecked() or self.hasFocus() or self.underMouse()
        painter.setPen(QPen(THEME.colour("ink" if seen else "line"), 3 if self.isChecked() else 1))
        painter.drawRect(box)
