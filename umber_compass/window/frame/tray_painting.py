"""How the tray's swatches are painted: all at once, for there may be hundreds."""

from typing import NamedTuple

import numpy as np
from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen

from umber_compass.colour.measured import levels_of
from umber_compass.colour.packed import pack
from umber_compass.window.widgets.bitmap import Bitmap
from umber_compass.window.widgets.theme import THEME

BAR = 40  # px, height of the swatches
_VALUE_TOP, _VALUE = 4, 4  # px below them, and height, of the bars that say their values


class Swatch(NamedTuple):
    """One region in the tray."""

    region: str
    name: str
    hexes: tuple[str, ...]
    value: float
    share: float
    pinned: bool


def paint_swatches(
    painter: QPainter, boxes: list[tuple[QRectF, Swatch]], width: int, ratio: float
) -> None:
    """The colours as one row of px drawn high, and below it how light each is."""
    if not boxes:
        return
    count = max(round(width * ratio), 1)
    colours = np.zeros((count, 3))
    values = np.full((count, 3), levels_of(THEME.room.ground))
    well, ink = levels_of(THEME.room.well), levels_of(THEME.room.ink)
    edges = np.array([box.left() for box, _ in boxes] + [boxes[-1][0].right()]) * ratio
    edges = np.minimum(np.round(edges).astype(np.intp), count)
    length = np.diff(edges).astype(np.intp)
    digits = "".join([swatch.hexes[0][1:] for _, swatch in boxes])
    own = np.repeat(np.arange(len(boxes)), length)
    along = np.arange(len(own)) - (edges[:-1] - edges[0])[own]
    colours[: len(own)] = np.frombuffer(bytes.fromhex(digits), np.uint8).reshape(-1, 3)[own]
    whole = np.maximum(length - round(ratio), 1)
    filled = np.round(whole * np.array([s.value for _, s in boxes]) / 100)
    values[: len(own)][along < whole[own]] = well
    values[: len(own)][along < filled[own]] = ink
    for first, last, (_, swatch) in zip(edges[:-1], edges[1:], boxes, strict=True):
        if len(swatch.hexes) == 2:
            one, two = (levels_of(h).astype(float) for h in swatch.hexes)
            part = np.linspace(0, 1, max(last - first, 1))[:, None]
            colours[first:last] = one * (1 - part) + two * part
    for row, top, high in ((colours, 0, BAR), (values, BAR + _VALUE_TOP, _VALUE)):
        line = Bitmap(pack(np.asarray(row + 0.5, np.uint8)[None]))
        painter.drawImage(QRectF(0, top, width, high), line.image)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(QColor("white"), 3))
    painter.setBrush(THEME.colour("ink"))
    for box, swatch in boxes:
        if swatch.pinned:
            painter.drawEllipse(box.center(), 3.5, 3.5)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
    painter.setBrush(Qt.BrushStyle.NoBrush)
