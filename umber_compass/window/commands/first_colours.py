"""First colours on the study wall: questions answered, six proposed, what is liked kept."""

import time
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtWidgets import QApplication

from umber_compass.document import Pixels
from umber_compass.plan.edits import Edit, region, region_of_label, study
from umber_compass.plan.first_edits import (
    ask_again,
    keep_colours,
    see_first,
    set_lights,
    tell_budget,
)
from umber_compass.plan.model import Plan, Region, Study
from umber_compass.plan.settings import change_setting
from umber_compass.plan.study_edits import find_study, in_study, renew_proposals
from umber_compass.steps.harmony.edits import give_colour
from umber_compass.steps.pipeline import Derived
from umber_compass.window.benches.sketch.outlines import Outlines
from umber_compass.window.commands.steps import StepCommands
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.jobs import job, step
from umber_compass.window.wall.first.facts import facts_of
from umber_compass.window.wall.shown import STEP, WallShown
from umber_compass.window.widgets.timers import single_shot
from umber_compass.words import Refusal, words
from umber_compass.work import Tick

if TYPE_CHECKING:
    from umber_compass.steps.first.propose import Proposed

_REGROW_AFTER = 350  # ms without another answer


class FirstColours(QObject):
    """Keeps the strip up with the plan, and answers it."""

    _came = Signal(object, object, str)  # from the worker: pixels, a study, the run's merge key

    def __init__(self, shown: WallShown, steps: StepCommands) -> None:
        super().__init__(shown.wall)
        self.desk: Desk = shown.desk
        self._shown, self._strip = shown, shown.wall.first
        self._steps, self._runs = steps, 0
        self._outlines: Outlines | None = None
        self._touched: tuple[float, Edit] | None = None
        self._wanted_open = False
        self.regrowing = single_shot(self, _REGROW_AFTER, self._regrow)
        self._came.connect(self._show_one)
        self._join()

    def _join(self) -> None:
        strip, grid, desk = self._strip, self._shown.wall.grid, self.desk
        strip.focus_picked.connect(self._pick_focus)
        strip.focus_told.connect(self._say_focus)
        strip.told.connect(lambda key, value: self._answer(change_setting(key, value)))
        strip.area_told.connect(self._say_area)
        strip.ground_told.connect(self._say_ground)
        strip.light_told.connect(self._say_light)
        strip.budget_told.connect(lambda n: self._answer(tell_budget(n or None)))
        strip.asked.connect(self.ask)
        grid.touched.connect(self._touch)
        grid.given.connect(self._give)
        grid.opened.connect(self._untouch)
        grid.carried = self.carried
        desk.changed.connect(self.follow)
        desk.opened.connect(self._on_opened)
        desk.session.stepped.connect(self.follow)
        self._shown.cards.painted.connect(self.follow)

    @property
    def plan(self) -> Plan | None:
        """The plan that is on."""
        return None if self.desk.history is None else self.desk.history.now

    @property
    def wanted(self) -> bool:
        """Whether the strip is shown: nothing is coloured yet, proposals wait, or it was asked
        for."""
        derived = self.desk.derived
        if derived is None:
            return False
        waiting = any(s.proposal for s in derived.plan.studies)
        return waiting or self._wanted_open or derived.uncoloured

    def _on_opened(self) -> None:
        self._wanted_open, self._outlines = False, None
        self.regrowing.stop()
        derived = self.desk.derived
        if derived is not None and derived.uncoloured and len(derived.plan.studies) == 1:
            line = self.tr("All grey. Propose colours? Press the button beside, or Ctrl+Shift+F")
            QTimer.singleShot(0, self, lambda: self.desk.told.emit(line, False))

    def toggle(self) -> None:
        """Open the wall with the strip; propose where nothing is proposed yet."""
        plan = self.plan
        if plan is None:
            return
        self._wanted_open = True
        self._steps.open(STEP)
        self.follow()
        if not any(s.proposal for s in plan.studies):
            self.ask("first")

    def follow(self) -> None:
        """Show the strip as the plan has it."""
        derived = self.desk.derived
        if not self._shown.is_open or derived is None or self.desk.session.dragging:
            return
        on = self.wanted and not self._shown.mode
        self._strip.setVisible(on)
        if not on:
            return
        if self._outlines is None or self._outlines.drawing is not derived.drawing:
            self._outlines = Outlines(derived.drawing)
        bitmap = self._shown.cards.bitmap(derived.plan.current_study)
        self._strip.show_facts(facts_of(derived, self._guess_of(derived)), self._outlines, bitmap)

    def _guess_of(self, derived: Derived) -> str:
        """The region that proposals take to be seen first, as the last ones said it."""
        for one in derived.plan.studies:
            if one.proposal and one.focus is not None and one.focus.regions:
                return one.focus.regions[0]
        return ""

    def _answer(self, edit: Edit) -> None:
        """Something was answered: a step, and the proposals that wait are made anew."""
        try:
            step(self.desk, edit)
        except Refusal as refusal:
            self.desk.told.emit(str(refusal), True)
            return
        plan = self.plan
        if plan is not None and any(s.proposal for s in plan.studies):
            self.regrowing.start()

    def _pick_focus(self, x: float, y: float) -> None:
        derived = self.desk.derived
        if derived is None:
            return
        labels = derived.drawing.labels
        label = int(labels[int(y * labels.shape[0]), int(x * labels.shape[1])])
        found = region_of_label(derived.plan, label)
        if found is None or found.role == "line":
            line = self.tr("There is a line or nothing; click inside an area")
            self.desk.told.emit(line, False)
            return
        self._answer(see_first(derived.plan, found.id))

    def _say_focus(self, material: str) -> None:
        derived = self.desk.derived
        if derived is None:
            return
        plan = derived.plan
        mine = [r.id for r in plan.regions if r.role == "focus"]
        guess = self._guess_of(derived)
        if not mine and guess:
            mine = [guess]
        if not mine:
            line = self.tr("Click what should be seen first, then say what it is")
            self.desk.told.emit(line, False)
            return
        self._answer(see_first(plan, *mine, material=material))

    def _say_area(self, region_id: str, material: str) -> None:
        if self.plan is not None:
            name = region(self.plan, region_id).name
            key = "region.REGION.material"
            self._answer(change_setting(key, material or "matte", region_id, name))

    def _say_ground(self, region_id: str, ground: bool) -> None:
        if self.plan is not None:
            role = "ground" if ground else "middle ground"
            name = region(self.plan, region_id).name
            self._answer(change_setting("region.REGION.role", role, region_id, name))

    def _say_light(self, light: str) -> None:
        if self.plan is None:
            return
        now = list(self.plan.first.lights)
        changed = [n for n in now if n != light] if light in now else [*now, light]
        self._answer(set_lights(changed or now))
        self.follow()

    def ask(self, action: str) -> None:
        """Propose: six, the rest of what is kept, others, more like the chosen one."""
        plan = self.plan
        if plan is None:
            return
        waiting = tuple(s for s in plan.studies if s.proposal)
        if action == "first":
            self.propose(())
        elif action == "first-like":
            self.propose(waiting, like=self._shown.one)
        else:
            if action == "first-others":
                step(self.desk, ask_again())
            self.propose(waiting)

    def _regrow(self) -> None:
        self.propose(())

    def propose(self, known: tuple[Study, ...], like: Study | None = None) -> None:
        """Have six proposed, far from some known ones; the first is shown as soon as it is
        there."""
        desk, pipeline = self.desk, self.desk.live.pipeline
        self._runs += 1
        merge = f"first colours {self._runs}"
        self._wanted_open = True

        def work(plan: Plan, pixels: Pixels, tick: Tick) -> "Proposed":
            from umber_compass.steps.first.propose import propose

            base = _base_of(plan)
            return propose(
                pipeline.derive(plan, base),
                known=known,
                like=like,
                tick=tick,
                tell=lambda one: self._came.emit(pixels, one, merge),
            )

        def answer(found: "Proposed", pixels: Pixels) -> None:
            if {*found.studies[0].colours} != {r.id for r in self._regions()}:
                line = self.tr("The regions changed while colours were proposed; propose again")
                desk.told.emit(line, True)
                return
            self._renew(found.studies, merge)
            said = "; ".join(str(n) for n in found.notes)
            line = self.tr("Six proposals; click what you like on one, then Try the rest")
            desk.told.emit(said or line, False)

        job(desk, "first", work, answer, self.tr("Proposing colours"))

    def _regions(self) -> tuple[Region, ...]:
        return () if self.plan is None else self.plan.regions

    def _show_one(self, pixels: Pixels, one: Study, merge: str) -> None:
        """The first proposal, while the others are still searched."""
        if self.desk.pixels is pixels and {*one.colours} == {r.id for r in self._regions()}:
            self._renew((one,), merge)

    def _renew(self, studies: tuple[Study, ...], merge: str) -> None:
        desk = self.desk
        desk.session.taking.emit()
        desk.do(renew_proposals(studies, merge))
        self.follow()
        self._shown.follow()

    def _alike(self, plan: Plan, study_id: str, at: str) -> tuple[list[str], str]:
        """The regions that have the colour, and the role, of one in a study; and its hex."""
        shown = self.desk.live.pipeline.derive(plan, study_id).colours
        own, role = shown[at].first.hex, region(plan, at).role
        mine = [r.id for r in plan.regions if shown[r.id].first.hex == own and r.role == role]
        return mine, own

    def _region_at(self, x: float, y: float) -> str:
        derived = self.desk.derived
        if derived is None:
            return ""
        labels = derived.drawing.labels
        label = int(labels[int(y * labels.shape[0]), int(x * labels.shape[1])])
        found = region_of_label(derived.plan, label)
        return "" if found is None else found.id

    def _touch(self, study_id: str, x: float, y: float) -> None:
        """A click on what is liked keeps it; one on what is kept lets it go."""
        plan, at = self.plan, self._region_at(x, y)
        if plan is None or not at or not find_study(plan, study_id).proposal:
            return
        mine, own = self._alike(plan, study_id, at)
        held = plan.first.kept.get(at) == own
        before = {r: plan.first.kept.get(r) for r in mine}
        name = region(plan, at).name
        text = words("let go of {name}" if held else "keep {name}", name=name)
        step(self.desk, keep_colours(dict.fromkeys(mine, None if held else own), text))
        self._touched = (time.monotonic(), keep_colours(before, text))
        self._shown.follow()

    def _untouch(self, study_id: str) -> None:
        """A double click was no liking: what its first click kept is let go."""
        within = QApplication.doubleClickInterval() / 1000 + 0.1
        if self._touched is not None and time.monotonic() - self._touched[0] < within:
            step(self.desk, self._touched[1])
        self._touched = None

    def carried(self, study_id: str, x: float, y: float) -> str:
        """The hex of a kept colour at a place of a card, to be carried to another; else empty."""
        plan, at = self.plan, self._region_at(x, y)
        if plan is None or not at or at not in plan.first.kept:
            return ""
        own = self.desk.live.pipeline.derive(plan, study_id).colours[at].first.hex
        return own if own == plan.first.kept[at] else ""

    def _give(self, study_id: str, x: float, y: float, colour: str) -> None:
        """A colour that fell on a card, given to what has one colour there."""
        plan, at = self.plan, self._region_at(x, y)
        if plan is None or not at:
            return
        mine, _ = self._alike(plan, study_id, at)
        name = region(plan, at).name
        for one in mine:
            self.desk.do(in_study(study_id, give_colour(one, colour, name)))
        self.desk.seal()


def _base_of(plan: Plan) -> str | None:
    """The study proposals are made from: the one that is shown, or, where that is itself a
    proposal, the first that is none."""
    now = study(plan)
    if not now.proposal:
        return None
    return next((s.id for s in plan.studies if not s.proposal), None)
