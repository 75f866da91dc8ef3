"""The sketch's file, watched while its plan is open: what changes there is taken in, and what was
decided stays."""

from pathlib import Path

from PySide6.QtCore import QFileSystemWatcher, QObject, Signal

from umber_compass import document
from umber_compass.document.following_sketch import Followed, followed
from umber_compass.document.pixels import hash_of
from umber_compass.document.splitting import split_picture
from umber_compass.formats import atomic, picture
from umber_compass.formats.atomic import Stamp
from umber_compass.steps.sketch.kinds import AUTO, NONE, Settings
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.worker import Urgency, said
from umber_compass.window.widgets.timers import single_shot
from umber_compass.work import Tick

_SETTLES_AFTER = 500  # ms without a change, after which a file is taken to be written
_TRIES, _AGAIN_AFTER = 4, 900  # a half-written file is read again so often, after so many ms


class Watching(QObject):
    """Follows one sketch file. `found` says what became of the regions after it was read."""

    found = Signal(object)  # Followed
    failed = Signal(str)  # a line, where it cannot be read

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.desk = desk
        self._watcher = QFileSystemWatcher(self)
        self._watcher.fileChanged.connect(self._on_changed)
        self._watcher.directoryChanged.connect(self._on_changed)
        self._settled = single_shot(self, _SETTLES_AFTER, self._look)
        self._again = single_shot(self, _AGAIN_AFTER, self._look)
        self._stamp: Stamp | None = None
        self._tries = 0
        self.path: Path | None = None
        desk.opened.connect(self.begin)
        desk.changed.connect(self._follow_path)

    def begin(self) -> None:
        """Another plan lies on the desk: watch its sketch from now on, and say where the file is
        another than the plan knows."""
        self.path = None
        self._follow_path()
        desk, path = self.desk, self.path
        if desk.history is None or path is None or self._stamp is None:
            return
        known = desk.history.now.sketch.hash

        def look(tick: Tick) -> bool:
            return hash_of(atomic.read(path, picture.MOST_BYTES)) != known

        def answer(other: bool) -> None:
            if other and path == self.path:
                line = self.tr("{name} changed since; File, Read the sketch again takes it in")
                desk.told.emit(line.format(name=path.name), False)

        # What cannot be read now is said when it is asked for.
        desk.worker.ask("sketch", look, answer, lambda error: None, urgency=Urgency.BENCH)

    def _follow_path(self) -> None:
        history = self.desk.history
        text = history.now.sketch.path if history is not None else ""
        path = Path(text) if text else None
        if path != self.path:
            self.path = path
            self._stamp = atomic.stamp(path) if path is not None else None
            self._watch()

    def _watch(self) -> None:
        """The file and its folder: a program may save by putting another file in its place."""
        old = [*self._watcher.files(), *self._watcher.directories()]
        if old:
            self._watcher.removePaths(old)
        if self.path is None:
            return
        wanted = [p for p in (self.path, self.path.parent) if p.exists()]
        if wanted:
            self._watcher.addPaths([str(p) for p in wanted])

    @property
    def is_watched(self) -> bool:
        """Whether the sketch's file is there to be watched."""
        return self.path is not None and self._stamp is not None

    def _on_changed(self, _: str) -> None:
        self._tries = 0
        self._settled.start()

    def _look(self) -> None:
        """The file may be another now."""
        if self.path is None:
            return
        now = atomic.stamp(self.path)
        if now == self._stamp:
            self._watch()
            return
        if now is None or not self.path.is_file():
            # Saved by rename: gone for a moment. Gone for good is said once.
            self._retry(
                self.tr("{name} is gone; the plan stays as it is. Read it again when it is back")
            )
            return
        self._stamp = now
        self._watch()
        self.read(self.path)

    def _retry(self, line: str) -> None:
        self._tries += 1
        if self._tries < _TRIES:
            self._again.start()
        elif self.path is not None:
            said_line = line.format(name=self.path.name)
            self.desk.told.emit(said_line, True)
            self.failed.emit(said_line)
            self._stamp = None
            self._watch()

    def again(self) -> None:
        """Read the sketch's file again, whether it changed or not."""
        history = self.desk.history
        if history is None:
            return
        if self.path is None:
            line = self.tr("It is not known where the sketch lies; replace it to say so")
            self.desk.told.emit(line, True)
            return
        self._tries = _TRIES
        self._stamp = atomic.stamp(self.path)
        self.read(self.path)

    def read(self, path: Path, kind: str = "", settings: Settings | None = None) -> None:
        """Read a sketch, match its regions to the plan's, and take it in as one step. Without a
        kind it is read as the plan's own sketch was."""
        desk = self.desk
        if desk.history is None or desk.pixels is None:
            return
        plan, pixels = desk.history.now, desk.pixels
        same = not kind
        own = plan.sketch.kind if same else kind
        own = AUTO if own == NONE else own  # a composition of ours has no kind to be read by
        told = plan.sketch.settings if same else (settings or {})

        def work(tick: Tick) -> Followed | None:
            read = picture.read(path, lambda share: tick(share / 3))
            if same and hash_of(read.data) == plan.sketch.hash:
                return None
            chosen = split_picture(read, path.name, own, told, tick)
            tick(0.8)
            return followed(plan, pixels, read, chosen, document.plain_name(path.name), path)

        def answer(found: Followed | None) -> None:
            if desk.pixels is not pixels or desk.history is None or found is None:
                return
            if desk.history.now.sketch is not plan.sketch:
                self.read(path, kind, settings)  # its regions changed meanwhile: match those
                return
            desk.seal()
            desk.do(found.edit)
            line = self.tr("{name} was read again: {what}")
            if not same:
                line = self.tr("{name} stands in the sketch’s place: {what}")
            desk.told.emit(line.format(name=path.name, what=found.says), False)
            self.found.emit(found)

        def fail(error: Exception) -> None:
            if self._tries < _TRIES - 1 and path == self.path:
                self._tries += 1
                self._stamp = None  # half written perhaps: look again
                self._again.start()
                return
            line = self.tr("{why} – the plan stays as it was; File, Read the sketch again")
            desk.told.emit(line.format(why=said(error)), True)
            self.failed.emit(said(error))

        says = self.tr("Reading {name}").format(name=path.name)
        desk.worker.ask("follow", work, answer, fail, says, Urgency.FILE)

    def close(self) -> None:
        """Watch nothing any more."""
        self._settled.stop()
        self._again.stop()
        self.path = None
        self._watch()
