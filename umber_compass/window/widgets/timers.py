"""Timers that fire once."""

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, QTimer


def single_shot(parent: QObject, after: int, run: Callable[[], Any]) -> QTimer:
    """A timer that runs something once, some ms after it was last started."""
    timer = QTimer(parent)
    timer.setSingleShot(True)
    timer.setInterval(after)
    timer.timeout.connect(run)
    return timer
