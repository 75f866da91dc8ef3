"""A button whose change is seen before it is taken: resting on it, or focusing it, shows it."""

from PySide6.QtCore import QEvent, Signal
from PySide6.QtGui import QEnterEvent, QFocusEvent, QHideEvent
from PySide6.QtWidgets import QPushButton

from umber_compass.window.widgets.timers import single_shot

PREVIEW_AFTER = 150  # ms of rest


class PeekButton(QPushButton):
    """Says when its change should be shown, and when no longer."""

    peeked = Signal(bool)

    def __init__(self, text: str) -> None:
        super().__init__(text)
        self.setObjectName("small")
        self._looking = False
        self._timer = single_shot(self, PREVIEW_AFTER, self._look)
        self.clicked.connect(self.end)

    def _look(self) -> None:
        self._looking = True
        self.peeked.emit(True)

    def end(self) -> None:
        """Show the change no longer."""
        self._timer.stop()
        if self._looking:
            self._looking = False
            self.peeked.emit(False)

    def enterEvent(self, event: QEnterEvent) -> None:
        self._timer.start()
        super().enterEvent(event)

    def leaveEvent(self, event: QEvent) -> None:
        self.end()
        super().leaveEvent(event)

    def focusInEvent(self, event: QFocusEvent) -> None:
        self._timer.start()
        super().focusInEvent(event)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        self.end()
        super().focusOutEvent(event)

    def hideEvent(self, event: QHideEvent) -> None:
        self.end()
        super().hideEvent(event)
