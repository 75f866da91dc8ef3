"""Gaps of line art on the stage: a tick across each that was closed, a ring where one may leak."""

from PySide6.QtCore import QLineF, QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen

from umber_compass.window.desk.gaps import NeckMark

_REACH = 9  # px round a mark in which it is hit
_RING = 8.0


def paint(painter: QPainter, marks: tuple[NeckMark, ...], frame: QRectF) -> None:
    """Every mark, dark on light, so that it is seen on paper and ink."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for mark in marks:
        a, b = _ends(mark, frame)
        for colour, wide in ((QColor("white"), 4.0), (QColor("black"), 1.8)):
            style = Qt.PenStyle.SolidLine if mark.closed else Qt.PenStyle.DotLine
            painter.setPen(QPen(colour, wide, style))
            if mark.closed:
                painter.drawLine(_longer(a, b))
            else:
                painter.drawEllipse((a + b) / 2, _RING, _RING)


def _ends(mark: NeckMark, frame: QRectF) -> tuple[QPointF, QPointF]:
    def at(x: float, y: float) -> QPointF:
        return QPointF(frame.x() + x * frame.width(), frame.y() + y * frame.height())

    return at(mark.x0, mark.y0), at(mark.x1, mark.y1)


def _longer(a: QPointF, b: QPointF) -> QLineF:
    """A tick a little longer than its gap, so that a short one is seen."""
    line = QLineF(a, b)
    more = max(5.0, (14 - line.length()) / 2)
    line.setLength(line.length() + more)
    back = QLineF(line.p2(), line.p1())
    back.setLength(back.length() + more)
    return back


def hit(marks: tuple[NeckMark, ...], at: QPointF, frame: QRectF) -> NeckMark | None:
    """The mark at a place of the widget, the nearest."""
    best, found = float(_REACH), None
    for mark in marks:
        a, b = _ends(mark, frame)
        far = QLineF((a + b) / 2, at).length()
        if far <= best:
            best, found = far, mark
    return found
