"""A quiet reminder of a break, off unless it is wished: one line after so many minutes of work."""

import time
from collections.abc import Callable

from PySide6.QtCore import QObject

from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.remembered import Remembered
from umber_compass.window.widgets.timers import single_shot

AFTER_S = 50 * 60.0
PAUSE_S = 5 * 60.0  # without any act, that counts as a break
_WORD = "breaks"


class Breaks(QObject):
    """Counts work from its first act to a pause."""

    def __init__(
        self, desk: Desk, remembered: Remembered, clock: Callable[[], float] = time.monotonic
    ) -> None:
        super().__init__(desk)
        self._desk, self._remembered, self._clock = desk, remembered, clock
        self._began = self._last = clock()
        self.timer = single_shot(self, int(AFTER_S * 1000), self._remind)
        desk.session.acted.connect(self._act)
        desk.closed.connect(self.timer.stop)

    @property
    def is_on(self) -> bool:
        """Whether it is wished."""
        return self._remembered.word(_WORD) == "on"

    def wish(self, on: bool) -> None:
        """Remind, or not."""
        self._remembered.keep(_WORD, "on" if on else "")
        self._began = self._last = self._clock()
        self.timer.stop()
        if on:
            self.timer.start()

    def _act(self) -> None:
        """Something was done: after a pause work begins anew."""
        now = self._clock()
        if now - self._last > PAUSE_S:
            self._began = now
            self.timer.stop()
        self._last = now
        if self.is_on and not self.timer.isActive():
            self.timer.start(int(max(AFTER_S - (now - self._began), 0) * 1000))

    def _remind(self) -> None:
        now = self._clock()
        if now - self._last > PAUSE_S:
            return  # nobody works
        self._began = now
        line = self.tr(
            "You have worked for {minutes:.0f} minutes. A good moment to look far away and move"
            " about: a habit, not medical advice"
        )
        self._desk.told.emit(line.format(minutes=AFTER_S / 60), False)
