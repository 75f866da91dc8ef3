"""Unreachable objects are taken away on the GUI thread only: Python's collector, where it happens
to run on the worker, may destroy widgets there, and both threads then wait for ever."""

import gc

from PySide6.QtCore import QObject, QTimer

_EVERY = 100  # ms


class Tidying(QObject):
    """Does, from its parent's thread, what Python's own collector would do from any."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        gc.disable()
        self._timer = QTimer(self)
        self._timer.timeout.connect(collect)
        self._timer.start(_EVERY)


def keep_for_good() -> None:
    """What was made so far, modules and the window, stays as long as the program runs. Collecting
    need not look at it again: that took 15 to 25 ms, often in the middle of a drag."""
    gc.freeze()


def collect() -> None:
    """Collect the oldest generation that has reached its threshold, if any has."""
    for generation in (2, 1, 0):
        if gc.get_count()[generation] > gc.get_threshold()[generation]:
            gc.collect(generation)
            return
