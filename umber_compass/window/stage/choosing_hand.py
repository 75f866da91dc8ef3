"""A hand on the stage that chooses regions by a frame, or draws a line through one."""

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from umber_compass.window.widgets.theme import THEME

_FAR = 5  # px from which a press is a drag
_STEP = 3  # px between points of a drawn line

FRAME, LINE, GIVE = "frame", "line", "give"


class ChoosingHand:
    """What a press on the stage begins: a frame, a line, or nothing (a mode of its own each)."""

    def __init__(self) -> None:
        self.mode = ""  # nothing: a press chooses at once
        self._points: list[QPointF] = []
        self._moved = False

    @property
    def is_held(self) -> bool:
        """Whether something is drawn now."""
        return bool(self._points)

    def press(self, at: QPointF) -> bool:
        """Whether a press at a place begins something."""
        if self.mode not in (FRAME, LINE):
            return False
        self._points, self._moved = [at], False
        return True

    def move(self, at: QPointF) -> None:
        """The hand goes on."""
        first, last = self._points[0], self._points[-1]
        if (at - first).manhattanLength() >= _FAR:
            self._moved = True
        if self.mode == LINE:
            if (at - last).manhattanLength() >= _STEP:
                self._points.append(at)
        else:
            self._points = [first, at]

    def release(self) -> tuple[str, list[QPointF]]:
        """What was drawn: `frame` and its two corners, `line` and its points, or nothing and where
        the press was."""
        points, moved = self._points, self._moved
        self._points = []
        if not moved or len(points) < 2:
            return "", points[:1]
        return self.mode, points

    def cancel(self) -> None:
        """Nothing is drawn any more."""
        self._points = []

    def paint(self, painter: QPainter) -> None:
        """The frame or line as it is drawn: dark and light dashes, seen on any colour."""
        if not self._moved or len(self._points) < 2:
            return
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for colour, style in (
            (THEME.colour("ink"), Qt.PenStyle.SolidLine),
            (Qt.GlobalColor.white, Qt.PenStyle.DashLine),
        ):
            painter.setPen(QPen(colour, 1.5, style))
            if self.mode == LINE:
                painter.drawPolyline(QPolygonF(self._points))
            else:
                painter.drawRect(QRectF(self._points[0], self._points[-1]).normalized())
