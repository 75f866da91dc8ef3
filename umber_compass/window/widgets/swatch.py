"""A swatch that is carried by hand."""

from PySide6.QtCore import QMimeData, Qt
from PySide6.QtGui import QColor, QDrag, QPixmap
from PySide6.QtWidgets import QWidget

SWATCH_MIME = "application/x-umber-swatch"
_SIDE = 28  # px


def carry(source: QWidget, colour: str) -> None:
    """Carry a colour, a hex, from a widget until it is let fall."""
    mime, drag = QMimeData(), QDrag(source)
    mime.setData(SWATCH_MIME, colour.encode())
    image = QPixmap(_SIDE, _SIDE)
    image.fill(QColor(colour))
    drag.setMimeData(mime)
    drag.setPixmap(image)
    drag.exec(Qt.DropAction.CopyAction)


def swatch_of(mime: QMimeData) -> str:
    """The hex of a swatch that fell."""
    return bytes(mime.data(SWATCH_MIME).data()).decode(errors="replace")
