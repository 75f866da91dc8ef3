"""Leads through the first minute with a picture of one's own, once; Escape skips it."""

from PySide6.QtCore import QObject

from umber_compass.window.commands.steps import StepCommands
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.remembered import Remembered
from umber_compass.window.desk.session import FIRST_WITH_SKETCH
from umber_compass.window.frame.guide import STEPS, GuideCard

_WORD = "guided"


class Guide(QObject):
    """Leads through the steps once, on a sketch that was brought in."""

    def __init__(
        self, card: GuideCard, desk: Desk, steps: StepCommands, remembered: Remembered
    ) -> None:
        super().__init__(desk)
        self._card, self._desk, self._steps = card, desk, steps
        self._remembered = remembered
        self._at = -1
        card.next_wanted.connect(self._next)
        card.skipped.connect(self.end)
        desk.opened.connect(self._on_opened)
        desk.session.stepped.connect(self._on_stepped)

    @property
    def is_on(self) -> bool:
        """Whether it leads now."""
        return self._at >= 0

    def _on_opened(self) -> None:
        """A sketch of one's own lies in no file and has no path yet; a demo is not one's own."""
        own = self._desk.path is None and self._desk.session.step == FIRST_WITH_SKETCH
        if own and self._remembered.is_kept and not self._remembered.word(_WORD):
            self.begin()

    def begin(self) -> None:
        """Begin with the first step."""
        self._at = 0
        self._show()

    def _next(self) -> None:
        if self._at + 1 >= len(STEPS):
            self.end()
            return
        self._at += 1
        self._show()

    def _show(self) -> None:
        step = STEPS[self._at].step
        if self._desk.session.step != step:
            self._steps.open(step)
        self._card.show_step(self._at)

    def _on_stepped(self) -> None:
        """Whoever goes on alone is led from there."""
        if not self.is_on:
            return
        at = next((i for i, s in enumerate(STEPS) if s.step == self._desk.session.step), self._at)
        if at != self._at:
            self._at = at
            self._card.show_step(at)

    def end(self) -> None:
        """It does not come again."""
        self._at = -1
        self._remembered.keep(_WORD, "yes")
        self._card.hide()
