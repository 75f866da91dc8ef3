"""What the artist does with studies: choose, turn, compare, decide."""

from collections.abc import Callable
from typing import TYPE_CHECKING, cast

from PySide6.QtCore import QObject, QPoint
from PySide6.QtWidgets import QMenu

from umber_compass.plan.edits import Edit
from umber_compass.plan.model import Plan, Study
from umber_compass.plan.settings import change_setting
from umber_compass.plan.study_edits import (
    choose_study,
    in_study,
)
from umber_compass.plan.terms import Verdict
from umber_compass.steps.harmony.living import turn_lead
from umber_compass.window.bench.bench import Bench
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.jobs import step
from umber_compass.window.frame.layout import Layout
from umber_compass.window.wall.shown import STEP, WallShown
from umber_compass.window.widgets.actions import Actions
from umber_compass.words import Refusal

if TYPE_CHECKING:
    from umber_compass.window.benches.studies.studies_bench import StudiesBench


class StudyCommands(QObject):
    """Keeps the wall and its bench up with the plan, and answers them."""

    def __init__(self, desk: Desk, layout: Layout, actions: Actions) -> None:
        super().__init__(layout)
        self.actions = actions
        self.desk, self.layout = desk, layout
        self._turned_from: dict[str, float] = {}
        self.wall = layout.wall
        self.shown = WallShown(desk, self.wall)
        self._join()
        layout.benches.each(self._on_bench)

    def _join(self) -> None:
        wall, desk = self.wall, self.desk
        wall.grid.opened.connect(self.make_current)
        wall.grid.began.connect(self._begin_turn)
        wall.grid.turned.connect(self._turn)
        wall.grid.ended.connect(desk.seal)
        wall.grid.menu_wanted.connect(self._open_menu)

    def _on_bench(self, step: str, bench: Bench) -> None:
        """Join the studies bench, once it is there."""
        if step == STEP:
            bench = cast("StudiesBench", bench)
            bench.asked.connect(self.actions.run)
            self.shown.one_shown.connect(bench.show_study)
            self.shown.rows_shown.connect(bench.table.show_rows)
            self.shown.follow()

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
        step(self.desk, edit)

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

    def _open_menu(self, study_id: str, place: QPoint) -> None:
        self.menu(study_id).popup(place)

    def menu(self, study_id: str) -> QMenu:
        """What can be done with one study; it is chosen then."""
        self.shown.chosen = [study_id]
        self.shown.follow()
        menu = QMenu(self.layout)
        self.actions.add_to(menu, "study")
        return menu
