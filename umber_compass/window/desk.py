"""What lies on the desk: document, history, results; the one place that changes them."""

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QObject, Signal

from umber_compass import document
from umber_compass.document import Document
from umber_compass.formats.cache import Cache
from umber_compass.plan.edits import Edit
from umber_compass.plan.history import History
from umber_compass.plan.light_edits import rig_of
from umber_compass.plan.model import Plan
from umber_compass.steps.checks import Result
from umber_compass.steps.forms import Tick
from umber_compass.steps.judging import judge, measure_all
from umber_compass.steps.pipeline import Derived, Pipeline
from umber_compass.steps.relief import Relief
from umber_compass.window.arrays import Shown
from umber_compass.window.live_picture import LivePicture, single_shot
from umber_compass.window.worker import Worker, said

_MEASURE_AFTER = 20  # ms between two rounds of numbers and instruments during a drag
_JUDGE_AFTER = 150  # ms of rest before fixes are worked out
_SEAL_AFTER = 800  # ms after which key steps of one thing are a step of their own


class Desk(QObject):
    """Document, history and what follows from them."""

    opened = Signal()  # another document lies on the desk
    painted = Signal()  # the picture is new; what is measured on it follows with `changed`
    changed = Signal()  # the plan changed; derived, shown and results are new
    sharpened = Signal()  # the exact picture took the place of the quick one
    judged = Signal()  # results came, perhaps with fixes
    told = Signal(str, bool)  # a line for the artist; whether it is about something refused
    selected = Signal(str)  # a region's id, or empty

    def __init__(self, cache: Cache | None = None) -> None:
        super().__init__()
        self.worker = Worker()
        self.cache = cache
        self.document: Document | None = None
        self.path: Path | None = None
        self.history: History | None = None
        self.first: Plan | None = None
        self.saved: Plan | None = None
        self.live = LivePicture(self.worker, cache)
        self.results: list[Result] = []
        self.selection = ""
        self.dragging = False
        self._measuring = single_shot(self, _MEASURE_AFTER, self._measure)
        self._judging = single_shot(self, _JUDGE_AFTER, self._judge)
        self._sealing = single_shot(self, _SEAL_AFTER, self.seal)
        self.live.rebuilt.connect(self._on_rebuilt)
        self.live.told.connect(self.told)
        self.live.sharpened.connect(self.sharpened)

    # --- documents ---

    def lay(self, laid: Document, path: Path | None, relief: Relief | None = None) -> None:
        """Put a document on the desk, with its relief where that was kept."""
        self.document, self.path = laid, path
        self.history = History(laid.plan)
        self.first = laid.plan
        self.saved = laid.plan if path is not None else None
        self.live.begin(laid, relief)
        self.selection = ""
        self._follow()
        self.opened.emit()
        self._measure()

    def open(self, path: Path, keep_path: bool = True) -> None:
        """Read a plan, or bring a picture in, off the GUI thread."""
        is_plan = path.suffix.lower() == ".umber"
        self.told.emit(self.tr("Reading {name} …").format(name=path.name), False)
        kept = path if is_plan and keep_path else None

        def answer(found: tuple[Document, Relief | None]) -> None:
            self.lay(found[0], kept, found[1])
            self.told.emit("", False)
            self.live.say_damage()

        def read(tick: Tick) -> tuple[Document, Relief | None]:
            if not is_plan:
                return document.bring_in(path), None
            laid = document.open_plan(path, self.cache)
            lit = rig_of(laid.plan).on
            return laid, document.kept_relief(laid, laid.plan, self.cache) if lit else None

        says = self.tr("Reading {name}").format(name=path.name)
        self.worker.ask("open", read, answer, self._refused, says)

    def save(self, path: Path, then: Callable[[], object] | None = None) -> None:
        """Write the plan, off the GUI thread."""
        if self.history is None or self.document is None:
            return
        plan = self.history.now
        held = self.document._replace(plan=plan)
        shown = None if self.shown is None else self.shown.packed.copy()

        def answer(_: object) -> None:
            self.saved, self.path = plan, path
            self.told.emit(self.tr("Saved {name}").format(name=path.name), False)
            self.changed.emit()
            if then is not None:
                then()

        says = self.tr("Saving {name}").format(name=path.name)
        self.worker.ask(
            "save", lambda tick: document.save(held, path, shown), answer, self._refused, says
        )

    def hand_off(self, folder: Path, kinds: list[str], force: bool = False) -> None:
        """Write the painting program's files, off the GUI thread."""
        if self.history is None or self.document is None:
            return
        held = self.document._replace(plan=self.history.now)

        def answer(files: list[Path]) -> None:
            names = ", ".join(f.name for f in files)
            self.told.emit(
                self.tr("Wrote {names} to {folder}").format(names=names, folder=folder), False
            )

        self.worker.ask(
            "handoff",
            lambda tick: document.hand_off(held, folder, kinds, force, tick),
            answer,
            self._refused,
            self.tr("Writing the files"),
        )

    def _refused(self, error: Exception) -> None:
        self.told.emit(said(error), True)

    @property
    def unsaved(self) -> bool:
        """Whether there is work that no file holds. A sketch just brought in counts as work."""
        return self.history is not None and self.history.now != self.saved

    # --- changes ---

    def do(self, edit: Edit) -> None:
        """Make an edit."""
        if self.history is None:
            return
        self._set(self.history.do(edit))
        if edit.merge is not None and not self.dragging:
            self._sealing.start()

    def seal(self) -> None:
        """End a drag: the next edit is a step of its own, and the exact picture is asked for."""
        was_dragging, self.dragging = self.dragging, False
        if self._measuring.isActive():
            self._measure()
        if was_dragging:
            self.live.sharpen_soon()
            self.changed.emit()  # what was left out during the drag comes back
        if self.history is not None:
            self.history = self.history.sealed()

    def undo(self) -> None:
        """One step back."""
        if self.history is not None:
            self._set(self.history.undo())

    def redo(self) -> None:
        """One step forward."""
        if self.history is not None:
            self._set(self.history.redo())

    def select(self, region_id: str) -> None:
        """Point every part of the window at a region."""
        self.selection = region_id
        self.selected.emit(region_id)

    def _set(self, history: History) -> None:
        if history is self.history:
            return
        same = self.history is not None and history.now is self.history.now
        self.history = history
        if not same:
            self._follow()
        if self.dragging:
            # Once the frame is painted, and not for every move: the picture comes first.
            if not self._measuring.isActive():
                self._measuring.start()
        else:
            self._measure()

    def _follow(self) -> None:
        """Derive and repaint the plan that is on now."""
        if self.history is not None and self.document is not None:
            self.live.follow(self.history.now, self.dragging)
            self.painted.emit()

    def _on_rebuilt(self) -> None:
        self._follow()
        self._measure()

    @property
    def derived(self) -> Derived | None:
        """What follows from the plan that is on."""
        return self.live.derived

    @property
    def shown(self) -> Shown | None:
        """The picture that is on."""
        return self.live.shown

    def _measure(self) -> None:
        """Measure the picture that is on now; fixes are worked out when the hand rests."""
        self._measuring.stop()
        if self.derived is not None:
            self.results = measure_all(self.derived)
            self._judging.start()
            self.changed.emit()

    def preview(self, edit: Edit) -> Shown | None:
        """The picture after an edit that is not made."""
        if self.history is None:
            return None
        return self.live.picture_of(edit.apply(self.history.now))

    def before(self) -> Shown | None:
        """The picture before the last change."""
        if self.history is None or not self.history.past:
            return None
        return self.live.picture_of(self.history.past[-1].plan)

    def as_opened(self) -> Shown | None:
        """The picture as the plan was opened."""
        return None if self.first is None else self.live.picture_of(self.first)

    def _judge(self) -> None:
        """Work the fixes out, off the GUI thread, on a pipeline of its own."""
        if self.derived is None:
            return
        derived = self.derived

        def work(tick: Tick) -> tuple[Derived, list[Result]]:
            return derived, judge(derived, Pipeline.of(derived), tick)

        says = self.tr("Working out fixes")
        self.worker.ask("judge", work, self._take_judgement, self._refused, says)

    def _take_judgement(self, answer: tuple[Derived, list[Result]]) -> None:
        if answer[0] is self.derived:
            self.results = answer[1]
            self.judged.emit()

    def close(self) -> None:
        """Let nothing outlive the window."""
        for timer in (self._judging, self._sealing, self._measuring):
            timer.stop()
        self.live.close()
        self.worker.close()
