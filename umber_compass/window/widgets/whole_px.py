"""Small pictures: those whose every px counts are drawn at whole multiples, never smoothed; where
one is still to come, words stand in its place."""

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QImage, QPainter

from umber_compass.window.widgets.theme import THEME, font

_WAITING = 0.35  # how much of a picture is seen while the next is worked out
_MOST_SIDE = 128  # px, of a picture that is drawn px by px


def is_px_by_px(width: float, height: float) -> bool:
    """Whether a picture of this size is one whose px are each seen."""
    return max(width, height) <= _MOST_SIDE


def whole_ratio(ratio: float) -> float:
    """The greatest whole multiple within a ratio; the ratio itself where a picture must shrink."""
    return float(int(ratio)) if ratio >= 1 else ratio


def fitted(room: QRectF, image: QImage) -> QRectF:
    """Where an image lies in a room: at its left and top, as large as it may be."""
    ratio = min(room.width() / image.width(), room.height() / image.height())
    if is_px_by_px(image.width(), image.height()):
        ratio = whole_ratio(ratio)
    return QRectF(room.x(), room.y(), image.width() * ratio, image.height() * ratio)


def draw_image(painter: QPainter, box: QRectF, image: QImage, waits: bool = False) -> None:
    """An image in its box: smoothly, but for one whose px are each seen; dimmed where it waits for
    the next one, which is being worked out."""
    smooth = not is_px_by_px(image.width(), image.height())
    painter.setOpacity(_WAITING if waits else 1.0)
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, smooth)
    painter.drawImage(box, image)
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, True)
    painter.setOpacity(1.0)


def paint_coming(painter: QPainter, box: QRectF, says: str, well: bool = True) -> None:
    """Words in the middle of a box, over a well where a picture will be."""
    if well:
        painter.fillRect(box, THEME.colour("well"))
    painter.setFont(font(12))
    painter.setPen(THEME.colour("ink"))
    middle = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
    painter.drawText(box.adjusted(6, 2, -6, -2), middle, says)
