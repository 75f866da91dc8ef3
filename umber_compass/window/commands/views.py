"""What the artist does with the view: held keys, zoom, the picture alone, the room."""

from PySide6.QtCore import QObject, Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QAbstractSpinBox, QApplication, QLineEdit, QMainWindow

from umber_compass.window.desk.session import Session
from umber_compass.window.frame.following import Following
from umber_compass.window.frame.layout import Layout
from umber_compass.window.widgets import theme

# Held down, a letter shows another moment of the plan, or a part of its light.
HELD_KEYS = {
    Qt.Key.Key_B: "before",
    Qt.Key.Key_O: "opened",
    Qt.Key.Key_F: "flat",
    Qt.Key.Key_L: "lights-off",
    Qt.Key.Key_A: "ambient-only",
    Qt.Key.Key_K: "key-only",
}
_ZOOM = 1.25


class ViewCommands(QObject):
    """Changes what is seen, never the plan."""

    roomed = Signal()  # another room is on

    def __init__(
        self, window: QMainWindow, session: Session, layout: Layout, following: Following
    ) -> None:
        super().__init__(window)
        self._window, self._session = window, session
        self._layout, self._following = layout, following

    def hold(self, what: str) -> None:
        """Show another moment of the plan or a part of its light; nothing: the picture again."""
        if not what or self._following.can_hold(what):
            self._session.hold(what)
        self.tick_held()

    def toggle(self, what: str) -> None:
        """The same from the menu: shown until it is chosen again."""
        self.hold("" if self._session.held == what else what)

    def tick_held(self) -> None:
        """Tick in the menu what is held, and nothing else."""
        for name in HELD_KEYS.values():
            self._following.actions.check(f"hold-{name}", self._session.held == name)

    def key(self, event: QKeyEvent, down: bool) -> bool:
        """Whether a held letter was pressed or let go, anywhere but in a field that is typed in."""
        what = HELD_KEYS.get(Qt.Key(event.key()))
        typing = isinstance(QApplication.focusWidget(), QLineEdit | QAbstractSpinBox)
        plain = event.modifiers() == Qt.KeyboardModifier.NoModifier
        if what is None or not plain or typing:
            return False
        if not event.isAutoRepeat():
            self.hold(what if down else "")
        return True

    def put_on_stage(self, number: int) -> None:
        """One of the small views, by its place."""
        self._session.put_on_stage(self._layout.strip.views()[number])

    def picture(self) -> None:
        """The picture as it is, on the stage."""
        self._session.put_on_stage("")

    def zoom_in(self) -> None:
        """Larger, round the middle."""
        self._layout.stage.zoom_to(self._layout.stage.scale * _ZOOM)

    def zoom_out(self) -> None:
        """Smaller, round the middle."""
        self._layout.stage.zoom_to(self._layout.stage.scale / _ZOOM)

    def fit(self) -> None:
        """The whole picture."""
        self._layout.stage.zoom_to(None)

    def one_to_one(self) -> None:
        """Each px of the picture on one px of the screen."""
        self._layout.stage.zoom_to(1 / self._layout.stage.devicePixelRatioF())

    def set_alone(self, alone: bool) -> None:
        """The picture alone on the whole window, or all of it again."""
        self._following.actions.check("alone", alone)
        self._window.menuBar().setVisible(not alone)
        self._layout.set_alone(alone)
        self._following.follow()
        self._layout.stage.setFocus()

    def toggle_alone(self) -> None:
        """The picture alone, or not."""
        self.set_alone(not self._layout.stage.alone)

    def enter_room(self, room: str) -> None:
        """Light the window's own surround another way."""
        for name in theme.ROOMS:
            self._following.actions.check(f"room-{name}", name == room)
        application = QApplication.instance()
        assert isinstance(application, theme.Application)
        theme.enter(application, room)
        self.roomed.emit()
        self._following.follow()
