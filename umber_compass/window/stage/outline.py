"""What lies over the picture, as large as it is shown: kept, for it is seldom another one."""

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QImage, QPainter, QPixmap
from PySide6.QtWidgets import QWidget

from umber_compass.window.stage.picture_view import draw_seen


class Outline:
    """The chosen region's outline."""

    def __init__(self) -> None:
        self._key: object = None
        self._kept = QPixmap()

    def draw(self, painter: QPainter, widget: QWidget, frame: QRectF, over: QImage) -> None:
        """Draw an overlay of the picture's size in its frame."""
        ratio = widget.devicePixelRatioF()
        key = (over.cacheKey(), frame.getRect(), widget.size().toTuple(), ratio)
        if self._key != key:
            self._key, self._kept = key, QPixmap(widget.size() * ratio)
            self._kept.setDevicePixelRatio(ratio)
            self._kept.fill(Qt.GlobalColor.transparent)
            inner = QPainter(self._kept)
            inner.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            draw_seen(inner, widget.rect().toRectF(), frame, over)
            inner.end()
        painter.drawPixmap(0, 0, self._kept)
