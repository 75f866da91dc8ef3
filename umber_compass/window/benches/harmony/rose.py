"""The hue rose: a ring of hues, the picture's colours as petals, the scheme's needles to turn."""

from PySide6.QtCore import QPointF, QSize, Qt, Signal
from PySide6.QtGui import (
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
)
from PySide6.QtWidgets import QSizePolicy, QWidget

from umber_compass.steps.harmony.rose import RoseParts
from umber_compass.window.benches.harmony.dial import Dial, Grip, hit, petal_at
from umber_compass.window.benches.harmony.rose_painting import Ring, paint
from umber_compass.window.widgets.holding import Holding
from umber_compass.window.widgets.theme import THEME
from umber_compass.window.widgets.under import Under


class Rose(Holding, QWidget):
    """Drag A and the whole scheme turns; drag another letter for the spread; drag a petal and its
    family turns. Arrow keys turn and spread by a degree, with Shift by ten."""

    turned = Signal(float)  # A's angle, wheel degrees
    spread = Signal(float)  # wheel degrees
    moved = Signal(str, float)  # a slot of a free scheme, wheel degrees from the lead
    family = Signal(str, float, float)  # slot, from angle, to angle
    began = Signal()
    ended = Signal()
    pointed = Signal(str)  # a region's id

    def __init__(self) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAccessibleName(self.tr("Hue rose"))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumSize(240, 150)
        self._parts: RoseParts | None = None
        self._held: Grip | None = None
        self._selected = ""
        self._ring = Ring()

    def sizeHint(self) -> QSize:
        return QSize(340, 330)

    def show_parts(self, parts: RoseParts, selected: str) -> None:
        """The rose of a plan, and which region is chosen."""
        if (parts, selected) != (self._parts, self._selected):
            self._parts, self._selected = parts, selected
            self.update()

    @property
    def dial(self) -> Dial:
        """Where everything stands on the widget as it is."""
        return Dial(self.width(), self.height())

    def paintEvent(self, event: QPaintEvent) -> None:
        if self._parts is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._ring.paint(painter, self, self._parts)
        paint(painter, self._parts, self._selected, self.dial)
        if self.hasFocus():
            painter.setPen(QPen(THEME.colour("line"), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))

    def _hit(self, place: QPointF) -> Grip | None:
        return None if self._parts is None else hit(self._parts, self.dial, place)

    def under(self, place: QPointF) -> Under:
        """The petal at a place."""
        petal = petal_at(self._parts, self.dial, place) if self._parts is not None else None
        return Under() if petal is None else Under(petal.region, petal.hex)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() != Qt.MouseButton.LeftButton:
            return
        self._held = self._hit(event.position())
        if self._held is not None:
            self.began.emit()
            self._drag_to(event.position())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held is not None:
            self._drag_to(event.position())
            return
        dial, at = self.dial, event.position()
        petal = petal_at(self._parts, dial, at) if self._parts is not None else None
        self.pointed.emit(petal.region if petal else "")
        shape = Qt.CursorShape.OpenHandCursor if self._hit(event.position()) else None
        self.setCursor(shape or Qt.CursorShape.ArrowCursor)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self.let_go()

    def let_go(self) -> None:
        if self._held is not None:
            self._held = None
            self.ended.emit()

    def _drag_to(self, place: QPointF) -> None:
        if self._held is None or self._parts is None:
            return
        angle = self.dial.angle_of(place)
        if self._held.kind == "petal":
            self.family.emit(self._held.slot, self._held.angle, angle)
        elif self._parts.free and self._held.slot != "A":
            self.moved.emit(self._held.slot, (angle - self._parts.needles["A"]) % 360)
        elif self._held.slot in self._parts.spreads:
            base, way = self._parts.spreads[self._held.slot]
            lead = self._parts.needles["A"]
            self.spread.emit(((angle - lead - base + 180) % 360 - 180) / way)
        else:
            lead = self._parts.needles["A"]
            offset = self._parts.needles[self._held.slot] - lead
            self.turned.emit((angle - offset) % 360)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if self._parts is None:
            return
        step = 10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
        turn = {Qt.Key.Key_Left: -step, Qt.Key.Key_Right: step}.get(Qt.Key(event.key()))
        wider = {Qt.Key.Key_Down: -step, Qt.Key.Key_Up: step}.get(Qt.Key(event.key()))
        if turn is not None:
            self.turned.emit(self._parts.needles["A"] + turn)
        elif wider is not None and self._parts.spreads:
            self.spread.emit(self._parts.spread_deg + wider)
        else:
            super().keyPressEvent(event)
