"""The starter file's layers while they are seen: worked out on the worker while the hand rests, and
laid together anew when one is shown or hidden."""

from collections.abc import Collection

from PySide6.QtCore import QObject, Signal

from umber_compass.colour.packed import Packed
from umber_compass.steps.pipeline import Derived
from umber_compass.window.desk.desk import Desk
from umber_compass.window.widgets.timers import single_shot
from umber_compass.work import Tick

AFTER = 200  # ms of rest


class LayerPreview(QObject):
    """Says when the layers of the plan that is on are known, and what they look like."""

    waits = Signal()
    found = Signal(object)  # Preview
    laid = Signal(object)  # Packed

    def __init__(self, desk: Desk, parent: QObject) -> None:
        super().__init__(parent)
        self._desk, self._wanted = desk, False
        self._of: Derived | None = None
        self._preview: object = None
        self._hidden: frozenset[str] = frozenset()
        self.timer = single_shot(self, AFTER, self._ask)
        desk.closed.connect(self.timer.stop)

    def follow(self, seen: bool) -> None:
        """The plan may be another; whether its layers are seen now."""
        self._wanted = seen
        if seen and self._desk.derived is not self._of:
            self.waits.emit()
            self.timer.start()

    def hide(self, names: Collection[str]) -> None:
        """Leave some layers out."""
        self._hidden = frozenset(names)
        self._lay()

    def _ask(self) -> None:
        derived = self._desk.derived
        if derived is None or not self._wanted:
            return
        if self._desk.session.dragging:
            self.timer.start()
            return

        def work(tick: Tick) -> object:
            from umber_compass.steps.handoff.preview import preview  # needed here alone

            return preview(derived.of(derived.plan), tick)

        def answer(preview: object) -> None:
            self._of, self._preview = derived, preview
            self.found.emit(preview)
            self._lay()

        self._desk.worker.ask("layers", work, answer, says=self.tr("laying the layers"))

    def _lay(self) -> None:
        preview, hidden = self._preview, self._hidden
        if preview is None:
            return

        def work(tick: Tick) -> Packed:
            from umber_compass.steps.handoff.preview import Preview, shown

            assert isinstance(preview, Preview)
            return shown(preview, hidden)

        self._desk.worker.ask("layers laid", work, self.laid.emit)
