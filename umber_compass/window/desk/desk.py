"""What lies on the desk: pixels, history, results; the one place that changes them."""

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QObject, Signal

from umber_compass.document import Kept, Pixels, Ready
from umber_compass.document.kept_work import KeptWork
from umber_compass.formats.atomic import Stamp
from umber_compass.formats.cache import Cache
from umber_compass.formats.sketch_paths import SketchPaths
from umber_compass.plan.edits import Edit
from umber_compass.plan.history import History
from umber_compass.plan.model import Plan
from umber_compass.steps.pipeline import Derived
from umber_compass.window.desk.judge import Judge
from umber_compass.window.desk.live_picture import LivePicture
from umber_compass.window.desk.orders import Orders
from umber_compass.window.desk.session import Session
from umber_compass.window.desk.turns import Turns
from umber_compass.window.desk.worker import Worker
from umber_compass.window.widgets.timers import single_shot
from umber_compass.words import Refusal

_SEAL_AFTER = 800  # ms after which key steps of one thing are a step of their own


class Desk(QObject):
    """Document, history and what follows from them."""

    leaving = Signal()  # the document that is there is about to go
    filed = Signal(object)  # the plan lies in this file now
    opened = Signal()  # another document lies on the desk
    painted = Signal()  # the picture is new; what is measured on it follows with `changed`
    changed = Signal()  # the plan changed; derived, picture and results are new
    edited = Signal()  # the plan is another, or lies in a file now
    closed = Signal()  # nothing more may be asked
    told = Signal(str, bool)  # a line for the artist; whether it is about something refused

    def __init__(self, cache: Cache | None = None, state: Path | None = None) -> None:
        super().__init__()
        self.paths, self.kept_work = SketchPaths(state), KeptWork(state)
        self.worker, self.session = Worker(), Session()
        kept = None if cache is None else Kept(cache)
        self.live = LivePicture(self.worker, self.session, kept)
        self.judge, self.orders = Judge(self.worker, self.live, self.session), Orders(self.worker)
        self.turns = Turns()
        for part in (self.worker, self.session, self.live, self.judge, self.orders, self.turns):
            part.setParent(self)
        self.pixels: Pixels | None = None
        self.path: Path | None = None
        self.stamp: Stamp | None = None  # of the file, as it was last read or written here
        self.history: History | None = None
        self.first: Plan | None = None
        self.saved: Plan | None = None
        self.noted = False  # whether the journal holds what the artist said and no file does
        self.brought_back = False  # whether the plan is work that was never saved
        self.sealing = single_shot(self, _SEAL_AFTER, self.seal)
        self.live.rebuilt.connect(self._on_rebuilt)
        self.live.told.connect(self.told)
        self.worker.refused.connect(self.told)
        self.judge.measured.connect(self.changed)

    def lay(
        self,
        ready: Ready,
        path: Path | None,
        stamp: Stamp | None = None,
        brought_back: bool = False,
    ) -> None:
        """Put a document on the desk; `stamp` is the state of the file it was read from, or which
        it was `brought_back` as unsaved work of. Whatever is dragged is let go first."""
        opened = ready.opened
        self.session.taking.emit()
        self.leaving.emit()
        self.seal()
        self.pixels, self.path, self.stamp = opened.pixels, path, stamp
        self.history = History(opened.plan)
        self.first = opened.plan
        self.brought_back, self.noted = brought_back, False
        self.saved = opened.plan if path is not None and not brought_back else None
        self.live.begin(ready.pipeline)
        self.session.selection = self.session.alone = ""
        self.session.also = ()
        self._follow()
        self.opened.emit()
        if path is not None:
            self.filed.emit(path)
        self.judge.measure()

    def lies_in(self, path: Path, plan: Plan, stamp: Stamp | None) -> None:
        """A plan was written to this file, whose state is then `stamp`."""
        self.saved, self.path, self.stamp, self.brought_back = plan, path, stamp, False
        self.noted = False
        self.filed.emit(path)
        self.changed.emit()

    @property
    def unsaved(self) -> bool:
        """Whether there is work that no file holds, or the file holds what was undone. A sketch
        just brought in, or a demo, is none until something is done."""
        history = self.history
        if history is None or history.now == self.saved:
            return self.noted
        return bool(history.past) or self.saved is not None or self.brought_back or self.noted

    @property
    def derived(self) -> Derived | None:
        """What follows from the plan that is on."""
        return self.live.derived

    def do(self, edit: Edit) -> None:
        """Make an edit; what the records' ranges forbid is refused in one line."""
        if self.history is None:
            return
        self.session.taking.emit()
        self.session.acted.emit()
        before = self.history.now
        try:
            self._set(self.history.do(edit))
        except Refusal as refusal:
            self.told.emit(str(refusal), True)
            return
        if edit.says is not None and self.history.now is not before:
            self.told.emit(str(edit.says(before, self.history.now)), False)
        if edit.merge is not None and not self.session.dragging:
            self.sealing.start()

    def begin_drag(self) -> None:
        """Something is taken in hand: its moves are one step."""
        self.seal()
        self.session.dragging = True

    def seal(self) -> None:
        """End a drag: the next edit is a step of its own, and the exact picture is asked for."""
        was_dragging, self.session.dragging = self.session.dragging, False
        self.turns.end()
        self.judge.measure_what_waits()
        if was_dragging:
            self.live.sharpening.start()
            self.changed.emit()  # what was left out during the drag comes back
        if self.history is not None:
            self.history = self.history.sealed()

    def undo(self) -> None:
        """One step back."""
        self._go(History.undo)

    def redo(self) -> None:
        """One step forward."""
        self._go(History.redo)

    def _go(self, way: Callable[[History], History]) -> None:
        if self.history is not None:
            self.session.taking.emit()
            self.session.acted.emit()
            self._set(way(self.history))

    def _set(self, history: History) -> None:
        if history is self.history:
            return
        same = self.history is not None and history.now is self.history.now
        if self.history is not None and history.now.regions is not self.history.now.regions:
            self.session.keep_known({r.id for r in history.now.regions})
        self.history = history
        self.edited.emit()
        other = self._follow() if not same else True
        if not other:
            # What is shown is the same: nothing need be measured anew.
            if not self.session.dragging:
                self.changed.emit()
        elif self.session.dragging:
            self.judge.fall_behind()
            self.turns.frame()
        else:
            self.judge.measure()

    def _follow(self) -> bool:
        """Derive and repaint the plan that is on now; gives whether it may look otherwise."""
        if self.history is None:
            return False
        other = self.live.follow(self.history.now)
        self.painted.emit()
        return other

    def _on_rebuilt(self) -> None:
        self._follow()
        self.judge.measure()

    def close(self) -> None:
        """Let nothing outlive the window."""
        self.closed.emit()
        self.sealing.stop()
        self.turns.end()
        self.live.sharpening.stop()
        self.judge.close()
        self.orders.close()
        self.worker.close()
