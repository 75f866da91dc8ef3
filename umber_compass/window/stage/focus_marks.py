"""The ring round what should be met first, and the numbers of what is."""

from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen

from umber_compass.steps.focus.rings import Box
from umber_compass.steps.pipeline import Derived
from umber_compass.window.widgets.theme import font

_DISC, _ROOM = 12.0, 1.35  # px; how much wider than what it holds a ring is
_LEAST = 0.02  # of the picture's height


class Ring(NamedTuple):
    """An ellipse in shares of the picture's width and height."""

    x: float
    y: float
    rx: float
    ry: float


class FocusMarks(NamedTuple):
    """Rings, and the places that are met first: label, x, y in shares, in their order."""

    rings: tuple[Ring, ...] = ()
    places: tuple[tuple[int, float, float], ...] = ()
    leads: bool = True  # whether anything is met first at all


def marks_of(derived: Derived) -> FocusMarks:
    """The marks of a plan whose attention is known."""
    seen, lattice = derived.attention, derived.lattice
    if seen is None or lattice is None:
        return FocusMarks()
    height, width = derived.drawing.labels.shape
    point = derived.focus.point if derived.focus is not None else None
    rings: list[Ring] = []
    if point is not None:
        rings.append(Ring(point.x, point.y, point.radius, point.radius * width / height))
    else:
        rings += [_ring(box, width / height) for box in derived.rings or ()]
    leads = seen.places.is_met
    places = tuple(
        (i, float(lattice.centre[i, 0]), float(lattice.centre[i, 1])) for i in seen.places.first
    )
    return FocusMarks(tuple(rings), places if leads else (), leads)


def _ring(box: Box, aspect: float) -> Ring:
    rx = max((box.right - box.left) / 2 * _ROOM, _LEAST / aspect)
    ry = max((box.bottom - box.top) / 2 * _ROOM, _LEAST)
    middle = (box.left + box.right) / 2, (box.top + box.bottom) / 2
    return Ring(*middle, min(rx, 0.5), min(ry, 0.5))


def paint(painter: QPainter, marks: FocusMarks, frame: QRectF) -> None:
    """A dashed ring, light over dark, and numbered discs."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for ring in marks.rings:
        middle = QPointF(frame.x() + ring.x * frame.width(), frame.y() + ring.y * frame.height())
        rx, ry = ring.rx * frame.width(), ring.ry * frame.height()
        painter.setPen(QPen(QColor(0, 0, 0, 140), 3.5))
        painter.drawEllipse(middle, rx, ry)
        painter.setPen(QPen(QColor("white"), 1.6, Qt.PenStyle.DashLine))
        painter.drawEllipse(middle, rx, ry)
    painter.setFont(font(13, True))
    for number, (_, x, y) in enumerate(marks.places, 1):
        at = QPointF(frame.x() + x * frame.width(), frame.y() + y * frame.height())
        painter.setPen(QPen(QColor("white"), 2))
        painter.setBrush(QColor("#141414"))
        painter.drawEllipse(at, _DISC, _DISC)
        painter.setPen(QColor("white"))
        box = QRectF(at.x() - _DISC, at.y() - _DISC, 2 * _DISC, 2 * _DISC)
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, str(number))
