"""A picture that is being read: on the stage at once, with how far the reading is. A sketch is
dimmed, because nothing can be done with it yet; a plan's own picture comes in a moment."""

from PySide6.QtCore import QEvent, QObject, QRectF, QSizeF, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from umber_compass.colour.packed import Packed
from umber_compass.window.desk.worker import OPEN
from umber_compass.window.widgets.bitmap import Bitmap
from umber_compass.window.widgets.theme import THEME, font

_DIMMED = 0.45  # of the picture is seen
_SMALL_PX = 160  # a picture with no longer side is shown in whole px
_BAR = QSizeF(240, 4)
_PLATE_PX, _ABOVE_PX = 44, 24  # the words' plate, and its distance from the picture's lower edge


class Arriving(QWidget):
    """Covers the stage while a picture is read; a hand on it reaches nothing behind it."""

    def __init__(self, stage: QWidget) -> None:
        super().__init__(stage)
        self._stage = stage
        self.bitmap: Bitmap | None = None
        self.says, self.share = "", 0.0
        self._is_sketch, self._is_slow = False, False
        self.setVisible(False)
        stage.installEventFilter(self)

    def begin(self, says: str) -> None:
        """Something is to be read; its picture is not there yet."""
        self.bitmap, self.says, self.share = None, says, 0.0
        self._is_sketch = self._is_slow = False
        self.setGeometry(self._stage.rect())
        self.setAccessibleName(says)
        self.setVisible(True)
        self.raise_()
        self.update()

    def show_picture(self, packed: Packed, is_sketch: bool) -> None:
        """The picture, (h, w) 0x00RRGGBB, no larger than it is shown."""
        self.bitmap, self._is_sketch = Bitmap(packed), is_sketch
        self.update()

    def go_on(self, kind: str, says: str, share: float) -> None:
        """How far the reading is, 0-1."""
        if kind == OPEN and self.isVisible():
            self.says, self.share, self._is_slow = says, share, True
            self.update()

    def end(self) -> None:
        """It was read, or cannot be."""
        self.setVisible(False)
        self.bitmap = None

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Stay as large as the stage."""
        if event.type() == QEvent.Type.Resize:
            self.setGeometry(self._stage.rect())
        return super().eventFilter(watched, event)

    def frame(self) -> QRectF:
        """Where the picture is drawn; where there is none, all that is seen."""
        if self.bitmap is None:
            return QRectF(self.rect())
        width, height = self.bitmap.image.width(), self.bitmap.image.height()
        scale = min(self.width() / width, self.height() / height)
        if max(width, height) <= _SMALL_PX and scale > 1:
            scale = int(scale)
        size = QSizeF(width * scale, height * scale)
        return QRectF(
            (self.width() - size.width()) / 2,
            (self.height() - size.height()) / 2,
            size.width(),
            size.height(),
        )

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), THEME.colour("ground"))
        frame = self.frame()
        if self.bitmap is not None:
            image = self.bitmap.image
            smooth = max(image.width(), image.height()) > _SMALL_PX
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, smooth)
            painter.drawImage(frame, image)
            if self._is_sketch:
                veil = QColor(THEME.colour("ground"))
                veil.setAlphaF(1 - _DIMMED)
                painter.fillRect(frame, veil)
        if self._is_slow:
            self._paint_words(painter, frame)

    def _paint_words(self, painter: QPainter, frame: QRectF) -> None:
        """The words on a plate of their own, so that they are read on any picture; the bar below
        them once a share is known."""
        painter.setFont(font(12))
        width = max(_BAR.width(), painter.fontMetrics().horizontalAdvance(self.says)) + 24
        low = min(frame.bottom(), self.height()) - _ABOVE_PX - _PLATE_PX
        plate = QRectF((self.width() - width) / 2, low, width, _PLATE_PX)
        painter.fillRect(plate, THEME.colour("ground"))
        painter.setPen(THEME.colour("ink"))
        words = plate.adjusted(0, 6, 0, -_PLATE_PX / 2 + 4)
        painter.drawText(words, Qt.AlignmentFlag.AlignCenter, self.says)
        bar = QRectF(plate.center().x() - _BAR.width() / 2, plate.bottom() - 12, 0, 0)
        bar.setSize(_BAR)
        painter.fillRect(bar, THEME.colour("edge"))
        bar.setWidth(_BAR.width() * min(max(self.share, 0.0), 1.0))
        painter.fillRect(bar, THEME.colour("ink"))
