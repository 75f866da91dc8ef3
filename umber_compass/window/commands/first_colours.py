"""First colours on the study wall: questions answered, six proposed, what is liked kept."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QTimer

from umber_compass.plan.first_edits import ask_again
from umber_compass.plan.model import Plan
from umber_compass.steps.pipeline import Derived
from umber_compass.window.commands.proposing import Proposing
from umber_compass.window.commands.steps import StepCommands
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.jobs import step
from umber_compass.window.wall.shown import STEP, WallShown
from umber_compass.window.widgets.timers import single_shot

if TYPE_CHECKING:
    from umber_compass.window.wall.first.strip import FirstStrip
    from umber_compass.window.widgets.outlines import Outlines

_REGROW_AFTER = 200  # ms without another answer


class FirstColours(QObject):
    """Keeps the strip up with the plan, and asks for proposals. The strip is made when it is first
    wanted."""

    def __init__(self, shown: WallShown, steps: StepCommands) -> None:
        super().__init__(shown.wall)
        self.desk: Desk = shown.desk
        self._shown, self._steps = shown, steps
        self._strip: FirstStrip | None = None
        self._outlines: Outlines | None = None
        self._wanted_open = False
        self.regrowing = single_shot(self, _REGROW_AFTER, lambda: self.ask("first"))
        self.proposing = Proposing(self.desk, self)
        self.proposing.renewed.connect(self.follow)
        self.proposing.renewed.connect(shown.follow)
        self.desk.changed.connect(self.follow)
        self.desk.opened.connect(self._on_opened)
        self.desk.session.stepped.connect(self.follow)
        shown.cards.painted.connect(self.follow)

    @property
    def strip(self) -> "FirstStrip":
        """The strip, with what answers it."""
        if self._strip is None:
            from umber_compass.window.commands.first_answers import FirstAnswers
            from umber_compass.window.commands.liking import Liking
            from umber_compass.window.wall.first.strip import FirstStrip

            self._strip = FirstStrip()
            self._shown.wall.put_above(self._strip)
            self.answers = FirstAnswers(self.desk, self._strip, self._on_answered)
            self.liking = Liking(self.desk, self._shown.wall.grid)
            self._strip.asked.connect(self.ask)
        return self._strip

    @property
    def plan(self) -> Plan | None:
        """The plan that is on."""
        return None if self.desk.history is None else self.desk.history.now

    @property
    def waits(self) -> bool:
        """Whether proposals wait on the wall."""
        return self.plan is not None and any(s.proposal for s in self.plan.studies)

    def _on_opened(self) -> None:
        self._wanted_open, self._outlines = False, None
        self.regrowing.stop()
        derived = self.desk.derived
        if derived is not None and derived.uncoloured and len(derived.plan.studies) == 1:
            line = self.tr("All grey. Propose colours? Press the button beside, or Ctrl+Shift+F")
            QTimer.singleShot(0, self, lambda: self.desk.told.emit(line, False))

    def toggle(self) -> None:
        """Open the wall with the strip; propose where nothing is proposed yet."""
        if self.plan is None:
            return
        self._wanted_open = True
        self._steps.open(STEP)
        self.follow()
        if not self.waits:
            self.ask("first")

    def follow(self) -> None:
        """Show the strip as the plan has it: while nothing is coloured, while proposals wait, or
        where it was asked for."""
        derived = self.desk.derived
        if not self._shown.is_open or derived is None or self.desk.session.dragging:
            return
        on = (self.waits or self._wanted_open or derived.uncoloured) and not self._shown.mode
        if self._strip is not None or on:
            self.strip.setVisible(on)
        if on:
            self._show_facts(derived)

    def _show_facts(self, derived: Derived) -> None:
        from umber_compass.window.commands.first_answers import guess_of
        from umber_compass.window.wall.first.facts import facts_of
        from umber_compass.window.widgets.outlines import Outlines

        if self._outlines is None or self._outlines.drawing is not derived.drawing:
            self._outlines = Outlines(derived.drawing)
        bitmap = self._shown.cards.bitmap(derived.plan.current_study)
        self.strip.show_facts(facts_of(derived, guess_of(derived)), self._outlines, bitmap)

    def _on_answered(self) -> None:
        """Proposals that wait are made anew from the new answer."""
        self.follow()
        if self.waits:
            self.regrowing.start()

    def ask(self, action: str) -> None:
        """Propose: six, the rest of what is kept, others, more like the chosen one."""
        plan = self.plan
        if plan is None:
            return
        self._wanted_open = True
        waiting = tuple(s for s in plan.studies if s.proposal)
        if action == "first":
            self.proposing.propose(())
        elif action == "first-like":
            self.proposing.propose(waiting, self._shown.one)
        else:
            if action == "first-others":
                step(self.desk, ask_again())
            self.proposing.propose(waiting)
