"""The sketch's file, watched while its plan is open: what changes there is taken in, and what was
decided stays."""

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import NamedTuple, TypeAlias

from PySide6.QtCore import QObject, Signal

from umber_compass import document
from umber_compass.colour.packed import Packed
from umber_compass.document.following_sketch import Followed, followed, known_before, most_go
from umber_compass.document.pixels import Pixels, hash_of
from umber_compass.document.seeing import small_of
from umber_compass.document.splitting import split_picture
from umber_compass.formats import atomic, picture
from umber_compass.plan.model import Plan
from umber_compass.steps.sketch.kinds import AUTO, NONE, Settings
from umber_compass.window.desk.aside import Aside
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.file_watch import FileWatch
from umber_compass.window.desk.jobs import job, step
from umber_compass.window.desk.worker import error_line
from umber_compass.work import Tick

_SETTLES_AFTER = 500  # ms without a change, after which a file is taken to be written
# Told the file's name, how many regions would go of how many, the picture there is and the new one;
# gives whether it is taken in.
Asks: TypeAlias = Callable[[str, int, int, Packed, Packed], bool]


class Watching(QObject):
    """Follows one sketch file. `found` says what became of the regions after it was read."""

    found = Signal(object)  # Followed
    failed = Signal(str)  # a line, where it cannot be read
    known = Signal()  # whether the file is there to be watched

    def __init__(self, desk: Desk, asks: Asks) -> None:
        super().__init__(desk)
        self.desk, self.asks = desk, asks
        self._aside = Aside(self)
        self._complained = False  # whether a line stands that says the file is gone or broken
        self._known = False  # whether it was looked at since it is watched
        self.path: Path | None = None
        self.files = FileWatch(self, _SETTLES_AFTER)
        self.files.written.connect(self._on_written)
        self.files.gone.connect(self._on_gone)
        self.files.looked.connect(self._on_looked)
        desk.opened.connect(self.begin)
        desk.changed.connect(self._follow_path)

    def begin(self) -> None:
        """Another plan lies on the desk: watch its sketch from now on, and say where the file is
        another than the plan knows."""
        self.path, self._complained = None, False
        self.files.watch(())
        self._follow_path()

    def _follow_path(self) -> None:
        """Watch the file that the plan's sketch was read from, where that is known here."""
        key = self._key()
        path = self.desk.paths.of(key) if key else None
        if path == self.path:
            return
        self.path, self._known = path, False
        self.files.watch(() if path is None else (path,))

    def _key(self) -> str:
        """The plan's sketch."""
        history = self.desk.history
        return history.now.sketch.hash if history is not None else ""

    @property
    def is_watched(self) -> bool:
        """Whether the sketch's file is there to be watched."""
        return self.path is not None and self.files.has(self.path)

    def _on_written(self, path: Path) -> None:
        if self._known:
            self.read(path)
        else:
            self._compare(path)

    def _on_looked(self) -> None:
        self._known = True
        self.known.emit()

    def _compare(self, path: Path) -> None:
        """Say where a file is another than the plan knows: it changed while nobody watched."""
        key = self._key()

        def look() -> bool:
            return path.is_file() and hash_of(atomic.read(path, picture.MOST_BYTES)) != key

        def answer(other: bool) -> None:
            if other and path == self.path and key == self._key():
                line = self.tr("{name} changed since; File, Read the sketch again takes it in")
                self.desk.told.emit(line.format(name=path.name), False)

        self._aside.look(look, answer)

    def _on_gone(self, path: Path) -> None:
        line = self.tr("{name} is gone; the plan stays as it is. Read it again when it is back")
        self._complain(line.format(name=path.name))
        self.failed.emit(line.format(name=path.name))

    def _complain(self, line: str) -> None:
        self._complained = True
        self.desk.told.emit(line, True)

    def _is_whole_again(self, line: str) -> None:
        """What was said of a file that was gone or broken is past."""
        if self._complained:
            self._complained = False
            self.desk.session.acted.emit()
            self.desk.told.emit(line, False)

    def again(self) -> bool:
        """Read the sketch's file again, whether it changed or not; gives whether it is known where
        it lies."""
        if self.path is not None:
            self.read(self.path, at_once=True)
        return self.path is not None

    def read(
        self, path: Path, kind: str = "", settings: Settings | None = None, at_once: bool = False
    ) -> None:
        """Read a sketch, match its regions to the plan's, and take it in as one step. Without a
        kind it is read as the plan's own sketch was. One that cannot be read is tried again, as it
        may be half written, unless it is wished `at_once`."""
        desk, same = self.desk, not kind
        history = desk.history
        moments = () if history is None else (*history.future, *reversed(history.past))
        plans = [] if history is None else [history.now, *(m.plan for m in moments)]

        def work(plan: Plan, pixels: Pixels, tick: Tick) -> _Read | None:
            earlier = [p for p in plans if p.sketch.hash != plan.sketch.hash]
            return _read(path, kind, settings, plan, earlier, pixels, tick)

        def answer(read: _Read | None, _: Pixels) -> None:
            if read is None:
                line = self.tr("{name} is whole again, and as the plan knows it")
                self._is_whole_again(line.format(name=path.name))
                return
            found = read.found
            self._is_whole_again("")
            if same and most_go(read.plan, found) and not self._may_go(path, read):
                line = self.tr("{name} was not taken in; File, Read the sketch again asks anew")
                desk.told.emit(line.format(name=path.name), False)
                return
            desk.paths.note(found.sketch.hash, path)
            step(desk, found.edit)
            line = self.tr("{name} was read again: {what}")
            if not same:
                line = self.tr("{name} stands in the sketch’s place: {what}")
            desk.told.emit(line.format(name=path.name, what=found.says), False)
            self.found.emit(found)

        def fail(error: Exception) -> None:
            if not at_once and self.files.tell_again(path):
                return
            line = self.tr("{why} – the plan stays as it was; File, Read the sketch again")
            self._complain(line.format(why=error_line(error)))
            self.failed.emit(error_line(error))

        says = self.tr("Reading {name}").format(name=path.name)
        job(desk, "follow", work, answer, says, fail, of_sketch=True)

    def _may_go(self, path: Path, read: "_Read") -> bool:
        """Ask whether a sketch is taken in with which most regions go."""
        live = self.desk.live.bitmap
        if live is None:
            return True
        gone, count = len(read.found.gone), len(read.plan.regions)
        return self.asks(path.name, gone, count, live.packed, read.small)

    def close(self) -> None:
        """Watch nothing any more."""
        self.path = None
        self.files.close()


class _Read(NamedTuple):
    """A sketch that was read: for which plan, what came of it, and how it looks, small."""

    plan: Plan
    found: Followed
    small: Packed


def _read(
    path: Path,
    kind: str,
    settings: Settings | None,
    plan: Plan,
    earlier: Sequence[Plan],
    pixels: Pixels,
    tick: Tick,
) -> _Read | None:
    """A sketch read and matched to a plan; None where it is the plan's own. Bytes that an earlier
    plan has bring its regions back."""
    read = picture.read(path, lambda share: tick(share / 3))
    key, name = hash_of(read.data), document.plain_name(path.name)
    if not kind and key == plan.sketch.hash:
        return None
    known = next((p for p in earlier if p.sketch.hash == key), None)
    if known is not None and kind in ("", AUTO):
        return _Read(plan, known_before(plan, known, name), small_of(read.packed))
    own = kind or plan.sketch.kind
    own = AUTO if own == NONE else own  # a composition of ours has no kind to be read by
    settings = (settings or {}) if kind else plan.sketch.settings
    chosen = split_picture(read, path.name, own, settings, tick)
    tick(0.8)
    if kind == AUTO:  # another picture, and not the sketch's own file again
        from umber_compass.document.second_picture import replaced

        found = replaced(plan, pixels, read, chosen, name)
    else:
        found = followed(plan, pixels, read, chosen, name)
    return _Read(plan, found, small_of(read.packed))
