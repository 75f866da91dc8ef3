"""The palette as it will be written."""

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QSizePolicy,
    QWidget,
)

from umber_compass.window.widgets.theme import THEME, font

_ROW, _NAME = 20, 130  # px


class PaletteSheet(QWidget):
    """The palette as the painting program will list it: a line for each region, dark to light."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(self.tr("Palette that is written"))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self._lines: list[tuple[str, list[str]]] = []

    def show_rows(self, rows: list[tuple[str, str, str]]) -> None:
        """(hex, region, step) rows, grouped by region."""
        lines: dict[str, list[str]] = {}
        for colour, name, _ in rows:
            lines.setdefault(name, []).append(colour)
        self._lines = list(lines.items())
        self.setFixedHeight(max(len(self._lines), 1) * _ROW)
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(400, max(len(self._lines), 1) * _ROW)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setFont(font(12))
        most = max((len(c) for _, c in self._lines), default=1)
        width = (self.width() - _NAME - 12) / most
        for i, (name, colours) in enumerate(self._lines):
            painter.setPen(THEME.colour("ink"))
            place = QRectF(0, i * _ROW, _NAME - 6, _ROW - 2)
            painter.drawText(place, Qt.AlignmentFlag.AlignVCenter, name)
            for j, colour in enumerate(colours):
                box = QRectF(_NAME + j * width, i * _ROW, width - 1, _ROW - 2)
                painter.fillRect(box, QColor(colour))
