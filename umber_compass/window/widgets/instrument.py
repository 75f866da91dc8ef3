"""What every chart that answers a hand has alike: press, grip, drag and letting go, keyboard steps,
tooltip, cursor, focus frame, name. A new chart is its painting (`paint`), its hit test (`grip`),
and what a drag, a press and a key do.

What is held does not jump to the hand: where the chart says by `stands` where it is, the distance
between the two is kept.
"""

from typing import Any, ClassVar, NamedTuple

from PySide6.QtCore import QEvent, QPointF, QSize, Qt, Signal
from PySide6.QtGui import QHelpEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QToolTip, QWidget

from umber_compass.window.widgets.holding import Holding
from umber_compass.window.widgets.theme import THEME

_ARROWS = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, 1),
    Qt.Key.Key_Down: (0, -1),
}
_PAGES = {Qt.Key.Key_PageUp: 1, Qt.Key.Key_PageDown: -1}
_TAKES = (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space)
_BOTH = (True, True)
_GROWS = {True: QSizePolicy.Policy.Expanding, False: QSizePolicy.Policy.Fixed}


class Hand(NamedTuple):
    """Where the hand is, or where what it holds would stand; and the keys that are down."""

    place: QPointF
    shift: bool = False
    ctrl: bool = False
    alt: bool = False


class Answering:
    """What a chart has of its own: its painting, its hit test, and what a hand does to it."""

    def paint(self, painter: QPainter) -> None:
        """Paint it; the focus frame comes after."""
        raise NotImplementedError

    def grip(self, place: QPointF) -> Any:
        """What a hand would hold at a place; None for nothing."""
        return None

    def stands(self, held: Any) -> QPointF | None:
        """Where what is held stands; None where it goes to the hand."""
        return None

    def pressed(self, hand: Hand) -> None:
        """A press of the left button, before what lies there is dragged."""

    def dragged(self, held: Any, hand: Hand) -> None:
        """What is held is brought to a place."""

    def dropped(self, held: Any, hand: Hand) -> None:
        """What was held is let go at a place, by letting go of the button."""

    def hovered(self, place: QPointF) -> None:
        """The hand is over a place, holding nothing."""

    def stepped(self, right: int, up: int, hand: Hand) -> bool:
        """An arrow key; gives whether it did anything."""
        return False

    def turned_page(self, by: int) -> bool:
        """Page Up (1) or Page Down (-1); gives whether it did anything."""
        return False

    def taken(self) -> bool:
        """Enter or Space; gives whether it did anything."""
        return False

    def says(self, place: QPointF) -> str:
        """What a tooltip says at a place; where it is empty, the chart's own tooltip is shown."""
        return ""


class Instrument(Answering, Holding, QWidget):
    """A chart under a hand. What is `drags` says when a drag begins and ends."""

    began = Signal()
    ended = Signal()

    drags: ClassVar[bool] = True  # whether a hold is a drag, and one step of the plan
    smooth: ClassVar[bool] = False  # painted with smooth edges
    framed: ClassVar[bool] = False  # a thin frame while it has the focus
    grabs: ClassVar[Qt.CursorShape] = Qt.CursorShape.SizeVerCursor  # over what can be held

    def __init__(
        self,
        name: str = "",
        size: tuple[int, int] = (400, 200),
        grows: tuple[bool, bool] = _BOTH,
    ) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAccessibleName(name)
        self.setSizePolicy(_GROWS[grows[0]], _GROWS[grows[1]])
        self._size = size
        self._held: Any = None  # what `grip` gave
        self._away = QPointF(0, 0)  # from the hand to what it holds

    def sizeHint(self) -> QSize:
        return QSize(*self._size)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, self.smooth)
        self.paint(painter)
        if self.framed and self.hasFocus():
            painter.setPen(QPen(THEME.colour("line"), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))

    def _hand(self, event: QMouseEvent | QKeyEvent, place: QPointF) -> Hand:
        down, keys = event.modifiers(), Qt.KeyboardModifier
        shift, ctrl = bool(down & keys.ShiftModifier), bool(down & keys.ControlModifier)
        return Hand(place, shift, ctrl, bool(down & keys.AltModifier))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() != Qt.MouseButton.LeftButton:
            return
        place = event.position()
        self._held = self.grip(place)
        stands = None if self._held is None else self.stands(self._held)
        self._away = QPointF(0, 0) if stands is None else stands - place
        self.pressed(self._hand(event, place))
        if self._held is not None and self.drags:
            self.began.emit()
        if self._held is not None and stands is None:
            self.dragged(self._held, self._hand(event, place))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        place = event.position()
        if self._held is not None:
            self.dragged(self._held, self._hand(event, place + self._away))
            return
        self.hovered(place)
        over = self.grip(place) is not None
        self.setCursor(self.grabs if over else Qt.CursorShape.ArrowCursor)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if event.button() != Qt.MouseButton.LeftButton:
            return
        if self._held is not None:
            self.dropped(self._held, self._hand(event, event.position()))
        self.let_go()

    def let_go(self) -> None:
        if self._held is None:
            return
        self._held = None
        self.update()
        if self.drags:
            self.ended.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        done = False
        if key in _ARROWS:
            done = self.stepped(*_ARROWS[key], self._hand(event, QPointF()))
        elif key in _PAGES:
            done = self.turned_page(_PAGES[key])
        elif key in _TAKES:
            done = self.taken()
        if not done:
            super().keyPressEvent(event)

    def event(self, event: QEvent) -> bool:
        if isinstance(event, QHelpEvent):
            said = self.says(QPointF(event.pos())) or self.toolTip()
            QToolTip.showText(event.globalPos(), said, self)
            return True
        return super().event(event)
