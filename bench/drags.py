"""From the hand's move to the painted frame, in a window."""

import time
from collections.abc import Callable, Iterator

import numpy as np
from PySide6.QtCore import QEventLoop, QTimer
from PySide6.QtWidgets import QApplication

from bench.rows import Row
from umber_compass.demo.plans import DEMOS
from umber_compass.steps import codes
from umber_compass.steps.pipeline import Pipeline
from umber_compass.window.application import make_application
from umber_compass.window.main_window import MainWindow


def rows() -> Iterator[Row]:
    """A turn of the lead and a value chip, each against an empty repaint and the bare compute."""
    application = make_application()
    window = MainWindow()
    window.show()
    window.desk.open(DEMOS[0].plan, keep_path=False)
    loop = QEventLoop()
    window.desk.judged.connect(loop.quit)
    loop.exec()
    for _ in range(2):
        _rest(400)
    empty = _frames(window, lambda i: window.parts.stage.update())
    yield Row("empty repaint of the stage", f"{np.median(empty):.1f} ms", "", None)
    rose, coat = window.parts.harmony_bench.rose, window.desk.history
    assert coat is not None
    region = next(r.id for r in coat.now.regions if r.name == "coat")
    drags: dict[str, Callable[[int], None]] = {
        "drag of the leading hue": lambda i: rose.turned.emit(217 + i * 0.7),
        "drag of a value chip": lambda i: window.parts.values_bench.ladder.moved.emit(
            region, 0, 41 + i * 0.3
        ),
    }
    for name, move in drags.items():
        window.open_step("harmony" if "hue" in name else "values")
        _rest(300)
        window.desk.dragging = True
        took = _frames(window, move)
        window.desk.seal()
        limit = 2 * (float(np.median(empty)) + _compute(window))
        p50, p95 = np.percentile(took, [50, 95])
        yield Row(
            f"{name} to painted frame",
            f"{p50:.1f} ms",
            f"2 x (repaint + compute) = {limit:.1f} ms",
            bool(p50 <= limit),
        )
        yield Row(f"{name}, p95", f"{p95:.1f} ms", "16.7 ms", bool(p95 <= 16.7))
    window.files.dialogs.unsaved = lambda parent, title: "discard"  # type: ignore[method-assign]
    window.close()
    del application


def _rest(ms: int) -> None:
    loop = QEventLoop()
    QTimer.singleShot(ms, loop.quit)
    loop.exec()


def _frames(window: MainWindow, move: Callable[[int], None], count: int = 120) -> list[float]:
    """The time from each move to the end of the stage's next frame, ms. As under a hand, moves come
    no faster than a screen's 60 a second; events wait their turn between them."""
    took = []
    stage = window.parts.stage
    for i in range(count):
        before, begin = stage.frames, time.perf_counter()
        move(i)
        while stage.frames == before:
            QApplication.processEvents()
        spent = (time.perf_counter() - begin) * 1000
        took.append(spent)
        _rest(max(1, round(16.7 - spent)))
    return took


def _compute(window: MainWindow) -> float:
    """What a colour drag must compute at least: derive and recolour, ms."""
    assert window.desk.document is not None and window.desk.history is not None
    from umber_compass.plan.edits import turn_lead

    pipeline = Pipeline(window.desk.document.drawing)
    took = []
    for i in range(20):
        begin = time.perf_counter()
        derived = pipeline.derive(turn_lead(i * 3.0).apply(window.desk.history.now))
        codes.paint(derived.codes, derived.table)
        took.append((time.perf_counter() - begin) * 1000)
    return float(np.median(took))
