"""The journal while a plan is open: every decision is written down as it is made."""

import time
from collections.abc import Callable

from PySide6.QtCore import QObject, Signal

from umber_compass.plan.edits import study
from umber_compass.plan.history import History
from umber_compass.plan.journal import (
    Entry,
    FreshLook,
    Journal,
    Look,
    with_done,
    with_entry,
    with_last,
    with_look,
    with_look_note,
    with_why,
)
from umber_compass.window.desk.desk import Desk


class Journaling(QObject):
    """Keeps the journal of the plan that is on; says when it is another."""

    changed = Signal()

    def __init__(self, desk: Desk, clock: Callable[[], float] = time.time) -> None:
        super().__init__(desk)
        self._desk, self.clock = desk, clock
        self._known: History | None = None  # the history whose decisions are written down
        desk.opened.connect(self._begin)
        desk.edited.connect(self._follow)
        desk.changed.connect(self._follow)

    @property
    def journal(self) -> Journal:
        """The journal of the plan that is on; an empty one where none is."""
        return Journal() if self._desk.pixels is None else self._desk.pixels.journal

    def _begin(self) -> None:
        self._known = self._desk.history
        self.changed.emit()

    def _follow(self) -> None:
        """Write down what was done since: steps forward, keys that go on, steps back. A drag is
        written down when it ends."""
        history, known = self._desk.history, self._known
        if history is None or known is None or history is known or self._desk.session.dragging:
            return
        self._known = history
        journal, count = self.journal, len(known.past)
        if len(history.past) > count:
            # A new step, or one that was taken back and is done again.
            for i in range(count, len(history.past)):
                journal = with_entry(journal, self._entry(_said(history, i)))
        elif len(history.past) < count and history.future:
            for moment in known.past[len(history.past) :]:
                line = self.tr("undo: {what}").format(what=moment.change)
                journal = with_entry(journal, self._entry(line))
        elif history.past and len(history.past) == count:
            journal = with_last(journal, _said(history, count - 1)[:500])
        self._set(journal, said=False)

    def _entry(self, text: str) -> Entry:
        desk = self._desk
        assert desk.history is not None  # something was done
        now = study(desk.history.now)
        return Entry(
            at=max(self.clock(), 0.0),
            step=desk.session.step,
            text=text[:500],
            study=now.title,
            verdict=now.verdict,
        )

    def _set(self, journal: Journal, said: bool) -> None:
        if self._desk.pixels is None or journal == self.journal:
            return
        self._desk.pixels.journal = journal
        if said:
            self._desk.noted = True
            self._desk.edited.emit()  # it is to be kept, and the title says that it is unsaved
        self.changed.emit()

    def say_why(self, index: int, why: str) -> None:
        """Write down why a decision was made."""
        self._set(with_why(self.journal, index, why[:2000]), said=True)

    def tick(self, key: str, done: bool) -> None:
        """A step of the card is done, or not."""
        self._set(with_done(self.journal, key, done), said=True)

    def add_look(self, look: Look) -> None:
        """The painting was looked at."""
        self._set(with_look(self.journal, look), said=True)

    def note_look(self, file_name: str, place: str, note: str) -> None:
        """Write down something about the last look at a painting."""
        self._set(with_look_note(self.journal, file_name, place, note[:2000]), said=True)

    def add_fresh_look(self, answers: tuple[str, str, str]) -> None:
        """The artist looked anew and said something."""
        from msgspec.structs import replace

        look = FreshLook(at=max(self.clock(), 0.0), answers=answers)
        self._set(replace(self.journal, fresh=(*self.journal.fresh, look)[-500:]), said=True)


def _said(history: History, i: int) -> str:
    """A step of a history in words, with its numbers where the words have none."""
    from umber_compass.plan.changed_numbers import changed_numbers  # for what is done, not to start

    moment = history.past[i]
    after = history.past[i + 1].plan if i + 1 < len(history.past) else history.now
    text = str(moment.change)
    if any(c.isdigit() for c in text):
        return text
    numbers = changed_numbers(moment.plan, after)
    return f"{text}: {numbers}" if numbers else text
