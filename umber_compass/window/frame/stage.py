"""The stage: the picture, live, with the step's marks on it."""

from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QColor,
    QDragEnterEvent,
    QDropEvent,
    QImage,
    QMouseEvent,
    QPainter,
    QPaintEvent,
)
from PySide6.QtWidgets import QSizePolicy, QWidget

from umber_compass.window.theme import THEME, font

FADE_MS = 200  # well under three changes a second
SWATCH_MIME = "application/x-umber-swatch"


class Tag(NamedTuple):
    """Words that stand on the picture, at a place in its own px."""

    x: float
    y: float
    text: str


class Stage(QWidget):
    """Shows one picture as large as it fits; says what is pointed at."""

    pointed = Signal(float, float)  # picture px; -1, -1 when the pointer leaves
    pressed = Signal(float, float)
    twice = Signal(float, float)
    given = Signal(str, float, float)  # a swatch's region id, dropped at a place

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("stage")
        self.setAccessibleName(self.tr("Picture"))
        self.setMouseTracking(True)
        self.setAcceptDrops(True)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self._image: QImage | None = None
        self._over: QImage | None = None
        self._fading: QImage | None = None
        self._opacity = 0.0
        self._tags: list[Tag] = []
        self._empty = ""
        self._clock = QTimer(self)
        self._clock.setInterval(16)
        self._clock.timeout.connect(self._fade_on)
        self.frames = 0  # painted so far; benchmarks and tests wait on it

    def sizeHint(self) -> QSize:
        return QSize(632, 474)

    def show_image(self, image: QImage | None) -> None:
        """Show a picture at once."""
        self._image, self._fading = image, None
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

    def mark(self, over: QImage | None, tags: list[Tag]) -> None:
        """The step's marks: an overlay of the picture's size, and words."""
        self._over, self._tags = over, tags
        self.update()

    def invite(self, text: str) -> None:
        """What an empty stage says."""
        self._empty = text
        self.update()

    def frame(self) -> QRectF:
        """Where the picture lies on the widget."""
        if self._image is None:
            return QRectF(self.rect())
        width, height = self._image.width(), self._image.height()
        scale = min(self.width() / width, self.height() / height)
        shown = width * scale, height * scale
        return QRectF(0, 0, *shown)

    def to_picture(self, at: QPointF) -> tuple[float, float]:
        """A place on the widget in picture px."""
        frame = self.frame()
        if self._image is None or not frame.contains(at):
            return -1.0, -1.0
        scale = self._image.width() / frame.width()
        return (at.x() - frame.x()) * scale, (at.y() - frame.y()) * scale

    def from_picture(self, x: float, y: float) -> QPointF:
        """A place in picture px on the widget."""
        frame = self.frame()
        scale = frame.width() / self._image.width() if self._image is not None else 1.0
        return QPointF(frame.x() + x * scale, frame.y() + y * scale)

    def _fade_on(self) -> None:
        self._opacity = min(1.0, self._opacity + 16 / FADE_MS)
        if self._opacity >= 1.0:
            self._clock.stop()
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        if self._image is None:
            self._paint_invitation(painter)
            return
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawImage(self.frame(), self._image)
        if self._fading is not None:
            painter.setOpacity(self._opacity)
            painter.drawImage(self.frame(), self._fading)
            painter.setOpacity(1.0)
        if self._over is not None:
            painter.drawImage(self.frame(), self._over)
        self._paint_tags(painter)
        self.frames += 1

    def _paint_invitation(self, painter: QPainter) -> None:
        painter.setPen(THEME.colour("quiet"))
        painter.setFont(font(15))
        painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, self._empty)

    def _paint_tags(self, painter: QPainter) -> None:
        """Words on dark plates; one that would lie on another is left out."""
        painter.setFont(font(12))
        metrics = painter.fontMetrics()
        taken: list[QRectF] = []
        for tag in self._tags:
            at = self.from_picture(tag.x, tag.y)
            size = metrics.horizontalAdvance(tag.text) + 12, metrics.height() + 4
            plate = QRectF(at.x() - size[0] / 2, at.y() - size[1] / 2, *size)
            plate.moveLeft(
                min(max(plate.left(), self.frame().left()), self.frame().right() - size[0])
            )
            if any(plate.adjusted(-3, -3, 3, 3).intersects(t) for t in taken):
                continue
            taken.append(plate)
            painter.fillRect(plate, QColor(24, 24, 24, 230))
            painter.setPen(QColor("white"))
            painter.drawText(plate, Qt.AlignmentFlag.AlignCenter, tag.text)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        self.pointed.emit(*self.to_picture(event.position()))

    def leaveEvent(self, event: object) -> None:
        self.pointed.emit(-1.0, -1.0)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self.pressed.emit(*self.to_picture(event.position()))

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        self.twice.emit(*self.to_picture(event.position()))

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasFormat(SWATCH_MIME):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        place = self.to_picture(event.position())
        if place[0] >= 0:
            text = bytes(event.mimeData().data(SWATCH_MIME).data()).decode()
            self.given.emit(text, *place)
            event.acceptProposedAction()
