"""Small squares of colour: as icons of menus and buttons, and as a part of a page."""

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QIcon, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap
from PySide6.QtWidgets import QWidget

from umber_compass.window.widgets.theme import THEME
from umber_compass.window.widgets.under import Under


def dot(colour: str, px: int = 14) -> QIcon:
    """A square of a colour as an icon."""
    image = QPixmap(px, px)
    image.fill(QColor(colour))
    return QIcon(image)


class Swatches(QWidget):
    """Colours side by side in one box; a click says which."""

    picked = Signal(str)  # hex

    def __init__(self, width: int = 56, height: int = 22) -> None:
        super().__init__()
        self._hexes: tuple[str, ...] = ()
        self._wished = QSize(width, height)
        self.setFixedSize(self._wished)

    def show_colours(self, *hexes: str) -> None:
        """The colours, left to right."""
        if hexes != self._hexes:
            self._hexes = hexes
            self.setToolTip(", ".join(hexes))
            self.update()

    def sizeHint(self) -> QSize:
        return self._wished

    def under(self, place: QPointF) -> Under:
        """The colour at a place."""
        if not self._hexes:
            return Under()
        at = int(place.x() / max(self.width(), 1) * len(self._hexes))
        return Under(hex=self._hexes[min(max(at, 0), len(self._hexes) - 1)])

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton and self._hexes:
            self.picked.emit(self.under(event.position()).hex)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        width = self.width() / max(len(self._hexes), 1)
        for i, colour in enumerate(self._hexes):
            painter.fillRect(QRectF(i * width, 0, width + 0.5, self.height()), QColor(colour))
        painter.setPen(QPen(THEME.colour("line"), 1))
        painter.drawRect(self.rect().adjusted(0, 0, -1, -1))
