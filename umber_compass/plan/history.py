"""Past, now and future of one plan. Old plans are kept whole; sharing makes them cheap."""

from typing import NamedTuple

from umber_compass.plan.edits import Edit
from umber_compass.plan.model import Plan
from umber_compass.words import Words


class Moment(NamedTuple):
    """A plan as it was, and the name of the change that left it."""

    plan: Plan
    change: Words


class History(NamedTuple):
    """An immutable history; every change of it is a new one."""

    now: Plan
    past: tuple[Moment, ...] = ()
    future: tuple[Moment, ...] = ()
    open_key: str | None = None  # the merge key of a drag that is still going on

    def do(self, edit: Edit) -> "History":
        """The history after an edit. While a drag goes on, its next move starts again from the
        plan before the drag, so that relative moves do not add up."""
        merging = edit.merge is not None and edit.merge == self.open_key and bool(self.past)
        before = self.past[-1].plan if merging else self.now
        after = edit.apply(before)
        if after == before:
            return History(before, self.past[:-1], (), None) if merging else self
        past = self.past[:-1] if merging else self.past
        return History(after, (*past, Moment(before, edit.name)), (), edit.merge)

    def sealed(self) -> "History":
        """The same history with its drag ended: the next edit is a step of its own."""
        return self._replace(open_key=None)

    def gone_on(self, key: str) -> "History":
        """The same history, its last step open again for edits of a merge key."""
        return self._replace(open_key=key)

    def undo(self) -> "History":
        """One step back, if there is one."""
        if not self.past:
            return self
        last = self.past[-1]
        return History(last.plan, self.past[:-1], (Moment(self.now, last.change), *self.future))

    def redo(self) -> "History":
        """One step forward again, if there is one."""
        if not self.future:
            return self
        following = self.future[0]
        past = (*self.past, Moment(self.now, following.change))
        return History(following.plan, past, self.future[1:])
