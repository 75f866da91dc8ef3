"""The plan's picture, live: quickly while something is dragged, exactly once it is let go; flat
until the forms are there."""

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, QTimer, Signal

from umber_compass import document
from umber_compass.document import Document
from umber_compass.formats.cache import Cache
from umber_compass.plan.light_edits import rig_of
from umber_compass.plan.model import Plan
from umber_compass.steps.codes import Codes, Mask, Packed, mask_of, paint_region
from umber_compass.steps.forms import Tick
from umber_compass.steps.pipeline import (
    Derived,
    FormKey,
    Pipeline,
    exact_picture,
    form_key,
    picture,
)
from umber_compass.steps.relief import Relief
from umber_compass.steps.showing import shown_in
from umber_compass.window.arrays import Shown
from umber_compass.window.worker import Worker, said
from umber_compass.words import Stopped


class LivePicture(QObject):
    """What follows from a plan, and its picture."""

    rebuilt = Signal()  # forms are there that were not: derive and measure anew
    sharpened = Signal()  # the exact picture took the place of the quick one
    told = Signal(str, bool)  # a line for the artist; whether it is about something refused

    def __init__(self, worker: Worker, cache: Cache | None) -> None:
        super().__init__()
        self.worker, self.cache = worker, cache
        self.derived: Derived | None = None
        self.shown: Shown | None = None
        self._document: Document | None = None
        self._dragging = False
        self._pipeline: Pipeline | None = None
        self._other: Pipeline | None = None  # for pictures of other plans of the same sketch
        self._masks: dict[int, Mask] = {}
        self._masked: Codes | None = None
        self._relief_key: FormKey | None = (
            None  # of the relief that is there, or that was asked for
        )
        self.sharpening = single_shot(self, 0, self._sharpen)

    def begin(self, laid: Document, relief: Relief | None) -> None:
        """Another document; with its relief where that was kept."""
        self._document = laid
        self._pipeline, self._other = (Pipeline(laid.drawing, builds=False) for _ in range(2))
        self._masks, self._masked, self._relief_key = {}, None, None
        self.derived, self.shown = None, None
        if relief is not None:
            self._take(relief, form_key(laid.plan))

    def follow(self, plan: Plan, dragging: bool) -> None:
        """Derive a plan and paint it."""
        assert self._pipeline is not None
        self._dragging = dragging
        before, self.derived = self.derived, self._pipeline.derive(plan)
        self._repaint(before, self.derived)
        self.ask_relief()
        if not dragging:
            self.sharpening.start()

    def sharpen_soon(self) -> None:
        """Nothing is dragged any more: the exact picture is asked for."""
        self._dragging = False
        self.sharpening.start()

    def _repaint(self, before: Derived | None, now: Derived) -> None:
        """The picture anew: lit from codes, over the one that was shown; or flat, and where one
        flat region changed alone, only that."""
        moved = _only_change(before, now) if self.shown is not None else None
        label = None if moved is None else now.document_label(moved)
        if label is None or self.shown is None:
            over = self.shown.packed if self.shown is not None and self._dragging else None
            self.shown = Shown(picture(now, over))
            return
        if self._masked is not now.codes:
            self._masks, self._masked = {}, now.codes
        if label not in self._masks:
            self._masks[label] = mask_of(now.codes, now.drawing.labels, label)
        paint_region(self.shown.packed, now.codes, now.table, self._masks[label], label)

    def ask_relief(self) -> None:
        """Have the forms built where the plan is lit and they are not there; the flat picture, or
        the one of the old forms, stays until then."""
        derived, laid = self.derived, self._document
        if derived is None or laid is None or not rig_of(derived.plan).on:
            return
        key = form_key(derived.plan)
        if key == self._relief_key:
            return
        self._relief_key = key
        plan, codes = derived.plan, derived.codes

        def work(tick: Tick) -> Relief:
            return document.relief_of(laid, plan, codes, self.cache, tick)

        def answer(found: Relief) -> None:
            if key == self._relief_key:
                self._take(found, key)
                self.say_damage()
                self.rebuilt.emit()

        says = self.tr("Building forms")
        self.worker.ask("relief", work, answer, self._on_no_relief, says)

    def _take(self, relief: Relief, key: FormKey) -> None:
        self._relief_key = key
        for pipeline in (self._pipeline, self._other):
            if pipeline is not None:
                pipeline.take(relief, key)

    def _on_no_relief(self, error: Exception) -> None:
        if isinstance(error, Stopped):
            line = self.tr("Stopped; the picture stays as it is until the light or a form changes")
            self.told.emit(line, False)
        else:
            self.told.emit(said(error), True)

    def say_damage(self) -> None:
        """Say, once, that something kept was damaged."""
        if self.cache is not None and self.cache.take_damage():
            self.told.emit(self.tr("A kept copy of the forms was damaged; it is made anew"), False)

    def light_again(self) -> None:
        """Ask for forms that were stopped once more."""
        if self.derived is not None and self.derived.lit is None:
            self._relief_key = None
            self.ask_relief()

    def _sharpen(self) -> None:
        """Have the exact picture made, once nothing is dragged."""
        derived = self.derived
        if derived is None or derived.lit is None or self._dragging:
            return

        def answer(found: Packed) -> None:
            if derived is self.derived and not self._dragging:
                self.shown = Shown(found)
                self.sharpened.emit()

        def failed(error: Exception) -> None:
            self.told.emit(said(error), True)

        self.worker.ask("exact", lambda tick: exact_picture(derived, tick), answer, failed)

    def showing(self, name: str) -> Shown | None:
        """The picture in a part of its light."""
        return None if self.derived is None else Shown(shown_in(self.derived, name))

    def picture_of(self, plan: Plan) -> Shown:
        """The picture another plan of this sketch would give."""
        assert self._other is not None
        return Shown(picture(self._other.derive(plan)))

    def close(self) -> None:
        """Ask for nothing more."""
        self.sharpening.stop()


def single_shot(parent: QObject, after: int, run: Callable[[], Any]) -> QTimer:
    """A timer that runs something once, some ms after it was last started."""
    timer = QTimer(parent)
    timer.setSingleShot(True)
    timer.setInterval(after)
    timer.timeout.connect(run)
    return timer


def _only_change(before: Derived | None, now: Derived) -> str | None:
    """The one flat region whose colour changed, if it is the only change to the picture."""
    if before is None or before.codes is not now.codes or before.lit or now.lit:
        return None
    moved = [r for r, c in now.colours.items() if before.colours.get(r) != c]
    if len(moved) == 1 and now.colours[moved[0]].second is None:
        return moved[0]
    return None
