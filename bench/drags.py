"""From the hand's move to the painted frame, in a window."""

import math
import time
from collections.abc import Callable, Iterator

import numpy as np
from PySide6.QtCore import QEventLoop, QTimer
from PySide6.QtWidgets import QApplication

from bench.rows import Row
from umber_compass.demo.plans import DEMOS
from umber_compass.plan.harmony_edits import turn_lead
from umber_compass.plan.light_edits import set_lamp
from umber_compass.steps.pipeline import picture
from umber_compass.window.application import make_application
from umber_compass.window.benches.harmony.bench import HarmonyBench
from umber_compass.window.benches.values.bench import ValuesBench
from umber_compass.window.main_window import MainWindow
from umber_compass.window.widgets.dialogs import Discarding
from umber_compass.words import words


def rows() -> Iterator[Row]:
    """A turn of the lead, a value chip and the key, on the lit picture; each against an empty
    repaint and the bare compute."""
    application = make_application()
    window = MainWindow(Discarding())
    window.show()
    window.works.files.open_path(DEMOS[0].plan, demo=True)
    while (
        window.works.desk.derived is None
        or window.works.desk.derived.lit is None
        or window.works.desk.worker.busy
    ):
        _rest(100)
    _rest(400)
    empty = float(np.median(_frames(window, lambda i: window.works.layout.stage.update())))
    yield Row("empty repaint of the stage", f"{empty:.1f} ms", "", None)
    assert window.works.desk.history is not None
    region = next(r.id for r in window.works.desk.history.now.regions if r.name == "coat")
    harmony, values = (window.works.layout.benches[s] for s in ("harmony", "values"))
    assert isinstance(harmony, HarmonyBench) and isinstance(values, ValuesBench)
    rose, ladder = harmony.rose, values.ladder
    drags: dict[str, tuple[str, Callable[[int], None]]] = {
        "drag of the leading hue": ("harmony", lambda i: rose.turned.emit(217 + i * 0.7)),
        "drag of a value chip": ("values", lambda i: ladder.moved.emit(region, 0, 41 + i * 0.3)),
        "drag of the key": (
            "light",
            lambda i: window.works.layout.stage.lamp_moved.emit("key", _at(i)),
        ),
    }
    for name, (step, move) in drags.items():
        yield from _drag(window, name, step, move, empty)
    window.close()
    del application


def _at(i: int) -> tuple[float, float, float]:
    return 0.8 * math.cos(i / 9), 0.6 * math.sin(i / 9), 0.5


def _drag(
    window: MainWindow, name: str, step: str, move: Callable[[int], None], empty: float
) -> Iterator[Row]:
    window.works.steps.open(step)
    _rest(400)
    window.works.desk.begin_drag()
    took = _frames(window, move)
    window.joining._end_drag()
    limit = 2 * (empty + _compute(window, step))
    p50, p95 = np.percentile(took, [50, 95])
    wish = f"2 x (repaint + compute) = {limit:.1f} ms"
    yield Row(f"{name} to painted frame", f"{p50:.1f} ms", wish, bool(p50 <= limit))
    yield Row(f"{name}, p95", f"{p95:.1f} ms", "16.7 ms", bool(p95 <= 16.7))
    _rest(600)


def _rest(ms: int) -> None:
    loop = QEventLoop()
    QTimer.singleShot(ms, loop.quit)
    loop.exec()


def _frames(window: MainWindow, move: Callable[[int], None], count: int = 120) -> list[float]:
    """The time from each move to the end of the stage's next frame, ms. As under a hand, moves come
    no faster than a screen's 60 a second; events wait their turn between them."""
    took = []
    stage = window.works.layout.stage
    for i in range(count):
        before, begin = stage.frames, time.perf_counter()
        move(i)
        while stage.frames == before:
            QApplication.processEvents()
        spent = (time.perf_counter() - begin) * 1000
        took.append(spent)
        _rest(max(1, round(16.7 - spent)))
    return took


def _compute(window: MainWindow, step: str) -> float:
    """What a drag must compute at least, from plan to picture, ms."""
    desk = window.works.desk
    assert desk.derived is not None and desk.history is not None and desk.live.bitmap is not None
    pipeline, took = desk.live.pipeline, []
    for i in range(20):
        turn = (
            turn_lead(i * 3.0) if step != "light" else set_lamp("key", words(""), direction=_at(i))
        )
        begin = time.perf_counter()
        picture(pipeline.derive(turn.apply(desk.history.now)), desk.live.bitmap.packed)
        took.append((time.perf_counter() - begin) * 1000)
    return float(np.median(took))
