"""The route: a line with a stop for each step."""

from collections.abc import Sequence
from itertools import pairwise

from PySide6.QtCore import QPointF, QSize, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QAbstractButton, QSizePolicy, QVBoxLayout, QWidget

from umber_compass.window.widgets.theme import THEME, font

STOP_HEIGHT = 56
_LINE_X = 22


class Stop(QAbstractButton):
    """One step on the route: hollow until reached, filled once reached, a diamond while open."""

    def __init__(self, key: str, title: str, first: bool, last: bool) -> None:
        super().__init__()
        self.key, self._first, self._last = key, first, last
        self.warnings, self.reached = 0, False
        self.setText(title)
        self.setCheckable(True)
        self.setAccessibleName(title)
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(104, STOP_HEIGHT)

    def stand(self, first: bool, last: bool) -> None:
        """Whether it begins or ends the line."""
        self._first, self._last = first, last
        self.update()

    def say(self, reached: bool, warnings: int) -> None:
        """Whether the step was opened, and how many warnings wait there."""
        if (reached, warnings) == (self.reached, self.warnings):
            return
        self.reached, self.warnings = reached, warnings
        note = self.tr("{count} to look at").format(count=warnings) if warnings else ""
        self.setAccessibleDescription(note)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        middle = STOP_HEIGHT / 2
        self._paint_line(painter, middle)
        self._paint_mark(painter, middle)
        painter.setPen(THEME.colour("ink"))
        painter.setFont(font(13, self.isChecked()))
        painter.drawText(36, int(middle + 5), self.text())
        if self.warnings:
            painter.setFont(font(11))
            painter.setPen(THEME.colour("quiet"))
            painter.drawText(36, int(middle + 20), self.accessibleDescription())
        if self.hasFocus():
            painter.setPen(QPen(THEME.colour("ink"), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(2, int(middle - 16), self.width() - 5, 42)

    def _paint_line(self, painter: QPainter, middle: float) -> None:
        solid, dotted = Qt.PenStyle.SolidLine, Qt.PenStyle.DotLine
        painter.setPen(QPen(THEME.colour("ink"), 1.5, solid if self.reached else dotted))
        if not self._first:
            painter.drawLine(QPointF(_LINE_X, 0), QPointF(_LINE_X, middle - 6))
        if not self._last:
            painter.drawLine(QPointF(_LINE_X, middle + 6), QPointF(_LINE_X, STOP_HEIGHT))

    def _paint_mark(self, painter: QPainter, middle: float) -> None:
        ink = THEME.colour("ink")
        painter.setPen(QPen(ink, 1.5))
        painter.setBrush(ink if self.reached or self.isChecked() else THEME.colour("edge"))
        at = QPointF(_LINE_X, middle)
        if self.isChecked():
            r = 8.0
            corners = [QPointF(0, -r), QPointF(r, 0), QPointF(0, r), QPointF(-r, 0)]
            painter.drawPolygon(QPolygonF([at + c for c in corners]))
        else:
            painter.drawEllipse(at, 4.5, 4.5)


class Route(QWidget):
    """All stops, in the practice's order."""

    chosen = Signal(str)

    def __init__(self, steps: list[tuple[str, str]]) -> None:
        super().__init__()
        self.setObjectName("route")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setFixedWidth(104)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 24, 0, 16)
        layout.setSpacing(0)
        self.stops: dict[str, Stop] = {}
        for i, (key, title) in enumerate(steps):
            stop = Stop(key, title, i == 0, i == len(steps) - 1)
            stop.clicked.connect(lambda _=False, k=key: self.chosen.emit(k))
            self.stops[key] = stop
            layout.addWidget(stop)
        layout.addStretch(1)
        self._reached: set[str] = set()
        self._order = tuple(key for key, _ in steps)

    def set_order(self, keys: Sequence[str]) -> None:
        """Stand the stops in a practice's order."""
        layout = self.layout()
        assert isinstance(layout, QVBoxLayout)
        if tuple(keys) == self._order:
            return
        self._order = tuple(keys)
        for i, key in enumerate(keys):
            layout.removeWidget(self.stops[key])
            layout.insertWidget(i, self.stops[key])
            self.stops[key].stand(i == 0, i == len(keys) - 1)
        for one, other in pairwise(keys):
            self.setTabOrder(self.stops[one], self.stops[other])

    def show_step(self, key: str, warnings: dict[str, int]) -> None:
        """Mark the open step and how many warnings each has."""
        self._reached.add(key)
        for name, stop in self.stops.items():
            stop.setChecked(name == key)
            stop.say(name in self._reached, warnings.get(name, 0))

    def add_below(self, widget: QWidget) -> None:
        """A drawer's button under the route."""
        layout = self.layout()
        assert layout is not None
        layout.addWidget(widget)
