"""Plans read, saved and handed off, all on the worker."""

from collections.abc import Callable, Sequence
from pathlib import Path

from PySide6.QtCore import QObject, Signal

from umber_compass import document
from umber_compass.document import Opened
from umber_compass.formats.plan_file import ENDING
from umber_compass.picture.relief import Relief
from umber_compass.plan.light_edits import rig_of
from umber_compass.steps.pipeline import Pipeline
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.worker import Urgency, said
from umber_compass.work import Tick


class Documents(QObject):
    """Files in and out of the desk."""

    foreign = Signal(str, list, list)  # folder, kinds, files there that are not ours

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.desk = desk

    def open(self, path: Path, keep_path: bool = True) -> None:
        """Read a plan, or bring a picture in, off the GUI thread."""
        desk = self.desk
        is_plan = path.suffix.lower() == ENDING
        self._begin(self.tr("Reading {name} …").format(name=path.name))
        at = path if is_plan and keep_path else None

        def answer(found: tuple[Opened, Relief | None]) -> None:
            desk.lay(found[0], at, found[1])
            desk.told.emit("", False)
            desk.live.say_damage()

        def read(tick: Tick) -> tuple[Opened, Relief | None]:
            if not is_plan:
                return document.bring_in(path), None
            kept = desk.live.kept
            opened = document.open_plan(path, kept)
            if kept is None or not rig_of(opened.plan).on:
                return opened, None
            return opened, kept.relief(Pipeline(opened.pixels.drawings).derive(opened.plan))

        says = self.tr("Reading {name}").format(name=path.name)
        desk.worker.ask("open", read, answer, self._failed, says, Urgency.FILE)

    def save(self, path: Path, then: Callable[[], object] | None = None) -> None:
        """Write the plan, off the GUI thread."""
        desk = self.desk
        if desk.history is None or desk.pixels is None:
            return
        plan, pixels = desk.history.now, desk.pixels
        shown = None if desk.live.bitmap is None else desk.live.bitmap.packed.copy()
        desk.session.acted.emit()

        def answer(_: object) -> None:
            desk.saved, desk.path = plan, path
            desk.told.emit(self.tr("Saved {name}").format(name=path.name), False)
            desk.changed.emit()
            if then is not None:
                then()

        says = self.tr("Saving {name}").format(name=path.name)
        desk.worker.ask(
            "save",
            lambda tick: document.save(plan, pixels, path, shown),
            answer,
            self._failed,
            says,
            Urgency.FILE,
        )

    def hand_off(self, folder: Path, kinds: Sequence[str], force: bool = False) -> None:
        """Write the painting program's files, off the GUI thread; where one is there that is not
        ours, that is said instead."""
        desk = self.desk
        if desk.history is None or desk.pixels is None:
            return
        plan, pixels = desk.history.now, desk.pixels
        desk.session.acted.emit()

        def work(tick: Tick) -> tuple[list[Path], bool]:
            foreign = [] if force else document.others_files(plan, folder, kinds)
            if foreign:
                return foreign, False
            return document.hand_off(plan, pixels, folder, kinds, force, tick), True

        def answer(found: tuple[list[Path], bool]) -> None:
            files, written = found
            if not written:
                self.foreign.emit(str(folder), list(kinds), files)
                return
            names = ", ".join(f.name for f in files)
            line = self.tr("Wrote {names} to {folder}").format(names=names, folder=folder)
            desk.told.emit(line, False)

        says = self.tr("Writing the files")
        desk.worker.ask("handoff", work, answer, self._failed, says, Urgency.FILE)

    def _begin(self, line: str) -> None:
        self.desk.session.acted.emit()
        self.desk.told.emit(line, False)

    def _failed(self, error: Exception) -> None:
        self.desk.told.emit(said(error), True)
