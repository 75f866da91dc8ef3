"""What the checks say of the plan that is on: measured at once, fixes when the hand rests."""

import time
from collections.abc import Iterator
from typing import NamedTuple

from PySide6.QtCore import QElapsedTimer, QObject, Signal

from umber_compass.steps.checks import CHECKS, CheckSpec, Result
from umber_compass.steps.checks.check import Key
from umber_compass.steps.checks.judging import Measuring, judge, known_checks, worst_first
from umber_compass.steps.pipeline import Derived
from umber_compass.window.desk.live_picture import LivePicture
from umber_compass.window.desk.session import Session
from umber_compass.window.desk.worker import Urgency, Worker
from umber_compass.window.widgets.timers import single_shot
from umber_compass.work import Tick

_SLICE = 3.0  # ms of the thread in which checks are measured between two frames of a drag
COUNT_AFTER = 300  # ms between two rounds of checks during a drag: what a bench says of them
JUDGE_AFTER = 150  # ms of rest before fixes are worked out


class _Round(NamedTuple):
    """A round of checks in a drag, some measured and some to come."""

    derived: Derived
    looked: bool
    left: Iterator[CheckSpec]
    found: list[Result]


class Judge(QObject):
    """Measures the picture that is on; then works fixes out, on the worker."""

    measured = Signal()  # results are new, without fixes
    judged = Signal()  # fixes came
    looked = Signal()  # what the eye meets first is known
    _came = Signal(object, object)  # from the worker: what is judged, a result with its fixes

    def __init__(self, worker: Worker, live: LivePicture, session: Session) -> None:
        super().__init__()
        self._worker, self._live, self._session = worker, live, session
        self._judged: set[str] = set()  # steps whose fixes the results have
        session.stepped.connect(self._on_step)
        self._came.connect(self._take_one)
        self.results: list[Result] = []
        self._told: dict[Key, Result] = {}  # with their fixes, of the plan that is on
        self._counted = QElapsedTimer()
        self._behind = False  # whether the results are of an earlier plan
        self._round: _Round | None = None
        self._measuring = Measuring()
        self.judging = single_shot(self, JUDGE_AFTER, self._judge)

    def measure(self) -> None:
        """Measure the picture that is on now; what the eye meets first follows from the worker, and
        fixes when the hand rests."""
        self._round = None
        self._worker.forget("judge")
        derived = self._live.derived
        if derived is not None:
            derived.forget_missing()
            self._merge(self._measuring.all(derived), derived.attention is not None)
            self._behind, self._judged, self._told = False, set(), {}
            self._counted.start()
            if not self._session.dragging:
                self._look()
            self.judging.start()
            self.measured.emit()

    def _merge(self, found: list[Result], looked: bool) -> None:
        """New results; those that need what the eye meets first stay until that is known anew."""
        old = [] if looked else [r for r in self.results if CHECKS[r.check].looks]
        self.results = worst_first([*found, *old])

    def _look(self) -> None:
        """Have what the eye meets first worked out, where it is not known."""
        derived = self._live.derived
        if derived is None or derived.attention is not None:
            return
        plan = derived.plan

        def work(tick: Tick) -> tuple[Derived, Derived]:
            return derived, derived.of(plan).think(tick)

        self._worker.ask("look", work, self._on_looked)

    def _on_looked(self, answer: tuple[Derived, Derived]) -> None:
        derived = answer[0]
        if derived is not self._live.derived:
            return  # of a plan, or of forms, that are gone
        derived.forget_missing()
        derived.take_thought(answer[1])
        if not any(r.fixes for r in self.results):
            self._merge(self._measuring.all(derived), derived.attention is not None)
        self.looked.emit()

    def fall_behind(self) -> None:
        """The plan is another in a drag: the picture comes first, and nothing works on beside it
        for a plan that is gone."""
        self._worker.forget("judge")
        self._behind = True

    def count_some(self) -> None:
        """Measure a few checks in a drag, now and then; those of one round are of one plan, and are
        shown when all of them are there."""
        if self._round is None:
            waits = self._counted.isValid() and self._counted.elapsed() < COUNT_AFTER
            derived = self._live.derived
            if derived is None or waits:
                return
            derived.forget_missing()
            looked = derived.attention is not None
            self._round = _Round(derived, looked, iter(known_checks(derived)), [])
        begin = time.thread_time()
        for check in self._round.left:
            self._round.found.extend(self._measuring.of(check, self._round.derived))
            if (time.thread_time() - begin) * 1000 >= _SLICE:
                return
        self._merge(self._round.found, self._round.looked)
        self._round = None
        self._counted.start()

    def measure_what_waits(self) -> None:
        """Measure at once what was left for the next round."""
        if self._behind:
            self.measure()

    def _on_step(self) -> None:
        """Another step shows its checks: their fixes are wanted now."""
        if self._live.derived is not None and self._session.step not in self._judged:
            self.judging.start()

    def _judge(self) -> None:
        """Work the fixes out that the open step shows, off the GUI thread."""
        derived, step = self._live.derived, self._session.step
        if derived is None:
            return

        found: dict[Key, Result] = {}

        def tell(result: Result) -> None:
            found[result.key] = result
            self._came.emit(derived, result)

        def work(tick: Tick) -> tuple[Derived, str, list[Result]]:
            # Where it made room for something and is begun again, it goes on with what it found.
            return derived, step, judge(derived, tick, step, tell, found)

        says = self.tr("Looking for fixes")
        self._worker.ask("judge", work, self._take, says=says, urgency=Urgency.THOUGHT)

    def _take(self, answer: tuple[Derived, str, list[Result]]) -> None:
        derived, step, results = answer
        if derived is self._live.derived:
            derived.forget_missing()
            known = {r.key: r for r in self.results if CHECKS[r.check].step in self._judged}
            known |= self._told  # the very same, so that no row is made anew
            self.results = [known.get(r.key, r) for r in results]
            self._judged.add(step)
            self.judged.emit()

    def _take_one(self, derived: Derived, found: Result) -> None:
        """Show one result's fixes as soon as they are found."""
        if derived is self._live.derived and found.fixes:
            self._told[found.key] = found
            self.results = [found if r.key == found.key else r for r in self.results]
            self.judged.emit()

    def close(self) -> None:
        """Ask for nothing more."""
        self._round = None
        self.judging.stop()
