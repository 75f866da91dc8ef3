"""A small picture of each region: its outline in its colour, where it lies in the picture. What has
no name yet is known by it."""

from typing import TypeAlias

import numpy as np
import numpy.typing as npt
from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QImage, QPainter, QPen

from umber_compass.picture.drawing import Drawing
from umber_compass.picture.mixes import Labels
from umber_compass.window.widgets.bitmap import grown
from umber_compass.window.widgets.theme import THEME

SIDE = 24  # px, the longer side on screen
_FINE = 4  # px of its own for one on screen, so that thin things are seen
Mask: TypeAlias = npt.NDArray[np.bool_]
_RIM = 2  # px of its own, of the rim that tells a region from what is like it
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
        self._made: dict[int, tuple[QImage, QImage]] = {}

    def _masks(self, label: int) -> tuple[QImage, QImage]:
        """Where the region is, as the alpha of black; and the same with a rim round it."""
        if label not in self._made:
            inside = self._small == label
            box = self.drawing.box.get(label)
            if box is not None:
                _widen(inside, box, self.drawing.labels.shape)
            self._made[label] = (_alpha(inside), _alpha(grown(inside, _RIM)))
        return self._made[label]

    def paint(self, painter: QPainter, place: QRectF, label: int, hexes: tuple[str, ...]) -> None:
        """A region within a square of `SIDE` px."""
        wide, high = self.size
        frame = QRectF(place.center().x() - wide / 2, place.center().y() - high / 2, wide, high)
        painter.fillRect(frame, THEME.colour("card"))
        inside, rim = self._masks(label)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawImage(frame, _filled(rim, (THEME.colour("ink"),)))
        painter.drawImage(frame, _filled(inside, tuple(QColor(h) for h in hexes)))
        painter.setPen(QPen(THEME.colour("line"), 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(frame)


def _alpha(inside: Mask) -> QImage:
    alpha = np.zeros((*inside.shape, 4), np.uint8)
    alpha[..., 3] = inside * np.uint8(255)
    height, width = inside.shape
    return QImage(alpha.tobytes(), width, height, QImage.Format.Format_ARGB32).copy()


def _filled(mask: QImage, colours: tuple[QColor, ...]) -> QImage:
    """A mask in a colour, or in two side by side."""
    image = mask.copy()
    painter = QPainter(image)
    painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_SourceIn)
    part = image.width() / len(colours)
    for i, colour in enumerate(colours):
        painter.fillRect(QRectF(i * part, 0, part, image.height()), colour)
    painter.end()
    return image


def _widen(
    inside: Mask,
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
