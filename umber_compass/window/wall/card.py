"""How one card is painted: picture, strip, title, what was decided of it."""

from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen, QPolygonF

from umber_compass.window.widgets.bitmap import Bitmap
from umber_compass.window.widgets.theme import THEME, font
from umber_compass.window.widgets.whole_px import draw_image, paint_coming

STRIP, WORDS = 12, 42  # px, heights below the picture
_GAP = 5  # px between picture and strip
BELOW = STRIP + WORDS + _GAP


class CardFace(NamedTuple):
    """What a card shows."""

    id: str
    title: str
    says: str  # how it was made
    decided: str  # kept, rejected, or nothing
    verdict: str  # how many there are to look at
    strip: tuple[tuple[str, float], ...]  # hex and share, in the tray's order
    bitmap: Bitmap | None
    current: bool  # the one the stage shows
    chosen: bool
    hues: tuple[str, ...]  # of its wheel, from the lead on; only of one that may be turned
    kept: tuple[tuple[float, float], ...] = ()  # where what is kept lies, shares of the picture


def paint_card(painter: QPainter, box: QRectF, face: CardFace, focused: bool) -> None:
    """A card in its box."""
    picture = QRectF(box.x(), box.y(), box.width(), box.height() - BELOW)
    if face.bitmap is None:
        paint_coming(painter, picture, "…")
    else:
        draw_image(painter, picture, face.bitmap.image)
        for x, y in face.kept:
            at = QPointF(picture.x() + x * picture.width(), picture.y() + y * picture.height())
            _paint_kept(painter, at)
    strip = QRectF(box.x(), picture.bottom() + _GAP, box.width(), STRIP)
    if face.hues:
        _paint_hues(painter, strip, face.hues)
    else:
        _paint_strip(painter, strip, face)
    _paint_words(painter, QRectF(box.x(), strip.bottom() + 4, box.width(), WORDS - 4), face)
    if face.chosen or focused:
        painter.setPen(QPen(THEME.colour("ink"), 3 if face.chosen else 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(box.adjusted(-6, -6, 6, 2))


def _paint_strip(painter: QPainter, strip: QRectF, face: CardFace) -> None:
    total = sum(share for _, share in face.strip) or 1.0
    left = strip.x()
    for colour, share in face.strip:
        width = strip.width() * share / total
        painter.fillRect(QRectF(left, strip.y(), width + 0.5, strip.height()), QColor(colour))
        left += width


def _paint_hues(painter: QPainter, strip: QRectF, hues: tuple[str, ...]) -> None:
    """The wheel as a line, the lead in its middle: dragging the picture turns it."""
    count = len(hues)
    for i in range(count):
        x = strip.x() + strip.width() * i / count
        hue = QColor(hues[(i - count // 2) % count])
        painter.fillRect(QRectF(x, strip.y(), strip.width() / count + 0.5, strip.height()), hue)
    middle = strip.center().x()
    painter.setPen(QPen(THEME.colour("ink"), 2))
    painter.drawLine(QPointF(middle, strip.y() - 2), QPointF(middle, strip.bottom() + 2))


def _paint_words(painter: QPainter, box: QRectF, face: CardFace) -> None:
    right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignTop
    left = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop
    for y, said, also, strong in (
        (0.0, face.title, face.decided, True),
        (17.0, face.says, face.verdict, False),
    ):
        line = QRectF(box.x(), box.y() + y, box.width(), 20)
        painter.setFont(font(12))
        painter.setPen(THEME.colour("ink" if strong else "quiet"))
        painter.drawText(line, right, also)
        room = line.width() - painter.fontMetrics().horizontalAdvance(also) - 10
        begin = 0.0
        if strong and face.current:
            _paint_diamond(painter, QPointF(line.x() + 6, line.y() + 9))
            painter.setPen(THEME.colour("ink"))
            begin = 16.0
        painter.setFont(font(13 if strong else 12, strong))
        metrics = painter.fontMetrics()
        cut = metrics.elidedText(said, Qt.TextElideMode.ElideRight, int(room - begin))
        painter.drawText(line.adjusted(begin, 0, 0, 0), left, cut)


def _paint_kept(painter: QPainter, at: QPointF) -> None:
    """A tick on what is kept, seen on any colour."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(QColor("#ffffff"), 1.5))
    painter.setBrush(QColor("#141414"))
    painter.drawEllipse(at, 7, 7)
    painter.setPen(QPen(QColor("#ffffff"), 2))
    corners = [at + QPointF(-3.2, 0.2), at + QPointF(-0.8, 2.8), at + QPointF(3.4, -2.6)]
    painter.drawPolyline(QPolygonF(corners))


def _paint_diamond(painter: QPainter, middle: QPointF) -> None:
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(THEME.colour("ink"))
    x, y = middle.x(), middle.y()
    corners = [QPointF(x, y - 5), QPointF(x + 5, y), QPointF(x, y + 5), QPointF(x - 5, y)]
    painter.drawPolygon(QPolygonF(corners))
