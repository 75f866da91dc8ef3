"""Small pictures whose every px counts: drawn at whole multiples, never smoothed."""

from PySide6.QtCore import QRectF
from PySide6.QtGui import QImage, QPainter

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


def draw_image(painter: QPainter, box: QRectF, image: QImage) -> None:
    """An image in its box: smoothly, but for one whose px are each seen."""
    smooth = not is_px_by_px(image.width(), image.height())
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, smooth)
    painter.drawImage(box, image)
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, True)
