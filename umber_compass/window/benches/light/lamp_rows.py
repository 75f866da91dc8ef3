"""The lamps as rows: colour, name, where it stands, and its strength as a bar to drag."""

from typing import NamedTuple

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from umber_compass.window.widgets.holding import Holding
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


class LampRow(Holding, QWidget):
    """Drag the bar for the strength; arrow keys step it by one, with Shift by ten."""

    chosen = Signal(str)
    wanted = Signal(str, float)  # name, strength in percent
    switched = Signal(str)
    began = Signal()
    ended = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(_HEIGHT)
        self.line: LampLine | None = None
        self._selected = self._held = False

    def sizeHint(self) -> QSize:
        return QSize(440, _HEIGHT)

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

    def paintEvent(self, event: QPaintEvent) -> None:
        if self.line is None:
            return
        painter, line = QPainter(self), self.line
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
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

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self.line is None:
            return
        if self.swatch().contains(event.position()) and self._selected:
            self.switched.emit(self.line.name)
        elif self.bar().adjusted(-6, -8, 6, 8).contains(event.position()):
            self._held = True
            self.began.emit()
            self._drag_to(event.position().x())
        self.chosen.emit(self.line.name)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held:
            self._drag_to(event.position().x())

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self.let_go()

    def let_go(self) -> None:
        if self._held:
            self._held = False
            self.ended.emit()

    def _drag_to(self, x: float) -> None:
        assert self.line is not None
        share = (x - self.bar().left()) / self.bar().width()
        self.wanted.emit(self.line.name, round(min(max(share, 0.0), 1.0) * self.line.full))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = 10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
        move = {Qt.Key.Key_Left: -step, Qt.Key.Key_Right: step}.get(Qt.Key(event.key()))
        if self.line is not None and move is not None:
            self.chosen.emit(self.line.name)
            self.wanted.emit(self.line.name, max(self.line.strength + move, 0.0))
        elif self.line is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Space):
            if self._selected:
                self.switched.emit(self.line.name)
            self.chosen.emit(self.line.name)
        else:
            super().keyPressEvent(event)
