"""One picture at any zoom: fitted, zoomed, panned, faded to another."""

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, QSizeF, Qt, QTimer, Signal
from PySide6.QtGui import (
    QImage,
    QKeyEvent,
    QMouseEvent,
    QNativeGestureEvent,
    QPainter,
    QPaintEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QSizePolicy, QWidget

from umber_compass.window.frame.sight import STEP, Sight
from umber_compass.window.theme import THEME, font

FADE_MS = 200  # well under three changes a second


class PictureView(QWidget):
    """Wheel and pinch zoom round the pointer; the middle button, or Space and the left, pan."""

    sight_changed = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setMouseTracking(True)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.sight = Sight()
        self.alone = False
        self._image: QImage | None = None
        self._size = QSizeF(1, 1)  # of the plan's picture, px
        self._reduced: QImage | None = None
        self._fading: QImage | None = None
        self._opacity = 0.0
        self.is_dragged = False  # something is, here or on a bench: speed is all
        self._panning: QPointF | None = None
        self._space = False
        self._empty = ""
        self._clock = QTimer(self)
        self._clock.setInterval(16)
        self._clock.timeout.connect(self._fade_on)
        self.frames = 0  # painted so far; benchmarks and tests wait on it

    def sizeHint(self) -> QSize:
        return QSize(632, 474)

    def show_image(self, image: QImage | None, size: tuple[int, int] | None = None) -> None:
        """Show a picture at once. `size` is the plan's picture's, width and height in px, where the
        one shown is smaller."""
        self._image, self._fading, self._reduced = image, None, None
        if image is not None:
            self._size = QSizeF(*size) if size is not None else QSizeF(image.size())
        self._clock.stop()
        self.update()

    def fade_to(self, image: QImage) -> None:
        """Let a picture come up over the one shown."""
        self._fading, self._opacity = image, 0.0
        self._clock.start()

    def fade_back(self) -> None:
        """Take a faded picture away again."""
        self._clock.stop()
        self._fading = None
        self.update()

    @property
    def is_previewing(self) -> bool:
        """Whether a faded picture lies over the plan's."""
        return self._fading is not None

    def invite(self, text: str) -> None:
        """What an empty stage says."""
        self._empty = text
        self.update()

    def _sizes(self) -> tuple[QSizeF, QSizeF]:
        return self._size, QSizeF(self.size())

    def frame(self) -> QRectF:
        """Where the picture lies on the widget."""
        if self._image is None:
            return QRectF(self.rect())
        return self.sight.frame(*self._sizes(), self.alone)

    def to_picture(self, at: QPointF) -> tuple[float, float]:
        """A place on the widget in picture px."""
        frame = self.frame()
        if self._image is None or not frame.contains(at):
            return -1.0, -1.0
        scale = self._size.width() / frame.width()
        return (at.x() - frame.x()) * scale, (at.y() - frame.y()) * scale

    def from_picture(self, x: float, y: float) -> QPointF:
        """A place in picture px on the widget."""
        frame = self.frame()
        scale = frame.width() / self._size.width() if self._image is not None else 1.0
        return QPointF(frame.x() + x * scale, frame.y() + y * scale)

    def fit(self) -> None:
        """The whole picture."""
        self.sight.fit()
        self._moved()

    def zoom_by(self, factor: float, at: QPointF | None = None) -> None:
        """Larger or smaller, round a place or the middle."""
        if self._image is None:
            return
        picture, room = self._sizes()
        middle = QPointF(room.width() / 2, room.height() / 2)
        now = self.sight.scale(picture, room)
        self.sight.zoom_to(now * factor, at or middle, picture, room)
        self._moved()

    def one_to_one(self) -> None:
        """Each px of the picture on one px of the screen."""
        if self._image is not None:
            picture, room = self._sizes()
            middle = QPointF(room.width() / 2, room.height() / 2)
            self.sight.zoom_to(1 / self.devicePixelRatioF(), middle, picture, room)
            self._moved()

    def _moved(self) -> None:
        self.sight_changed.emit()
        self.update()

    def zoom_percent(self) -> float:
        """Screen px for each px of the picture, in percent."""
        return self.sight.scale(*self._sizes()) * self.devicePixelRatioF() * 100

    def _fade_on(self) -> None:
        self._opacity = min(1.0, self._opacity + 16 / FADE_MS)
        if self._opacity >= 1.0:
            self._clock.stop()
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        if self._image is None:
            painter.setPen(THEME.colour("quiet"))
            painter.setFont(font(15))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, self._empty)
            return
        frame = self.frame()
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        self._draw(painter, frame, self._small(frame))
        if self._fading is not None:
            painter.setOpacity(self._opacity)
            self._draw(painter, frame, self._fading)
            painter.setOpacity(1.0)
        self.paint_marks(painter, frame)
        self.frames += 1

    def paint_marks(self, painter: QPainter, frame: QRectF) -> None:
        """What stands on the picture; nothing here."""

    def _draw(self, painter: QPainter, frame: QRectF, image: QImage) -> None:
        """Only the part that is seen: a great zoom must not cost more than a small one."""
        seen = frame.intersected(QRectF(self.rect()))
        scale = image.width() / frame.width()
        source = QRectF(
            (seen.x() - frame.x()) * scale,
            (seen.y() - frame.y()) * scale,
            seen.width() * scale,
            seen.height() * scale,
        )
        painter.drawImage(seen, image, source)

    def _small(self, frame: QRectF) -> QImage:
        """The picture, averaged to half its size where fewer than half of its px are shown: joining
        neighbours alone would make thin things flicker. Not while a lamp or colour is dragged."""
        assert self._image is not None
        shown = frame.width() * self.devicePixelRatioF()
        if shown * 2 >= self._image.width() or self.is_dragged:
            return self._image
        if self._reduced is None:
            half = self._image.size() / 2
            smooth = Qt.TransformationMode.SmoothTransformation
            ratio = Qt.AspectRatioMode.IgnoreAspectRatio
            self._reduced = self._image.scaled(half, ratio, smooth)
        return self._reduced

    @property
    def is_panning(self) -> bool:
        """Whether the hand moves the picture."""
        return self._panning is not None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        middle = event.button() == Qt.MouseButton.MiddleButton
        if middle or (self._space and event.button() == Qt.MouseButton.LeftButton):
            self._panning = event.position()
            self.setCursor(Qt.CursorShape.ClosedHandCursor)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._panning is not None:
            self.pan(event.position() - self._panning)
            self._panning = event.position()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._panning is not None:
            self._panning = None
            self.unsetCursor()

    def pan(self, by: QPointF) -> None:
        """Move the picture by screen px."""
        self.sight.pan(by, *self._sizes())
        self._moved()

    def wheelEvent(self, event: QWheelEvent) -> None:
        turns = event.angleDelta().y() / 120
        if turns:
            self.zoom_by(STEP**turns, event.position())
        event.accept()

    def event(self, event: QEvent) -> bool:
        zoom = Qt.NativeGestureType.ZoomNativeGesture
        if isinstance(event, QNativeGestureEvent) and event.gestureType() == zoom:
            self.zoom_by(1 + event.value(), event.position())
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Space:
            self._space = True
        else:
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Space and not event.isAutoRepeat():
            self._space = False
        super().keyReleaseEvent(event)
