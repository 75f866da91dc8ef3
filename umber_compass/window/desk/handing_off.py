"""The painting program's files: which folder they go to, and whose files there may be replaced."""

from pathlib import Path

from platformdirs import user_documents_dir
from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QWidget

from umber_compass.window.desk.documents import Documents
from umber_compass.window.desk.folder_links import FolderLinks, Link
from umber_compass.window.widgets.dialogs import Dialogs


class HandingOff(QObject):
    """Chooses a folder and has the files written there."""

    folder_changed = Signal(str)  # where hand-off files will go

    def __init__(self, documents: Documents, parent: QWidget, dialogs: Dialogs) -> None:
        super().__init__(parent)
        self.documents, self.dialogs, self._parent = documents, dialogs, parent
        self.desk = documents.desk
        self.documents.foreign.connect(self._ask_to_replace)
        self.folder = ""  # once one was offered or chosen
        self.links: FolderLinks | None = None

    def follow(self, links: FolderLinks) -> None:
        """Take these links, and go to the folder of the one that is on."""
        self.links = links
        links.changed.connect(self._on_linked)

    def _on_linked(self, link: Link | None) -> None:
        # A blank that is being typed at its end stays.
        if link is not None and link.folder != self.folder.strip():
            self.choose_folder(link.folder)

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
        line = self.tr(
            "{names} in {folder} already exist, not written by this program. Replace them?"
        )
        if self.dialogs.replace(self._parent, line.format(names=names, folder=folder)):
            self.documents.hand_off(Path(folder), kinds, force=True)
        else:
            self.desk.told.emit(self.tr("Nothing was written; the files are as they were"), False)
