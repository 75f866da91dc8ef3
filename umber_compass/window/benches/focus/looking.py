"""Resting on *Apply* shows what the fall-off would make, before it is taken."""

from PySide6.QtCore import QEvent, QObject

from umber_compass.steps.checks import Fix
from umber_compass.window.bench.bench import Bench
from umber_compass.window.bench.window_parts import WindowParts
from umber_compass.window.benches.focus.focus_bench import FocusBench
from umber_compass.window.widgets.timers import single_shot

_AFTER = 150  # ms of rest


class Looking(QObject):
    """Watches the button."""

    def __init__(self, bench: FocusBench, parts: WindowParts) -> None:
        super().__init__(bench)
        self._bench, self._parts = bench, parts
        self._shown = False  # whether it is looked at now
        self._timer = single_shot(self, _AFTER, self._begin)
        bench.falloff.apply.installEventFilter(self)
        bench.falloff.peeked.connect(lambda _: self._end())

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() in (QEvent.Type.Enter, QEvent.Type.FocusIn):
            self._timer.start()
        elif event.type() in (QEvent.Type.Leave, QEvent.Type.FocusOut):
            self._end()
        return super().eventFilter(watched, event)

    def _begin(self) -> None:
        edit = self._bench.falloff.edit()
        if edit is not None:
            self._shown = True
            self._parts.peeking.look(Fix("falloff", edit.name, edit))

    def _end(self) -> None:
        self._timer.stop()
        if self._shown:
            self._shown = False
            self._parts.peeking.look(None)


def join(bench: Bench, parts: WindowParts) -> None:
    """The fall-off is looked at on the stage before it is applied."""
    assert isinstance(bench, FocusBench)
    Looking(bench, parts)
