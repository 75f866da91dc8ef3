"""What lies on the desk: document, history, picture; the one place that changes them."""

from collections.abc import Callable
from pathlib import Path
from typing import Any

from PySide6.QtCore import QObject, QTimer, Signal

from umber_compass import document
from umber_compass.document import Document
from umber_compass.plan.edits import Edit
from umber_compass.plan.history import History
from umber_compass.plan.model import Plan
from umber_compass.steps.checks import Result
from umber_compass.steps.codes import Codes, Mask, mask_of, paint, paint_region
from umber_compass.steps.judging import judge, measure_all
from umber_compass.steps.pipeline import Derived, Pipeline
from umber_compass.window.arrays import Shown
from umber_compass.window.worker import Worker, said

_JUDGE_AFTER = 150  # ms of rest before fixes are worked out
_SEAL_AFTER = 800  # ms after which key steps of one thing are a step of their own


class Desk(QObject):
    """Document, history and what follows from them."""

    opened = Signal()  # another document lies on the desk
    changed = Signal()  # the plan changed; derived and shown are new
    judged = Signal()  # results came, perhaps with fixes
    told = Signal(str, bool)  # a line for the artist; whether it is about something refused
    selected = Signal(str)  # a region's id, or empty

    def __init__(self) -> None:
        super().__init__()
        self.worker = Worker()
        self.document: Document | None = None
        self.path: Path | None = None
        self.history: History | None = None
        self.first: Plan | None = None
        self.saved: Plan | None = None
        self.derived: Derived | None = None
        self.shown: Shown | None = None
        self.results: list[Result] = []
        self.selection = ""
        self.dragging = False
        self._pipeline: Pipeline | None = None
        self._other: Pipeline | None = None  # for pictures of other plans of the same sketch
        self._masks: dict[int, Mask] = {}
        self._masked: Codes | None = None
        self._judging = _single_shot(self, _JUDGE_AFTER, self._judge)
        self._sealing = _single_shot(self, _SEAL_AFTER, self.seal)

    # --- documents ---

    def lay(self, laid: Document, path: Path | None) -> None:
        """Put a document on the desk."""
        self.document, self.path = laid, path
        self.history = History(laid.plan)
        self.first = laid.plan
        self.saved = laid.plan if path is not None else None
        self._pipeline, self._other = Pipeline(laid.drawing), Pipeline(laid.drawing)
        self._masks, self._masked = {}, None
        self.shown, self.selection = None, ""
        self._follow()
        self.opened.emit()
        self.changed.emit()

    def open(self, path: Path, keep_path: bool = True) -> None:
        """Read a plan, or bring a picture in, off the GUI thread."""
        is_plan = path.suffix.lower() == ".umber"
        self.told.emit(self.tr("Reading {name} …").format(name=path.name), False)
        kept = path if is_plan and keep_path else None

        def answer(laid: Document) -> None:
            self.lay(laid, kept)
            self.told.emit("", False)

        read = document.open_plan if is_plan else document.bring_in
        self.worker.ask("open", lambda: read(path), answer, self._refused)

    def save(self, path: Path, then: Callable[[], object] | None = None) -> None:
        """Write the plan, off the GUI thread."""
        if self.history is None or self.document is None:
            return
        plan = self.history.now
        held = self.document._replace(plan=plan)

        def answer(_: object) -> None:
            self.saved, self.path = plan, path
            self.told.emit(self.tr("Saved {name}").format(name=path.name), False)
            self.changed.emit()
            if then is not None:
                then()

        self.worker.ask("save", lambda: document.save(held, path), answer, self._refused)

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
            "handoff", lambda: document.hand_off(held, folder, kinds, force), answer, self._refused
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
        """End a drag: the next edit is a step of its own."""
        self.dragging = False
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
        self.changed.emit()

    def _follow(self) -> None:
        """Derive, repaint and measure the plan that is on now."""
        if self.history is None or self._pipeline is None:
            return
        before = self.derived
        self.derived = self._pipeline.derive(self.history.now)
        self._repaint(before, self.derived)
        self.results = measure_all(self.derived)
        self._judging.start()

    def _repaint(self, before: Derived | None, now: Derived) -> None:
        """The picture anew; where one flat region changed alone, only that."""
        moved = _only_change(before, now) if self.shown is not None else None
        if moved is None or self.shown is None or now.document_label(moved) is None:
            self.shown = Shown(paint(now.codes, now.table))
            return
        if self._masked is not now.codes:
            self._masks, self._masked = {}, now.codes
        label = now.document_label(moved)
        assert label is not None
        if label not in self._masks:
            self._masks[label] = mask_of(now.codes, now.drawing.labels, label)
        paint_region(self.shown.packed, now.codes, now.table, self._masks[label], label)

    def picture_of(self, plan: Plan) -> Shown:
        """The picture another plan of this sketch would give."""
        assert self._other is not None
        derived = self._other.derive(plan)
        return Shown(paint(derived.codes, derived.table))

    def preview(self, edit: Edit) -> Shown | None:
        """The picture after an edit that is not made."""
        return None if self.history is None else self.picture_of(edit.apply(self.history.now))

    def before(self) -> Shown | None:
        """The picture before the last change."""
        if self.history is None or not self.history.past:
            return None
        return self.picture_of(self.history.past[-1].plan)

    def as_opened(self) -> Shown | None:
        """The picture as the plan was opened."""
        return None if self.first is None else self.picture_of(self.first)

    def _judge(self) -> None:
        """Work the fixes out, off the GUI thread, on a pipeline of its own."""
        if self.derived is None:
            return
        derived = self.derived

        def work() -> tuple[Derived, list[Result]]:
            return derived, judge(derived, Pipeline.of(derived))

        self.worker.ask("judge", work, self._take_judgement, self._refused)

    def _take_judgement(self, answer: tuple[Derived, list[Result]]) -> None:
        if answer[0] is self.derived:
            self.results = answer[1]
            self.judged.emit()

    def close(self) -> None:
        """Let nothing outlive the window."""
        self._judging.stop()
        self._sealing.stop()
        self.worker.close()


def _single_shot(parent: QObject, after: int, run: Callable[[], Any]) -> QTimer:
    timer = QTimer(parent)
    timer.setSingleShot(True)
    timer.setInterval(after)
    timer.timeout.connect(run)
    return timer


def _only_change(before: Derived | None, now: Derived) -> str | None:
    """The one flat region whose colour changed, if it is the only change to the picture."""
    if before is None or before.codes is not now.codes:
        return None
    moved = [r for r, c in now.colours.items() if before.colours.get(r) != c]
    if len(moved) == 1 and now.colours[moved[0]].second is None:
        return moved[0]
    return None
