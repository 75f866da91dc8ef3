"""Files that another program writes, watched: each is told once it is written whole."""

from collections.abc import Sequence
from pathlib import Path

from PySide6.QtCore import QFileSystemWatcher, QObject, Signal

from umber_compass.formats import atomic
from umber_compass.formats.atomic import Stamp
from umber_compass.window.desk.aside import Aside
from umber_compass.window.widgets.timers import single_shot

SETTLES_AFTER = 200  # ms without a change, after which a file is taken to be written
_AGAIN_AFTER = 400  # ms, after which one that is half written or gone is looked at again
_TRIES = 4  # times that it is looked at


class FileWatch(QObject):
    """Says which file was written; the folders are watched too, for many programs save by putting
    another file in the old one's place."""

    written = Signal(object)  # Path
    gone = Signal(object)  # Path, of a file that was there and stays away
    looked = Signal()  # it is known which files are there

    def __init__(self, parent: QObject, settles_after: int = SETTLES_AFTER) -> None:
        super().__init__(parent)
        self._stamps: dict[Path, Stamp | None] = {}
        self._tries: dict[Path, int] = {}
        self._half: set[Path] = set()  # told, and to be told again
        self._aside = Aside(self)
        self.settled = single_shot(self, settles_after, self._look)
        self.again = single_shot(self, _AGAIN_AFTER, self._look)
        self._watcher = QFileSystemWatcher(self)
        self._watcher.fileChanged.connect(self._on_changed)
        self._watcher.directoryChanged.connect(self._on_changed)

    def watch(self, paths: Sequence[Path]) -> None:
        """Watch these files from now on, and no others."""
        self._stamps = {p: self._stamps.get(p) for p in paths}
        self._tries.clear()
        self._half.clear()
        self._look()

    def has(self, path: Path) -> bool:
        """Whether a file is watched and there."""
        return self._stamps.get(path) is not None

    def tell_again(self, path: Path) -> bool:
        """Tell of a file once more a little later: it could not be read, and may be half written.
        False where that was done often enough."""
        if path not in self._stamps or not self._may_try(path):
            return False
        self._half.add(path)
        self.again.start()
        return True

    def _may_try(self, path: Path) -> bool:
        self._tries[path] = self._tries.get(path, 0) + 1
        return self._tries[path] < _TRIES

    def _on_changed(self, _: str) -> None:
        self._tries.clear()
        self.settled.start()

    def _look(self) -> None:
        """Ask for all stamps elsewhere: a network folder may not answer."""
        paths = tuple(self._stamps)
        if paths:
            self._aside.look(lambda: [(p, atomic.stamp(p)) for p in paths], self._answer)
        else:
            self._renew(())

    def _answer(self, found: Sequence[tuple[Path, Stamp | None]]) -> None:
        there = []
        for path, stamp in found:
            if path not in self._stamps:
                continue
            there += [str(path), str(path.parent)] if stamp is not None else [str(path.parent)]
            self._take(path, stamp)
        self._renew(there)
        if [p for p, _ in found] == list(self._stamps):
            self.looked.emit()

    def _take(self, path: Path, stamp: Stamp | None) -> None:
        before = self._stamps[path]
        if stamp is not None and (stamp != before or path in self._half):
            self._stamps[path] = stamp
            self._half.discard(path)
            self.written.emit(path)
        elif stamp is None and before is not None:
            # Gone for a moment, where it is saved by putting another in its place.
            if self._may_try(path):
                self.again.start()
            else:
                self._stamps[path] = None
                self.gone.emit(path)

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
        self.settled.stop()
        self.again.stop()
        self.watch(())
