"""The cards in rows: chosen by click, with Ctrl several, turned by dragging across a chosen one."""

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QContextMenuEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
)
from PySide6.QtWidgets import QApplication, QSizePolicy

from umber_compass.window.wall.card import CardFace, paint_card
from umber_compass.window.wall.touched_cards import TouchedCards
from umber_compass.window.widgets.holding import Holding

DEGREES_PER_PX = 0.5  # of the wheel


class CardGrid(Holding, TouchedCards):
    """Says which studies are chosen, and by how much one is turned."""

    chose = Signal(object)  # ids, the one that was clicked last
    opened = Signal(str)  # make it current
    turned = Signal(str, float)  # by so many wheel degrees, from where the drag began
    began = Signal()
    ended = Signal()
    menu_wanted = Signal(str, object)  # a study, a place on the screen
    resized = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(self.tr("Studies"))
        self.setMouseTracking(True)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self._at = 0
        self._held: tuple[str, QPointF] | None = None
        self._dragging = False

    def show_faces(self, faces: list[CardFace], aspect: float, room: int) -> None:
        """The studies, their pictures' width / height, and how high a view of them is, px."""
        before, self._faces = self._faces, faces
        said = (f"{f.title} {f.decided} {f.verdict}" for f in faces if f.chosen)
        self.setAccessibleDescription("; ".join(said))
        if (len(before), self._aspect, self._room) == (len(faces), aspect, room):
            for box, old, new in zip(self.placing.boxes(), before, faces, strict=True):
                if old != new:
                    self.update(box.adjusted(-8, -8, 8, 8).toAlignedRect())
            return
        self._aspect, self._room = aspect, room
        self._at = min(self._at, max(len(faces) - 1, 0))
        self.setMinimumHeight(self.placing.needed)
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(600, self.placing.needed)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        area = QRectF(event.rect())
        for i, (box, face) in enumerate(zip(self.placing.boxes(), self._faces, strict=True)):
            if box.adjusted(-8, -8, 8, 8).intersects(area):
                paint_card(painter, box, face, self.hasFocus() and i == self._at)

    def resizeEvent(self, event: object) -> None:
        self.setMinimumHeight(self.placing.needed)
        self.resized.emit()

    @property
    def chosen(self) -> list[str]:
        """The chosen studies, by id."""
        return [f.id for f in self._faces if f.chosen]

    def _choose(self, at: int, more: bool) -> None:
        self._at = at
        one = self._faces[at].id
        if not more:
            self.chose.emit([one])
            return
        rest = [i for i in self.chosen if i != one]
        self.chose.emit(rest if one in self.chosen and rest else [*rest, one])

    def mousePressEvent(self, event: QMouseEvent) -> None:
        at = self.placing.hit(event.position())
        if at is None or event.button() != Qt.MouseButton.LeftButton:
            return
        more = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        was = self._faces[at].chosen
        if more or not was:
            self._choose(at, more)
        self._at = at
        if not more:
            self._held = (self._faces[at].id, event.position())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held is None:
            at = self.placing.hit(event.position())
            said = "" if at is None else f"{self._faces[at].title}: {self._faces[at].says}"
            self.setToolTip(said)
            return
        study, start = self._held
        by = event.position().x() - start.x()
        if not self._dragging and self.carries(start, event.position()):
            self._held = None
            return
        if not self._dragging and abs(by) >= QApplication.startDragDistance():
            self._dragging = True
            self.setCursor(Qt.CursorShape.SizeHorCursor)
            self.began.emit()
        if self._dragging:
            self.turned.emit(study, by * DEGREES_PER_PX)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._held is not None and not self._dragging:
            place = self.in_picture(event.position())
            if place is not None and place[0] == self._held[0]:
                self.touched.emit(*place)
        if self._held is not None and not self._dragging and len(self.chosen) > 1:
            self._choose(self._at, False)
        self.let_go()

    def let_go(self) -> None:
        self._held = None
        if self._dragging:
            self._dragging = False
            self.unsetCursor()
            self.ended.emit()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        at = self.placing.hit(event.position())
        if at is not None:
            self.opened.emit(self._faces[at].id)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        at = self.placing.hit(QPointF(event.pos()))
        if at is None:
            return
        if not self._faces[at].chosen:
            self._choose(at, False)
        self.menu_wanted.emit(self._faces[at].id, event.globalPos())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        keys = Qt.Key
        step = {
            keys.Key_Left: -1,
            keys.Key_Right: 1,
            keys.Key_Up: -self.placing.columns,
            keys.Key_Down: self.placing.columns,
        }.get(Qt.Key(event.key()))
        turn = {keys.Key_Comma: -5.0, keys.Key_Period: 5.0}.get(Qt.Key(event.key()))
        if not self._faces:
            super().keyPressEvent(event)
        elif step is not None:
            more = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            to = min(max(self._at + step, 0), len(self._faces) - 1)
            self._choose(to, more)
        elif turn is not None:
            self.turned.emit(self._faces[self._at].id, turn)
        elif event.key() in (keys.Key_Return, keys.Key_Enter):
            self.opened.emit(self._faces[self._at].id)
        elif event.key() == keys.Key_Space:
            self._choose(self._at, True)
        else:
            super().keyPressEvent(event)
