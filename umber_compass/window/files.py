"""What the artist does with files, asking once before unsaved work is left."""

from collections.abc import Callable
from pathlib import Path

from platformdirs import user_documents_dir
from PySide6.QtCore import QObject

from umber_compass.steps.handoff import stem
from umber_compass.window.desk import Desk
from umber_compass.window.dialogs import Dialogs
from umber_compass.window.parts import Parts


class Files(QObject):
    """New, open, save, hand off."""

    def __init__(self, desk: Desk, parts: Parts, dialogs: Dialogs) -> None:
        super().__init__(parts)
        self.desk, self.parts, self.dialogs = desk, parts, dialogs
        self.demo_wanted = False

    def show_folder(self) -> None:
        """Offer a hand-off folder beside the plan, unless one was chosen."""
        if not self.parts.handoff_bench.folder.text():
            path = self.desk.path
            base = path.parent if path is not None else Path(user_documents_dir())
            self.parts.handoff_bench.show_folder(str(base / "hand-off"))

    def open_path(self, path: Path, demo: bool = False) -> None:
        """Open a plan or bring a picture in, once unsaved work is settled."""
        self._when_settled(lambda: self._open_now(path, demo))

    def _open_now(self, path: Path, demo: bool) -> None:
        self.demo_wanted = demo
        self.desk.open(path, keep_path=not demo)

    def _when_settled(self, then: Callable[[], object]) -> None:
        """Ask once about unsaved work, then go on, unless the artist says cancel."""
        desk = self.desk
        if not desk.unsaved or desk.history is None or not desk.history.past:
            then()
            return
        answer = self.dialogs.unsaved(self.parts, desk.history.now.title)
        if answer == "discard":
            then()
        elif answer == "save":
            self.save(then)

    def new(self) -> None:
        path = self.dialogs.sketch(self.parts)
        if path is not None:
            self.open_path(path)

    def open(self) -> None:
        path = self.dialogs.plan(self.parts)
        if path is not None:
            self.open_path(path)

    def save(self, then: Callable[[], object] | None = None) -> None:
        if self.desk.path is None:
            self.save_as(then)
        else:
            self.desk.save(self.desk.path, then)

    def save_as(self, then: Callable[[], object] | None = None) -> None:
        if self.desk.history is None:
            return
        name = stem(self.desk.history.now.title) + ".umber"
        start = self.desk.path or Path(user_documents_dir()) / name
        path = self.dialogs.save_as(self.parts, str(start))
        if path is not None:
            self.desk.save(path, then)

    def browse(self) -> None:
        folder = self.dialogs.folder(self.parts, self.parts.handoff_bench.folder.text())
        if folder is not None:
            self.parts.handoff_bench.show_folder(str(folder))

    def hand_off(self, folder: str, kinds: list[str]) -> None:
        self.desk.hand_off(Path(folder).expanduser(), kinds)

    def may_close(self, close: Callable[[], object]) -> bool:
        """Whether the window may go now; after saving it asks to close again."""
        history = self.desk.history
        if history is None or not self.desk.unsaved or not history.past:
            return True
        answer = self.dialogs.unsaved(self.parts, history.now.title)
        if answer == "save":
            self.save(close)
        return answer == "discard"
