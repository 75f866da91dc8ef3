"""The shares of the scheme's hues: a bar for what is held now, a tick for what is wished."""

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QPainter, QPen
from PySide6.QtWidgets import QSizePolicy

from umber_compass.steps.harmony.families import SlotShare
from umber_compass.window.widgets.instrument import Hand, Instrument
from umber_compass.window.widgets.theme import THEME, font

_ROW, _GAP = 40, 24  # px
_BETWEEN = 10  # px, the least between what a slot is and what it holds


class Shares(Instrument):
    """Drag a tick, or step it with the arrow keys, to wish another share."""

    wished = Signal(str, float)

    grabs = Qt.CursorShape.SizeHorCursor

    def __init__(self) -> None:
        super().__init__(self.tr("Shares"))
        self.setToolTip(
            self.tr(
                "How much of the picture each hue of the scheme holds now, and is wished to hold. "
                "Drag the tick to wish another share."
            )
        )
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Fixed)
        self._rows: list[SlotShare] = []
        self._current = 0

    def sizeHint(self) -> QSize:
        return QSize(400, _ROW * ((len(self._rows) + 1) // 2) + 20)

    def show_rows(self, rows: list[SlotShare]) -> None:
        """The slots, the lead first."""
        if rows == self._rows:
            return
        self._rows = rows
        self._current = min(self._current, max(len(rows) - 1, 0))
        self.updateGeometry()
        self.update()

    def paint(self, painter: QPainter) -> None:
        for i, (box, row) in enumerate(zip(self.boxes(), self._rows, strict=True)):
            self._paint_row(painter, box, row, i == self._current and self.hasFocus())
        painter.setFont(font(11))
        painter.setPen(THEME.colour("quiet"))
        low = max((b.bottom() for b in self.boxes()), default=0.0)
        says = self.tr("bar: what it holds now; tick: its goal, drag it")
        painter.drawText(QPointF(0, low + 8), says)

    def boxes(self) -> list[QRectF]:
        """Where each slot stands: two columns, filled row by row."""
        width = (self.width() - _GAP) / 2
        return [
            QRectF((i % 2) * (width + _GAP), (i // 2) * _ROW, width, _ROW)
            for i in range(len(self._rows))
        ]

    def _paint_row(self, painter: QPainter, box: QRectF, row: SlotShare, focused: bool) -> None:
        left, top, width = box.x(), box.y(), box.width()
        painter.setFont(font(13, True))
        painter.setPen(THEME.colour("ink"))
        painter.drawText(QPointF(left, top + 13), row.slot if row.slot != "grey" else "–")
        painter.setFont(font(13))
        line = self.tr("{now:.0%}, goal {wished:.0%}")
        if not row.asked:
            line = self.tr("{now:.0%}, usually {wished:.0%}") if row.usual else "{now:.0%}"
        said = line.format(now=row.now, wished=row.wished)
        angle = "" if row.angle_deg is None else f"  {row.angle_deg:.0f}°"
        metrics = painter.fontMetrics()
        room = width - 16 - metrics.horizontalAdvance(said + angle) - _BETWEEN
        name = f"{row.part}, {row.name}" if angle else row.part
        name = metrics.elidedText(name, Qt.TextElideMode.ElideRight, int(room))
        painter.drawText(QPointF(left + 16, top + 13), name + angle)
        painter.setPen(THEME.colour("quiet"))
        right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        painter.drawText(QRectF(left, top, width, 18), right, said)
        painter.fillRect(QRectF(left, top + 20, width, 9), THEME.colour("well"))
        painter.fillRect(QRectF(left, top + 20, width * min(row.now, 1), 9), QColor(row.hex))
        if not (row.asked or row.usual):
            return
        tick = left + min(max(1.5, width * row.wished), width - 1.5)
        painter.setPen(QPen(THEME.colour("ink"), 5 if focused else 3))
        painter.drawLine(QPointF(tick, top + 17), QPointF(tick, top + 32))

    def grip(self, place: QPointF) -> int | None:
        return next((i for i, b in enumerate(self.boxes()) if b.contains(place)), None)

    def pressed(self, hand: Hand) -> None:
        if self._held is not None:
            self._current = self._held

    def dragged(self, held: int, hand: Hand) -> None:
        box = self.boxes()[held]
        share = min(max((hand.place.x() - box.x()) / box.width(), 0.0), 1.0)
        self.wished.emit(self._rows[held].slot, round(share, 2))

    def stepped(self, right: int, up: int, hand: Hand) -> bool:
        if not self._rows:
            return False
        if right:
            row = self._rows[self._current]
            self.wished.emit(row.slot, round(min(max(row.wished + right / 100, 0), 1), 2))
        else:
            self._current = min(max(self._current - up, 0), len(self._rows) - 1)
            self.update()
        return True
