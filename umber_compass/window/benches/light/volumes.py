"""Loaf, bollard and crate on planks: the light alone, live."""

from PySide6.QtCore import QSize
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from umber_compass.colour.packed import pack
from umber_compass.picture.light import Lights
from umber_compass.steps.light.volumes import draw, scene
from umber_compass.window.widgets.bitmap import Bitmap

LEAST, MOST = 90, 176  # px of height
_QUICK = 0.36  # share of the px that are lit while something is dragged


class Volumes(QWidget):
    """Drawn anew when the light is another one; with fewer px while it is dragged."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(self.tr("Volumes in this light"))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumHeight(LEAST)
        self.setMaximumHeight(MOST)
        self._lights: Lights | None = None
        self._shown: Bitmap | None = None
        self._key: object = None
        self._quick = False

    def sizeHint(self) -> QSize:
        return QSize(460, LEAST)

    def show_lights(self, lights: Lights, dragging: bool) -> None:
        """The light they stand in."""
        self._lights, self._quick = lights, dragging
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        if self._lights is None:
            return
        ratio = _QUICK if self._quick else self.devicePixelRatioF()
        size = max(int(self.width() * ratio), 8), max(int(self.height() * ratio), 8)
        key = (size, _told_apart(self._lights))
        if self._shown is None or key != self._key:
            self._key = key
            self._shown = Bitmap(pack(draw(scene(*size), self._lights)))
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawImage(self.rect(), self._shown.image)


def _told_apart(lights: Lights) -> object:
    """What tells lights from others, cheaply: the text of an array costs a tenth of a frame."""
    lamps = [(one.light.tobytes(), one.direction, one.wrap) for one in lights.lamps]
    rest = (lights.tint_share, lights.band, lights.crevice, lights.exposure)
    return (lights.ambient.tobytes(), lights.tint.tobytes(), tuple(lamps), rest)
