"""Words on the picture that never hide what they name: inside a region where it is large enough,
else beside it with a line to it, else left to the pointer."""

from collections.abc import Callable
from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF, QSizeF, Qt
from PySide6.QtGui import QColor, QPainter, QPen

from umber_compass.window.widgets.theme import font

_DIRECTIONS = (
    (0, -1), (0, 1), (1, 0), (-1, 0), (0.7, -0.7), (-0.7, -0.7), (0.7, 0.7), (-0.7, 0.7),
)  # fmt: skip
_MOST_COVERED = 0.3  # of a plate that may lie on small things
_PLATE = QColor(24, 24, 24, 230)


class Tag(NamedTuple):
    """A name: its region's number, where it is thickest in picture px, and how thick there."""

    label: int
    x: float
    y: float
    radius: float
    text: str
    chosen: bool = False


class Placed(NamedTuple):
    """A plate on the widget, and where its line ends if it stands beside its region."""

    label: int
    plate: QRectF
    line_to: QPointF | None
    text: str


Covers = Callable[[QRectF, int], float]  # how much a plate would hide of what matters, 0-1


def place(
    tags: list[Tag], sizes: list[QSizeF], frame: QRectF, scale: float, seen: QRectF, covers: Covers
) -> list[Placed]:
    """Plates for the tags, in their order; those that find no place are left out. `sizes` are the
    plates', `frame` the picture's place on the widget, `covers` is asked in picture px."""
    found: list[Placed] = []
    for tag, size in zip(tags, sizes, strict=True):
        at = QPointF(frame.x() + tag.x * scale, frame.y() + tag.y * scale)
        if not seen.contains(at):
            continue
        inside = QRectF(
            at.x() - size.width() / 2, at.y() - size.height() / 2, size.width(), size.height()
        )
        diagonal = (size.width() ** 2 + size.height() ** 2) ** 0.5 / 2
        if diagonal <= tag.radius * scale * 1.15 and _is_free(inside, found, seen):
            found.append(Placed(tag.label, inside, None, tag.text))
            continue
        beside = _beside(tag, at, size, frame, scale, seen, covers, found)
        if beside is not None:
            found.append(Placed(tag.label, beside, at, tag.text))
    return found


def _is_free(plate: QRectF, found: list[Placed], seen: QRectF) -> bool:
    wide = plate.adjusted(-3, -3, 3, 3)
    return seen.contains(plate) and not any(wide.intersects(p.plate) for p in found)


def _beside(
    tag: Tag,
    at: QPointF,
    size: QSizeF,
    frame: QRectF,
    scale: float,
    seen: QRectF,
    covers: Covers,
    found: list[Placed],
) -> QRectF | None:
    """The place round a region where a plate hides least."""
    best, least = None, _MOST_COVERED
    for far in (1.0, 1.7, 2.6):
        for dx, dy in _DIRECTIONS:
            reach_x = (tag.radius * scale + 10) * far + size.width() / 2
            reach_y = (tag.radius * scale + 10) * far + size.height() / 2
            plate = QRectF(
                at.x() + dx * reach_x - size.width() / 2,
                at.y() + dy * reach_y - size.height() / 2,
                size.width(),
                size.height(),
            )
            if not _is_free(plate, found, seen):
                continue
            on_picture = QRectF(
                (plate.x() - frame.x()) / scale,
                (plate.y() - frame.y()) / scale,
                plate.width() / scale,
                plate.height() / scale,
            )
            hidden = covers(on_picture, tag.label) + 0.02 * far
            if hidden < least:
                best, least = plate, hidden
    return best


def paint(painter: QPainter, placed: list[Placed]) -> None:
    """Plates with their words, and lines to what they name."""
    painter.setFont(font(12))
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    for tag in placed:
        if tag.line_to is not None:
            for colour, width in ((_PLATE, 3.0), (QColor("white"), 1.0)):
                painter.setPen(QPen(colour, width))
                painter.drawLine(tag.plate.center(), tag.line_to)
            painter.setPen(QPen(_PLATE, 1))
            painter.setBrush(QColor("white"))
            painter.drawEllipse(tag.line_to, 2.5, 2.5)
    for tag in placed:
        painter.fillRect(tag.plate, _PLATE)
        painter.setPen(QColor("white"))
        painter.drawText(tag.plate, Qt.AlignmentFlag.AlignCenter, tag.text)
