"""What opens a step's bench, or the practice's numbers over it."""

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QAbstractButton, QApplication

from umber_compass.window.benches import BENCHES
from umber_compass.window.desk.session import Session
from umber_compass.window.frame.following import Following
from umber_compass.window.frame.layout import Layout
from umber_compass.window.strip.small_views import SmallViews

_NAMING = "sketch"  # where regions are named


class StepCommands(QObject):
    """Opens benches; the session knows which is open."""

    def __init__(
        self, session: Session, layout: Layout, following: Following, views: SmallViews
    ) -> None:
        super().__init__(layout)
        self._session, self._layout = session, layout
        self._following, self._views = following, views
        session.stepped.connect(self._show)

    def open(self, step: str) -> None:
        """Open a step's bench."""
        self._session.open_step(step)

    def _show(self) -> None:
        row = BENCHES[self._session.step]
        bench = self._layout.benches[row.step]
        was_walled, self._session.walled = self._session.walled, row.takes_stage
        self._views.enter(row.step, row.views)  # which works nothing out behind the wall
        self._layout.middle.show_wall(row.takes_stage)
        if was_walled and not row.takes_stage:
            self._following.desk.live.sharpening.start()
        self._layout.strip.stage_view(self._session.view)
        self._show_drawer("")
        self._layout.stack.setCurrentWidget(bench)
        self._following.follow()
        if not isinstance(QApplication.focusWidget(), QAbstractButton):
            shown = self._layout.wall.grid if row.takes_stage else self._layout.stage
            (bench.first_focus() or shown).setFocus()

    def toggle_drawer(self, name: str) -> None:
        """Open a drawer over the bench, or close it."""
        drawer = self._layout.drawers[name]
        opens = self._layout.stack.currentWidget() is not drawer
        bench = self._layout.benches[self._session.step]
        self._layout.stack.setCurrentWidget(drawer if opens else bench)
        self._show_drawer(name if opens else "")
        self._following.follow()
        if opens and name == "reference":
            drawer.setFocus()

    def _show_drawer(self, name: str) -> None:
        for each, button in self._layout.drawer_buttons.items():
            button.setChecked(each == name)
            self._following.actions.check(each, each == name)

    def name_chosen(self) -> None:
        """Put the caret into the chosen region's name."""
        if self._session.selection:
            self.open(_NAMING)
            self._layout.benches[_NAMING].edit_name(self._session.selection)
