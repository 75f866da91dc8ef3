"""The pictures and numbers of every study, kept up with the plan: pictures at once, numbers when
the hand rests."""

from collections.abc import Sequence
from typing import TYPE_CHECKING, NamedTuple

from PySide6.QtCore import QObject, Signal

from umber_compass.colour.packed import Packed, pack, unpack
from umber_compass.document import about
from umber_compass.picture.seen import whole
from umber_compass.plan.model import Plan, Study
from umber_compass.steps.pictures import SeenForms, painted_through, seen_on, seen_picture
from umber_compass.steps.pipeline import Derived, Pipeline
from umber_compass.views import VIEWS
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.worker import Urgency
from umber_compass.window.widgets.bitmap import Bitmap
from umber_compass.window.widgets.timers import single_shot
from umber_compass.work import Tick

if TYPE_CHECKING:
    from umber_compass.steps.studies.numbers import Numbers

_JUDGE_AFTER = 250  # ms of rest before numbers are worked out


class Look(NamedTuple):
    """How pictures are seen: their width in px, and the view; empty for the picture as it is."""

    px: int
    view: str


class _Known(NamedTuple):
    """A study as it was painted and measured last, and what that hangs on."""

    key: tuple[object, ...]
    bitmap: Bitmap | None
    look: Look | None
    numbers: "Numbers | None"


class Cards(QObject):
    """Every study's picture and numbers."""

    painted = Signal()
    judged = Signal()

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self._desk = desk
        self._known: dict[str, _Known] = {}
        self._seen: dict[int, tuple[object, Look, SeenForms]] = {}  # by the id of what is painted
        self._look = Look(320, "")
        self._wanted: tuple[str, ...] = ()
        self._open = False
        self.judging = single_shot(self, _JUDGE_AFTER, self._ask_numbers)
        desk.opened.connect(self._forget)
        desk.live.rebuilt.connect(self._on_rebuilt)

    def _forget(self) -> None:
        self._known, self._seen = {}, {}

    def _on_rebuilt(self) -> None:
        """Forms are there that were not: every picture is another."""
        self._known = {i: k._replace(look=None) for i, k in self._known.items()}
        self._seen = {}
        self.follow()

    def show(self, wanted: Sequence[str], look: Look) -> None:
        """Keep some studies' pictures up, seen in one way."""
        self._open = True
        self._wanted, self._look = tuple(wanted), look
        self.follow()

    def close(self) -> None:
        """The wall is not seen any more."""
        self._open = False
        self.judging.stop()
        self._desk.worker.forget("wall")
        self._desk.worker.forget("wall-judge")

    def bitmap(self, study_id: str) -> Bitmap | None:
        """A study's picture, the last there is."""
        known = self._known.get(study_id)
        return None if known is None else known.bitmap

    def numbers(self, study_id: str) -> "Numbers | None":
        """A study's numbers; None until they are known anew."""
        known, plan = self._known.get(study_id), self._plan()
        if known is None or plan is None:
            return None
        now = next((s for s in plan.studies if s.id == study_id), None)
        return known.numbers if now is not None and _same(known.key, _key(plan, now)) else None

    def _plan(self) -> Plan | None:
        return None if self._desk.history is None else self._desk.history.now

    def follow(self) -> None:
        """Paint what is new: what is dragged at once, the rest on the worker."""
        plan = self._plan()
        if not self._open or plan is None or self._desk.pixels is None:
            return
        missing = [s for s in plan.studies if s.id in self._wanted and self._is_new(plan, s)]
        if not missing:
            self.judging.start()
            return
        pipeline = self._desk.live.pipeline
        if self._desk.session.dragging:
            # The hand waits for what it turns alone; the rest comes when it lets go.
            turned = [s for s in missing if self.bitmap(s.id) is not None][:1]
            self._take([(one, self._paint(pipeline, plan, one)) for one in turned])
            return

        def work(tick: Tick) -> list[tuple[Study, Packed]]:
            found = []
            for one in missing:
                tick(-1.0)
                found.append((one, self._paint(pipeline, plan, one)))
            return found

        self._desk.worker.ask("wall", work, self._take)

    def _is_new(self, plan: Plan, study: Study) -> bool:
        known = self._known.get(study.id)
        return known is None or known.look != self._look or not _same(known.key, _key(plan, study))

    def _paint(self, pipeline: Pipeline, plan: Plan, study: Study) -> Packed:
        derived, look = pipeline.derive(plan, study.id), self._look
        packed = seen_picture(derived, self._grid(derived, look))
        if not look.view:
            return packed
        levels = unpack(packed)
        return pack(VIEWS[look.view].see(levels, about(derived, levels.shape)))

    def _grid(self, derived: Derived, look: Look) -> SeenForms:
        """What cards of a width show of the codes a study is painted through."""
        of = painted_through(derived)
        known = self._seen.get(id(of))
        if known is not None and known[0] is of and known[1].px == look.px:
            return known[2]
        made = seen_on(derived, whole(derived.drawing.labels.shape, look.px))
        kept = list(self._seen.items())[-3:]
        self._seen = {**dict(kept), id(of): (of, look, made)}
        return made

    def _take(self, found: list[tuple[Study, Packed]]) -> None:
        plan = self._plan()
        for study, packed in found:
            if plan is None or not any(s is study for s in plan.studies):
                continue  # it was changed, or taken away, while it was painted
            key, known = _key(plan, study), self._known.get(study.id)
            numbers = known.numbers if known is not None and _same(known.key, key) else None
            self._known[study.id] = _Known(key, Bitmap(packed), self._look, numbers)
        self.painted.emit()
        self.judging.start()

    def _ask_numbers(self) -> None:
        """Have the next study measured that is not."""
        plan = self._plan()
        if plan is None or not self._open or self._desk.session.dragging:
            return
        missing = [s for s in plan.studies if s.id in self._wanted and self.numbers(s.id) is None]
        if not missing:
            return
        one, pipeline = missing[0], self._desk.live.pipeline

        def work(tick: Tick) -> "Numbers":
            from umber_compass.steps.studies.numbers import numbers_of

            return numbers_of(pipeline.derive(plan, one.id), tick)

        def answer(found: "Numbers") -> None:
            known = self._known.get(one.id)
            if known is not None:
                self._known[one.id] = known._replace(key=_key(plan, one), numbers=found)
                self.judged.emit()
            self._ask_numbers()

        self._desk.worker.ask("wall-judge", work, answer, urgency=Urgency.THOUGHT)


def _key(plan: Plan, study: Study) -> tuple[object, ...]:
    """What a study's picture and numbers hang on."""
    return (
        study.scheme,
        study.colours,
        study.rig,
        study.shading,
        study.wishes,
        study.focus,
        study.falloff,
        study.mood,
        study.locked,
        study.zones,
        study.variations,
        plan.regions,
        plan.sketch,
        plan.budget,
        plan.overrides,
        plan.practice,
    )


def _same(one: tuple[object, ...], other: tuple[object, ...]) -> bool:
    return all(a is b for a, b in zip(one, other, strict=True))
