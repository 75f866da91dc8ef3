"""A small picture in a bench, as large as its room allows."""

from collections.abc import Callable

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QImage, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from umber_compass.colour.packed import Packed
from umber_compass.window.widgets.bitmap import Bitmap
from umber_compass.window.widgets.theme import THEME
from umber_compass.window.widgets.whole_px import draw_image, fitted, paint_coming


class PictureBox(QWidget):
    """Shows a picture; says where on it was pressed, as shares of its width and height."""

    pressed = Signal(float, float)

    def __init__(self, name: str, height: int, fixed: bool = False) -> None:
        super().__init__()
        self.setAccessibleName(name)
        if fixed:
            self.setFixedHeight(height)
        self.setMinimumHeight(height)
        grows = QSizePolicy.Policy.Fixed if fixed else QSizePolicy.Policy.Expanding
        self.setSizePolicy(QSizePolicy.Policy.Expanding, grows)
        self._bitmap: Bitmap | None = None
        self._image = QImage()
        self._waits = False
        self.coming = ""  # said where there is no picture yet
        self.over: Callable[[QPainter, QRectF], object] | None = None

    def sizeHint(self) -> QSize:
        return QSize(300, 220)

    def wait(self, says: str) -> None:
        """The next picture is being worked out: this one is dimmed till then."""
        self.coming, self._waits = says, True
        self.update()

    def show_packed(self, packed: Packed | None) -> None:
        """Show a picture, (h, w) 0x00RRGGBB; or none."""
        self._bitmap = None if packed is None else Bitmap(packed)
        self._image = QImage() if self._bitmap is None else self._bitmap.image
        self.coming, self._waits = "", False
        self.update()

    def show_image(self, image: QImage) -> None:
        """Show an image."""
        self._bitmap, self._image = None, image
        self.coming, self._waits = "", False
        self.update()

    def frame(self) -> QRectF:
        """Where the picture lies."""
        if self._image.isNull():
            return QRectF()
        return fitted(QRectF(self.rect()), self._image)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        box = self.frame()
        if event.button() == Qt.MouseButton.LeftButton and box.contains(event.position()):
            x, y = event.position().x() / box.width(), event.position().y() / box.height()
            self.pressed.emit(x, y)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        if self._image.isNull():
            if self.coming:
                paint_coming(painter, QRectF(self.rect()), self.coming)
            return
        box = self.frame()
        draw_image(painter, box, self._image, self._waits)
        painter.setPen(QPen(THEME.colour("line"), 1))
        painter.drawRect(box.adjusted(0, 0, -1, -1))
        if self.over is not None:
            self.over(painter, box)
