"""What is liked on a card is kept, let go again, or carried to another card."""

import time

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QApplication

from umber_compass.plan.edits import Edit, region, region_of_label
from umber_compass.plan.first_edits import keep_colours
from umber_compass.plan.model import Plan
from umber_compass.plan.study_edits import find_study, in_study
from umber_compass.steps.harmony.edits import give_several
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.jobs import step
from umber_compass.window.wall.card_grid import CardGrid
from umber_compass.words import words


class Liking(QObject):
    """Answers clicks on the pictures of proposals."""

    def __init__(self, desk: Desk, grid: CardGrid) -> None:
        super().__init__(grid)
        self._desk = desk
        self._touched: tuple[float, Edit] | None = None
        grid.touched.connect(self.touch)
        grid.given.connect(self.give)
        grid.opened.connect(self._untouch)
        grid.carried = self.carried

    def _at(self, x: float, y: float) -> tuple[Plan, str] | None:
        """The plan, and the region at a place of the picture, shares."""
        derived = self._desk.derived
        if derived is None or self._desk.history is None:
            return None
        found = region_of_label(derived.plan, derived.drawing.label_at(x, y))
        return None if found is None else (self._desk.history.now, found.id)

    def _alike(self, plan: Plan, study_id: str, at: str) -> tuple[tuple[str, ...], str]:
        """The regions that have the colour, and the role, of one in a study; and its hex."""
        shown = self._desk.live.pipeline.derive(plan, study_id).colours
        own, role = shown[at].first.hex, region(plan, at).role
        mine = (r.id for r in plan.regions if shown[r.id].first.hex == own and r.role == role)
        return tuple(mine), own

    def touch(self, study_id: str, x: float, y: float) -> None:
        """A click on what is liked keeps it; one on what is kept lets it go."""
        found = self._at(x, y)
        if found is None or not find_study(found[0], study_id).proposal:
            return
        plan, at = found
        mine, own = self._alike(plan, study_id, at)
        held = plan.first.kept.get(at) == own
        before = {r: plan.first.kept.get(r) for r in mine}
        text = words("let go of {name}" if held else "keep {name}", name=region(plan, at).name)
        step(self._desk, keep_colours(dict.fromkeys(mine, None if held else own), text))
        self._touched = (time.monotonic(), keep_colours(before, text))

    def _untouch(self, study_id: str) -> None:
        """A double click was no liking: what its first click did is taken back."""
        within = QApplication.doubleClickInterval() / 1000 + 0.1
        if self._touched is not None and time.monotonic() - self._touched[0] < within:
            step(self._desk, self._touched[1])
        self._touched = None

    def carried(self, study_id: str, x: float, y: float) -> str:
        """The hex of a kept colour at a place of a card, to be carried to another; else empty."""
        found = self._at(x, y)
        if found is None:
            return ""
        plan, at = found
        own = self._desk.live.pipeline.derive(plan, study_id).colours[at].first.hex
        return own if own == plan.first.kept.get(at) else ""

    def give(self, study_id: str, x: float, y: float, colour: str) -> None:
        """A colour that fell on a card, given to all that has one colour there."""
        found = self._at(x, y)
        if found is not None:
            plan, at = found
            mine, _ = self._alike(plan, study_id, at)
            edit = give_several(mine, colour, region(plan, at).name)
            step(self._desk, in_study(study_id, edit._replace(merge=None)))
