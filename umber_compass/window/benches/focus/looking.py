"""Resting on a button shows what it would make, before it is taken."""

from collections.abc import Callable

from PySide6.QtCore import QEvent, QObject
from PySide6.QtWidgets import QPushButton

from umber_compass.plan.edits import Edit
from umber_compass.steps.checks import Fix
from umber_compass.window.bench.bench import Bench
from umber_compass.window.bench.window_parts import WindowParts
from umber_compass.window.benches.focus.focus_bench import FocusBench
from umber_compass.window.widgets.timers import single_shot

_AFTER = 150  # ms of rest


class Looking(QObject):
    """Watches a button whose edit may be looked at."""

    def __init__(
        self, button: QPushButton, edit: Callable[[], Edit | None], parts: WindowParts
    ) -> None:
        super().__init__(button)
        self._edit, self._parts = edit, parts
        self._shown = False  # whether it is looked at now
        self._timer = single_shot(self, _AFTER, self._begin)
        button.installEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() in (QEvent.Type.Enter, QEvent.Type.FocusIn):
            self._timer.start()
        elif event.type() in (QEvent.Type.Leave, QEvent.Type.FocusOut):
            self.end()
        return super().eventFilter(watched, event)

    def _begin(self) -> None:
        edit = self._edit()
        if edit is not None:
            self._shown = True
            self._parts.peeking.look(Fix("looked", edit.name, edit))

    def end(self) -> None:
        """Look no longer."""
        self._timer.stop()
        if self._shown:
            self._shown = False
            self._parts.peeking.look(None)


def join(bench: Bench, parts: WindowParts) -> None:
    """The fall-off and the calm are looked at on the stage before they are applied."""
    assert isinstance(bench, FocusBench)
    falloff = Looking(bench.falloff.apply, bench.falloff.edit, parts)
    bench.falloff.peeked.connect(lambda _: falloff.end())
    calmed = Looking(bench.calm.apply, bench.calm.edit, parts)
    bench.calm.taken.connect(calmed.end)
