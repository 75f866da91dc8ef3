"""Plans read, saved and handed off, all on the worker."""

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import NamedTuple, TypeAlias

from PySide6.QtCore import QObject, Signal

from umber_compass import document
from umber_compass.document import Pixels, Ready, ready
from umber_compass.document.seeing import small_of
from umber_compass.formats import atomic, picture, thumbnail
from umber_compass.formats.atomic import Stamp
from umber_compass.formats.plan_file import ENDING
from umber_compass.plan.edits import study
from umber_compass.plan.model import Plan
from umber_compass.steps.harmony.scheme import as_read
from umber_compass.steps.sketch.compositions import COMPOSITIONS
from umber_compass.steps.sketch.kinds import AUTO
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.keeping import changes_since
from umber_compass.window.desk.session import FIRST_WITH_SKETCH
from umber_compass.window.desk.worker import OPEN, Urgency
from umber_compass.words import Refusal, words
from umber_compass.work import Tick

_SEEN_PX = 1280  # the longer side of what is shown while it is read

Settle: TypeAlias = Callable[[Callable[[], object]], object]


class _Read(NamedTuple):
    """What was read, and the state of the file it was read from."""

    ready: Ready
    stamp: Stamp | None = None


class _Written(NamedTuple):
    """What came of saving: whether the file was written, what of, and its state now."""

    is_written: bool
    plan: Plan
    stamp: Stamp | None


class Documents(QObject):
    """Files in and out of the desk."""

    changed = Signal(object, object)  # the plan's file, changed by something else; what was next

    saved = Signal(object)  # the file that the plan that is on was written to

    begun = Signal(str)  # something is read, in words
    seen = Signal(object, bool)  # its picture, small; whether that is only a sketch yet
    ended = Signal()  # it was read, or cannot be
    foreign = Signal(str, list, list)  # folder, kinds, files there that are not ours

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.desk = desk
        self._saving: list[tuple[Pixels, Path]] = []  # asked for and not yet done

    def open(self, path: Path, keep_path: bool, settle: Settle, kind: str = AUTO) -> None:
        """Read a plan, or bring a picture in, off the GUI thread. `settle` is asked before it takes
        the place of what is on the desk then: there may be work in it that was not there before."""
        desk = self.desk
        is_plan = path.suffix.lower() == ENDING
        at = path if is_plan and keep_path else None

        def read(tick: Tick) -> _Read:
            stamp = atomic.stamp(path)  # before it is read: a later change is seen when saving
            if not is_plan:
                found = picture.read(path, lambda share: tick(share / 2))
                self.seen.emit(small_of(found.packed, _SEEN_PX), True)
                return _Read(ready(document.take_in(found, path.name, None, kind, tick)))
            self._show_thumbnail(path)
            kept = desk.live.kept
            return _Read(ready(document.open_plan(path, kept, tick), kept), stamp)

        self._take(path.name, read, at, is_plan, settle, path)

    def take_in(self, data: bytes, name: str, settle: Settle) -> None:
        """Bring in a picture that lies in no file, by the bytes of one, as `open` does."""

        def read(tick: Tick) -> _Read:
            found = picture.decode(data, name, tick)
            self.seen.emit(small_of(found.packed, _SEEN_PX), True)
            return _Read(ready(document.take_in(found, name, tick=tick)))

        self._take(name, read, None, False, settle)

    def compose(self, name: str, settle: Settle) -> None:
        """Begin from a composition, as `open` does."""

        def read(tick: Tick) -> _Read:
            return _Read(ready(document.compose(name)))

        self._take(COMPOSITIONS[name].title, read, None, False, settle)

    def _take(
        self,
        name: str,
        read: Callable[[Tick], _Read],
        at: Path | None,
        is_plan: bool,
        settle: Settle,
        source: Path | None = None,
    ) -> None:
        """Have something read, and lay it on the desk once that is settled."""
        desk = self.desk
        self._begin("")  # the stage says it, over the picture
        says = self.tr("Reading {name}").format(name=name)
        self.begun.emit(says)

        def fail(error: Exception) -> None:
            self.ended.emit()
            desk.worker.say_failed(error)

        def answer(found: _Read) -> None:
            self.ended.emit()
            opened = found.ready.opened

            def lay() -> None:
                if not is_plan:
                    desk.session.open_step(FIRST_WITH_SKETCH)
                if source is not None and not is_plan:
                    desk.paths.note(opened.plan.sketch.hash, source)
                desk.lay(found.ready, at, found.stamp)
                read = str(as_read(study(opened.plan)))
                desk.told.emit(opened.says if is_plan else f"{opened.says}. {read}", False)
                desk.live.say_damage()

            settle(lay)

        desk.worker.ask(OPEN, read, answer, fail, says, Urgency.FILE)

    def _show_thumbnail(self, path: Path) -> None:
        """Have what a plan file keeps as its picture shown; one that keeps none shows none."""
        try:
            found = picture.decode(thumbnail.read(path), path.name)
        except Refusal:
            return
        self.seen.emit(found.packed, False)

    def path_of_plan(self) -> Path | None:
        """The file that the plan on the desk lies in, or will once what was asked for is done."""
        pending = [path for pixels, path in self._saving if pixels is self.desk.pixels]
        return pending[-1] if pending else self.desk.path

    def save(
        self, path: Path, then: Callable[[], object] | None = None, over: bool = False
    ) -> None:
        """Write the plan, off the GUI thread, after all that was asked for before. If it is the
        plan's own file, and something else has changed that since, `changed` says so instead,
        unless `over` is said."""
        desk = self.desk
        if desk.history is None or desk.pixels is None:
            return
        desk.session.taking.emit()
        desk.session.acted.emit()
        asked, pixels = desk.history.now, desk.pixels
        saving = (pixels, path)
        self._saving.append(saving)

        def prepare() -> Callable[[Tick], _Written]:
            here = desk.pixels is pixels and desk.history is not None
            plan = desk.history.now if here and desk.history is not None else asked
            own = here and path == desk.path
            expected = desk.stamp if own and not over else None
            bitmap = desk.live.bitmap if here else None
            shown = None if bitmap is None else bitmap.packed.copy()
            history = desk.history if here else None
            changes = [] if history is None else changes_since(history, desk.saved)

            def work(tick: Tick) -> _Written:
                now = atomic.stamp(path)
                if expected is not None and now is not None and now != expected:
                    return _Written(False, plan, now)
                thumbnail = document.save(plan, pixels, path, shown)
                stamp = atomic.stamp(path)
                desk.kept_work.add_version(plan, pixels, path, thumbnail, changes)
                return _Written(True, plan, stamp)

            return work

        def answer(found: _Written) -> None:
            self._saving.remove(saving)
            same = desk.pixels is pixels  # another plan may have come meanwhile
            if not found.is_written:
                if same:
                    self.changed.emit(path, then)
                return
            if same:
                desk.lies_in(path, found.plan, found.stamp)
            desk.told.emit(self.tr("Saved {name}").format(name=path.name), False)
            if same:
                self.saved.emit(path)
            if then is not None and same:
                then()

        def fail(error: Exception) -> None:
            self._saving.remove(saving)
            desk.worker.say_failed(error)

        desk.orders.ask(
            "save", prepare, answer, fail, self.tr("Saving {name}").format(name=path.name)
        )

    def hand_off(
        self, folder: Path, kinds: Sequence[str], force: bool = False, linked: bool = False
    ) -> None:
        """Write the painting program's files, off the GUI thread; where one is there that is not
        ours, that is said instead. By a link nothing is asked, and no folder is made anew."""
        desk = self.desk
        if desk.history is None or desk.pixels is None:
            return
        desk.session.taking.emit()
        desk.session.acted.emit()
        plan, pixels = desk.history.now, desk.pixels

        def work(tick: Tick) -> tuple[list[Path], bool]:
            if linked and not folder.is_dir():
                line = words("is gone: its files were not written; choose a folder again")
                raise Refusal(str(folder), line)
            foreign = [] if force else document.others_files(plan, folder, kinds)
            if foreign:
                return foreign, False
            return document.hand_off(plan, pixels, folder, kinds, force, tick), True

        def answer(found: tuple[list[Path], bool]) -> None:
            files, written = found
            names = ", ".join(f.name for f in files)
            if not written and linked:
                line = self.tr(
                    "{names} in {folder} were not written by this program and stay as they are;"
                    " press Write files to replace them"
                )
                desk.told.emit(line.format(names=names, folder=folder), True)
                return
            if not written:
                self.foreign.emit(str(folder), list(kinds), files)
                return
            line = self.tr("Wrote {names} to {folder}").format(names=names, folder=folder)
            desk.told.emit(line, False)

        says = self.tr("Writing the files")
        desk.orders.ask("handoff", lambda: work, answer, says=says)

    def _begin(self, line: str) -> None:
        self.desk.session.acted.emit()
        self.desk.told.emit(line, False)
