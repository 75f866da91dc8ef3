"""What the artist does with files, asking once before unsaved work is left."""

from collections.abc import Callable
from pathlib import Path

from platformdirs import user_documents_dir
from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QWidget

from umber_compass.formats.plan_file import ENDING
from umber_compass.steps.handoff.palette import stem
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.documents import Documents
from umber_compass.window.widgets.dialogs import Dialogs


class Files(QObject):
    """New, open, save, hand off."""

    folder_changed = Signal(str)  # where hand-off files will go

    def __init__(self, desk: Desk, parent: QWidget, dialogs: Dialogs) -> None:
        super().__init__(parent)
        self.desk, self.dialogs = desk, dialogs
        self.documents = Documents(desk)
        self.documents.foreign.connect(self._ask_to_replace)
        self.demo_wanted = False
        self.folder = ""  # for hand-off files, once one was offered or chosen
        self._parent = parent

    def offer_folder(self) -> None:
        """Offer a hand-off folder beside the plan, unless one was chosen."""
        if not self.folder:
            path = self.desk.path
            base = path.parent if path is not None else Path(user_documents_dir())
            self.choose_folder(str(base / "hand-off"))

    def choose_folder(self, folder: str) -> None:
        """Hand-off files go to another folder."""
        if folder != self.folder:
            self.folder = folder
            self.folder_changed.emit(folder)

    def open_path(self, path: Path, demo: bool = False) -> None:
        """Open a plan or bring a picture in, once unsaved work is settled."""
        self._when_settled(lambda: self._open_now(path, demo))

    def _open_now(self, path: Path, demo: bool) -> None:
        self.demo_wanted = demo
        self.documents.open(path, keep_path=not demo)

    def _answer(self) -> str:
        """What happens to unsaved work: the artist's word, or discard where there is none."""
        history = self.desk.history
        if history is None or not history.past or not self.desk.unsaved:
            return "discard"
        return self.dialogs.unsaved(self._parent, history.now.title)

    def _when_settled(self, then: Callable[[], object]) -> None:
        """Ask once about unsaved work, then go on, unless the artist says cancel."""
        answer = self._answer()
        if answer == "discard":
            then()
        elif answer == "save":
            self.save(then)

    def new(self) -> None:
        """Bring a sketch in."""
        path = self.dialogs.sketch(self._parent)
        if path is not None:
            self.open_path(path)

    def open(self) -> None:
        """Open a plan."""
        path = self.dialogs.plan(self._parent)
        if path is not None:
            self.open_path(path)

    def save(self, then: Callable[[], object] | None = None) -> None:
        """Save the plan where it is; ask where if it is nowhere yet."""
        if self.desk.path is None:
            self.save_as(then)
        else:
            self.documents.save(self.desk.path, then)

    def save_as(self, then: Callable[[], object] | None = None) -> None:
        """Save the plan elsewhere."""
        if self.desk.history is None:
            return
        name = stem(self.desk.history.now.title) + ENDING
        start = self.desk.path or Path(user_documents_dir()) / name
        path = self.dialogs.save_as(self._parent, str(start))
        if path is not None:
            self.documents.save(path, then)

    def browse(self) -> None:
        """Choose the hand-off folder."""
        folder = self.dialogs.folder(self._parent, self.folder)
        if folder is not None:
            self.choose_folder(str(folder))

    def hand_off(self, kinds: list[str]) -> None:
        """Write the painting program's files."""
        self.documents.hand_off(Path(self.folder).expanduser(), kinds)

    def _ask_to_replace(self, folder: str, kinds: list[str], files: list[Path]) -> None:
        """Files are there that are not ours: only the artist may let them go."""
        names = ", ".join(f.name for f in files)
        line = self.tr("{names} in {folder} are there and not from here. Replace them?")
        if self.dialogs.replace(self._parent, line.format(names=names, folder=folder)):
            self.documents.hand_off(Path(folder), kinds, force=True)
        else:
            self.desk.told.emit(self.tr("Nothing was written; the files are as they were"), False)

    def may_close(self, close: Callable[[], object]) -> bool:
        """Whether the window may go now; after saving it asks to close again."""
        answer = self._answer()
        if answer == "save":
            self.save(close)
        return answer == "discard"
