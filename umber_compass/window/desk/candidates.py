"""The plan's other sketches: brought in, shown small, chosen."""

from pathlib import Path
from typing import NamedTuple

import numpy as np
from PySide6.QtCore import QObject, Signal

from umber_compass import document
from umber_compass.colour.packed import Packed, pack, unpack
from umber_compass.document import Pixels
from umber_compass.document.seeing import small_of
from umber_compass.plan.candidate_edits import add_candidate, choose_candidate, shown
from umber_compass.plan.model import Candidate, Plan
from umber_compass.steps.pictures import picture
from umber_compass.steps.pipeline import Pipeline
from umber_compass.views import PLAIN, VIEWS
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.jobs import job, step
from umber_compass.window.desk.worker import Urgency
from umber_compass.words import words
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

        def work(plan: Plan, pixels: Pixels, tick: Tick) -> document.Opened:
            return document.bring_in(path, tick=tick)

        def answer(found: document.Opened, pixels: Pixels) -> None:
            pixels.take_over(found.pixels)
            plan = found.plan
            desk.paths.note(plan.sketch.hash, path)
            desk.do(add_candidate(plan.sketch, plan.regions, plan.studies))
            line = self.tr("{name} is a candidate: {what}")
            desk.told.emit(line.format(name=plan.sketch.file_name, what=found.says), False)

        says = self.tr("Reading {name}").format(name=path.name)
        job(desk, "candidate", work, answer, says)

    def choose(self, candidate_id: str) -> None:
        """A candidate takes the place of the sketch that is chosen, once its drawing is there."""
        desk = self.desk

        def work(plan: Plan, pixels: Pixels, tick: Tick) -> Candidate | None:
            """The candidate, where it is still there: what came before may have taken it away."""
            one = next((c for c in plan.candidates if c.id == candidate_id), None)
            if one is not None:
                pixels.drawing(one.sketch, one.sketch.file_name, desk.live.kept, tick)
            return one

        def answer(one: Candidate | None, _: Pixels) -> None:
            now = desk.history.now.candidates if desk.history is not None else ()
            if one is not None and any(c.id == candidate_id for c in now):
                desk.session.select("")
                step(desk, choose_candidate(candidate_id, one.sketch.file_name))

        job(desk, "candidate", work, answer, self.tr("Reading the sketch"))

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
                says = str(words("{count} regions", count=len(one.regions)))
                found.append(Shown(candidate_id, one.sketch.file_name, says, pack(levels)))
            return found

        def answer(found: list[Shown]) -> None:
            if desk.history is not None and desk.history.now.candidates is plan.candidates:
                self.pictured.emit(found)

        desk.worker.ask("candidates", work, answer, urgency=Urgency.BENCH)
