"""One worker for everything slow, in the order of what the hand waits for.

Requests of a kind replace each other: only the newest answer of each kind comes back, on the GUI
thread. Work the hand does not wait for makes room for work it does, and is begun again after it.
What takes long says so, with its own share, and can be stopped.
"""

import heapq
import time
from collections.abc import Callable
from enum import IntEnum
from threading import Condition, Thread
from typing import Any, NamedTuple

from PySide6.QtCore import QObject, QTimer, Signal

from umber_compass.window.widgets.timers import single_shot
from umber_compass.words import Refusal, words
from umber_compass.work import Stopped, Tick

SLOW_AFTER = 500  # ms
_TICK_EVERY = 0.05  # s
OPEN = "open"  # the kind of a request that reads a picture or a plan


class Urgency(IntEnum):
    """What the hand waits for comes first."""

    FILE = 0  # opening, saving, handing off
    PICTURE = 1  # the forms, the exact picture
    BENCH = 2  # small views, a bench's instruments, places of names
    THOUGHT = 3  # fixes


class Request(NamedTuple):
    """One piece of work as it was asked for."""

    urgency: Urgency
    ticket: int
    kind: str
    work: Callable[[Tick], Any]
    answer: Callable[[Any], None]
    failed: Callable[[Exception], None]
    says: str


class _MakesRoom(Exception):  # noqa: N818 - no fault, only later
    """Work that is begun again after what is more urgent."""


class Worker(QObject):
    """Runs plain functions off the GUI thread. Each is given a function to tell the share it has
    done, or -1 for none; that one raises where the work is no longer wanted, or must wait."""

    _began = Signal(object)  # Request
    _finished = Signal(object, object, object)  # Request, result, error
    _ticked = Signal(object, float)
    idle = Signal()
    slow = Signal(str, str, float)  # kind of what runs, what it does, share done
    rested = Signal()  # nothing slow goes on any more
    refused = Signal(str, bool)  # a line on what failed; True

    def __init__(self) -> None:
        super().__init__()
        self._waiting: list[Request] = []  # a heap, the most urgent and oldest first
        self._newest: dict[str, Request] = {}
        self._room = Condition()
        self._thread: Thread | None = None
        self._open = True
        self._ticket = 0
        self._under_way = 0
        self._running: Request | None = None
        self._share = 0.0
        self._is_said = False
        self._began.connect(self._take_begin)
        self._finished.connect(self._deliver)
        self._ticked.connect(self._take_tick)
        self._slow_timer: QTimer = single_shot(self, SLOW_AFTER, self._say_slow)

    @property
    def busy(self) -> bool:
        """Whether anything is still to be answered."""
        return self._under_way > 0

    def ask(
        self,
        kind: str,
        work: Callable[[Tick], Any],
        answer: Callable[[Any], None],
        failed: Callable[[Exception], None] | None = None,
        says: str = "",
        urgency: Urgency = Urgency.BENCH,
    ) -> None:
        """Have `work` done; its result goes to `answer` unless a newer request of its kind came.
        `says` is what is shown where it takes long. Where there is nothing else to do about a
        failure, it is said in a line."""
        self._ticket += 1
        answered = failed or self.say_failed
        request = Request(urgency, self._ticket, kind, work, answer, answered, says)
        self._newest[kind] = request
        self._under_way += 1
        with self._room:
            heapq.heappush(self._waiting, request)
            self._room.notify()
        if self._thread is None:
            self._thread = Thread(target=self._serve, name="umber-worker")
            self._thread.start()

    def say_failed(self, error: Exception) -> None:
        """Say what went wrong, in a line."""
        self.refused.emit(error_line(error), True)

    def stop(self, kind: str) -> None:
        """Let go of a request: its work ends at its next tick, its answer is not wanted."""
        request = self.forget(kind)
        if request is not None:
            request.failed(Stopped())

    def forget(self, kind: str) -> Request | None:
        """Let go of a request without a word: what it is about is gone. Gives what was let go."""
        request = self._newest.pop(kind, None)
        if request is not None:
            self._rest(request)
        return request

    def _is_wanted(self, request: Request) -> bool:
        return self._newest.get(request.kind) is request

    def _serve(self) -> None:
        """What the thread does: the most urgent request, until the worker is closed."""
        while True:
            with self._room:
                while self._open and not self._waiting:
                    self._room.wait()
                if not self._open:
                    return
                request = heapq.heappop(self._waiting)
            self._run(request)

    def _run(self, request: Request) -> None:
        result, error, last = None, None, time.monotonic()

        def tick(share: float) -> None:
            nonlocal last
            if not self._is_wanted(request):
                raise Stopped
            if request.urgency is Urgency.THOUGHT:
                with self._room:
                    waits = bool(self._waiting) and self._waiting[0].urgency < request.urgency
                if waits:
                    raise _MakesRoom
            if share >= 0 and time.monotonic() - last > _TICK_EVERY:
                last = time.monotonic()
                self._ticked.emit(request, share)

        if self._is_wanted(request):
            self._began.emit(request)
            try:
                result = request.work(tick)
            except _MakesRoom:
                with self._room:
                    heapq.heappush(self._waiting, request)
                return
            except Stopped:
                result = None
            except Exception as problem:  # a catch-all: the worker must live, the window reports
                error = problem
        self._finished.emit(request, result, error)

    def _take_begin(self, request: Request) -> None:
        self._running, self._share = request, 0.0
        if request.says:
            self._slow_timer.start()
        else:
            self._slow_timer.stop()

    def _take_tick(self, request: Request, share: float) -> None:
        if request is self._running:
            self._share = share
            if self._is_said:
                self._say_slow()

    def _say_slow(self) -> None:
        """Say what runs now, if it has words for it and is still wanted."""
        running = self._running
        if running is not None and running.says and self._is_wanted(running):
            self._is_said = True
            self.slow.emit(running.kind, running.says, self._share)

    def _rest(self, request: Request) -> None:
        """A request is over: what was said of it goes."""
        if request is self._running:
            self._running = None
            self._slow_timer.stop()
            if self._is_said:
                self._is_said = False
                self.rested.emit()

    def _deliver(self, request: Request, result: object, error: Exception | None) -> None:
        self._under_way -= 1
        wanted = self._is_wanted(request)
        self._rest(request)
        if wanted:
            del self._newest[request.kind]
            if error is None:
                request.answer(result)
            else:
                request.failed(error)
        if not self._under_way:
            self.idle.emit()

    def close(self) -> None:
        """Forget what waits and wait for what runs."""
        self._newest.clear()
        self._slow_timer.stop()
        with self._room:
            self._open = False
            self._room.notify()
        if self._thread is not None:
            self._thread.join()


def error_line(error: Exception) -> str:
    """One line for a failure: a refusal's own words, or what went wrong inside."""
    if isinstance(error, Refusal):
        return str(error)
    if isinstance(error, Stopped):
        return str(words("Stopped; the plan is as it was"))
    line = "Something went wrong inside ({kind}: {error}); the plan is intact"
    return str(words(line, kind=type(error).__name__, error=str(error)))
