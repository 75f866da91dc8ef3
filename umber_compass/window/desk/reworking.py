"""Regions changed by hand, off the GUI thread: px first, then the edit. What draws them is loaded
with the first stroke."""

from collections.abc import Callable
from typing import TypeAlias

from PySide6.QtCore import QObject

from umber_compass.document import Pixels, reworking
from umber_compass.document.reworking import Reworked
from umber_compass.plan.model import Plan
from umber_compass.steps.sketch.label_edits import Point
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.jobs import job, step
from umber_compass.work import Tick

Rework: TypeAlias = Callable[[Plan, Pixels, Tick], Reworked]


class Reworking(QObject):
    """Merge, split, give away: each is one step that undo takes back."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.desk = desk

    def merge(self) -> None:
        """The chosen regions as one."""
        ids = self.desk.session.chosen
        self._ask(lambda plan, pixels, tick: reworking.merge(plan, pixels, ids, tick))

    def split_parts(self) -> None:
        """The chosen region in the parts that do not hang together."""
        chosen = self.desk.session.selection
        self._ask(lambda plan, pixels, tick: reworking.split_parts(plan, pixels, chosen, tick))

    def split_by_line(self, line: list[Point]) -> None:
        """The chosen region along a line, px of the sketch."""
        chosen = self.desk.session.selection
        self._ask(
            lambda plan, pixels, tick: reworking.split_by_line(plan, pixels, chosen, line, tick)
        )

    def swallow_specks(self) -> None:
        """Specks of the chosen regions, or of all, to their neighbours."""
        ids = self.desk.session.chosen or None
        self._ask(lambda plan, pixels, tick: reworking.swallow_specks(plan, pixels, ids, tick))

    def reassign(self, place: Point, to: str) -> None:
        """The part at a place, px of the sketch, to another region."""
        self._ask(lambda plan, pixels, tick: reworking.reassign(plan, pixels, place, to, tick))

    def join_alike(self) -> None:
        """Twins and pieces, each group as one region."""

        def work(plan: Plan, pixels: Pixels, tick: Tick) -> Reworked:
            from umber_compass.document.joining_alike import join_alike

            return join_alike(plan, pixels, tick)

        self._ask(work)

    def outline(self, line: list[Point]) -> None:
        """What a closed line, px of the sketch, goes round as a new region."""

        def work(plan: Plan, pixels: Pixels, tick: Tick) -> Reworked:
            from umber_compass.document.drawing_by_hand import outline

            return outline(plan, pixels, line, tick)

        self._ask(work)

    def brush(self, stroke: list[Point], brush_px: float, widens: bool) -> None:
        """The chosen region with, or without, what a stroke covers, px of the sketch."""
        chosen = self.desk.session.selection

        def work(plan: Plan, pixels: Pixels, tick: Tick) -> Reworked:
            from umber_compass.document.drawing_by_hand import brush

            return brush(plan, pixels, chosen, stroke, brush_px, widens, tick)

        self._ask(work)

    def turn_neck(self, number: int) -> None:
        """A gap of line art opened or closed."""
        self._ask(lambda plan, pixels, tick: reworking.turn_neck(plan, pixels, number, tick))

    def tint_lines(self) -> None:
        """The chosen lines, each a dark of what it lies along."""
        chosen = self.desk.session.selection
        self._ask(lambda plan, pixels, tick: reworking.tint_lines(plan, pixels, chosen, tick))

    def _ask(self, work: Rework) -> None:
        desk = self.desk

        def answer(made: Reworked, pixels: Pixels) -> None:
            made.take(pixels)
            step(desk, made.edit)
            known = set() if desk.history is None else {r.id for r in desk.history.now.regions}
            desk.session.select_several(i for i in made.chosen if i in known)
            desk.told.emit(str(made.edit.name).capitalize(), False)

        says = self.tr("Changing regions")
        job(desk, "rework", work, answer, says, of_sketch=True)
