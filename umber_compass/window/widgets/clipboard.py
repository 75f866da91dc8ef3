"""What was copied last."""

from typing import cast

from PySide6.QtCore import QMimeData
from PySide6.QtGui import QGuiApplication


def copied() -> QMimeData:
    """What lies on the clipboard; empty data where there is nothing, for Qt then gives None."""
    found = cast(QMimeData | None, QGuiApplication.clipboard().mimeData())
    return QMimeData() if found is None else found
