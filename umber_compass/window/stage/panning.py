"""The hand that moves and zooms a picture: wheel, pinch, the middle button, Space and the left."""

from PySide6.QtCore import QEvent, QPointF, Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QNativeGestureEvent, QWheelEvent

from umber_compass.window.stage.zoom import WHEEL_STEP

_WHEEL_NOTCH = 120  # Qt's angle delta of one


class Panning:
    """Says by how much the picture is moved or zoomed; knows nothing of the picture."""

    def __init__(self) -> None:
        self._at: QPointF | None = None
        self._space = False

    @property
    def is_on(self) -> bool:
        """Whether the hand moves the picture."""
        return self._at is not None

    def press(self, event: QMouseEvent) -> bool:
        """Whether this press takes the picture in hand."""
        middle = event.button() == Qt.MouseButton.MiddleButton
        if middle or (self._space and event.button() == Qt.MouseButton.LeftButton):
            self._at = event.position()
        return self.is_on

    def move(self, event: QMouseEvent) -> QPointF:
        """How far the picture is moved, screen px."""
        before, self._at = self._at or event.position(), event.position()
        return event.position() - before

    def release(self) -> bool:
        """Whether a picture in hand is let go."""
        was, self._at = self.is_on, None
        return was

    def key(self, event: QKeyEvent, down: bool) -> bool:
        """Whether Space is what was pressed or let go."""
        if event.key() != Qt.Key.Key_Space:
            return False
        if not event.isAutoRepeat():
            self._space = down
        return True


def wheel_factor(event: QWheelEvent) -> float:
    """How many times larger a turn of the wheel asks for."""
    return float(WHEEL_STEP ** (event.angleDelta().y() / _WHEEL_NOTCH))


def pinch_factor(event: QEvent) -> tuple[float, QPointF] | None:
    """How many times larger a pinch asks for, and where; None if it is no pinch."""
    zoom = Qt.NativeGestureType.ZoomNativeGesture
    if isinstance(event, QNativeGestureEvent) and event.gestureType() == zoom:
        return 1 + event.value(), event.position()
    return None
