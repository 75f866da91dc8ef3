"""How compared studies are painted."""

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen

from umber_compass.window.wall.card import CardFace
from umber_compass.window.widgets.theme import THEME, font


def paint_picture(painter: QPainter, box: QRectF, face: CardFace) -> None:
    """A study's picture, once it is there."""
    if face.bitmap is not None:
        painter.drawImage(box, face.bitmap.image)


def paint_words(painter: QPainter, box: QRectF, face: CardFace) -> None:
    """A study's title, verdict and how it was made, below its picture."""
    line = QRectF(box.x(), box.bottom() + 4, box.width(), 20)
    painter.setPen(THEME.colour("ink"))
    painter.setFont(font(12))
    painter.drawText(line, Qt.AlignmentFlag.AlignRight, face.decided)
    room = int(box.width() - painter.fontMetrics().horizontalAdvance(face.decided) - 8)
    painter.setFont(font(14, True))
    right = Qt.TextElideMode.ElideRight
    painter.drawText(line, painter.fontMetrics().elidedText(face.title, right, room))
    painter.setFont(font(12))
    painter.setPen(THEME.colour("quiet"))
    said = painter.fontMetrics().elidedText(face.says, right, int(box.width()))
    painter.drawText(line.translated(0, 19), said)


def paint_both(
    painter: QPainter,
    box: QRectF,
    two: tuple[CardFace, ...],
    mode: str,
    seam: float,
    shown: float,
) -> None:
    """Two studies in one frame: parted at a seam, 0-1 of the width, or the second over the first so
    far as is `shown`, 0-1."""
    first, second = two
    paint_picture(painter, box, first)
    if mode == "split":
        at = box.x() + box.width() * seam
        painter.save()
        painter.setClipRect(QRectF(at, box.y(), box.right() - at, box.height()))
        paint_picture(painter, box, second)
        painter.restore()
        for colour, width in (("ground", 3), ("ink", 1)):
            painter.setPen(QPen(THEME.colour(colour), width))
            painter.drawLine(QPointF(at, box.y()), QPointF(at, box.bottom()))
    else:
        painter.setOpacity(shown)
        paint_picture(painter, box, second)
        painter.setOpacity(1.0)
    half = box.width() / 2
    paint_words(painter, QRectF(box.x(), box.y(), half - 8, box.height()), first)
    right = QRectF(box.x() + half + 8, box.y(), half - 8, box.height())
    paint_words(painter, right, second)
