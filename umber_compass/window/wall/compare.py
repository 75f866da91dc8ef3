"""Two or three studies compared: side by side, split by a seam that is dragged, or one fading into
the other; in numbers below."""

from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF, Qt, QTimer
from PySide6.QtGui import QHideEvent, QPainter

from umber_compass.window.wall.card import CardFace
from umber_compass.window.wall.number_rows import ROW, NumberRow, paint_rows
from umber_compass.window.widgets.instrument import Hand, Instrument

_GAP, _WORDS = 16, 44  # px
_FADE_MS, _REST_MS, _TURN_MS = 3000, 1000, 50  # far under three changes a second
_STEP = 0.05  # of the seam, by a key
MODES = ("side", "split", "fade")


class _Frame(NamedTuple):
    """Where pictures and words stand."""

    pictures: list[QRectF]
    table: QRectF


class Compare(Instrument):
    """Shows studies against each other."""

    drags = False
    grabs = Qt.CursorShape.SplitHCursor

    def __init__(self) -> None:
        super().__init__(self.tr("Compared studies"), (600, 500))
        self._faces: list[CardFace] = []
        self._rows: list[NumberRow] = []
        self._aspect, self.mode = 4 / 3, "side"
        self.seam, self._elapsed = 0.5, 0
        self.clock = QTimer(self)
        self.clock.setInterval(_TURN_MS)
        self.clock.timeout.connect(self._turn)

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

    def paint(self, painter: QPainter) -> None:
        if not self._faces:
            return
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        # Only where cards are compared: a start loads as little as it can.
        from umber_compass.window.wall import compare_painting as both

        frame = self._frame()
        if self.mode == "side":
            for box, face in zip(frame.pictures, self._faces, strict=True):
                both.paint_picture(painter, box, face)
                both.paint_words(painter, box, face)
        else:
            two = (*self._faces, self._faces[0])[:2]
            both.paint_both(painter, frame.pictures[0], two, self.mode, self.seam, self.shown)
        paint_rows(painter, frame.table, self._rows, [f.title for f in self._faces])

    def grip(self, place: QPointF) -> bool | None:
        return True if self.mode == "split" else None

    def dragged(self, held: bool, hand: Hand) -> None:
        box = self._frame().pictures[0]
        self._set_seam((hand.place.x() - box.x()) / box.width())

    def _set_seam(self, at: float) -> None:
        self.seam = min(max(at, 0.0), 1.0)
        self.update()

    def stepped(self, right: int, up: int, hand: Hand) -> bool:
        if self.mode != "split" or not right:
            return False
        self._set_seam(self.seam + right * _STEP)
        return True
