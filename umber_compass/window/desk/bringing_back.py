"""Work that was not saved when a program ended, and earlier versions of a plan: found, brought
back, put aside."""

from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple

import msgspec
from PySide6.QtCore import QObject, Signal

from umber_compass import document
from umber_compass.document import Opened, Pixels, Ready
from umber_compass.formats import atomic, plan_file
from umber_compass.formats.records import Entry
from umber_compass.plan.edits import Edit
from umber_compass.plan.model import Plan
from umber_compass.window.desk.aside import Aside
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.documents import Settle
from umber_compass.window.desk.jobs import job, step
from umber_compass.window.desk.worker import OPEN, Urgency
from umber_compass.words import Refusal, words
from umber_compass.work import Tick


class Left(NamedTuple):
    """Unsaved work, and whether the plan's file is still the one it was done on."""

    entry: Entry
    has_file: bool
    is_other: bool  # whether that file was written since


class BringingBack(QObject):
    """Everything here is read off the GUI thread."""

    found = Signal(object)  # list of Left
    versions = Signal(object, object)  # list of Entry, and of Left: work that was put aside

    def __init__(self, desk: Desk, keep: Callable[[], bool]) -> None:
        super().__init__(desk)
        self._desk, self._kept, self._keep = desk, desk.kept_work, keep
        self._aside = Aside(self)

    def look(self) -> None:
        """Find what was left; `found` says it."""
        if self._kept.is_on:
            self._aside.look(self._left, self.found.emit)

    def _left(self) -> list[Left]:
        found = []
        for entry in self._kept.left():
            left = _held_against_file(entry)
            if left.is_other and _holds(Path(entry.record.path), entry):
                self._kept.drop(entry)  # it was saved in the last moment
            else:
                found.append(left)
        return found

    def put_aside(self, left: Left) -> None:
        """Offer it no more; it stays among its plan's versions."""
        self._kept.put_aside(left.entry)
        self.look()

    def bring_back(self, left: Left, settle: Settle) -> None:
        """Lay unsaved work on the desk, still unsaved, once that is settled."""
        desk, entry = self._desk, left.entry
        title = entry.record.title

        def read(tick: Tick) -> Ready:
            kept = desk.live.kept
            found = document.from_file(self._kept.opened(entry), title, kept, tick)
            return document.ready(found, kept)

        def answer(ready: Ready) -> None:
            def lay() -> None:
                path = Path(entry.record.path) if entry.record.path else None
                desk.lay(ready, path, entry.record.stamp, brought_back=True)
                # As this process's own first: on a full disk the other's record must stay.
                if self._keep():
                    self._kept.drop(entry)
                line = self.tr("{title} is back as it was, and not saved yet")
                desk.told.emit(line.format(title=title), False)
                self.look()  # it is offered no more

            settle(lay)

        says = self.tr("Reading {name}").format(name=title)
        desk.worker.ask(OPEN, read, answer, says=says, urgency=Urgency.FILE)

    def look_at_versions(self) -> None:
        """Find the versions of the plan that is open, and what was put aside."""
        path = self._desk.path

        def look() -> tuple[list[Entry], list[Left]]:
            found = [] if path is None else self._kept.versions(path)
            return found, [_held_against_file(e) for e in self._kept.aside()]

        self._aside.look(look, lambda found: self.versions.emit(*found))

    def take_version(self, entry: Entry, said_when: str) -> None:
        """The plan as it was saved then, as one step that undo takes back."""
        desk = self._desk

        def work(plan: Plan, pixels: Pixels, tick: Tick) -> Opened:
            found = self._kept.opened(entry)
            return document.from_file(found, entry.record.title, desk.live.kept, tick)

        def answer(opened: Opened, pixels: Pixels) -> None:
            pixels.take_over(opened.pixels)
            name = words("bring back the version of {when}", when=said_when)
            desk.session.select("")
            step(desk, Edit(name, lambda _: opened.plan))
            desk.told.emit(str(name).capitalize(), False)

        job(desk, "version", work, answer, self.tr("Reading a version"))


def _held_against_file(entry: Entry) -> Left:
    path = Path(entry.record.path) if entry.record.path else None
    stamp = None if path is None else atomic.stamp(path)
    return Left(entry, stamp is not None, stamp is not None and stamp != entry.record.stamp)


def _holds(path: Path, entry: Entry) -> bool:
    """Whether a file holds just the plan of a record."""
    try:
        plan = plan_file.read(path).plan
    except Refusal:
        return False
    return msgspec.json.encode(plan) == bytes(entry.record.plan)
