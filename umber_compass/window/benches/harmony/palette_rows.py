"""The palette as rows: darker, base and lighter of every region, families together, or in the order
the artist gave them."""

from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QPainter, QPen

from umber_compass.window.widgets.instrument import Hand, Instrument
from umber_compass.window.widgets.theme import THEME, font
from umber_compass.window.widgets.under import Under

ROW = 24  # px
_SWATCH = 26


class PaletteRow(NamedTuple):
    """One region's colours."""

    region: str
    name: str
    hexes: tuple[str, ...]  # darker, base, lighter; the ends of a gradient
    says: str  # value and hex
    marks: str  # pinned, locked
    note: str
    head: str  # the family that begins here; empty where none does


class PaletteRows(Instrument):
    """A row is chosen by click or arrow keys, and moved by dragging or with Alt and the arrows."""

    chosen = Signal(str)
    copied = Signal(str)
    ordered = Signal(object)  # region ids

    drags = False
    grabs = Qt.CursorShape.ArrowCursor

    def __init__(self) -> None:
        super().__init__(self.tr("Palette rows"), grows=(True, False))
        self._rows: list[PaletteRow] = []
        self._selected = ""
        self._over: int | None = None

    def sizeHint(self) -> QSize:
        return QSize(400, ROW * len(self._rows) + 4)

    def show_rows(self, rows: list[PaletteRow], selected: str) -> None:
        """The rows, and the region that is chosen."""
        if (rows, selected) == (self._rows, self._selected):
            return
        taller = len(rows) != len(self._rows)
        self._rows, self._selected = rows, selected
        if taller:
            self.updateGeometry()
        self.update()

    def paint(self, painter: QPainter) -> None:
        for i, row in enumerate(self._rows):
            self._paint_row(painter, i, row)
        if self._over is not None:
            painter.setPen(QPen(THEME.colour("ink"), 2))
            y = self._over * ROW + 1
            painter.drawLine(QPointF(0, y), QPointF(self.width(), y))

    def _paint_row(self, painter: QPainter, at: int, row: PaletteRow) -> None:
        top, ink = at * ROW + 2.0, THEME.colour("ink")
        if row.region == self._selected:
            painter.fillRect(QRectF(0, top - 1, self.width(), ROW - 1), THEME.colour("card"))
        painter.setFont(font(12, True))
        painter.setPen(ink)
        painter.drawText(QRectF(2, top, 16, ROW - 4), Qt.AlignmentFlag.AlignVCenter, row.head)
        for k, colour in enumerate(row.hexes):
            box = QRectF(20 + k * _SWATCH, top + 1, _SWATCH, ROW - 5)
            painter.fillRect(box, QColor(colour))
        painter.setFont(font(13, row.region == self._selected))
        painter.setPen(ink)
        left = 20 + 3 * _SWATCH + 8
        middle = Qt.AlignmentFlag.AlignVCenter
        wide = max(self.width() * 0.26, 70)
        name = painter.fontMetrics().elidedText(
            row.name, Qt.TextElideMode.ElideRight, int(wide - 6)
        )
        painter.drawText(QRectF(left, top, wide, ROW - 4), middle, name)
        painter.setFont(font(12))
        painter.setPen(THEME.colour("quiet"))
        said = "  ".join(p for p in (row.says, row.marks, row.note) if p)
        room = QRectF(left + wide, top, self.width() - left - wide - 4, ROW - 4)
        cut = painter.fontMetrics().elidedText(said, Qt.TextElideMode.ElideRight, int(room.width()))
        painter.drawText(room, middle, cut)
        if row.region == self._selected and self.hasFocus():
            painter.setPen(QPen(ink, 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(QRectF(0.5, top - 1, self.width() - 1, ROW - 2))

    def _at(self, y: float) -> int | None:
        at = int(y // ROW)
        return at if 0 <= at < len(self._rows) else None

    def under(self, place: QPointF) -> Under:
        """The row at a place."""
        at = self._at(place.y())
        if at is None:
            return Under()
        row = self._rows[at]
        k = int((place.x() - 20) // _SWATCH)
        return Under(row.region, row.hexes[k] if 0 <= k < len(row.hexes) else row.hexes[0])

    def grip(self, place: QPointF) -> int | None:
        return self._at(place.y())

    def pressed(self, hand: Hand) -> None:
        if self._held is None:
            return
        row = self._rows[self._held]
        self.chosen.emit(row.region)
        k = int((hand.place.x() - 20) // _SWATCH)
        if 0 <= k < len(row.hexes):
            self.copied.emit(row.hexes[k])

    def dragged(self, held: int, hand: Hand) -> None:
        far = abs(hand.place.y() - (held + 0.5) * ROW) > ROW
        self._over = min(max(round(hand.place.y() / ROW), 0), len(self._rows)) if far else None
        self.update()

    def dropped(self, held: int, hand: Hand) -> None:
        if self._over is not None:
            self._move(held, self._over)

    def let_go(self) -> None:
        self._over = None
        super().let_go()

    def _move(self, at: int, to: int) -> None:
        """Put a row before another."""
        ids = [r.region for r in self._rows]
        one = ids.pop(at)
        ids.insert(to - (to > at), one)
        self.ordered.emit(tuple(ids))

    def stepped(self, right: int, up: int, hand: Hand) -> bool:
        ids = [r.region for r in self._rows]
        if not up or not ids:
            return False
        at = ids.index(self._selected) if self._selected in ids else 0
        to = min(max(at - up, 0), len(ids) - 1)
        if hand.alt:
            self._move(at, to + (up < 0))
        else:
            self.chosen.emit(ids[to])
        return True
