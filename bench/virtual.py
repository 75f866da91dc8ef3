"""A hand at 60 moves a second in virtual time: the clock advances by the main thread's own CPU, and
jumps over what would be idle. What other processes do does not count, so that two programs can be
compared on a busy machine. Timers of the window run on this clock."""

import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import partial
from typing import Any, ClassVar, NamedTuple
from unittest.mock import patch

import numpy as np
from PySide6.QtCore import QEvent, QObject, QPointF, QTimer
from PySide6.QtWidgets import QApplication, QWidget

from bench.hand import RATE, send
from umber_compass.window.desk import judge
from umber_compass.window.widgets import timers

_SECONDS = 2.0
_WARM = 12  # moves before the clock runs


class Clock:
    """Virtual time, one for the process: s since it was set to run."""

    now = 0.0
    runs = False


class Timer(QTimer):
    """A timer that fires once; by virtual time while that runs."""

    known: ClassVar[list["Timer"]] = []

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.due: float | None = None
        Timer.known.append(self)

    def start(self, after: int | None = None) -> None:
        after = self.interval() if after is None else after
        if Clock.runs:
            self.due = Clock.now + after / 1000
        else:
            super().start(after)

    def stop(self) -> None:
        self.due = None
        super().stop()

    def isActive(self) -> bool:  # noqa: N802 - Qt's own name
        return self.due is not None or super().isActive()


class Elapsed:
    """Stands for QElapsedTimer."""

    def __init__(self) -> None:
        self._at: float | None = None

    def isValid(self) -> bool:  # noqa: N802 - Qt's own name
        return self._at is not None

    def elapsed(self) -> float:
        """ms since the start."""
        return (Clock.now - (self._at or 0.0)) * 1000

    def start(self) -> None:
        """From now on."""
        self._at = Clock.now


@contextmanager
def virtual_timers() -> Iterator[None]:
    """Windows that are made meanwhile have timers that can follow virtual time."""
    with patch.object(timers, "QTimer", Timer), patch.object(judge, "QElapsedTimer", Elapsed):
        yield


class Seen(NamedTuple):
    """What a drag showed; ms are of the main thread's CPU."""

    frames: float  # painted a second
    p95: float  # ms between two frames
    most: float
    frame: float  # ms, median: from the move to the painted stage
    late: float  # ms, p95: from when the hand moved to its own paint
    piece: float  # ms, p95 of what runs between two frames in one go
    worst: float  # ms, the largest of these


def drag(stage: QWidget, on: QWidget, place: Callable[[float], QPointF]) -> Seen:
    """Take hold of a widget where the hand is at 0 s, and move for two seconds."""
    painted = 0
    plain = stage.paintEvent

    def paint(event: object) -> None:
        nonlocal painted
        plain(event)  # type: ignore[arg-type]  # Qt's own
        painted += 1

    setattr(stage, "paintEvent", paint)  # noqa: B010 - found by Qt before the class's own
    known = [t for t in Timer.known if _is_there(t)]

    def move(k: int) -> bool:
        nonlocal painted
        painted, tries = 0, 0
        send(on, QEvent.Type.MouseMove, place(k / RATE))
        while not painted and tries < 10:
            QApplication.processEvents()
            tries += 1
        return painted > 0

    send(on, QEvent.Type.MouseButtonPress, place(0))
    _run_by_virtual_time(known)
    for k in range(-_WARM, 0):
        move(k + _WARM + 1)
        for timer in known:
            if timer.due is not None:
                _fire(timer)
    try:
        return _moves(move, known)
    finally:
        Clock.runs = False
        setattr(stage, "paintEvent", plain)  # noqa: B010
        for timer in known:
            if timer.due is not None:
                timer.due = None
                timer.start()
        send(on, QEvent.Type.MouseButtonRelease, place(0))


def _is_there(timer: Timer) -> bool:
    try:
        timer.interval()
    except RuntimeError:  # its window is gone
        return False
    return True


def _run_by_virtual_time(known: list[Timer]) -> None:
    Clock.now, Clock.runs = 0.0, True
    for timer in known:
        if QTimer.isActive(timer):
            left = max(timer.remainingTime(), 0)
            timer.stop()
            timer.start(left)


def _fire(timer: Timer) -> None:
    timer.due = None
    timer.timeout.emit()
    QApplication.processEvents()


def _moves(move: Callable[[int], bool], known: list[Timer]) -> Seen:
    at, frame, late, pieces = [], [], [], []
    last, begin = 0, Clock.now
    while Clock.now - begin < _SECONDS:
        k = int((Clock.now - begin) * RATE)
        due = [t for t in known if t.due is not None and t.due <= Clock.now]
        first = min(due, key=lambda t: t.due or 0.0, default=None)
        if k != last and (first is None or begin + (last + 1) / RATE <= (first.due or 0.0)):
            last = k
            began = Clock.now
            if not _spend(partial(move, k + _WARM)):
                continue  # nothing was painted: no frame
            frame.append((Clock.now - began) * 1000)
            at.append(Clock.now)
            late.append((Clock.now - begin - k / RATE) * 1000)
        elif first is not None:
            began = Clock.now
            _spend(partial(_fire, first))
            pieces.append((Clock.now - began) * 1000)
        else:
            coming = [t.due for t in known if t.due is not None]
            Clock.now = min([begin + (k + 1) / RATE + 1e-6, *coming])
    gaps = np.diff(at) * 1000
    return Seen(
        len(at) / _SECONDS,
        float(np.percentile(gaps, 95)),
        float(gaps.max()),
        float(np.median(frame)),
        float(np.percentile(late, 95)),
        float(np.percentile(pieces or [0.0], 95)),
        max(pieces, default=0.0),
    )


def _spend(work: Callable[[], Any]) -> Any:
    """What work gives; the clock advances by what it took of the main thread."""
    begin = time.thread_time()
    given = work()
    Clock.now += time.thread_time() - begin
    return given
