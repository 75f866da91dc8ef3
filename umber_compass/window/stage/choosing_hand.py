"""A hand on the stage that chooses regions by a frame, or draws a line through one."""

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen, QPolygonF

from umber_compass.window.widgets.theme import THEME

_FAR = 5  # px from which a press is a drag
_STEP = 3  # px between points of a drawn line
_SEEN_THROUGH = 0.45  # of a stroke's ink

FRAME, LINE, GIVE = "frame", "line", "give"
OUTLINE, WIDEN, NARROW = "outline", "widen", "narrow"
BRUSHES = (WIDEN, NARROW)
_DRAWN = (LINE, OUTLINE, *BRUSHES)
_BRUSH, _LEAST_BRUSH, _MOST_BRUSH, _BRUSH_STEP = 28.0, 4.0, 200.0, 1.25  # px of the stage; times


class ChoosingHand:
    """What a press on the stage begins: a frame, a line, an outline, a stroke, or nothing (a mode
    of its own each)."""

    def __init__(self) -> None:
        self.mode = ""  # nothing: a press chooses at once
        self.brush = _BRUSH  # px of the stage, that a stroke is wide
        self._points: list[QPointF] = []
        self._moved = False

    @property
    def is_held(self) -> bool:
        """Whether something is drawn now."""
        return bool(self._points)

    def press(self, at: QPointF) -> bool:
        """Whether a press at a place begins something."""
        if self.mode not in (FRAME, *_DRAWN):
            return False
        self._points, self._moved = [at], False
        return True

    def move(self, at: QPointF) -> None:
        """The hand goes on."""
        first, last = self._points[0], self._points[-1]
        if (at - first).manhattanLength() >= _FAR:
            self._moved = True
        if self.mode in _DRAWN:
            if (at - last).manhattanLength() >= _STEP:
                self._points.append(at)
        else:
            self._points = [first, at]

    def release(self) -> tuple[str, list[QPointF]]:
        """What was drawn: `frame` and its two corners, else the mode and the points of the line, or
        nothing and where the press was."""
        points, moved = self._points, self._moved
        self._points = []
        if not moved or len(points) < 2:
            return "", points[:1]
        return self.mode, points

    def turn_brush(self, by: int) -> None:
        """Make the brush so many steps wider."""
        wide = self.brush * _BRUSH_STEP**by
        self.brush = min(max(wide, _LEAST_BRUSH), _MOST_BRUSH)

    def cancel(self) -> None:
        """Nothing is drawn any more."""
        self._points = []

    def paint(self, painter: QPainter) -> None:
        """The frame or line as it is drawn: dark and light dashes, seen on any colour."""
        if not self._moved or len(self._points) < 2:
            return
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if self.mode in BRUSHES:
            self._paint_stroke(painter)
            return
        for colour, style in (
            (THEME.colour("ink"), Qt.PenStyle.SolidLine),
            (Qt.GlobalColor.white, Qt.PenStyle.DashLine),
        ):
            painter.setPen(QPen(colour, 1.5, style))
            if self.mode == LINE:
                painter.drawPolyline(QPolygonF(self._points))
            elif self.mode == OUTLINE:
                painter.drawPolygon(QPolygonF(self._points))
            else:
                painter.drawRect(QRectF(self._points[0], self._points[-1]).normalized())

    def _paint_stroke(self, painter: QPainter) -> None:
        """The px that a stroke covers, seen through."""
        colour = QColor(THEME.colour("ink") if self.mode == WIDEN else Qt.GlobalColor.white)
        colour.setAlphaF(_SEEN_THROUGH)
        cap, join = Qt.PenCapStyle.RoundCap, Qt.PenJoinStyle.RoundJoin
        painter.setPen(QPen(colour, self.brush, Qt.PenStyle.SolidLine, cap, join))
        painter.drawPolyline(QPolygonF(self._points))
