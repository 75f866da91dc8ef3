"""A small picture of each region: its outline in its colour, where it lies in the picture. What has
no name yet is known by it."""

import numpy as np
from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QImage, QPainter, QPen

from umber_compass.picture.drawing import Drawing
from umber_compass.picture.mixes import Labels
from umber_compass.window.widgets.theme import THEME

SIDE = 24  # px, the longer side on screen
_FINE = 4  # px of its own for one on screen, so that thin things are seen
_LEAST = 2.5  # px on screen, of a thing however small


class Outlines:
    """Of one drawing; each is made when it is first painted."""

    def __init__(self, drawing: Drawing) -> None:
        self.drawing = drawing
        height, width = drawing.labels.shape
        scale = SIDE / max(height, width)
        self.size = (max(width * scale, 6.0), max(height * scale, 6.0))
        rows = ((np.arange(round(self.size[1] * _FINE)) + 0.5) * height).astype(int)
        columns = ((np.arange(round(self.size[0] * _FINE)) + 0.5) * width).astype(int)
        rows //= round(self.size[1] * _FINE)
        columns //= round(self.size[0] * _FINE)
        self._small: Labels = drawing.labels[rows[:, None], columns]
        self._made: dict[int, QImage] = {}

    def _mask(self, label: int) -> QImage:
        """How much of each px is the region's, as the alpha of black."""
        if label not in self._made:
            inside = self._small == label
            box = self.drawing.box.get(label)
            if box is not None:
                _widen(inside, box, self.drawing.labels.shape)
            alpha = np.zeros((*inside.shape, 4), np.uint8)
            alpha[..., 3] = inside * np.uint8(255)
            height, width = inside.shape
            image = QImage(alpha.tobytes(), width, height, QImage.Format.Format_ARGB32)
            self._made[label] = image.copy()
        return self._made[label]

    def paint(self, painter: QPainter, place: QRectF, label: int, hexes: tuple[str, ...]) -> None:
        """A region within a square of `SIDE` px."""
        wide, high = self.size
        frame = QRectF(place.center().x() - wide / 2, place.center().y() - high / 2, wide, high)
        painter.fillRect(frame, THEME.colour("card"))
        mask = self._mask(label).copy()
        inner = QPainter(mask)
        inner.setCompositionMode(QPainter.CompositionMode.CompositionMode_SourceIn)
        part = mask.width() / len(hexes)
        for i, colour in enumerate(hexes):
            inner.fillRect(QRectF(i * part, 0, part, mask.height()), QColor(colour))
        inner.end()
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawImage(frame, mask)
        painter.setPen(QPen(THEME.colour("line"), 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(frame)


def _widen(
    inside: np.ndarray[tuple[int, ...], np.dtype[np.bool_]],
    box: tuple[int, int, int, int],
    shape: tuple[int, ...],
) -> None:
    """Mark the middle of a region's box, where so little of it would be seen that it is missed."""
    least = _LEAST * _FINE
    if np.count_nonzero(inside) >= least * least:
        return
    height, width = inside.shape
    x = (box[0] + box[2] / 2) / shape[1] * width
    y = (box[1] + box[3] / 2) / shape[0] * height
    top, left = int(max(y - least / 2, 0)), int(max(x - least / 2, 0))
    inside[top : int(top + least), left : int(left + least)] = True
