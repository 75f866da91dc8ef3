"""The lamps as rows: colour, name, where it stands, and its strength as a bar to drag."""

from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QPainter, QPen

from umber_compass.window.widgets.instrument import Hand, Instrument
from umber_compass.window.widgets.theme import THEME, font

_HEIGHT, _SWATCH, _BAR, _NUMBER = 40, 26, 112, 52  # px


class LampLine(NamedTuple):
    """What a row shows. Strength is in percent; the bar is full at `full`."""

    name: str
    title: str
    says: str
    hex: str  # empty where it has no colour
    strength: float
    full: float
    on: bool


class LampRow(Instrument):
    """Drag the bar for the strength; arrow keys step it by one, with Shift by ten."""

    chosen = Signal(str)
    wanted = Signal(str, float)  # name, strength in percent
    switched = Signal(str)

    smooth = True
    grabs = Qt.CursorShape.SizeHorCursor

    def __init__(self) -> None:
        super().__init__(size=(440, _HEIGHT), grows=(True, False))
        self.setFixedHeight(_HEIGHT)
        self.line: LampLine | None = None
        self._selected = False

    def show_line(self, line: LampLine, selected: bool) -> None:
        """The lamp, and whether its colour is shown below."""
        if (line, selected) == (self.line, self._selected):
            return
        self.line, self._selected = line, selected
        said = self.tr("{title}, {strength:.0f} percent, {on}").format(
            title=line.title,
            strength=line.strength,
            on=self.tr("on") if line.on else self.tr("off"),
        )
        self.setAccessibleName(said)
        self.update()

    def bar(self) -> QRectF:
        """Where the strength's bar lies."""
        return QRectF(self.width() - _BAR - _NUMBER - 4, _HEIGHT / 2 - 5, _BAR, 10)

    def swatch(self) -> QRectF:
        """Where the colour lies; a click on it switches the lamp."""
        return QRectF(6, (_HEIGHT - _SWATCH) / 2, _SWATCH, _SWATCH)

    def paint(self, painter: QPainter) -> None:
        line = self.line
        if line is None:
            return
        ink, quiet = THEME.colour("ink"), THEME.colour("quiet")
        self._paint_swatch(painter, line)
        painter.setPen(ink)
        painter.setFont(font(13, self._selected))
        left = self.swatch().right() + 10
        room = self.bar().left() - left - 8
        painter.drawText(QRectF(left, 3, room, 18), line.title)
        painter.setPen(quiet)
        painter.setFont(font(11))
        says = line.says if line.on else self.tr("off")
        metrics = painter.fontMetrics()
        said = metrics.elidedText(says, Qt.TextElideMode.ElideRight, int(room))
        painter.drawText(QRectF(left, 20, room, 16), said)
        bar = self.bar()
        painter.fillRect(bar, THEME.colour("well"))
        full = QRectF(bar)
        full.setWidth(bar.width() * min(line.strength / line.full, 1.0))
        painter.fillRect(full, ink if line.on else THEME.colour("line"))
        painter.setPen(ink)
        painter.setFont(font(13))
        number = QRectF(bar.right() + 4, 0, _NUMBER - 4, _HEIGHT)
        right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        painter.drawText(number, right, f"{line.strength:.0f} %")
        if self._selected or self.hasFocus():
            painter.setPen(QPen(ink, 2 if self.hasFocus() else 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(QRectF(self.rect()).adjusted(1, 1, -1, -1))

    def _paint_swatch(self, painter: QPainter, line: LampLine) -> None:
        box = self.swatch()
        painter.setPen(QPen(THEME.colour("ink"), 1))
        painter.setBrush(QColor(line.hex) if line.hex and line.on else THEME.colour("ground"))
        painter.drawRect(box)
        if not line.on:
            painter.drawLine(box.bottomLeft(), box.topRight())
        elif not line.hex:  # no colour of its own: a corner that darkens
            painter.setBrush(THEME.colour("ink"))
            painter.drawRect(box.adjusted(box.width() / 2, box.height() / 2, 0, 0))

    def grip(self, place: QPointF) -> str | None:
        if self.line is None or not self.bar().adjusted(-6, -8, 6, 8).contains(place):
            return None
        return self.line.name

    def pressed(self, hand: Hand) -> None:
        if self.line is None:
            return
        if self.swatch().contains(hand.place) and self._selected:
            self.switched.emit(self.line.name)
        self.chosen.emit(self.line.name)

    def dragged(self, held: str, hand: Hand) -> None:
        assert self.line is not None
        share = (hand.place.x() - self.bar().left()) / self.bar().width()
        self.wanted.emit(held, round(min(max(share, 0.0), 1.0) * self.line.full))

    def stepped(self, right: int, up: int, hand: Hand) -> bool:
        if self.line is None or not right:
            return False
        self.chosen.emit(self.line.name)
        step = 10 if hand.shift else 1
        self.wanted.emit(self.line.name, max(self.line.strength + right * step, 0.0))
        return True

    def taken(self) -> bool:
        if self.line is None:
            return False
        if self._selected:
            self.switched.emit(self.line.name)
        self.chosen.emit(self.line.name)
        return True
