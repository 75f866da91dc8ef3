"""A drag in the whole window, nothing left out, under a hand that does not wait."""

import math
import tempfile
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import NamedTuple

from PySide6.QtCore import QPointF
from PySide6.QtWidgets import QWidget

from bench import virtual
from bench.hand import RATE, Shown, drag, rest
from bench.rows import Row
from bench.scenes import demo_sized, mosaic
from umber_compass.document import Opened, ready
from umber_compass.window.application import make_application
from umber_compass.window.benches.harmony.harmony_bench import HarmonyBench
from umber_compass.window.benches.values.values_bench import ValuesBench
from umber_compass.window.main_window import MainWindow
from umber_compass.window.stage import lamp_marks
from umber_compass.window.widgets.dial import RING
from umber_compass.window.widgets.dialogs import Discarding
from umber_compass.window.widgets.tidying import keep_for_good

_FRAME, _PIECE, _LATE = 9.0, 4.0, 25.0  # ms: a frame, a piece between two, a move to its paint


class _Wanted(NamedTuple):
    """What a drag should show: frames of 60; ms between two, p95 and at most."""

    frames: float
    p95: float
    most: float


_DEMO, _MANY = _Wanted(57, 20.0, 27.0), _Wanted(50, 27.0, 40.0)


def rows() -> Iterator[Row]:
    """The leading hue, a value chip and the key, dragged on the demo, on 300 regions and on a
    sketch of 2560 px."""
    application = make_application()
    # Unsaved work is kept meanwhile.
    with tempfile.TemporaryDirectory() as state, virtual.virtual_timers():
        yield from _scene("demo", demo_sized(1280, 960), Path(state), _DEMO)
        yield from _scene("300 regions", mosaic(300), Path(state), _MANY)
        yield from _scene("2560 px", demo_sized(2560, 1920), Path(state), _DEMO)
    del application


def _scene(name: str, opened: Opened, state: Path, wanted: _Wanted) -> Iterator[Row]:
    window = MainWindow(Discarding(), state=state)
    window.show()
    keep_for_good()  # as a start of the program does
    window.works.desk.lay(ready(opened), None)
    _settle(window)
    for what, step, hand in (
        ("hue", "harmony", _hue),
        ("chip", "values", _chip),
        ("key", "light", _key),
    ):
        window.works.steps.open(step)
        _settle(window)
        stage, (on, place) = window.works.layout.stage, hand(window)
        yield _row(f"{what}, {name}", virtual.drag(stage, on, place), wanted)
        _settle(window)
        on, place = hand(window)
        yield _real_row(f"{what}, {name}, by the clock", drag(stage, on, place), wanted)
        _settle(window)
    window.close()


def _row(what: str, seen: virtual.Seen, wanted: _Wanted) -> Row:
    met = seen.frames >= wanted.frames and seen.p95 <= wanted.p95 and seen.most <= wanted.most
    met = met and seen.frame <= _FRAME and seen.worst <= _PIECE and seen.late <= _LATE
    said = f"{seen.frames:.0f}, {seen.p95:.0f}, {seen.most:.0f}; {seen.late:.0f}; "
    said += f"{seen.frame:.1f}; {seen.piece:.1f}, {seen.worst:.1f}"
    return Row(what, said, f"{_told(wanted)}; {_LATE:.0f}; {_FRAME:.0f}; {_PIECE:.0f} ms", met)


def _real_row(what: str, seen: Shown, wanted: _Wanted) -> Row:
    met = seen.frames >= wanted.frames and seen.interval_p95 <= wanted.p95
    met = met and seen.most <= wanted.most and seen.late <= _LATE
    said = f"{seen.frames:.0f}, {seen.interval_p95:.0f}, {seen.most:.0f}; {seen.late:.0f}; "
    said += f"{seen.move_ms:.1f} + {seen.cpu_ms - seen.move_ms:.1f}"
    return Row(what, said, f"{_told(wanted)}; {_LATE:.0f} ms", met)


def _told(wanted: _Wanted) -> str:
    return f"{wanted.frames:.0f} of {RATE}, p95 {wanted.p95:.0f}, max {wanted.most:.0f}"


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
