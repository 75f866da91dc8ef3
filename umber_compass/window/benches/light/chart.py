"""The paint chart: a row for each material, a swatch for each place on its form."""

from PySide6.QtCore import QPointF, QRect, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen

from umber_compass.colour.measured import Measured
from umber_compass.picture.light import Lights
from umber_compass.steps.light.chart import PLACES, Place, Row, places_in
from umber_compass.window.widgets.fields import signed
from umber_compass.window.widgets.instrument import Hand, Instrument
from umber_compass.window.widgets.theme import THEME, font
from umber_compass.window.widgets.under import Under
from umber_compass.window.widgets.whole_px import paint_coming

ROW, _HEAD, _NAME, _REST = 30, 22, 104, 60  # px
_CORNER = 8.0  # px of the mark of what was corrected by hand
_TURN_PX = 50  # of width, from which a swatch has room for how far its hue turns


class Chart(Instrument):
    """A click on a swatch copies its hex and chooses its region; arrow keys move, Enter copies."""

    chosen = Signal(str)
    copied = Signal(str)
    moved = Signal()  # another swatch is chosen

    drags = False

    def __init__(self) -> None:
        super().__init__(self.tr("Paint chart"), grows=(True, False))
        self.rows: list[Row] = []
        self._selected = ""
        self.cell = (0, 0)
        self.places: tuple[Place, ...] = PLACES
        self._seen = QRect()  # the part that is painted
        self.setFixedHeight(_HEAD + 2 * ROW)

    def show_rows(self, rows: list[Row], selected: str, lights: Lights, casts: bool) -> None:
        """The chart of a plan, with the places its light has."""
        self.rows, self._selected = rows, selected
        found = places_in(lights, casts)
        held = {name for row in rows for name in row.places}
        self.places = tuple(p for p in found if p.name in held or not rows)
        row, column = self.cell
        self.cell = min(row, max(len(rows) - 1, 0)), min(column, len(self.places))
        self.setFixedHeight(_HEAD + len(rows) * ROW + 4)
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(460, _HEAD + len(self.rows) * ROW + 4)

    def box(self, row: int, column: int) -> QRectF:
        """Where a swatch lies."""
        width = (self.width() - _NAME - _REST) / (1 + len(self.places))
        return QRectF(_NAME + column * width, _HEAD + row * ROW, width - 2, ROW - 2)

    def colour(self, row: int, column: int) -> Measured | None:
        """What a swatch shows: the local colour, then the places in order; None where the material
        has no such place."""
        material = self.rows[row]
        return material.places.get(self.places[column - 1].name) if column else material.local

    def paintEvent(self, event: QPaintEvent) -> None:
        self._seen = event.rect()
        super().paintEvent(event)

    def paint(self, painter: QPainter) -> None:
        painter.setFont(font(11))
        painter.setPen(THEME.colour("quiet"))
        titles = [(self.tr("local"), self.tr("local")), *((p.title, p.short) for p in self.places)]
        for i, (title, short) in enumerate(titles):
            room = self.box(0, i).width() - 4
            fits = painter.fontMetrics().horizontalAdvance(title) <= room
            painter.drawText(self.box(0, i).topLeft() + QPointF(0, -7), title if fits else short)
        right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        painter.drawText(
            QRectF(self.width() - _REST, 0, _REST - 2, _HEAD - 4), right, self.tr("change L*")
        )
        if not self.rows:
            says = self.tr("Working out every material’s colours …")
            paint_coming(painter, QRectF(0, _HEAD, self.width(), ROW), says, well=False)
        first, last = self._seen.top(), self._seen.bottom()
        for i, row in enumerate(self.rows):
            if first <= _HEAD + (i + 1) * ROW and _HEAD + i * ROW <= last:
                self._paint_row(painter, i, row)

    def _paint_row(self, painter: QPainter, i: int, row: Row) -> None:
        chosen = row.region == self._selected
        painter.setPen(THEME.colour("ink"))
        painter.setFont(font(13, chosen))
        name = painter.fontMetrics().elidedText(row.name, Qt.TextElideMode.ElideRight, _NAME - 8)
        middle = Qt.AlignmentFlag.AlignVCenter
        painter.drawText(QRectF(0, _HEAD + i * ROW, _NAME - 6, ROW - 2), middle, name)
        for column in range(1 + len(self.places)):
            self._paint_swatch(painter, i, column, row)
        if row.rest is not None:
            painter.setPen(THEME.colour("quiet"))
            painter.setFont(font(12))
            box = QRectF(self.width() - _REST, _HEAD + i * ROW, _REST - 2, ROW - 2)
            right = Qt.AlignmentFlag.AlignRight | middle
            painter.drawText(box, right, signed(row.rest))

    def _paint_swatch(self, painter: QPainter, i: int, column: int, row: Row) -> None:
        box, colour = self.box(i, column), self.colour(i, column)
        if colour is None:
            painter.setPen(THEME.colour("quiet"))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, "–")
            return
        painter.fillRect(box, QColor(colour.hex))
        dark = colour.value < 52
        painter.setPen(QColor("white") if dark else QColor("#141414"))
        painter.setFont(font(12))
        inside = box.adjusted(5, 0, -4, 0)
        painter.drawText(inside, Qt.AlignmentFlag.AlignVCenter, f"{colour.value:.0f}")
        turn = row.turn_deg(self.places[column - 1].name) if column else None
        if turn is not None and abs(turn) >= 1 and box.width() >= _TURN_PX:
            painter.setFont(font(11))
            right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
            painter.drawText(inside, right, signed(turn) + "°")
        if column and self.places[column - 1].name in row.by_hand:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor("white") if dark else QColor("#141414"))
            corner = box.topRight()
            left, below = corner - QPointF(_CORNER, 0), corner + QPointF(0, _CORNER)
            painter.drawPolygon([corner, left, below])
        if self.hasFocus() and (i, column) == self.cell:
            for pen, away in ((QPen(THEME.colour("ink"), 2), 1.0), (QPen(QColor("white"), 1), 2.5)):
                painter.setPen(pen)
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawRect(box.adjusted(away, away, -away, -away))

    def _at(self, place: QPointF) -> tuple[int, int] | None:
        row = int((place.y() - _HEAD) // ROW)
        if not 0 <= row < len(self.rows):
            return None
        for column in range(1 + len(self.places)):
            if self.box(row, column).contains(place):
                return row, column
        return None

    def under(self, place: QPointF) -> Under:
        """The swatch at a place, or the row's material."""
        cell, row = self._at(place), int((place.y() - _HEAD) // ROW)
        if not 0 <= row < len(self.rows):
            return Under()
        colour = None if cell is None else self.colour(*cell)
        return Under(self.rows[row].region, "" if colour is None else colour.hex)

    def pressed(self, hand: Hand) -> None:
        cell, row = self._at(hand.place), int((hand.place.y() - _HEAD) // ROW)
        if cell is not None:
            self.cell = cell
            self.taken()
            self.moved.emit()
        elif 0 <= row < len(self.rows):
            self.chosen.emit(self.rows[row].region)

    def stepped(self, right: int, up: int, hand: Hand) -> bool:
        if not self.rows:
            return False
        row = min(max(self.cell[0] - up, 0), len(self.rows) - 1)
        self.cell = row, min(max(self.cell[1] + right, 0), len(self.places))
        self.moved.emit()
        self.update()
        return True

    def taken(self) -> bool:
        if self.rows:
            self.chosen.emit(self.rows[self.cell[0]].region)
            colour = self.colour(*self.cell)
            if colour is not None:
                self.copied.emit(colour.hex)
        return bool(self.rows)

    def says(self, place: QPointF) -> str:
        cell = self._at(place)
        if cell is None:
            return ""
        colour, row = self.colour(*cell), self.rows[cell[0]]
        if colour is None:
            return self.tr("{name} has no such place: it is not shiny").format(name=row.name)
        where = self.places[cell[1] - 1].title if cell[1] else self.tr("local")
        line = self.tr("{name}, {where}: {hex}, value {value:.0f} L*; a click copies it")
        return line.format(name=row.name, where=where, hex=colour.hex, value=colour.value)


def chosen_cell(chart: Chart) -> tuple[Row | None, Place | None]:
    """The material and the place of the chosen swatch; no place for a local colour."""
    row, column = chart.cell
    if row >= len(chart.rows):
        return None, None
    return chart.rows[row], chart.places[column - 1] if column else None
