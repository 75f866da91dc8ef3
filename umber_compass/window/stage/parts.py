"""Which part of a picture a view shows, and on which of the screen's px; and how it is drawn there
px on px."""

import math

from PySide6.QtCore import QPointF, QRectF, QSizeF
from PySide6.QtGui import QImage, QPainter

from umber_compass.picture.seen import Grid, whole


def whole_of(frame: QRectF, room: QRectF, picture: QSizeF, ratio: float) -> Grid:
    """The whole picture, on as many px as it is shown on at most."""
    shape = int(picture.height()), int(picture.width())
    return whole(shape, int(min(frame.width(), room.width()) * ratio))


def seen_of(frame: QRectF, room: QRectF, picture: QSizeF, ratio: float) -> Grid:
    """The part that is seen. Where the picture is shown larger than it is, its own px."""
    seen, scale = frame.intersected(room), frame.width() / picture.width()
    by = min(scale * ratio, 1.0)
    edges = []
    for low, high, begin in (
        (seen.left(), seen.right(), frame.x()),
        (seen.top(), seen.bottom(), frame.y()),
    ):
        if by < 1:
            first, last = round(low * ratio), round(high * ratio)
            edges.append((first, last, (first / ratio - begin) / scale))
        else:
            first, last = math.floor((low - begin) / scale), math.ceil((high - begin) / scale)
            edges.append((first, last, first))
    (left, right, x), (top, bottom, y) = edges
    columns, rows = max(right - left, 1), max(bottom - top, 1)
    return Grid(x, y, columns / by, rows / by, columns, rows)


def draw(
    painter: QPainter, frame: QRectF, picture: QSizeF, ratio: float, image: QImage, part: Grid
) -> None:
    """A part of a picture where it lies: px on px, unless the view was moved since."""
    scale = frame.width() / picture.width()
    at = QPointF(frame.x() + part.left * scale, frame.y() + part.top * scale)
    size = QSizeF(part.width * scale, part.height * scale)
    if abs(size.width() * ratio - part.columns) < 0.01:
        image.setDevicePixelRatio(ratio)
        painter.drawImage(QPointF(round(at.x() * ratio), round(at.y() * ratio)) / ratio, image)
    else:
        image.setDevicePixelRatio(1.0)
        painter.drawImage(QRectF(at, size), image)
