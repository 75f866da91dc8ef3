"""What is seen first: the plan's stored thumbnail where the stage will be, while the window is
still being made. It needs little, so it is there at once."""

from pathlib import Path

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QImage, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from umber_compass.formats import thumbnail
from umber_compass.window.widgets.theme import THEME

# Where route, menu and title leave the stage in a window of the usual size, px.
_SIZE = (1280, 800)
_STAGE = QRectF(120, 64, 640, 480)


class Opening(QWidget):
    """A plain grey window with one picture on it."""

    def __init__(self, path: Path | None) -> None:
        super().__init__(None, Qt.WindowType.SplashScreen)
        self.resize(*_SIZE)
        suits = path is not None and path.suffix.lower() == ".umber"
        self._image = QImage.fromData(thumbnail.read(path)) if suits and path else QImage()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), THEME.colour("ground"))
        painter.fillRect(0, 0, 104, self.height(), THEME.colour("edge"))
        if self._image.isNull():
            return
        width, height = self._image.width(), self._image.height()
        scale = min(_STAGE.width() / width, _STAGE.height() / height)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        place = QRectF(_STAGE.x(), _STAGE.y(), width * scale, height * scale)
        painter.drawImage(place, self._image)
