"""The shares of the scheme's hues: a bar for what is held now, a tick for what is wished."""

from typing import NamedTuple

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from umber_compass.window.theme import THEME, font

_ROW = 42  # px


class ShareRow(NamedTuple):
    """One slot."""

    slot: str
    part: str  # leads, supports, answers, greys
    angle: str
    now: float
    wished: float
    hex: str


class Shares(QWidget):
    """Drag a tick, or step it with the arrow keys, to wish another share."""

    wished = Signal(str, float)
    began = Signal()
    ended = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(self.tr("Shares"))
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Fixed)
        self._rows: list[ShareRow] = []
        self._current = 0
        self._held = False

    def sizeHint(self) -> QSize:
        return QSize(120, _ROW * 5 + 18)

    def show_rows(self, rows: list[ShareRow]) -> None:
        """The slots, the lead first."""
        self._rows = rows
        self._current = min(self._current, max(len(rows) - 1, 0))
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        for i, row in enumerate(self._rows):
            self._paint_row(painter, i * _ROW, row, i == self._current and self.hasFocus())
        painter.setFont(font(11))
        painter.setPen(THEME.colour("quiet"))
        painter.drawText(0, _ROW * len(self._rows) + 12, self.tr("bar now, tick wished"))

    def _paint_row(self, painter: QPainter, y: int, row: ShareRow, focused: bool) -> None:
        width = self.width()
        painter.setFont(font(13, True))
        painter.setPen(THEME.colour("ink"))
        painter.drawText(0, y + 13, row.slot if row.slot != "grey" else "–")
        painter.setFont(font(13))
        painter.drawText(16, y + 13, row.part)
        painter.setPen(THEME.colour("quiet"))
        right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        painter.drawText(QRectF(0, y, width, 18), right, row.angle)
        bar = QRectF(0, y + 20, width, 9)
        painter.fillRect(bar, THEME.colour("well"))
        painter.fillRect(QRectF(0, y + 20, width * row.now, 9), QColor(row.hex))
        tick = max(1.5, width * row.wished)
        painter.setPen(QPen(THEME.colour("ink"), 5 if focused else 3))
        painter.drawLine(int(tick), y + 17, int(tick), y + 32)

    def event(self, event):  # type: ignore[no-untyped-def]
        if event.type() == event.Type.ToolTip:
            at = int(event.pos().y() // _ROW)
            if 0 <= at < len(self._rows):
                row = self._rows[at]
                text = self.tr("{part}: {now:.0%} now, {wished:.0%} wished")
                self.setToolTip(text.format(part=row.part, now=row.now, wished=row.wished))
        return super().event(event)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        at = int(event.position().y() // _ROW)
        if 0 <= at < len(self._rows):
            self._current, self._held = at, True
            self.began.emit()
            self.mouseMoveEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held:
            share = min(max(event.position().x() / max(self.width(), 1), 0.0), 1.0)
            self.wished.emit(self._rows[self._current].slot, round(share, 2))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._held:
            self._held = False
            self.ended.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Left: -0.01, Qt.Key.Key_Right: 0.01}.get(Qt.Key(event.key()))
        move = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(event.key()))
        if step is not None and self._rows:
            row = self._rows[self._current]
            self.wished.emit(row.slot, round(min(max(row.wished + step, 0), 1), 2))
        elif move is not None and self._rows:
            self._current = min(max(self._current + move, 0), len(self._rows) - 1)
            self.update()
        else:
            super().keyPressEvent(event)
