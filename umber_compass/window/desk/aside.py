"""Files looked at beside everything else: a place that does not answer, as a network mount that is
gone, holds neither the window nor the worker up."""

from collections.abc import Callable
from contextlib import suppress
from threading import Thread
from typing import Any

from PySide6.QtCore import QObject, Signal

NAME = "umber-aside"


class Aside(QObject):
    """Each look has a thread of its own, which ends with the program whatever it waits for."""

    _seen = Signal(object, object)  # the answer, and what was found

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._seen.connect(self._tell)

    def _tell(self, answer: Callable[[Any], object], found: Any) -> None:
        answer(found)

    def look(self, work: Callable[[], Any], answer: Callable[[Any], object]) -> None:
        """Do something elsewhere; `answer` is told what it gave, on the GUI thread. Where it fails
        nothing is said: what is wrong with a file is told when it is opened."""

        def run() -> None:
            with suppress(Exception):  # RuntimeError: the window went meanwhile
                self._seen.emit(answer, work())

        Thread(target=run, name=NAME, daemon=True).start()
