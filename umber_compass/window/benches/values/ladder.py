"""The value ladder: L* upright, the histogram, a chip for each region to drag up and down."""

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
)
from PySide6.QtWidgets import QSizePolicy, QWidget

from umber_compass.colour.measured import grey_scale
from umber_compass.window.benches.values.chips import LEFT, Chip, ChipPlaces, Scale
from umber_compass.window.benches.values.ladder_painting import (
    paint_chip,
    paint_histogram,
    paint_limits,
    paint_lit,
    paint_scale,
)
from umber_compass.window.widgets.holding import Holding
from umber_compass.window.widgets.theme import THEME


class Ladder(Holding, QWidget):
    """Drag a chip to set a value, a dashed line to move a limit. Up and Down step the chosen chip
    by a point of L*, with Shift by five; Page Up and Page Down choose the next chip."""

    moved = Signal(str, int, float)  # region, end, L*
    limit = Signal(str, float)  # dark or light, L*
    began = Signal()
    ended = Signal()
    chosen = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAccessibleName(self.tr("Value ladder"))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumHeight(260)
        self._greys = grey_scale(21)
        self._chips: list[Chip] = []
        self._histogram: list[float] = []
        self._limits = {"dark": 20.0, "light": 80.0}
        self._shares = {"dark": 0.0, "light": 0.0}
        self._current: tuple[str, int] = ("", 0)
        self._held: tuple[str, int] | None = None
        self._grip = 0.0
        self._places = ChipPlaces()
        self._lit: tuple[float, float] | None = None
        self._placed: tuple[object, list[tuple[QRectF, Chip]]] = (None, [])

    def sizeHint(self) -> QSize:
        return QSize(480, 400)

    def show_chips(
        self,
        chips: list[Chip],
        histogram: list[float],
        limits: dict[str, float],
        shares: dict[str, float],
        selected: str,
    ) -> None:
        """The picture's values: chips, share in each point of L*, limits and what lies beyond."""
        self._chips, self._histogram = chips, histogram
        self._limits, self._shares = limits, shares
        if selected != self._current[0]:
            self._current = (selected, 0)
        self.update()

    def show_lit(self, lit: tuple[float, float] | None) -> None:
        """Between which values L* the chosen region lies in the light, or None."""
        self._lit = lit

    def boxes(self) -> list[tuple[QRectF, Chip]]:
        """Where each chip lies; found anew only where something moved."""
        held = self._held
        key = (self._chips, held, self.size().toTuple())
        if self._placed[0] != key:
            self._placed = (key, self._places.place(self._chips, held, self.scale))
        return self._placed[1]

    @property
    def scale(self) -> Scale:
        """Where values stand on the widget as it is."""
        return Scale(self.width(), self.height())

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        scale = self.scale
        paint_scale(painter, scale, self._greys)
        paint_histogram(painter, scale, self._histogram)
        paint_limits(painter, scale, self._limits, self._shares)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for box, chip in self.boxes():
            paint_chip(painter, box, chip, chip.region == self._current[0])
        if self._lit is not None:
            paint_lit(painter, scale, self._lit)
        if self.hasFocus():
            painter.setPen(QPen(THEME.colour("line"), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))

    def _hit(self, place: QPointF) -> tuple[Chip | None, str]:
        for box, chip in self.boxes():
            if box.adjusted(-3, -3, 3, 3).contains(place):
                return chip, ""
        for kind, value in self._limits.items():
            if place.x() > LEFT and abs(place.y() - self.scale.y_of(value)) <= 4:
                return None, kind
        return None, ""

    def mousePressEvent(self, event: QMouseEvent) -> None:
        chip, kind = self._hit(event.position())
        if chip is not None:
            self._held = self._current = (chip.region, chip.end)
            self._grip = event.position().y() - self.scale.y_of(chip.value)
            self.chosen.emit(chip.region)
        elif kind:
            self._held, self._grip = (kind, -1), 0.0
        if self._held is not None:
            self.began.emit()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held is None:
            chip, kind = self._hit(event.position())
            grab = Qt.CursorShape.SizeVerCursor if chip or kind else Qt.CursorShape.ArrowCursor
            self.setCursor(grab)
            return
        value = self.scale.value_at(event.position().y() - self._grip)
        if self._held[1] < 0:
            self.limit.emit(self._held[0], round(value))
        else:
            self.moved.emit(self._held[0], self._held[1], value)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self.let_go()

    def let_go(self) -> None:
        if self._held is not None:
            self._held = None
            self.ended.emit()
            self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = 5 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
        move = {Qt.Key.Key_Up: step, Qt.Key.Key_Down: -step}.get(Qt.Key(event.key()))
        turn = {Qt.Key.Key_PageUp: 1, Qt.Key.Key_PageDown: -1}.get(Qt.Key(event.key()))
        ordered = sorted(self._chips, key=lambda c: c.value)
        at = next((i for i, c in enumerate(ordered) if (c.region, c.end) == self._current), None)
        if move is not None and at is not None:
            chip = ordered[at]
            self.moved.emit(chip.region, chip.end, min(max(chip.value + move, 0), 100))
        elif turn is not None and ordered:
            at = 0 if at is None else min(max(at + turn, 0), len(ordered) - 1)
            self._current = (ordered[at].region, ordered[at].end)
            self.chosen.emit(ordered[at].region)
        else:
            super().keyPressEvent(event)
