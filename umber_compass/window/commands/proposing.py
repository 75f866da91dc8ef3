"""Proposals asked for, and put on the wall as they come."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Signal

from umber_compass.document import Pixels
from umber_compass.plan.edits import study
from umber_compass.plan.model import Plan, Region, Study
from umber_compass.plan.study_edits import renew_proposals
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.jobs import job
from umber_compass.work import Tick

if TYPE_CHECKING:
    from umber_compass.steps.first.propose import Proposed


class Proposing(QObject):
    """Has the worker propose; each press is one step, however many cards it brought."""

    renewed = Signal()
    _came = Signal(object, object, str)  # from the worker: pixels, a study, the run's merge key

    def __init__(self, desk: Desk, parent: QObject) -> None:
        super().__init__(parent)
        self._desk, self._runs = desk, 0
        self._made: tuple[str, Plan | None] = ("", None)  # the last run, and the plan it left
        self._came.connect(self._show_one)

    def propose(self, known: tuple[Study, ...], like: Study | None = None) -> None:
        """Have six proposed, far from some known ones and in the scheme of one they should be
        like; the first is shown as soon as it is there."""
        desk, pipeline = self._desk, self._desk.live.pipeline
        self._runs += 1
        merge = f"first colours {self._runs}"

        def work(plan: Plan, pixels: Pixels, tick: Tick) -> "Proposed":
            from umber_compass.steps.first.propose import propose

            return propose(
                pipeline.derive(plan, _base_of(plan)),
                known=known,
                like=like,
                tick=tick,
                tell=lambda one: self._came.emit(pixels, one, merge),
            )

        def answer(found: "Proposed", pixels: Pixels) -> None:
            if not self._fits(found.studies[0]):
                line = self.tr("The regions changed while colours were proposed; propose again")
                desk.told.emit(line, True)
                return
            self._renew(found.studies, merge)
            said = "; ".join(str(n) for n in found.notes)
            line = self.tr("Six proposals; click what you like on one, then Try the rest")
            desk.told.emit(said or line, False)

        job(desk, "first", work, answer, self.tr("Proposing colours"))

    @property
    def _regions(self) -> tuple[Region, ...]:
        return () if self._desk.history is None else self._desk.history.now.regions

    def _fits(self, one: Study) -> bool:
        """Whether a study is of the regions that are there."""
        return {*one.colours} == {r.id for r in self._regions}

    def _show_one(self, pixels: Pixels, one: Study, merge: str) -> None:
        """The first proposal, while the others are still searched."""
        if self._desk.pixels is pixels and self._fits(one):
            self._renew((one,), merge)

    def _renew(self, studies: tuple[Study, ...], merge: str) -> None:
        desk = self._desk
        desk.session.taking.emit()
        if (
            desk.history is not None
            and desk.history.now is self._made[1]
            and (merge == self._made[0])
        ):
            # The first card came a while ago, and nothing else since: it is one step.
            desk.history = desk.history.gone_on(merge)
        desk.do(renew_proposals(studies, merge))
        self._made = (merge, None if desk.history is None else desk.history.now)
        self.renewed.emit()


def _base_of(plan: Plan) -> str | None:
    """The study proposals are made from: the one that is shown, or, where that is itself a
    proposal, the first that is none."""
    now = study(plan)
    if not now.proposal:
        return None
    return next((s.id for s in plan.studies if not s.proposal), None)
