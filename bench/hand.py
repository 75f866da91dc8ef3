"""A hand that moves 60 times a second whether the window keeps up or not, by real mouse events, and
what it sees: frames of the stage, the time between them, and what they cost."""

import time
from collections.abc import Callable
from typing import NamedTuple

import numpy as np
from PySide6.QtCore import QEvent, QEventLoop, QObject, QPointF, Qt, QTimer
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QApplication, QWidget

RATE = 60  # moves a second
_SECONDS = 5.0


class Shown(NamedTuple):
    """What a drag showed."""

    frames: float  # painted a second
    interval_p95: float  # ms between two frames
    most: float  # ms, the longest of these
    late: float  # ms, p95: from a move to its own paint
    cpu_ms: float  # of the main thread, for each frame: move, picture, instruments, checks
    move_ms: float  # of these, from the move to the painted stage


class _Watch(QObject):
    """Notes when the stage is painted, and the main thread's time then."""

    def __init__(self, stage: QWidget) -> None:
        super().__init__()
        self.at: list[float] = []
        self.began = 0.0  # the thread's time when the last move came
        self.moved = 0.0  # the time of day then
        self.late: list[float] = []
        self.moving: list[float] = []
        plain = stage.paintEvent

        def paint(event: object) -> None:
            plain(event)  # type: ignore[arg-type]  # Qt's own
            if self.began:  # a paint that no move is behind is none of the hand's frames
                self.at.append(time.perf_counter())
                self.late.append((self.at[-1] - self.moved) * 1000)
                self.moving.append((time.thread_time() - self.began) * 1000)
                self.began = 0.0

        self._stage, self._plain = stage, plain
        setattr(stage, "paintEvent", paint)  # noqa: B010 - found by Qt before the class's own

    def release(self) -> None:
        """Watch no more."""
        setattr(self._stage, "paintEvent", self._plain)  # noqa: B010


def rest(ms: int) -> None:
    """Let the window do what waits."""
    loop = QEventLoop()
    QTimer.singleShot(ms, loop.quit)
    loop.exec()


def drag(stage: QWidget, on: QWidget, place: Callable[[float], QPointF]) -> Shown:
    """Take hold of a widget where the hand is at 0 s, and move for five seconds."""
    send(on, QEvent.Type.MouseButtonPress, place(0))
    watch, last = _Watch(stage), 0
    begin, cpu = time.perf_counter(), time.thread_time()
    loop, clock = QEventLoop(), QTimer()

    def move() -> None:
        nonlocal last
        now = time.perf_counter() - begin
        if now >= _SECONDS:
            loop.quit()
        elif int(now * RATE) != last:
            last = int(now * RATE)
            watch.began = watch.began or time.thread_time()
            watch.moved = begin + last / RATE
            send(on, QEvent.Type.MouseMove, place(now))

    clock.setTimerType(Qt.TimerType.PreciseTimer)
    clock.timeout.connect(move)
    clock.start(2)
    loop.exec()
    clock.stop()
    cpu = time.thread_time() - cpu
    send(on, QEvent.Type.MouseButtonRelease, place(_SECONDS))
    watch.release()
    frames = len(watch.at)
    between = np.diff(watch.at) * 1000
    return Shown(
        frames / _SECONDS,
        float(np.percentile(between, 95)),
        float(between.max()),
        float(np.percentile(watch.late, 95)),
        cpu * 1000 / max(frames, 1),
        float(np.median(watch.moving)),
    )


def send(on: QWidget, kind: QEvent.Type, at: QPointF) -> None:
    """A mouse event of the left button, as a hand would make it."""
    left, none = Qt.MouseButton.LeftButton, Qt.MouseButton.NoButton
    button = none if kind == QEvent.Type.MouseMove else left
    held = none if kind == QEvent.Type.MouseButtonRelease else left
    there = QPointF(on.mapToGlobal(at))
    event = QMouseEvent(kind, at, there, button, held, Qt.KeyboardModifier.NoModifier)
    QApplication.sendEvent(on, event)
