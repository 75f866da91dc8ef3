"""Two or three studies compared: side by side, split by a seam that is dragged, or one fading into
the other; in numbers below."""

from typing import NamedTuple

from PySide6.QtCore import QRectF, QSize, Qt, QTimer
from PySide6.QtGui import QHideEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from umber_compass.window.wall.card import CardFace
from umber_compass.window.wall.compare_painting import paint_both, paint_picture, paint_words
from umber_compass.window.wall.number_rows import ROW, NumberRow, paint_rows
from umber_compass.window.widgets.holding import Holding

_GAP, _WORDS = 16, 44  # px
_FADE_MS, _REST_MS, _TURN_MS = 3000, 1000, 50  # far under three changes a second
_STEP = 0.05  # of the seam, by a key
MODES = ("side", "split", "fade")


class _Frame(NamedTuple):
    """Where pictures and words stand."""

    pictures: list[QRectF]
    table: QRectF


class Compare(Holding, QWidget):
    """Shows studies against each other."""

    def __init__(self) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(self.tr("Compared studies"))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self._faces: list[CardFace] = []
        self._rows: list[NumberRow] = []
        self._aspect, self.mode = 4 / 3, "side"
        self.seam, self._held, self._elapsed = 0.5, False, 0
        self.clock = QTimer(self)
        self.clock.setInterval(_TURN_MS)
        self.clock.timeout.connect(self._turn)

    def sizeHint(self) -> QSize:
        return QSize(600, 500)

    def show_faces(self, faces: list[CardFace], rows: list[NumberRow], aspect: float) -> None:
        """The studies, two or three, and their numbers."""
        self._faces, self._rows, self._aspect = faces, rows, aspect
        self.update()

    def set_mode(self, mode: str) -> None:
        """Side by side, split or fade."""
        self.mode, self._elapsed = mode, 0
        self.clock.stop()
        if mode == "fade":
            self.clock.start()
        split = mode == "split"
        self.setCursor(Qt.CursorShape.SplitHCursor if split else Qt.CursorShape.ArrowCursor)
        self.update()

    def hideEvent(self, event: QHideEvent) -> None:
        self.clock.stop()

    def _turn(self) -> None:
        self._elapsed += _TURN_MS
        self.update()

    @property
    def shown(self) -> float:
        """How much of the second picture is over the first, 0-1: up slowly, a rest, down again."""
        half = _FADE_MS + _REST_MS
        at = self._elapsed % (2 * half)
        part = min(at % half / _FADE_MS, 1.0)
        part = part * part * (3 - 2 * part)
        return part if at < half else 1 - part

    @property
    def picture_px(self) -> int:
        """How wide the pictures are."""
        return max(round(self._frame().pictures[0].width()), 60)

    def _frame(self) -> _Frame:
        count = max(len(self._faces), 1) if self.mode == "side" else 1
        table = len(self._rows) * ROW + 8
        room = max(self.height() - table - _WORDS, 80)
        width = (self.width() - _GAP * (count - 1)) / count
        width = min(width, room * self._aspect)
        height = width / self._aspect
        whole = count * width + _GAP * (count - 1)
        left = (self.width() - whole) / 2
        boxes = [QRectF(left + i * (width + _GAP), 0, width, height) for i in range(count)]
        return _Frame(boxes, QRectF(0, height + _WORDS, self.width(), table))

    def paintEvent(self, event: QPaintEvent) -> None:
        if not self._faces:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        frame = self._frame()
        if self.mode == "side":
            for box, face in zip(frame.pictures, self._faces, strict=True):
                paint_picture(painter, box, face)
                paint_words(painter, box, face)
        else:
            two = (*self._faces, self._faces[0])[:2]
            paint_both(painter, frame.pictures[0], two, self.mode, self.seam, self.shown)
        paint_rows(painter, frame.table, self._rows, [f.title for f in self._faces])

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self.mode == "split" and event.button() == Qt.MouseButton.LeftButton:
            self._held = True
            self.mouseMoveEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held:
            box = self._frame().pictures[0]
            self.seam = min(max((event.position().x() - box.x()) / box.width(), 0.0), 1.0)
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self.let_go()

    def let_go(self) -> None:
        self._held = False

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Left: -_STEP, Qt.Key.Key_Right: _STEP}.get(Qt.Key(event.key()))
        if step is None or self.mode != "split":
            super().keyPressEvent(event)
            return
        self.seam = min(max(self.seam + step, 0.0), 1.0)
        self.update()
