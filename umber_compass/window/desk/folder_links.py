"""A folder that follows a plan: the chosen files are written there anew whenever it is saved."""

import hashlib
from pathlib import Path
from typing import NamedTuple

import msgspec
from PySide6.QtCore import QObject, Signal

from umber_compass.steps.handoff.palette import KINDS
from umber_compass.window.desk.documents import Documents
from umber_compass.window.desk.remembered import Remembered


class Link(NamedTuple):
    """Which files go where."""

    folder: str
    kinds: tuple[str, ...]


class FolderLinks(QObject):
    """Knows the link of the plan that is on, and writes its files after a save. Links are kept by
    the plan's path, on this machine alone."""

    changed = Signal(object)  # Link, or None

    def __init__(self, documents: Documents, remembered: Remembered) -> None:
        super().__init__(documents)
        self._documents, self._remembered = documents, remembered
        self.link: Link | None = None
        documents.saved.connect(self._on_saved)
        documents.desk.opened.connect(self._look_up)

    def set(self, link: Link | None) -> None:
        """Write these files at every save from now on; None: none any more."""
        self.link = link if link is not None and link.kinds and link.folder else None
        path = self._documents.desk.path
        if path is not None:
            self._keep(path)
        self.changed.emit(self.link)

    def _look_up(self) -> None:
        path = self._documents.desk.path
        self.link = None if path is None else _read(self._remembered.word(_key(path)))
        self.changed.emit(self.link)

    def _keep(self, path: Path) -> None:
        said = "" if self.link is None else msgspec.json.encode(self.link).decode()
        self._remembered.keep(_key(path), said)

    def _on_saved(self, path: Path) -> None:
        if self.link is None:
            return
        self._keep(path)  # it may lie there for the first time
        try:
            folder = Path(self.link.folder).expanduser()
        except RuntimeError:  # there is no such person here
            folder = Path(self.link.folder)
        self._documents.hand_off(folder, list(self.link.kinds), linked=True)


def _key(path: Path) -> str:
    return (
        "link-" + hashlib.sha256(str(path.absolute()).encode("utf-8", "replace")).hexdigest()[:24]
    )


def _read(said: str) -> Link | None:
    """A link as it was kept; None for what is none."""
    try:
        link = msgspec.json.decode(said, type=Link) if said else None
    except msgspec.DecodeError:
        return None
    return link if link is not None and set(link.kinds) <= set(KINDS) else None
