"""Files that another program writes, watched: each is told once it is written whole."""

from collections.abc import Sequence
from pathlib import Path

from PySide6.QtCore import QFileSystemWatcher, QObject, Signal

from umber_compass.formats import atomic
from umber_compass.formats.atomic import Stamp
from umber_compass.window.desk.aside import Aside
from umber_compass.window.widgets.timers import single_shot

SETTLES_AFTER = 200  # ms without a change, after which a file is taken to be written


class FileWatch(QObject):
    """Says which file was written; the folders are watched too, for many programs save by putting
    another file in the old one's place."""

    written = Signal(object)  # Path

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._stamps: dict[Path, Stamp | None] = {}
        self._aside = Aside(self)
        self._settled = single_shot(self, SETTLES_AFTER, self._look)
        self._watcher = QFileSystemWatcher(self)
        self._watcher.fileChanged.connect(lambda _: self._settled.start())
        self._watcher.directoryChanged.connect(lambda _: self._settled.start())

    def watch(self, paths: Sequence[Path]) -> None:
        """Watch these files from now on, and no others."""
        self._stamps = {p: self._stamps.get(p) for p in paths}
        self._look()

    def _look(self) -> None:
        """Ask for all stamps elsewhere: a network folder may not answer."""
        paths = tuple(self._stamps)
        if paths:
            self._aside.look(lambda: [(p, atomic.stamp(p)) for p in paths], self._answer)
        else:
            self._renew(())

    def _answer(self, found: list[tuple[Path, Stamp | None]]) -> None:
        there = []
        for path, stamp in found:
            if path not in self._stamps:
                continue
            there += [str(path), str(path.parent)] if stamp is not None else [str(path.parent)]
            if stamp is not None and stamp != self._stamps[path]:
                self._stamps[path] = stamp
                self.written.emit(path)
        self._renew(there)

    def _renew(self, wanted: Sequence[str]) -> None:
        """Watch what is there: one that was replaced is watched no more by itself."""
        now = {*self._watcher.files(), *self._watcher.directories()}
        gone, new = now - set(wanted), set(wanted) - now
        if gone:
            self._watcher.removePaths(sorted(gone))
        if new:
            self._watcher.addPaths(sorted(new))

    def close(self) -> None:
        """Watch nothing any more."""
        self._settled.stop()
        self.watch(())
