"""A small window that stays on top of the others, beside a bench or the painting program."""

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QCloseEvent
from PySide6.QtWidgets import QWidget

from umber_compass.window.widgets import theme


class OnTop(QWidget):
    """Looks as the room that is on; says when it is closed."""

    closed = Signal()

    def __init__(self, parent: QWidget, title: str, width: int, height: int) -> None:
        super().__init__(parent, Qt.WindowType.Tool | Qt.WindowType.WindowStaysOnTopHint)
        self.setWindowTitle(title)
        self.setObjectName("desk")
        self.setAutoFillBackground(True)
        self.dress()
        self.resize(width, height)

    def dress(self) -> None:
        """Look as the room that is on."""
        self.setStyleSheet(theme.sheet())

    def closeEvent(self, event: QCloseEvent) -> None:
        self.closed.emit()
        super().closeEvent(event)
