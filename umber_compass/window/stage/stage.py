"""The stage: the picture, live, with the step's marks on it, and the lamps."""

from PySide6.QtCore import QEvent, QPointF, QRectF, QSizeF, Qt, Signal
from PySide6.QtGui import (
    QFontMetricsF,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPen,
)

from umber_compass.steps.light.lamps import in_words, stepped
from umber_compass.window.desk.gaps import NeckMark
from umber_compass.window.stage import focus_marks, lamp_marks, neck_marks, tags
from umber_compass.window.stage.axis_marks import AxisHandles
from umber_compass.window.stage.drawn_on import DrawnOn
from umber_compass.window.stage.focus_marks import FocusMarks
from umber_compass.window.stage.lamp_marks import LampMark
from umber_compass.window.stage.outline import Outline
from umber_compass.window.stage.panning import Panning
from umber_compass.window.stage.tags import Covers, Placed, Tag
from umber_compass.window.stage.thing_marks import ThingHandles
from umber_compass.window.widgets.holding import Holding
from umber_compass.window.widgets.theme import THEME, font

_ARROWS = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, -1),
    Qt.Key.Key_Down: (0, 1),
}


def _nothing(plate: QRectF, label: int) -> float:
    """What a plate hides where nothing matters."""
    return 0.0


class Stage(Holding, DrawnOn):
    """Says what is pointed at; lamps on it are dragged, or stepped with the arrow keys by 2
    degrees, with Shift by 10."""

    pointed = Signal(float, float)  # picture px; -1, -1 when the pointer leaves
    twice = Signal(float, float)
    lamp_moved = Signal(str, object)  # name, unit direction
    spot_moved = Signal(str, object)  # name, shares of width and height, or radius
    axis_moved = Signal(object)  # AxisMark, when its end is let go
    began = Signal()
    ended = Signal()
    neck_pressed = Signal(int)
    thing_moved = Signal(str, str, float)  # what of it, its id, the share it is moved to
    thing_pressed = Signal(float, float)  # shares of width and height, while things are marked

    def __init__(self) -> None:
        super().__init__()
        self.necks: tuple[NeckMark, ...] = ()
        self.gaps_shown = False
        self.looked_gaps: tuple[NeckMark, ...] | None = None  # of a way that is only looked at
        self.setObjectName("stage")
        self.setAccessibleName(self.tr("Picture"))
        self.setAcceptDrops(True)
        self._panning = Panning()
        self._over: QImage | None = None
        self._tags: list[Tag] = []
        self._covers: Covers = _nothing
        self._placed: tuple[object, list[Placed]] = (None, [])
        self._outline = Outline()
        self.focus_marks = FocusMarks()
        self.lamps: list[LampMark] = []
        self._held_lamp: lamp_marks.Held | None = None
        self.axis = AxisHandles()
        self.things = ThingHandles()

    def mark(
        self,
        over: QImage | None,
        marks: list[Tag],
        covers: Covers | None = None,
        focus: FocusMarks | None = None,
    ) -> None:
        """The step's marks: an overlay of the picture's size, names, and what is met first."""
        covers, focus = covers or _nothing, focus or FocusMarks()
        now = (over, marks, covers, focus)
        if now != (self._over, self._tags, self._covers, self.focus_marks):
            self._over, self._tags, self._covers, self.focus_marks = now
            self.update()

    def show_lamps(self, lamps: list[LampMark]) -> None:
        """The lamps that stand on and round the picture; none on other steps."""
        if lamps == self.lamps:
            return
        self.lamps = lamps
        where = ", ".join(f"{m.name} {in_words(m.direction, m.pool)}" for m in lamps)
        self.setAccessibleDescription(where)
        if self._held_lamp is None:
            self._make_room()
        self.update()

    def set_alone(self, alone: bool) -> None:
        """The picture alone on the window needs no room for lamps."""
        self.alone = alone
        self._make_room()
        self.update()

    def _make_room(self) -> None:
        """Keep as much free round the picture as the lamps need, and a little to drag them into;
        not while one is held, or the picture would move under the hand."""
        shown = bool(self.lamps) and not self.alone
        self.zoom.inset = lamp_marks.beyond(self.lamps) if shown else 0.0
        self.zoom.margin = lamp_marks.RADIUS + 8 if shown else 0.0

    def paint_marks(self, painter: QPainter, frame: QRectF) -> None:
        if self._over is not None:
            self._outline.draw(painter, self, frame, self._over)
        tags.paint(painter, self._places(frame))
        focus_marks.paint(painter, self.focus_marks, frame)
        self.axis.paint(painter, frame)
        self.things.paint(painter, frame)
        neck_marks.paint(painter, _gaps(self), frame)
        self.hand.paint(painter)
        lamp_marks.paint(painter, self.lamps, frame, self.hasFocus())
        if self.hasFocus() and not self.alone:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
            painter.setPen(QPen(THEME.colour("ink"), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(frame.intersected(QRectF(self.rect())).adjusted(1, 1, -1, -1))

    def _places(self, frame: QRectF) -> list[Placed]:
        """Where the names stand; found anew only where they, or the zoom, changed."""
        metrics = QFontMetricsF(font(12))
        sizes = [
            QSizeF(metrics.horizontalAdvance(t.text) + 12, metrics.height() + 4) for t in self._tags
        ]
        key = (
            frame.getRect(),
            self.size().toTuple(),
            [(t.label, t.x, t.y, s.width()) for t, s in zip(self._tags, sizes, strict=True)],
        )
        if self._placed[0] != key:
            scale = frame.width() / self.picture.width()
            seen = frame.intersected(QRectF(self.rect()))
            self._placed = (key, tags.place(self._tags, sizes, frame, scale, seen, self._covers))
        said = {t.label: t.text for t in self._tags}
        return [p._replace(text=said[p.label]) for p in self._placed[1]]

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._panning.press(event):
            self.setCursor(Qt.CursorShape.ClosedHandCursor)
            return
        if event.button() != Qt.MouseButton.LeftButton:
            return
        lamp = lamp_marks.hit(self.lamps, event.position(), self.frame())
        if lamp is not None:
            self._held_lamp = lamp
            self.began.emit()
        elif self.axis.press(event.position(), self.frame()):
            return
        elif self.things.press(event.position(), self.frame()):
            self.began.emit()
        elif self.things.is_open and _press_thing(self, event.position()):
            return
        elif (neck := neck_marks.hit(_gaps(self), event.position(), self.frame())) is not None:
            if self.looked_gaps is None:
                self.neck_pressed.emit(neck.number)
        elif not self.hand.press(event.position()):
            self.pressed.emit(*self.to_picture(event.position()))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._panning.is_on:
            self.pan(self._panning.move(event))
        elif self._held_lamp is not None:
            _move_lamp(self, self._held_lamp, event.position())
        elif self.axis.held is not None:
            self.axis.move(event.position(), self.frame())
            self.update()
        elif (handle := self.things.held) is not None:
            value = self.things.value_at(event.position(), self.frame())
            self.thing_moved.emit(handle.what, handle.thing, value)
        elif self.hand.is_held:
            self.hand.move(event.position())
            self.update()
        else:
            over = lamp_marks.hit(self.lamps, event.position(), self.frame()) is not None
            over = over or self.axis.hit(event.position(), self.frame()) is not None
            over = over or self.things.hit(event.position(), self.frame()) is not None
            if self.things.point_at(event.position(), self.frame()):
                self.update()
            self.setCursor(Qt.CursorShape.OpenHandCursor if over else Qt.CursorShape.ArrowCursor)
            self.pointed.emit(*self.to_picture(event.position()))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._panning.release():
            self.unsetCursor()
        if self.hand.is_held and event.button() == Qt.MouseButton.LeftButton:
            self.take_drawn()
        self.let_go()

    def let_go(self) -> None:
        """End a drag, if there is one."""
        self.hand.cancel()
        turned = self.axis.release()
        if turned is not None:
            self.axis_moved.emit(turned)
        if self.things.held is not None:
            self.things.held = None
            self.ended.emit()
        if self._held_lamp is not None:
            self._held_lamp = None
            self._make_room()
            self.update()
            self.ended.emit()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        if lamp_marks.hit(self.lamps, event.position(), self.frame()) is None:
            self.twice.emit(*self.to_picture(event.position()))

    def leaveEvent(self, event: QEvent) -> None:
        self.pointed.emit(-1.0, -1.0)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        across, down = _ARROWS.get(key, (0, 0))
        if key in _ARROWS and self.lamps:
            far = 10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 2
            lamp = self.lamps[0]
            self.lamp_moved.emit(lamp.name, stepped(lamp.direction, across * far, down * far))
        elif key in _ARROWS and self.zoom.factor is not None:
            self.pan(QPointF(-40 * across, -40 * down))
        elif not self._panning.key(event, True):
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        if not self._panning.key(event, False):
            super().keyReleaseEvent(event)


def _gaps(stage: Stage) -> tuple[NeckMark, ...]:
    """The gaps of line art that are marked now."""
    if not stage.gaps_shown:
        return ()
    return stage.necks if stage.looked_gaps is None else stage.looked_gaps


def _move_lamp(stage: Stage, held: lamp_marks.Held, place: QPointF) -> None:
    """Say where a lamp that is held goes."""
    frame, name = stage.frame(), held.mark.name
    if held.mark.pool is None:
        stage.lamp_moved.emit(name, lamp_marks.direction_from(place, frame))
    else:
        stage.spot_moved.emit(name, held.moved(place, frame))


def _press_thing(stage: Stage, at: QPointF) -> bool:
    """Say which place was pressed while things are marked; gives whether it was a piece that is
    taken in or out, so that no region is chosen by it."""
    x, y = stage.to_picture(at)
    if x >= 0:
        stage.thing_pressed.emit(x / stage.picture.width(), y / stage.picture.height())
    return stage.things.takes_pieces
