"""Being told to end: by the session that closes, or by a terminal that goes."""

import os
import signal
import socket
from types import FrameType
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QSocketNotifier

if TYPE_CHECKING:
    from umber_compass.window.main_window import MainWindow

_SIGNALS = (signal.SIGTERM, signal.SIGHUP, signal.SIGINT)


class Ending(QObject):
    """Lets the window keep its work and go when a signal says so. Python runs its handlers only
    between two of its own steps, and Qt waits in none: a socket that the signal writes to wakes
    it."""

    def __init__(self, window: "MainWindow") -> None:
        super().__init__(window)
        self.code = 0  # of the program; as a shell tells that a signal ended it
        self._window = window
        self._there, here = socket.socketpair()
        here.setblocking(False)
        self._here = here
        self._notifier = QSocketNotifier(self._there.fileno(), QSocketNotifier.Type.Read, self)
        self._notifier.activated.connect(self._on_woken)
        signal.set_wakeup_fd(here.fileno(), warn_on_full_buffer=False)
        for number in _SIGNALS:
            signal.signal(number, self._note)

    def _note(self, number: int, frame: FrameType | None) -> None:
        self.code = 128 + number

    def _on_woken(self) -> None:
        os.read(self._there.fileno(), 64)
        if self.code:
            self._window.end()
