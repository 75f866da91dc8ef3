"""What the artist does with files, asking once before unsaved work is left."""

from collections.abc import Callable
from pathlib import Path

from platformdirs import user_documents_dir
from PySide6.QtCore import QObject
from PySide6.QtWidgets import QWidget

from umber_compass.formats.plan_file import ENDING
from umber_compass.steps.handoff.palette import stem
from umber_compass.steps.sketch.kinds import AUTO
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.documents import Documents
from umber_compass.window.desk.handing_off import HandingOff
from umber_compass.window.widgets.dialogs import Dialogs


class Files(QObject):
    """New, open, save, close."""

    def __init__(self, desk: Desk, parent: QWidget, dialogs: Dialogs) -> None:
        super().__init__(parent)
        self.desk, self.dialogs = desk, dialogs
        self.documents = Documents(desk)
        self.handing_off = HandingOff(self.documents, parent, dialogs)
        self.documents.changed.connect(self._ask_about_changed)
        self.demo_wanted = False
        self._parent = parent
        self._closing = False  # whether closing waits for what was asked for

    def open_path(self, path: Path, demo: bool = False, kind: str = AUTO) -> None:
        """Open a plan or bring a picture in, read as a kind, once unsaved work is settled."""

        def now() -> None:
            self.demo_wanted = demo
            self.documents.open(path, not demo, self.settling(path.name), kind)

        self.when_settled(now)

    def settling(self, name: str) -> Callable[[Callable[[], object]], object]:
        """What is asked before something that was read takes the place of what is here."""
        settled = self.desk.history.now if self.desk.history is not None else None

        def settle(lay: Callable[[], object]) -> None:
            """What was done while the plan was read is asked about, now that it is there."""
            self.desk.session.taking.emit()
            now = self.desk.history.now if self.desk.history is not None else None
            if now is settled:
                lay()
                return
            self.desk.seal()
            if not self.when_settled(lay):
                line = self.tr("{name} was not opened; the plan here stays")
                self.desk.told.emit(line.format(name=name), False)

        return settle

    def when_settled(self, then: Callable[[], object]) -> bool:
        """Once all that was asked for is done, ask about unsaved work, then go on, unless the
        artist says cancel; gives whether they did not."""
        if self.desk.orders.busy:
            self.desk.orders.when_rested(lambda: self.when_settled(then))
            return True
        answer = self._answer()
        if answer == "discard":
            then()
        elif answer == "save":
            # Once more when it is saved: work done while it was being written is asked about too.
            self.save(lambda: self.when_settled(then))
        return answer != "cancel"

    def _answer(self) -> str:
        """What happens to unsaved work: the artist's word, or discard where there is none."""
        self.desk.session.taking.emit()
        if self.desk.history is None or not self.desk.unsaved:
            return "discard"
        return self.dialogs.unsaved(self._parent, self.desk.history.now.title)

    def new(self, kind: str = AUTO) -> None:
        """Bring a sketch in, read as a kind."""
        path = self.dialogs.sketch(self._parent)
        if path is not None:
            self.open_path(path, kind=kind)

    def open(self) -> None:
        """Open a plan."""
        path = self.dialogs.plan(self._parent)
        if path is not None:
            self.open_path(path)

    def save(self, then: Callable[[], object] | None = None) -> None:
        """Save the plan where it is; ask where if it is nowhere yet."""
        path = self.documents.path_of_plan()
        if path is None:
            self.save_as(then)
        else:
            self.documents.save(path, then)

    def save_as(self, then: Callable[[], object] | None = None) -> None:
        """Save the plan elsewhere."""
        from umber_compass.window.desk.with_ending import with_ending

        if self.desk.history is None:
            return
        self.desk.session.taking.emit()
        name = stem(self.desk.history.now.title) + ENDING
        start = self.documents.path_of_plan() or Path(user_documents_dir()) / name
        typed = self.dialogs.save_as(self._parent, str(start))
        path = with_ending(typed, ENDING, self.dialogs, self._parent, only=True)
        if path is not None:
            self.documents.save(path, then, over=True)

    def _ask_about_changed(self, path: Path, then: Callable[[], object] | None) -> None:
        """Something else changed the plan's file: the artist says which is kept, or both."""
        answer = self.dialogs.changed(self._parent, path.name)
        if answer == "replace":
            self.documents.save(path, then, over=True)
        elif answer == "elsewhere":
            self.save_as(then)
        else:
            line = self.tr("Not saved; {name} keeps the other program’s version").format(
                name=path.name
            )
            self.desk.told.emit(line, False)

    def may_close(self, close: Callable[[], object]) -> bool:
        """Whether the window may go now. What was asked for is done first: it asks to close again
        then, and after saving. Where that takes too long, asking once more lets it go."""
        self.desk.session.taking.emit()
        if self.desk.orders.busy and not self._closing:
            self._closing = True
            self.desk.orders.when_rested(close)
            return False
        self._closing = False
        answer = self._answer()
        if answer == "save":
            self.save(close)
        return answer == "discard"
