"""What was copied last."""

from typing import cast

from PySide6.QtCore import QMimeData
from PySide6.QtGui import QGuiApplication, QImage

from umber_compass.window.widgets.bitmap import png_of


def copied() -> QMimeData:
    """What lies on the clipboard; empty data where there is nothing, for Qt then gives None."""
    found = cast(QMimeData | None, QGuiApplication.clipboard().mimeData())
    return QMimeData() if found is None else found


def picture_of(mime: QMimeData) -> bytes:
    """The picture that was copied, as PNG."""
    return png_of(QImage(mime.imageData()))
