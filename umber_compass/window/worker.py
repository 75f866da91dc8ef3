"""One worker for everything slow. Requests of a kind replace each other: only the newest answer of
each kind comes back, on the GUI thread. What takes long says so and can be stopped."""

import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import Any, NamedTuple

from PySide6.QtCore import QObject, QTimer, Signal

from umber_compass.steps.forms import Tick
from umber_compass.words import Refusal, Stopped

SLOW_AFTER = 500  # ms
_TICK_EVERY = 0.05  # s


class _Request(NamedTuple):
    ticket: int
    answer: Callable[[Any], None]
    failed: Callable[[Exception], None]
    says: str


class Worker(QObject):
    """Runs plain functions off the GUI thread. Each is given a function to tell the share it has
    done, or -1 for none; that one raises where the work is no longer wanted."""

    _finished = Signal(str, int, object, object)
    _ticked = Signal(str, int, float)
    idle = Signal()
    slow = Signal(str, str, float)  # kind, what is done, share done
    rested = Signal()  # nothing slow goes on any more

    def __init__(self) -> None:
        super().__init__()
        self._pool = ThreadPoolExecutor(1, "umber-worker")
        self._newest: dict[str, _Request] = {}
        self._ticket = 0
        self._under_way = 0
        self._share = 0.0
        self._shown = ""
        self._finished.connect(self._deliver)
        self._ticked.connect(self._take_tick)
        self._slow_timer = QTimer(self)
        self._slow_timer.setSingleShot(True)
        self._slow_timer.setInterval(SLOW_AFTER)
        self._slow_timer.timeout.connect(self._say_slow)

    @property
    def busy(self) -> bool:
        """Whether anything is still to be answered."""
        return self._under_way > 0

    def ask(
        self,
        kind: str,
        work: Callable[[Tick], Any],
        answer: Callable[[Any], None],
        failed: Callable[[Exception], None],
        says: str = "",
    ) -> None:
        """Have `work` done; its result goes to `answer` unless a newer request of its kind came.
        `says` is what is shown where it takes long."""
        self._ticket += 1
        self._newest[kind] = _Request(self._ticket, answer, failed, says)
        self._under_way += 1
        if says:
            self._share = 0.0
            self._slow_timer.start()
        self._pool.submit(self._run, kind, self._ticket, work)

    def stop(self, kind: str) -> None:
        """Let go of a request: its work ends at its next tick, its answer is not wanted."""
        request = self._newest.pop(kind, None)
        if request is not None:
            self._end_slow(kind)
            request.failed(Stopped())

    def _is_wanted(self, kind: str, ticket: int) -> bool:
        request = self._newest.get(kind)
        return request is not None and request.ticket == ticket

    def _run(self, kind: str, ticket: int, work: Callable[[Tick], Any]) -> None:
        result, error, last = None, None, time.monotonic()

        def tick(share: float) -> None:
            nonlocal last
            if not self._is_wanted(kind, ticket):
                raise Stopped
            if share >= 0 and time.monotonic() - last > _TICK_EVERY:
                last = time.monotonic()
                self._ticked.emit(kind, ticket, share)

        if self._is_wanted(kind, ticket):
            try:
                result = work(tick)
            except Stopped:
                result = None
            except Exception as problem:  # a catch-all: the worker must live, the window reports
                error = problem
        self._finished.emit(kind, ticket, result, error)

    def _take_tick(self, kind: str, ticket: int, share: float) -> None:
        if self._is_wanted(kind, ticket):
            self._share = share
            if self._shown == kind:
                self._say_slow()

    def _say_slow(self) -> None:
        """Say what goes on, if something that has words for it still does."""
        for kind, request in self._newest.items():
            if request.says:
                self._shown = kind
                self.slow.emit(kind, request.says, self._share)
                return

    def _end_slow(self, kind: str) -> None:
        if self._shown == kind:
            self._shown = ""
            self.rested.emit()

    def _deliver(self, kind: str, ticket: int, result: object, error: Exception | None) -> None:
        self._under_way -= 1
        if self._is_wanted(kind, ticket):
            request = self._newest.pop(kind)
            self._end_slow(kind)
            if error is None:
                request.answer(result)
            else:
                request.failed(error)
        if not self._under_way:
            self._slow_timer.stop()
            self.idle.emit()

    def close(self) -> None:
        """Forget what waits and wait for what runs."""
        self._newest.clear()
        self._slow_timer.stop()
        self._pool.shutdown(wait=True, cancel_futures=True)


def said(error: Exception) -> str:
    """One line for a failure: a refusal's own words, or what went wrong inside."""
    if isinstance(error, Refusal):
        return str(error)
    if isinstance(error, Stopped):
        return "Stopped; the plan is as it was"
    return f"Something went wrong inside ({type(error).__name__}: {error}); the plan is intact"
