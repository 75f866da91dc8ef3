"""What should be met first, set where the pointer is or on the chosen region; and which channel
carries what is met instead."""

from PySide6.QtCore import QObject, Qt
from PySide6.QtGui import QCursor, QKeyEvent
from PySide6.QtWidgets import QAbstractSpinBox, QApplication, QLineEdit

from umber_compass.plan.focus_edits import follow_roles, set_point
from umber_compass.steps.focus.edits import toggle_focus
from umber_compass.window.desk.desk import Desk
from umber_compass.window.frame.layout import Layout
from umber_compass.window.stage.director import Director
from umber_compass.window.stage.marks import StageMarks
from umber_compass.window.widgets.timers import single_shot

# In turn, each without one of the four; never faster than the caution for flashing pictures allows.
_TURNS = {
    "colour-only": "value is neutral: what still stands out is carried by colour",
    "one-hue": "hue is neutral: what gave way was carried by hue",
    "one-chroma": "chroma is neutral: what gave way was carried by chroma",
    "no-detail": "detail is neutral: what gave way was carried by detail",
}
TURN_MS = 1600  # of each; a fade between takes a third of it


class Focusing(QObject):
    """Sets the focus; shows the picture without value, hue, chroma and detail in turn."""

    def __init__(self, desk: Desk, layout: Layout, marks: StageMarks, director: Director) -> None:
        super().__init__(layout)
        self.desk, self.layout = desk, layout
        self.marks, self.director = marks, director
        self._turn = -1
        self.turning = single_shot(self, TURN_MS, self._next)

    def _under(self) -> tuple[float, float]:
        """The place under the pointer, picture px; -1, -1 where it is not on the picture."""
        stage = self.layout.stage
        if not stage.underMouse():
            return -1.0, -1.0
        return stage.to_picture(stage.mapFromGlobal(QCursor.pos()).toPointF())

    def here(self) -> None:
        """What lies under the pointer, else the chosen region, into the focus or out of it."""
        derived = self.desk.derived
        found = self.marks.region_at(*self._under()) or self.desk.session.selection
        if derived is None:
            return
        if not found:
            line = self.tr("Choose a region, or point at one, to set the focus")
            self.desk.told.emit(line, False)
            return
        self.desk.do(toggle_focus(derived.plan, found))

    def point(self) -> None:
        """The place under the pointer as the focus."""
        derived, (x, y) = self.desk.derived, self._under()
        if derived is None:
            return
        if x < 0:
            line = self.tr("Point at a place of the picture to set the focus there")
            self.desk.told.emit(line, False)
            return
        height, width = derived.drawing.labels.shape
        self.desk.do(set_point(x / width, y / height))
        self.desk.seal()

    def roles(self) -> None:
        """The regions whose role is focus."""
        self.desk.do(follow_roles())

    def why(self, down: bool) -> None:
        """While it is held, each channel goes neutral in turn; let go, all are back."""
        if down and self._turn < 0 and self.desk.derived is not None:
            self._next()
        elif not down and self._turn >= 0:
            self.turning.stop()
            self._turn = -1
            self.director.fade_to("")

    def toggle_why(self) -> None:
        """The same from the menu: it goes on until it is chosen again."""
        self.why(self._turn < 0)

    def key(self, event: QKeyEvent, down: bool) -> bool:
        """Whether W was pressed or let go, anywhere but in a field that is typed in."""
        typing = isinstance(QApplication.focusWidget(), QLineEdit | QAbstractSpinBox)
        plain = event.modifiers() == Qt.KeyboardModifier.NoModifier
        if event.key() != Qt.Key.Key_W or not plain or typing:
            return False
        if not event.isAutoRepeat():
            self.why(down)
        return True

    def _next(self) -> None:
        self._turn += 1
        view = list(_TURNS)[self._turn % len(_TURNS)]
        self.director.fade_to(view)
        self.desk.told.emit(self.tr(_TURNS[view]), False)
        self.turning.start()
