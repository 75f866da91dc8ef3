"""Loaf, bollard and crate on planks: the light alone, live."""

from PySide6.QtCore import QSize
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from umber_compass.colour.packed import pack
from umber_compass.picture.light import Lights
from umber_compass.steps.light.volumes import draw, scene
from umber_compass.window.widgets.bitmap import Bitmap
from umber_compass.window.widgets.timers import single_shot

LEAST, MOST = 108, 240  # px of height; with fewer they would be cut, and are left out
_QUICK = 0.36  # share of the px that are lit while something is dragged


class Volumes(QWidget):
    """Drawn anew when the light is another one; with fewer px while it is dragged."""

    def __init__(self, most: int = MOST) -> None:
        super().__init__()
        self.setAccessibleName(self.tr("Volumes in this light"))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumHeight(0)
        self.setMaximumHeight(most)
        self._lights: Lights | None = None
        self._shown: Bitmap | None = None
        self._key: object = None
        self._quick = False
        self._drawing = single_shot(self, 0, self._draw_in_turn)

    def sizeHint(self) -> QSize:
        return QSize(460, LEAST)

    def show_lights(self, lights: Lights, dragging: bool) -> None:
        """The light they stand in. They are drawn in a turn of their own: with the lamps' rows it
        would be the longest piece that a drag waits for."""
        self._lights, self._quick = lights, dragging
        if dragging and self._shown is not None:
            self._drawing.start()
        else:
            self.update()

    def _draw_in_turn(self) -> None:
        if self.isVisible() and self._draw():
            self.update()

    def _draw(self) -> bool:
        """Draw the volumes where their light or size is another one; gives whether it was."""
        if self._lights is None:
            return False
        ratio = _QUICK if self._quick else self.devicePixelRatioF()
        size = max(int(self.width() * ratio), 8), max(int(self.height() * ratio), 8)
        key = (size, _told_apart(self._lights))
        if self._shown is not None and key == self._key:
            return False
        self._key = key
        self._shown = Bitmap(pack(draw(scene(*size), self._lights)))
        return True

    def paintEvent(self, event: QPaintEvent) -> None:
        if self.height() < LEAST:
            return
        if not self._drawing.isActive():
            self._draw()
        if self._shown is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawImage(self.rect(), self._shown.image)


def _told_apart(lights: Lights) -> object:
    """What tells lights from others, cheaply: the text of an array costs a tenth of a frame."""
    lamps = [(one.light.tobytes(), one.direction, one.wrap) for one in lights.lamps]
    rest = (lights.tint_share, lights.band, lights.crevice, lights.exposure, lights.way)
    ground = b"" if lights.ground is None else lights.ground.tobytes()
    return (lights.ambient.tobytes(), lights.tint.tobytes(), ground, tuple(lamps), rest)
