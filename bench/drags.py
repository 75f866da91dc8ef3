"""A drag in the whole window, nothing left out, under a hand that does not wait."""

import math
import tempfile
from collections.abc import Callable, Iterator
from pathlib import Path

from PySide6.QtCore import QPointF
from PySide6.QtWidgets import QWidget

from bench.hand import RATE, Shown, drag, rest
from bench.rows import Row
from bench.scenes import demo_sized, mosaic
from umber_compass.document import Opened
from umber_compass.window.application import make_application
from umber_compass.window.benches.harmony.bench import HarmonyBench
from umber_compass.window.benches.harmony.dial import RING
from umber_compass.window.benches.values.bench import ValuesBench
from umber_compass.window.main_window import MainWindow
from umber_compass.window.stage import lamp_marks
from umber_compass.window.widgets.dialogs import Discarding

_LEAST, _MOST_P95 = 57, 20.0  # frames of 60; ms
_MOST_MOVE, _MOST_BETWEEN = 7.0, 10.0  # ms of the main thread


def rows() -> Iterator[Row]:
    """The leading hue, a value chip and the key, dragged on the demo, on 300 regions and on a
    sketch of 2560 px."""
    application = make_application()
    with tempfile.TemporaryDirectory() as state:  # unsaved work is kept meanwhile
        yield from _scene("demo", demo_sized(1280, 960), Path(state))
        yield from _scene("300 regions", mosaic(300), Path(state))
        yield from _scene("2560 px", demo_sized(2560, 1920), Path(state))
    del application


def _scene(name: str, opened: Opened, state: Path) -> Iterator[Row]:
    window = MainWindow(Discarding(), state=state)
    window.show()
    window.works.desk.lay(opened, None)
    _settle(window)
    for what, step, hand in (
        ("hue", "harmony", _hue),
        ("chip", "values", _chip),
        ("key", "light", _key),
    ):
        window.works.steps.open(step)
        _settle(window)
        on, place = hand(window)
        yield _row(f"60 Hz hand, {what}, {name}", drag(window.works.layout.stage, on, place))
        _settle(window)
    window.close()


def _row(what: str, seen: Shown) -> Row:
    between = seen.cpu_ms - seen.move_ms
    met = seen.frames >= _LEAST and seen.interval_p95 <= _MOST_P95
    met = met and seen.move_ms <= _MOST_MOVE and between <= _MOST_BETWEEN
    said = f"{seen.frames:.0f} of {RATE}, p95 {seen.interval_p95:.0f} ms, "
    said += f"{seen.move_ms:.1f} + {between:.1f} ms"
    return Row(what, said, "57 of 60, 20 ms, 7 + 10 ms", met)


def _settle(window: MainWindow) -> None:
    for _ in range(4):
        rest(200)
        while window.works.desk.worker.busy:
            rest(50)


_Hand = tuple[QWidget, Callable[[float], QPointF]]


def _hue(window: MainWindow) -> _Hand:
    """Round the rose once in eight seconds."""
    bench = window.works.layout.benches["harmony"]
    assert isinstance(bench, HarmonyBench) and window.works.desk.derived is not None
    dial, lead = bench.rose.dial, window.works.desk.derived.scheme.lead_deg
    return bench.rose, lambda t: dial.at(lead + 45 * t, dial.radius - RING / 2)


def _chip(window: MainWindow) -> _Hand:
    """The second largest region's value, up and down."""
    bench = window.works.layout.benches["values"]
    assert isinstance(bench, ValuesBench)
    box = bench.ladder.boxes()[1][0]
    return bench.ladder, lambda t: box.center() + QPointF(0, 60 * math.sin(t * 2))


def _key(window: MainWindow) -> _Hand:
    """The key, in a loop from where it stands."""
    stage = window.works.layout.stage
    mark, frame = stage.lamps[0], stage.frame()
    at = lamp_marks.at(mark, frame)
    return stage, lambda t: at + QPointF(math.sin(t * 2) * 80, (1 - math.cos(t * 2)) * 60)
