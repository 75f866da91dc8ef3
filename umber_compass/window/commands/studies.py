"""What the artist does with studies: grow, choose, turn, compare, decide, send to a client."""

from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
from PySide6.QtCore import QObject, QPoint, QTimer
from PySide6.QtWidgets import QMenu

from umber_compass.document.library import Library
from umber_compass.document.sheet import client_sheet
from umber_compass.formats import picture
from umber_compass.plan.edits import Edit
from umber_compass.plan.harmony_edits import turn_lead
from umber_compass.plan.model import Plan, Study
from umber_compass.plan.settings import change_setting
from umber_compass.plan.study_edits import (
    add_studies,
    choose_study,
    in_study,
)
from umber_compass.plan.terms import Verdict
from umber_compass.steps.handoff.palette import stem
from umber_compass.steps.studies.client import What, variants
from umber_compass.steps.studies.growing import Growth, grow
from umber_compass.window.benches.studies.studies_bench import COUNT, StudiesBench
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.files import Files
from umber_compass.window.frame.layout import Layout
from umber_compass.window.wall.shown import STEP, WallShown
from umber_compass.window.widgets.actions import Actions
from umber_compass.words import Refusal, Words, words
from umber_compass.work import Tick


class StudyCommands(QObject):
    """Keeps the wall and its bench up with the plan, and answers them."""

    def __init__(
        self, desk: Desk, layout: Layout, files: Files, library: Library, actions: Actions
    ) -> None:
        super().__init__(layout)
        self.actions = actions
        self.desk, self.layout, self.files, self.library = desk, layout, files, library
        self._turned_from: dict[str, float] = {}
        bench = layout.benches[STEP]
        assert isinstance(bench, StudiesBench)
        self.bench, self.wall = bench, layout.wall
        self.shown = WallShown(desk, self.wall, bench)
        self._join()

    def _join(self) -> None:
        wall, bench, desk = self.wall, self.bench, self.desk
        wall.grid.opened.connect(self.make_current)
        wall.grid.began.connect(self._begin_turn)
        wall.grid.turned.connect(self._turn)
        wall.grid.ended.connect(desk.seal)
        wall.grid.menu_wanted.connect(self._open_menu)
        bench.asked.connect(self.actions.run)

    def _edit(self, make: Callable[[Plan], Edit]) -> None:
        """Make an edit of the plan that is on; what cannot be is said in a line."""
        if self.desk.history is None:
            return
        self.desk.session.taking.emit()
        try:
            edit = make(self.desk.history.now)
        except Refusal as refusal:
            self.desk.told.emit(str(refusal), True)
            return
        self.desk.seal()
        self.desk.do(edit)

    def make_current(self, study_id: str) -> None:
        """Have the stage, and every bench, show a study."""
        self._edit(lambda plan: choose_study(plan, study_id))

    def step(self, by: int) -> None:
        """Show the next study, or the one before, on the stage."""
        if self.desk.history is not None:
            plan = self.desk.history.now
            ids = [s.id for s in plan.studies]
            at = (ids.index(plan.current_study) + by) % len(ids)
            self.shown.chosen = [ids[at]]
            self.make_current(ids[at])

    def with_one(self, make: Callable[[Plan, Study], Edit]) -> None:
        """An edit of the study that is chosen."""
        one = self.shown.one
        if one is not None:
            self._edit(lambda plan: make(plan, one))

    def judge(self, verdict: Verdict) -> None:
        """Keep or reject the study that is chosen, or take that back."""
        self.with_one(
            lambda _, s: change_setting(
                "study.verdict", "" if s.verdict == verdict else verdict, s.id
            )
        )

    def verdict_is(self, verdict: Verdict) -> bool:
        """Whether the study that is chosen is kept, or rejected."""
        one = self.shown.one
        return one is not None and one.verdict == verdict

    def grow_ticked(self) -> None:
        """Grow by the rules that are ticked on the bench."""
        self.grow(self.bench.chosen_rules())

    def _begin_turn(self) -> None:
        self.desk.begin_drag()
        self._turned_from = {}

    def _turn(self, study_id: str, by: float) -> None:
        """Turn a study's hues by so much from where the drag began."""
        if self.desk.history is None:
            return
        plan = self.desk.history.now
        now = next(s for s in plan.studies if s.id == study_id).scheme.lead_deg
        dragging = self.desk.session.dragging
        start = self._turned_from.setdefault(study_id, now) if dragging else now
        self.desk.do(in_study(study_id, turn_lead(start + by)))

    def grow(self, rules: list[str]) -> None:
        """Grow six more from the study that is shown; they stand behind the others."""
        desk, pixels, library = self.desk, self.desk.pixels, self.library
        if desk.history is None:
            return

        def prepare() -> Callable[[Tick], tuple[Plan, Growth]] | None:
            if desk.pixels is not pixels or desk.history is None:
                return None  # another plan came meanwhile
            desk.session.taking.emit()
            desk.told.emit(self.tr("Growing …"), False)
            plan, pipeline = desk.history.now, desk.live.pipeline

            def work(tick: Tick) -> tuple[Plan, Growth]:
                palettes = [e.kept() for e in library.entries()] if "library" in rules else []
                return plan, grow(pipeline.derive(plan), rules, COUNT, palettes, tick)

            return work

        def answer(made: tuple[Plan, Growth]) -> None:
            plan, found = made
            if desk.pixels is not pixels or desk.history is None:
                return
            if {r.id for r in desk.history.now.regions} != {r.id for r in plan.regions}:
                line = self.tr("The regions changed while studies were grown; grow again")
                desk.told.emit(line, True)
                return
            self._edit(lambda now: add_studies(found.studies, _grown(found)))
            count = len(found.studies)
            # Once the layout has settled.
            QTimer.singleShot(0, self.wall, lambda: self.wall.reveal(self.shown.count - count))
            desk.told.emit(found.says, False)

        desk.orders.ask("grow", prepare, answer, says=self.tr("Growing studies"))

    def client_sheet(self, what: What) -> None:
        """Write a sheet of variants as one PNG, asking where."""
        derived, pixels = self.desk.derived, self.desk.pixels
        if derived is None or pixels is None:
            return
        plan = derived.plan
        name = f"{stem(plan.title)}-{what}.png"
        beside = Path(self.files.handing_off.folder).parent
        path = self.files.dialogs.picture(self.layout, str(beside / name))
        if path is None:
            return
        chosen = [s for i in self.shown.chosen for s in plan.studies if s.id == i]
        pipeline = self.desk.live.pipeline
        target = path if path.suffix.lower() == ".png" else path.with_name(path.name + ".png")

        def work(tick: Tick) -> None:
            sheet = client_sheet(plan, pixels, variants(plan, what, chosen), tick, pipeline)
            picture.write_png(target, np.asarray(sheet))

        def answer(_: Any) -> None:
            self.desk.told.emit(self.tr("Wrote {name}").format(name=target.name), False)

        says = self.tr("Writing the sheet")
        self.desk.orders.ask("sheet", lambda: work, answer, says=says)

    def _open_menu(self, study_id: str, place: QPoint) -> None:
        self.menu(study_id).popup(place)

    def menu(self, study_id: str) -> QMenu:
        """What can be done with one study; it is chosen then."""
        self.shown.chosen = [study_id]
        self.shown.follow()
        menu = QMenu(self.layout)
        self.actions.add_to(menu, "study")
        return menu


def _grown(found: Growth) -> Words:
    return words("grow {count} studies", count=len(found.studies))
