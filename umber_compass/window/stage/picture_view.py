"""One picture at any zoom: fitted, zoomed, panned, faded to another."""

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, QSizeF, Qt, Signal
from PySide6.QtGui import QImage, QPainter, QPaintEvent, QWheelEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from umber_compass.picture.seen import Grid
from umber_compass.window.stage import parts
from umber_compass.window.stage.fading import Fading
from umber_compass.window.stage.panning import pinch_factor, wheel_factor
from umber_compass.window.stage.zoom import Zoom


class Halves:
    """A picture averaged to half its size where fewer than half of its px are shown: joining
    neighbours alone would make thin things flicker. Kept until another one is shown."""

    def __init__(self) -> None:
        self._of, self._half = 0, QImage()

    def of(self, image: QImage, shown: float) -> QImage:
        """The image, or its half, to be shown on so many px across."""
        if shown * 2 >= image.width():
            return image
        if self._of != image.cacheKey():
            smooth = Qt.TransformationMode.SmoothTransformation
            ratio = Qt.AspectRatioMode.IgnoreAspectRatio
            self._of, self._half = image.cacheKey(), image.scaled(image.size() / 2, ratio, smooth)
        return self._half


class PictureView(QWidget):
    """Wheel and pinch zoom round the pointer."""

    zoomed = Signal()
    resized = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setMouseTracking(True)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.zoom, self.fading = Zoom(), Fading(self)
        self.fading.moved.connect(self.update)
        self.alone = False
        self.picture = QSizeF(1, 1)  # the plan's, px
        self.frames = 0  # painted so far; benchmarks and tests wait on it
        self._image: QImage | None = None
        self._halves = Halves()
        self._quick = False
        self._part: Grid | None = None  # of the picture, which the image is of

    def sizeHint(self) -> QSize:
        return QSize(632, 474)

    def show_image(self, image: QImage | None, size: tuple[int, int], quick: bool) -> None:
        """Show a picture at once. `size` is the plan's picture's, width and height in px, where the
        one shown is smaller; `quick` where something is dragged and speed is all."""
        self._image, self._quick, self._part = image, quick, None
        self.picture = QSizeF(*size)
        self.fading.end()
        self.update()

    def show_part(self, image: QImage, part: Grid) -> None:
        """Show a picture of what is seen, on its own px, in a drag."""
        self._image, self._quick, self._part = image, True, part
        self.fading.end()
        self.update()

    def grid(self, whole: bool = False) -> Grid | None:
        """The part of the picture that is seen, or the whole of it, and the screen's px it is shown
        on; None where there is none."""
        if self._image is None:
            return None
        room, ratio = self.rect().toRectF(), self.devicePixelRatioF()
        return (parts.whole_of if whole else parts.seen_of)(self.frame(), room, self.picture, ratio)

    def frame(self) -> QRectF:
        """Where the picture lies on the widget."""
        if self._image is None:
            return QRectF(self.rect())
        return self.zoom.frame(self.picture, QSizeF(self.size()))

    def to_picture(self, at: QPointF) -> tuple[float, float]:
        """A place on the widget in picture px; -1, -1 beside the picture."""
        frame = self.frame()
        if self._image is None or not frame.contains(at):
            return -1.0, -1.0
        scale = self.picture.width() / frame.width()
        return (at.x() - frame.x()) * scale, (at.y() - frame.y()) * scale

    def from_picture(self, x: float, y: float) -> QPointF:
        """A place in picture px on the widget."""
        frame = self.frame()
        scale = frame.width() / self.picture.width() if self._image is not None else 1.0
        return QPointF(frame.x() + x * scale, frame.y() + y * scale)

    def zoom_to(self, factor: float | None, at: QPointF | None = None) -> None:
        """Show the picture at so many screen px for each of its px, round a place or the middle;
        the whole of it for None."""
        if factor is None:
            self.zoom.fit()
        elif self._image is not None:
            room = QSizeF(self.size())
            middle = QPointF(room.width() / 2, room.height() / 2)
            self.zoom.zoom_to(factor, at or middle, self.picture, room)
        self.zoomed.emit()
        self.update()

    def pan(self, by: QPointF) -> None:
        """Move the picture by screen px."""
        self.zoom.pan(by, self.picture, QSizeF(self.size()))
        self.zoomed.emit()
        self.update()

    @property
    def scale(self) -> float:
        """Screen px of the widget for each px of the picture."""
        return self.zoom.scale(self.picture, QSizeF(self.size()))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        if self._image is None:
            return
        frame = self.frame()
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, not self.zoom.whole)
        if self._part is not None:
            ratio = self.devicePixelRatioF()
            parts.draw(painter, frame, self.picture, ratio, self._image, self._part)
        else:
            shown = frame.width() * self.devicePixelRatioF()
            plain = self._quick or self.zoom.whole
            image = self._image if plain else self._halves.of(self._image, shown)
            draw_seen(painter, self.rect().toRectF(), frame, image)
        if self.fading.image is not None:
            painter.setOpacity(self.fading.opacity)
            draw_seen(painter, self.rect().toRectF(), frame, self.fading.image)
            painter.setOpacity(1.0)
        self.paint_marks(painter, frame)
        self.frames += 1

    def paint_marks(self, painter: QPainter, frame: QRectF) -> None:
        """What stands on the picture; nothing here."""

    def wheelEvent(self, event: QWheelEvent) -> None:
        if event.angleDelta().y():
            by = wheel_factor(event)
            now = self.scale
            # A whole multiple never stays where it is: one step at least.
            if self.zoom.whole and now >= 1:
                now = max(now * by, now + 1) if by > 1 else min(now * by, max(now - 1, 1))
                self.zoom_to(now, event.position())
            else:
                self.zoom_to(now * by, event.position())
        event.accept()

    def event(self, event: QEvent) -> bool:
        pinch = pinch_factor(event)
        if pinch is not None:
            self.zoom_to(self.scale * pinch[0], pinch[1])
            return True
        if event.type() == QEvent.Type.Resize:
            self.resized.emit()
        return super().event(event)


def draw_seen(painter: QPainter, room: QRectF, frame: QRectF, image: QImage) -> None:
    """Only the part that is seen: a great zoom must not cost more than a small one."""
    seen = frame.intersected(room)
    scale = image.width() / frame.width()
    source = QRectF(
        (seen.x() - frame.x()) * scale,
        (seen.y() - frame.y()) * scale,
        seen.width() * scale,
        seen.height() * scale,
    )
    painter.drawImage(seen, image, source)
