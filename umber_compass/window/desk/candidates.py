"""The plan's other sketches: brought in, shown small, chosen."""

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import NamedTuple

import numpy as np
from PySide6.QtCore import QObject, Signal

from umber_compass import document
from umber_compass.colour.packed import Packed, pack, unpack
from umber_compass.document.seeing import small_of
from umber_compass.plan.candidate_edits import add_candidate, choose_candidate, shown
from umber_compass.plan.model import Candidate
from umber_compass.steps.pipeline import Pipeline, picture
from umber_compass.views import PLAIN, VIEWS
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.worker import Urgency
from umber_compass.work import Tick

CHOSEN = ""  # in place of a candidate's id, the sketch that is chosen


class Shown(NamedTuple):
    """One sketch, small."""

    id: str
    name: str
    says: str
    packed: Packed


class Candidates(QObject):
    """Works with candidates off the GUI thread."""

    pictured = Signal(object)  # list of Shown

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.desk = desk

    def add(self, path: Path) -> None:
        """Bring a sketch in beside the one that is chosen."""
        desk = self.desk
        if desk.history is None or desk.pixels is None:
            return
        pixels = desk.pixels

        def prepare() -> Callable[[Tick], document.Opened] | None:
            return None if desk.pixels is not pixels else partial(_brought_in, path)

        def answer(found: document.Opened) -> None:
            if desk.pixels is not pixels:
                return
            pixels.take_over(found.pixels)
            plan = found.plan
            desk.paths.note(plan.sketch.hash, path)
            desk.do(add_candidate(plan.sketch, plan.regions, plan.studies))
            line = self.tr("{name} is a candidate: {what}")
            desk.told.emit(line.format(name=plan.sketch.file_name, what=found.says), False)

        says = self.tr("Reading {name}").format(name=path.name)
        desk.orders.ask("candidate", prepare, answer, says=says)

    def choose(self, candidate_id: str) -> None:
        """A candidate takes the place of the sketch that is chosen, once its drawing is there."""
        desk = self.desk
        if desk.history is None or desk.pixels is None:
            return
        pixels = desk.pixels

        def wanted() -> Candidate | None:
            """The candidate, where it is still there: what came before may have taken it away."""
            if desk.pixels is not pixels or desk.history is None:
                return None
            return next((c for c in desk.history.now.candidates if c.id == candidate_id), None)

        def prepare() -> Callable[[Tick], Candidate] | None:
            one = wanted()
            if one is None:
                return None

            def work(tick: Tick) -> Candidate:
                pixels.drawing(one.sketch, one.sketch.file_name, desk.live.kept, tick)
                return one

            return work

        def answer(one: Candidate) -> None:
            if wanted() is not None:
                desk.session.taking.emit()
                desk.seal()
                desk.session.select("")
                desk.do(choose_candidate(candidate_id, one.sketch.file_name))

        desk.orders.ask("candidate", prepare, answer, says=self.tr("Reading the sketch"))

    def picture(self, way: str) -> None:
        """Every sketch as it is planned, small, in a way: colour, grey or mirrored."""
        desk = self.desk
        if desk.history is None or desk.pixels is None:
            return
        pixels, plan = desk.pixels, desk.history.now

        def work(tick: Tick) -> list[Shown]:
            found = []
            for candidate_id, one in (
                (CHOSEN, plan),
                *((c.id, shown(plan, c)) for c in plan.candidates),
            ):
                drawing = pixels.drawing(one.sketch, one.sketch.file_name, desk.live.kept, tick)
                derived = Pipeline({one.sketch.labels: drawing}, works=False).derive(one)
                levels = np.ascontiguousarray(unpack(small_of(picture(derived))))
                if way in VIEWS:
                    levels = VIEWS[way].see(levels, PLAIN)
                says = f"{len(one.regions)} regions"
                found.append(Shown(candidate_id, one.sketch.file_name, says, pack(levels)))
            return found

        def answer(found: list[Shown]) -> None:
            if desk.history is not None and desk.history.now.candidates is plan.candidates:
                self.pictured.emit(found)

        desk.worker.ask("candidates", work, answer, urgency=Urgency.BENCH)


def _brought_in(path: Path, tick: Tick) -> document.Opened:
    return document.bring_in(path, tick=tick)
