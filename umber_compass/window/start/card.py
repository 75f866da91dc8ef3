"""A picture with its name, to be clicked: of a plan, a kind of sketch, a demo, a version."""

from collections.abc import Callable

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QImage, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QSizePolicy

from umber_compass.window.widgets.theme import THEME, font
from umber_compass.window.widgets.whole_px import draw_image, fitted, is_px_by_px

PICTURE = QSize(200, 150)
_WORDS_PX = 42


class Card(QAbstractButton):
    """A picture with its name and a line below; a click takes it."""

    def __init__(
        self, title: str, says: str, load: Callable[[], QImage], room: QSize = PICTURE
    ) -> None:
        super().__init__()
        self._says, self._load, self._room = says, load, room
        self._image: QImage | None = None
        self.setText(title)
        self.setAccessibleName(title)
        self.setAccessibleDescription(says)
        self.setToolTip(f"{title}\n{says}")
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)

    def _loaded(self) -> QImage:
        """The picture, read when it is first seen: mostly another page is."""
        if self._image is None:
            keep = Qt.AspectRatioMode.KeepAspectRatio
            smooth = Qt.TransformationMode.SmoothTransformation
            image = self._load()
            small = image.isNull() or is_px_by_px(image.width(), image.height())
            self._image = image if small else image.scaled(self._room * 2, keep, smooth)
        return self._image

    def sizeHint(self) -> QSize:
        return QSize(self._room.width(), self._room.height() + _WORDS_PX)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        room = QRectF(0, 0, self._room.width(), self._room.height())
        image = self._loaded()
        box = _within(room, image)
        if image.isNull():
            painter.fillRect(room, THEME.colour("well"))
        else:
            draw_image(painter, box, image)
        if self.hasFocus() or self.underMouse():
            painter.setPen(QPen(THEME.colour("ink"), 3 if self.hasFocus() else 1.5))
            painter.drawRect(box.adjusted(1, 1, -1, -1))
        for text, px, strong, ink, top in (
            (self.text(), 14, True, "ink", 5),
            (self._says, 12, False, "quiet", 23),
        ):
            painter.setFont(font(px, strong))
            painter.setPen(THEME.colour(ink))
            cut = painter.fontMetrics().elidedText(
                text, Qt.TextElideMode.ElideRight, self._room.width()
            )
            line = QRectF(0, self._room.height() + top, self._room.width(), 18)
            painter.drawText(line, Qt.AlignmentFlag.AlignLeft, cut)


def _within(room: QRectF, image: QImage) -> QRectF:
    """Where an image stands in a room: at its foot and left, as large as it may be."""
    if image.isNull():
        return room
    size = fitted(room, image).bottomRight() - room.topLeft()
    return QRectF(0, room.height() - size.y(), size.x(), size.y())
