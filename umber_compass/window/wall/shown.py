"""What the study wall shows, and which studies are chosen on it."""

from typing import TypeAlias

from PySide6.QtCore import QObject, Signal

from umber_compass.plan.model import Plan, Study
from umber_compass.steps.harmony.rose import ring
from umber_compass.steps.harmony.schemes import spec_of
from umber_compass.steps.pipeline import Derived
from umber_compass.window.desk.desk import Desk
from umber_compass.window.wall.card import CardFace
from umber_compass.window.wall.cards import Cards, Look
from umber_compass.window.wall.first.kept_places import KeptPlaces
from umber_compass.window.wall.number_rows import rows_of
from umber_compass.window.wall.wall import StudyWall

Strip: TypeAlias = tuple[tuple[str, float], ...]  # hex and share

STEP = "studies"
_MOST_PX = 900  # of a picture that is compared


class WallShown(QObject):
    """Keeps the wall up with the plan, and says what its bench shows."""

    one_shown = Signal(object, bool, bool)  # a study, whether it is current, whether the only one
    rows_shown = Signal(list, list)  # numbers of studies, and the studies' titles

    def __init__(self, desk: Desk, wall: StudyWall) -> None:
        super().__init__(wall)
        self.desk, self.wall = desk, wall
        self.cards = Cards(desk)
        self.chosen: list[str] = []
        self.mode, self.view = "", ""
        self._kept = KeptPlaces()
        self._strips: dict[str, tuple[Study, Strip, str]] = {}
        wall.looked.connect(self.look)
        wall.compared.connect(self.compare)
        wall.grid.chose.connect(self.choose)
        wall.grid.resized.connect(self.follow)
        self.cards.painted.connect(self._show)
        self.cards.judged.connect(self._show)
        desk.painted.connect(self._follow_drag)
        desk.changed.connect(self.follow)
        desk.opened.connect(self._on_opened)
        desk.session.stepped.connect(self._on_step)

    @property
    def is_open(self) -> bool:
        """Whether the wall is seen."""
        return self.desk.session.step == STEP and self.desk.derived is not None

    @property
    def count(self) -> int:
        """How many studies the plan has."""
        return 0 if self.desk.history is None else len(self.desk.history.now.studies)

    @property
    def one(self) -> Study | None:
        """The one study that is chosen; the current one where none is, or the wall is closed."""
        if self.desk.history is None or (self.is_open and len(self.chosen) > 1):
            return None
        plan = self.desk.history.now
        wanted = self.chosen[0] if self.is_open and self.chosen else plan.current_study
        return next((s for s in plan.studies if s.id == wanted), None)

    def _on_opened(self) -> None:
        self.chosen, self.mode, self._strips = [], "", {}
        self.follow()

    def _on_step(self) -> None:
        if self.is_open:
            self.follow()
        else:
            self.cards.close()
            self.wall.compare.clock.stop()

    def _follow_drag(self) -> None:
        if self.is_open and self.desk.session.dragging:
            self.cards.follow()

    def follow(self) -> None:
        """Show the plan's studies as they are now."""
        derived = self.desk.derived
        if derived is None or not self.is_open or self.desk.session.dragging:
            return
        ids = [s.id for s in derived.plan.studies]
        self.chosen = [i for i in self.chosen if i in ids] or [derived.plan.current_study]
        if len(self.chosen) < 2:
            self.mode = ""
        self._show()
        px = self.wall.compare.picture_px if self.mode else self.wall.grid.placing.card_px
        ratio = self.wall.devicePixelRatioF()
        wanted = self.chosen if self.mode else ids
        self.cards.show(wanted, Look(min(round(px * ratio), _MOST_PX), self.view))

    def _show(self) -> None:
        derived = self.desk.derived
        if derived is None or not self.is_open:
            return
        plan = derived.plan
        faces = [self._face(derived, s) for s in plan.studies]
        height, width = derived.drawing.labels.shape
        self.wall.grid.show_faces(faces, width / height, self.wall.room)
        if self.desk.session.dragging:
            return  # only pictures follow the hand
        self.wall.show_mode(self.mode, len(self.chosen))
        mine = [f for i in self.chosen for f in faces if f.id == i][:3]
        numbers = [self.cards.numbers(f.id) for f in mine]
        self.wall.compare.show_faces(mine, rows_of(numbers), width / height)
        self._show_bench(plan)

    def _show_bench(self, plan: Plan) -> None:
        one = self.one
        only = len(plan.studies) == 1
        self.one_shown.emit(one, one is not None and one.id == plan.current_study, only)
        ids = [plan.current_study, *(i for i in self.chosen if i != plan.current_study)][:2]
        titles = [next(s.title for s in plan.studies if s.id == i) for i in ids]
        compared = [] if self.mode else rows_of([self.cards.numbers(i) for i in ids])
        self.rows_shown.emit(compared, titles)

    def _strip(self, plan: Plan, one: Study) -> tuple[Strip, str]:
        """A study's colours by share, and how it was made; worked out anew only where it changed:
        there may be dozens, and a hand drags one."""
        known = self._strips.get(one.id)
        if (
            known is None
            or known[0].scheme is not one.scheme
            or known[0].colours is not one.colours
        ):
            shown = self.desk.live.pipeline.derive(plan, one.id)
            strip = tuple((shown.colours[r].first.hex, shown.shares[r]) for r in shown.families)
            known = (one, strip, one.grown or spec_of(one.scheme).title)
            self._strips[one.id] = known
        return known[1], known[2]

    def _face(self, derived: Derived, one: Study) -> CardFace:
        plan, numbers = derived.plan, self.cards.numbers(one.id)
        strip, says = self._strip(plan, one)
        chosen = one.id in self.chosen
        hues: tuple[str, ...] = ()
        if chosen and len(self.chosen) == 1 and not self.mode:
            round_ = ring(one.scheme.wheel)
            lead = round(one.scheme.lead_deg / 360 * len(round_))
            hues = tuple(round_[(lead + i) % len(round_)] for i in range(len(round_)))
        if one.proposal and numbers is not None and numbers.lead is not None:
            says = self.tr("{says}, focus {lead:.2f}").format(says=says, lead=numbers.lead)
        return CardFace(
            one.id,
            one.title,
            says,
            one.verdict,
            "…" if numbers is None else numbers.verdict,
            strip,
            self.cards.bitmap(one.id),
            one.id == plan.current_study,
            chosen,
            hues,
            self._kept.of(self.desk.live.pipeline.derive(plan, one.id)),
        )

    def look(self, view: str) -> None:
        """See every picture of the wall another way."""
        self.view = view
        self.follow()

    def choose(self, ids: list[str]) -> None:
        """Choose studies on the wall."""
        self.chosen = ids
        self.desk.session.acted.emit()
        self.follow()

    def compare(self, mode: str) -> None:
        """Compare what is chosen, or go back to the wall."""
        self.mode = mode if len(self.chosen) > 1 else ""
        self.follow()
        # Only now is it known how large the pictures are.
        self.follow()
        (self.wall.compare if self.mode else self.wall.grid).setFocus()
