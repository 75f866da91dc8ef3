"""The drawing, small: a click says what should be seen first."""

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from umber_compass.window.widgets.bitmap import Bitmap
from umber_compass.window.widgets.theme import THEME
from umber_compass.window.widgets.whole_px import draw_image, fitted, paint_coming

_ROOM = QSize(150, 128)
_STEP = 0.02  # of the picture, that an arrow key moves the mark


class DrawingPick(QWidget):
    """Shows the drawing with a mark on what is seen first."""

    picked = Signal(float, float)  # a place, shares of width and height

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(self.tr("The drawing: click what should be seen first"))
        self.setToolTip(self.tr("Click what should be seen first"))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.CrossCursor)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self._bitmap: Bitmap | None = None
        self._mark: tuple[float, float] | None = None
        self._guessed = False
        self._at = (0.5, 0.5)  # where a key would click

    def sizeHint(self) -> QSize:
        return _ROOM

    def show_drawing(
        self, bitmap: Bitmap | None, mark: tuple[float, float] | None, guessed: bool
    ) -> None:
        """The picture, where what is seen first lies, and whether that is only a guess."""
        if bitmap is not None:
            self._bitmap = bitmap
        if mark is not None and mark != self._mark:
            self._at = mark
        self._mark, self._guessed = mark, guessed
        self.update()

    def _box(self) -> QRectF:
        room = QRectF(self.rect())
        return room if self._bitmap is None else fitted(room, self._bitmap.image)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = self._box()
        if self._bitmap is None:
            paint_coming(painter, box, "…")
            return
        draw_image(painter, box, self._bitmap.image)
        ink = THEME.colour("ink")
        painter.setPen(QPen(ink, 2 if self.hasFocus() else 1))
        painter.drawRect(box.adjusted(0.5, 0.5, -0.5, -0.5))
        if self._mark is not None:
            self._paint_ring(painter, box, self._mark, self._guessed)
        if self.hasFocus():
            self._paint_ring(painter, box, self._at, True)

    def _paint_ring(
        self, painter: QPainter, box: QRectF, place: tuple[float, float], dashed: bool
    ) -> None:
        """A ring that is seen on light and on dark."""
        at = QPointF(box.x() + place[0] * box.width(), box.y() + place[1] * box.height())
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for colour, wide in (("#ffffff", 4.0), ("#141414", 2.0)):
            pen = QPen(colour)
            pen.setWidthF(wide)
            if dashed and colour != "#ffffff":
                pen.setStyle(Qt.PenStyle.DotLine)
            painter.setPen(pen)
            painter.drawEllipse(at, 8, 8)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        box, at = self._box(), event.position()
        if event.button() == Qt.MouseButton.LeftButton and box.contains(at):
            self.picked.emit((at.x() - box.x()) / box.width(), (at.y() - box.y()) / box.height())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        keys = Qt.Key
        step = {
            keys.Key_Left: (-_STEP, 0.0),
            keys.Key_Right: (_STEP, 0.0),
            keys.Key_Up: (0.0, -_STEP),
            keys.Key_Down: (0.0, _STEP),
        }.get(Qt.Key(event.key()))
        if step is not None:
            x, y = (min(max(a + b, 0.0), 0.999) for a, b in zip(self._at, step, strict=True))
            self._at = (x, y)
            self.update()
        elif event.key() in (keys.Key_Return, keys.Key_Enter, keys.Key_Space):
            self.picked.emit(*self._at)
        else:
            super().keyPressEvent(event)
