"""What was copied last."""

from typing import cast

from PySide6.QtCore import QBuffer, QByteArray, QIODevice, QMimeData
from PySide6.QtGui import QGuiApplication, QImage


def copied() -> QMimeData:
    """What lies on the clipboard; empty data where there is nothing, for Qt then gives None."""
    found = cast(QMimeData | None, QGuiApplication.clipboard().mimeData())
    return QMimeData() if found is None else found


def picture_of(mime: QMimeData) -> bytes:
    """The picture that was copied, as PNG."""
    held = QByteArray()
    buffer = QBuffer(held)
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    image = QImage(mime.imageData())
    image.save(buffer, "PNG")  # type: ignore[call-overload]  # its stub knows bytes only
    return bytes(held.data())
