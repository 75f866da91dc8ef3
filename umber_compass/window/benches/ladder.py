"""The value ladder: L* upright, the histogram, a chip for each region to drag up and down."""

from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QFontMetricsF,
    QKeyEvent,
    QLinearGradient,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
)
from PySide6.QtWidgets import QSizePolicy, QWidget

from umber_compass.steps.values import grey_scale
from umber_compass.window.theme import THEME, font

_TOP, _LEFT, _SCALE, _HISTOGRAM = 10, 28, 22, 56  # px
_CHIPS = _LEFT + _SCALE + _HISTOGRAM + 16
_CHIP = 14


class Chip(NamedTuple):
    """One region, or one end of a gradient, on the ladder."""

    region: str
    end: int
    name: str
    value: float
    share: float
    hex: str


class Ladder(QWidget):
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
        self._columns: dict[tuple[str, int], float] = {}
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

    def y_of(self, value: float) -> float:
        """Where a value L* stands."""
        return _TOP + (100 - value) / 100 * (self.height() - 2 * _TOP)

    def _value_at(self, y: float) -> float:
        return min(max(100 - (y - _TOP) / (self.height() - 2 * _TOP) * 100, 0.0), 100.0)

    def boxes(self) -> list[tuple[QRectF, Chip]]:
        """Where each chip lies: at its value, moved right past those it would cover. A chip keeps
        its column while it is dragged, so that others do not jump."""
        key = (self._chips, self._held, self.size().toTuple())
        if self._placed[0] != key:
            self._placed = (key, self._place())
        return self._placed[1]

    def _place(self) -> list[tuple[QRectF, Chip]]:
        metrics = QFontMetricsF(font(12))
        placed: list[tuple[QRectF, Chip]] = []
        taken: dict[int, list[QRectF]] = {}  # by height; a chip can only meet its neighbours
        for chip in sorted(self._chips, key=lambda c: (-c.share, c.name)):
            width = 9 + 60 * chip.share**0.5
            whole = width + 6 + metrics.horizontalAdvance(chip.name) + 10
            y = self.y_of(chip.value)
            box = QRectF(_CHIPS, y - _CHIP / 2 - 1, whole, _CHIP + 2)
            row = int(y // (_CHIP + 2))
            near = [t for i in (row - 1, row, row + 1) for t in taken.get(i, [])]
            near.sort(key=lambda t: t.left())
            for other in near:
                if box.intersects(other):
                    box.moveLeft(other.right() + 2)
            held = self._columns.get((chip.region, chip.end))
            if self._held == (chip.region, chip.end) and held is not None:
                box.moveLeft(held)
            taken.setdefault(row, []).append(box)
            self._columns[chip.region, chip.end] = box.left()
            placed.append((QRectF(box.left(), y - _CHIP / 2, width, _CHIP), chip))
        return placed

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        self._paint_scale(painter)
        self._paint_histogram(painter)
        self._paint_limits(painter)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        boxes = self.boxes()
        for box, chip in boxes:
            self._paint_chip(painter, box, chip)
        self._paint_lit(painter)
        if self.hasFocus():
            painter.setPen(QPen(THEME.colour("line"), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))

    def _paint_scale(self, painter: QPainter) -> None:
        painter.setFont(font(11))
        painter.setPen(THEME.colour("quiet"))
        for mark in range(0, 101, 10):
            box = QRectF(0, self.y_of(mark) - 8, _LEFT - 6, 16)
            right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
            painter.drawText(box, right, str(mark))
        fill = QLinearGradient(0, self.y_of(100), 0, self.y_of(0))
        for mark in range(0, 101, 5):
            fill.setColorAt(1 - mark / 100, QColor(self._greys[mark // 5]))
        height = self.y_of(0) - self.y_of(100)
        painter.fillRect(QRectF(_LEFT, self.y_of(100), _SCALE, height), fill)

    def _paint_histogram(self, painter: QPainter) -> None:
        if not self._histogram:
            return
        x0 = _LEFT + _SCALE + 6
        most = max(max(self._histogram), 1e-6)
        outline = [QPointF(x0, self.y_of(0))]
        for i, share in enumerate(self._histogram):
            width = (share / most) ** 0.5 * _HISTOGRAM
            outline += [QPointF(x0 + width, self.y_of(i)), QPointF(x0 + width, self.y_of(i + 1))]
        outline.append(QPointF(x0, self.y_of(100)))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(THEME.colour("line"))
        painter.drawPolygon(QPolygonF(outline))

    def _paint_limits(self, painter: QPainter) -> None:
        painter.setFont(font(12))
        for kind, value in self._limits.items():
            y = self.y_of(value)
            painter.setPen(QPen(THEME.colour("ink"), 1, Qt.PenStyle.DashLine))
            painter.drawLine(QPointF(_LEFT, y), QPointF(self.width(), y))
            words = self.tr("extreme darks {share:.0f} %, under {limit:.0f}")
            if kind == "light":
                words = self.tr("extreme lights {share:.0f} %, over {limit:.0f}")
            text = words.format(share=self._shares[kind] * 100, limit=value)
            low = y + 2 if kind == "dark" else y - 19
            painter.setPen(THEME.colour("quiet"))
            right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
            painter.drawText(QRectF(0, low, self.width() - 4, 17), right, text)

    def _paint_chip(self, painter: QPainter, box: QRectF, chip: Chip) -> None:
        chosen = chip.region == self._current[0]
        painter.setBrush(QColor(chip.hex))
        painter.setPen(QPen(THEME.colour("ink"), 2.4 if chosen else 0.8))
        painter.drawRect(box)
        painter.setPen(THEME.colour("ink"))
        painter.setFont(font(12, chosen))
        width = painter.fontMetrics().horizontalAdvance(chip.name)
        plate = QRectF(box.right() + 4, box.center().y() - 7, width + 4, 14)
        painter.fillRect(plate, THEME.colour("ground"))
        painter.drawText(QPointF(box.right() + 6, box.center().y() + 4), chip.name)

    def _paint_lit(self, painter: QPainter) -> None:
        """How far light and shade take the chosen region, as a bracket beside the histogram."""
        if self._lit is None:
            return
        low, high = (self.y_of(v) for v in self._lit)
        x = _CHIPS - 7.0
        painter.setPen(QPen(THEME.colour("ink"), 2))
        painter.drawLine(QPointF(x, high), QPointF(x, low))
        for y in (low, high):
            painter.drawLine(QPointF(x, y), QPointF(x + 4, y))

    def _hit(self, place: QPointF) -> tuple[Chip | None, str]:
        for box, chip in self.boxes():
            if box.adjusted(-3, -3, 3, 3).contains(place):
                return chip, ""
        for kind, value in self._limits.items():
            if place.x() > _LEFT and abs(place.y() - self.y_of(value)) <= 4:
                return None, kind
        return None, ""

    def mousePressEvent(self, event: QMouseEvent) -> None:
        chip, kind = self._hit(event.position())
        if chip is not None:
            self._held = self._current = (chip.region, chip.end)
            self._grip = event.position().y() - self.y_of(chip.value)
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
        value = self._value_at(event.position().y() - self._grip)
        if self._held[1] < 0:
            self.limit.emit(self._held[0], round(value))
        else:
            self.moved.emit(self._held[0], self._held[1], value)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
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
