"""A head or a figure in the plan's light: turned by a drag, seen from the lamp if wished."""

import math

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from umber_compass.colour.packed import pack
from umber_compass.picture.light import Lights
from umber_compass.steps.light.figures import draw, view
from umber_compass.window.widgets.bitmap import Bitmap
from umber_compass.window.widgets.theme import THEME
from umber_compass.window.widgets.timers import single_shot

LEAST_PX = 150
_QUICK_PX, _FINE_PX = 200, 420  # of height, while something moves and after
_REST = 220  # ms without a move, after which it is drawn finely
_TURN = 0.011  # radians for a px
_STEP = math.radians(6)


class FigureView(QWidget):
    """Drawn with few px while it is turned or the light is dragged, with more once that rests."""

    turned = Signal(float)

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(self.tr("Head or figure in this light; arrow keys turn it"))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumHeight(LEAST_PX)
        self.setCursor(Qt.CursorShape.SizeHorCursor)
        self.figure, self.turn, self.from_lamp = "head", 0.45, False
        self._lights: Lights | None = None
        self._bitmap: Bitmap | None = None
        self._quick = False
        self._at: QPointF | None = None
        self._drawing = single_shot(self, 0, self._draw)
        self._resting = single_shot(self, _REST, self._draw_finely)

    def show_lights(self, lights: Lights, dragging: bool) -> None:
        """The light it stands in."""
        if lights is not self._lights:
            self._lights = lights
            self._ask(dragging)

    def choose(self, figure: str) -> None:
        """Another of the figures."""
        if figure != self.figure:
            self.figure = figure
            self._ask(False)

    def see_from_lamp(self, on: bool) -> None:
        """Whether it is seen from where the key stands: what is not seen lies in shadow."""
        if on != self.from_lamp:
            self.from_lamp = on
            self._ask(False)

    def _ask(self, quick: bool) -> None:
        self._quick = quick
        if not self.isVisible():
            return  # it is drawn when it is seen
        self._drawing.start()
        if quick:
            self._resting.start()

    def _draw_finely(self) -> None:
        self._quick = False
        self._draw()

    def _draw(self) -> None:
        if self._lights is None or not self.isVisible():
            return
        ratio = self.devicePixelRatioF()
        most = _QUICK_PX if self._quick else _FINE_PX
        height = max(int(min(self.height() * ratio, most)), 16)
        width = max(round(height * self.width() / max(self.height(), 1)), 16)
        # From the lamp no step of a drag can be remembered, so it is found anew each time.
        camera = self._lights.key.direction if self.from_lamp else None
        seen = view(self.figure, width, height, round(self.turn, 3), camera)
        self._bitmap = Bitmap(pack(draw(seen, self._lights)))
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        if self._bitmap is not None:
            painter.drawImage(QRectF(self.rect()), self._bitmap.image)
        if self.hasFocus():
            painter.setPen(QPen(THEME.colour("ink"), 2))
            painter.drawRect(self.rect().adjusted(1, 1, -1, -1))

    def showEvent(self, event: object) -> None:
        self._ask(False)

    def hideEvent(self, event: object) -> None:
        self._drawing.stop()
        self._resting.stop()

    def resizeEvent(self, event: object) -> None:
        self._ask(False)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._at = event.position()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if event.buttons() and self._at is not None:
            self._turn_by((event.position().x() - self._at.x()) * _TURN)
            self._at = event.position()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        steps = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}
        if event.key() in steps:
            self._turn_by(steps[Qt.Key(event.key())] * _STEP)
        else:
            super().keyPressEvent(event)

    def _turn_by(self, by: float) -> None:
        self.turn = (self.turn + by + math.pi) % (2 * math.pi) - math.pi
        self._ask(True)
        self.turned.emit(self.turn)
