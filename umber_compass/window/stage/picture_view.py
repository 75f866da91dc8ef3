"""One picture at any zoom: fitted, zoomed, panned, faded to another."""

import math

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, QSizeF, Qt, Signal
from PySide6.QtGui import QImage, QPainter, QPaintEvent, QResizeEvent, QWheelEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from umber_compass.picture.seen import Grid
from umber_compass.picture.seen import whole as whole_grid
from umber_compass.window.stage.fading import Fading
from umber_compass.window.stage.panning import pinch_factor, wheel_factor
from umber_compass.window.stage.zoom import Zoom
from umber_compass.window.widgets.theme import THEME, font


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
        self.empty = ""  # what an empty view says
        self.picture = QSizeF(1, 1)  # the plan's, px
        self.frames = 0  # painted so far; benchmarks and tests wait on it
        self._image: QImage | None = None
        self._half: QImage | None = None
        self._quick = False
        self._part: Grid | None = None  # of the picture, which the image is of

    def sizeHint(self) -> QSize:
        return QSize(632, 474)

    def show_image(self, image: QImage | None, size: tuple[int, int], quick: bool) -> None:
        """Show a picture at once. `size` is the plan's picture's, width and height in px, where the
        one shown is smaller; `quick` where something is dragged and speed is all."""
        self._image, self._half, self._quick, self._part = image, None, quick, None
        self.picture = QSizeF(*size)
        self.fading.end()
        self.update()

    def show_part(self, image: QImage, part: Grid) -> None:
        """Show a picture of what is seen, on its own px, in a drag."""
        self._image, self._half, self._quick, self._part = image, None, True, part
        self.fading.end()
        self.update()

    def grid(self, whole: bool = False) -> Grid | None:
        """The part of the picture that is seen, and the screen's px it is shown on; no more of them
        than the picture has. The whole of it for a view of it; None where there is none."""
        if self._image is None:
            return None
        frame, ratio = self.frame(), self.devicePixelRatioF()
        seen = frame if whole else frame.intersected(self.rect().toRectF())
        scale = frame.width() / self.picture.width()
        if whole:
            across = min(frame.width(), self.width()) * ratio
            return whole_grid((int(self.picture.height()), int(self.picture.width())), int(across))
        edges = []
        for low, high, begin in (
            (seen.left(), seen.right(), frame.x()),
            (seen.top(), seen.bottom(), frame.y()),
        ):
            if scale * ratio < 1:
                first, last = round(low * ratio), round(high * ratio)
                edges.append((first, last, (first / ratio - begin) / scale, scale * ratio))
            else:
                first, last = math.floor((low - begin) / scale), math.ceil((high - begin) / scale)
                edges.append((first, last, first, 1.0))
        (left, right, x, by), (top, bottom, y, _) = edges
        columns, rows = max(right - left, 1), max(bottom - top, 1)
        return Grid(x, y, columns / by, rows / by, columns, rows)

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
            painter.setPen(THEME.colour("quiet"))
            painter.setFont(font(15))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, self.empty)
            return
        frame = self.frame()
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        if self._part is not None:
            self._draw_part(painter, frame, self._image, self._part)
        else:
            draw_seen(painter, self.rect().toRectF(), frame, self._small(frame, self._image))
        if self.fading.image is not None:
            painter.setOpacity(self.fading.opacity)
            draw_seen(painter, self.rect().toRectF(), frame, self.fading.image)
            painter.setOpacity(1.0)
        self.paint_marks(painter, frame)
        self.frames += 1

    def _draw_part(self, painter: QPainter, frame: QRectF, image: QImage, part: Grid) -> None:
        """A picture of what is seen, where it lies: px on px unless the view was moved since."""
        scale, ratio = frame.width() / self.picture.width(), self.devicePixelRatioF()
        at = QPointF(frame.x() + part.left * scale, frame.y() + part.top * scale)
        size = QSizeF(part.width * scale, part.height * scale)
        if abs(size.width() * ratio - part.columns) < 0.01:
            image.setDevicePixelRatio(ratio)
            painter.drawImage(QPointF(round(at.x() * ratio), round(at.y() * ratio)) / ratio, image)
        else:
            image.setDevicePixelRatio(1.0)
            painter.drawImage(QRectF(at, size), image)

    def resizeEvent(self, event: QResizeEvent) -> None:
        self.resized.emit()

    def paint_marks(self, painter: QPainter, frame: QRectF) -> None:
        """What stands on the picture; nothing here."""

    def _small(self, frame: QRectF, image: QImage) -> QImage:
        """The picture, averaged to half its size where fewer than half of its px are shown: joining
        neighbours alone would make thin things flicker. Not while something is dragged."""
        shown = frame.width() * self.devicePixelRatioF()
        if shown * 2 >= image.width() or self._quick:
            return image
        if self._half is None:
            smooth = Qt.TransformationMode.SmoothTransformation
            ratio = Qt.AspectRatioMode.IgnoreAspectRatio
            self._half = image.scaled(image.size() / 2, ratio, smooth)
        return self._half

    def wheelEvent(self, event: QWheelEvent) -> None:
        if event.angleDelta().y():
            self.zoom_to(self.scale * wheel_factor(event), event.position())
        event.accept()

    def event(self, event: QEvent) -> bool:
        pinch = pinch_factor(event)
        if pinch is not None:
            self.zoom_to(self.scale * pinch[0], pinch[1])
            return True
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
