"""What the artist does with files, asking once before unsaved work is left."""

from collections.abc import Callable
from pathlib import Path

from platformdirs import user_documents_dir
from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QWidget

from umber_compass.formats.plan_file import ENDING
from umber_compass.steps.handoff.palette import stem
from umber_compass.steps.sketch.kinds import AUTO
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
        self.documents.changed.connect(self._ask_about_changed)
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
        """Ask once about unsaved work, then go on, unless the artist says cancel; gives whether
        they did not."""
        answer = _answer(self.desk, self.dialogs, self._parent)
        if answer == "discard":
            then()
        elif answer == "save":
            # Once more when it is saved: work done while it was being written is asked about too.
            self.save(lambda: self.when_settled(then))
        return answer != "cancel"

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
        typed = self.dialogs.save_as(self._parent, str(start))
        if typed is None:
            return
        # Only the ending is added: `sea.v2` is a name. The dialog asked about what was typed, so
        # what is really written is asked about here.
        path = typed if typed.suffix.lower() == ENDING else typed.with_name(typed.name + ENDING)
        if path != typed and path.exists():
            line = self.tr("{name} is there already. Replace it?").format(name=path.name)
            if not self.dialogs.replace(self._parent, line):
                return
        self.documents.save(path, then, over=True)

    def _ask_about_changed(self, path: Path, then: Callable[[], object] | None) -> None:
        """Something else changed the plan's file: the artist says which is kept, or both."""
        answer = self.dialogs.changed(self._parent, path.name)
        if answer == "replace":
            self.documents.save(path, then, over=True)
        elif answer == "elsewhere":
            self.save_as(then)
        else:
            line = self.tr("Not saved; {name} is as the other left it").format(name=path.name)
            self.desk.told.emit(line, False)

    def browse(self) -> None:
        """Choose the hand-off folder."""
        folder = self.dialogs.folder(self._parent, self.folder)
        if folder is not None:
            self.choose_folder(str(folder))

    def hand_off(self, kinds: list[str]) -> None:
        """Write the painting program's files."""
        try:
            folder = Path(self.folder).expanduser()
        except RuntimeError:
            line = self.tr("{folder}: there is no such person here; choose another folder")
            self.desk.told.emit(line.format(folder=self.folder), True)
            return
        self.documents.hand_off(folder, kinds)

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
        answer = _answer(self.desk, self.dialogs, self._parent)
        if answer == "save":
            self.save(close)
        return answer == "discard"


def _answer(desk: Desk, dialogs: Dialogs, parent: QWidget) -> str:
    """What happens to unsaved work: the artist's word, or discard where there is none."""
    if desk.history is None or not desk.unsaved:
        return "discard"
    return dialogs.unsaved(parent, desk.history.now.title)
