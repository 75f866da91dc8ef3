"""The painting beside its plan: its file is watched, and each save is held against the plan on the
worker."""

import hashlib
import time
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple

from PySide6.QtCore import QObject, Signal

from umber_compass.colour.packed import Packed
from umber_compass.plan.journal import Drifted, Look, looks_of
from umber_compass.steps.pipeline import Derived
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.journaling import Journaling
from umber_compass.window.desk.remembered import Remembered
from umber_compass.window.desk.worker import error_line
from umber_compass.window.widgets.timers import single_shot
from umber_compass.work import Tick

if TYPE_CHECKING:
    from umber_compass.document.painting import Compared
    from umber_compass.steps.checks import Result
    from umber_compass.window.desk.file_watch import FileWatch

AFTER = 300  # ms of rest, after which a changed plan is compared anew
_MOST_FILES = 12
_TOLD = 12  # drifts that a look keeps


class Watched(NamedTuple):
    """A painting as it was last read, held against the plan."""

    path: Path
    compared: "Compared"
    checks: "list[Result]"
    of: Derived


class PaintingWatch(QObject):
    """Says what was found of the painting that is looked at; several files may be watched, as those
    of several artists."""

    found = Signal(object)  # Watched
    failed = Signal(object, str)  # Path, and why it could not be compared
    files_changed = Signal()
    waits = Signal(str)  # what is being done

    def __init__(
        self,
        desk: Desk,
        journaling: Journaling,
        remembered: Remembered,
        clock: Callable[[], float] = time.time,
    ) -> None:
        super().__init__(desk)
        self._desk, self.journaling, self._remembered = desk, journaling, remembered
        self.clock = clock
        self.files: tuple[Path, ...] = ()
        self.current: Path | None = None
        self._read: dict[Path, tuple[Packed, tuple[int, int]]] = {}
        self.shown: Watched | None = None  # what was found last of it
        self._new: set[Path] = set()  # files whose last save is not compared yet
        self._watch: FileWatch | None = None  # where a file is watched
        self.timer = single_shot(self, AFTER, self._again)
        desk.opened.connect(self._look_up)
        desk.filed.connect(lambda _: self._keep())
        desk.closed.connect(self.close)

    @property
    def looks(self) -> tuple[Look, ...]:
        """The looks at that painting, the oldest first."""
        if self.current is None:
            return ()
        return looks_of(self.journaling.journal, *_named(self.current))

    def note(self, text: str) -> None:
        """A note on the last of them."""
        if self.current is not None:
            self.journaling.note_look(*_named(self.current), text)

    def add(self, path: Path) -> None:
        """Watch a file too, and look at it."""
        others = tuple(p for p in self.files if p != path)
        self.files = (*others, path)[-_MOST_FILES:]
        self.current = path
        self._keep()
        self.files_changed.emit()
        self._watch_files()
        if path in self._read:
            self._again()

    def choose(self, path: Path) -> None:
        """Look at another of the files."""
        self.current, self.shown = path, None
        self.files_changed.emit()
        self._again()

    def drop(self) -> None:
        """Watch the file that is looked at no more."""
        self.files = tuple(p for p in self.files if p != self.current)
        self.current, self.shown = (self.files[-1] if self.files else None), None
        self._keep()
        self._watch_files()
        self.files_changed.emit()
        self._again()

    def follow(self, seen: bool) -> None:
        """The plan may be another; whether the painting is seen now."""
        shown = self.shown
        if seen and shown is not None and shown.of is not self._desk.derived:
            self.timer.start()

    def _look_up(self) -> None:
        """Another plan lies on the desk: its painting is known from the last time."""
        self._read, self.shown = {}, None
        self._new.clear()
        path = self._desk.path
        said = "" if path is None else self._remembered.word(_key(path))
        self.files = tuple(Path(line) for line in said.splitlines() if line)[:_MOST_FILES]
        self.current = self.files[-1] if self.files else None
        self._watch_files()
        self.files_changed.emit()

    def _watch_files(self) -> None:
        """Watch the files that are wished; most plans have none."""
        if self._watch is None and self.files:
            from umber_compass.window.desk.file_watch import FileWatch

            self._watch = FileWatch(self)
            self._watch.written.connect(self._take)
            self._watch.gone.connect(self._on_gone)
        if self._watch is not None:
            self._watch.watch(self.files)

    def _keep(self) -> None:
        path = self._desk.path
        if path is not None:
            self._remembered.keep(_key(path), "\n".join(str(p.absolute()) for p in self.files))

    def _on_gone(self, path: Path) -> None:
        self.failed.emit(path, self.tr("{n} is gone; save it there again").format(n=path.name))

    def _take(self, path: Path) -> None:
        """A file was written: read it, and compare it where it is looked at."""

        def read(tick: Tick) -> tuple[Packed, tuple[int, int]]:
            from umber_compass.document.painting import read_painting

            return read_painting(path, tick)

        def answer(found: tuple[Packed, tuple[int, int]]) -> None:
            if path in self.files:  # another plan may have come meanwhile
                self._read[path] = found
                self._new.add(path)
                self._compare(path)

        def fail(error: Exception) -> None:
            # It may be half written.
            if self._watch is None or not self._watch.tell_again(path):
                self.failed.emit(path, error_line(error))

        self._desk.worker.ask(
            f"painting {path}", read, answer, fail, self.tr("Reading {n}").format(n=path.name)
        )

    def _again(self) -> None:
        """Compare what is looked at, and what was saved while a hand dragged."""
        for path in {self.current, *self._new} & set(self._read):
            assert path is not None  # only paths were read
            self._compare(path)

    def _compare(self, path: Path) -> None:
        """Hold a painting against the plan; one that is not looked at only leaves its mark in the
        journal."""
        derived = self._desk.derived
        if derived is None:
            return
        if self._desk.session.dragging:
            self.timer.start()
            return
        packed, size = self._read[path]
        pixels = self._desk.pixels
        shown = self.shown
        before = None if shown is None or shown.path != path else shown.compared
        if path == self.current:
            self.waits.emit(self.tr("Comparing {name} …").format(name=path.name))

        def work(tick: Tick) -> Watched:
            from umber_compass.document.painting import compare
            from umber_compass.steps.painting.judged import worse_checks

            own = derived.of(derived.plan, aside=True)
            compared = compare(own, packed, path.name, size, before, tick)
            checks = worse_checks(own.think(tick), compared.drifts, tick)
            return Watched(path, compared, checks, derived)

        def answer(found: Watched) -> None:
            if self._desk.pixels is not pixels:
                return  # it was compared with a plan that is gone
            if path in self._new:
                self._new.discard(path)
                look = _look_at(found, self.clock())
                mine = looks_of(self.journaling.journal, *_named(path))
                if not mine or not _is_same(look, mine[-1]):
                    self.journaling.add_look(look)
            if path == self.current:
                self.shown = found
                self.found.emit(found)

        self._desk.worker.ask(
            f"painting compared {path}",
            work,
            answer,
            lambda error: self.failed.emit(path, error_line(error)),
            self.tr("Comparing the painting"),
        )

    def close(self) -> None:
        """Watch nothing any more."""
        self.timer.stop()
        if self._watch is not None:
            self._watch.close()


def _named(path: Path) -> tuple[str, str]:
    """What a look says of its file: the name, and a digest of where it lies."""
    return path.name[-255:], _key(path)[-12:]


def _key(path: Path) -> str:
    said = str(path.absolute()).encode("utf-8", "replace")
    return "painting-" + hashlib.sha256(said).hexdigest()[:24]


def _is_same(one: Look, other: Look) -> bool:
    """Whether two looks are at the very same painting: it was read when its plan was opened."""
    seen = [(e.file_name, e.painted, e.darks, e.middle, e.lights) for e in (one, other)]
    return seen[0] == seen[1]


def _look_at(found: Watched, at: float) -> Look:
    """What the journal keeps of a painting."""
    from umber_compass.steps.painting.telling import drift_words, rework

    compared = found.compared
    levels = compared.levels
    worst = rework(compared.drifts, found.of.shares)[:_TOLD]
    whole = compared.whole
    name, place = _named(found.path)
    return Look(
        at=max(at, 0.0),
        file_name=name,
        place=place,
        painted=min(compared.painted, 1.0),
        darks=levels[0],
        middle=levels[1],
        lights=levels[2],
        by=(whole.darks, whole.middle, whole.lights),
        drifted=tuple(Drifted(region=d.region, text=str(drift_words(d))[:500]) for d in worst),
    )
