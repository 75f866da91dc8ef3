"""One picture coming up over another, slowly enough for every eye."""

from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtGui import QImage

FADE_MS = 200  # well under three changes a second
_TURN_MS = 16


class Fading(QObject):
    """The picture that comes up, and how far it is."""

    moved = Signal()

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.image: QImage | None = None
        self.opacity = 0.0
        self.clock = QTimer(self)
        self.clock.setInterval(_TURN_MS)
        self.clock.timeout.connect(self._on)

    def begin(self, image: QImage) -> None:
        """Let a picture come up."""
        self.image, self.opacity = image, 0.0
        self.clock.start()

    def end(self) -> None:
        """Take it away again."""
        self.clock.stop()
        self.image = None

    def _on(self) -> None:
        self.opacity = min(1.0, self.opacity + _TURN_MS / FADE_MS)
        if self.opacity >= 1.0:
            self.clock.stop()
        self.moved.emit()
