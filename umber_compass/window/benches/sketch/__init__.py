"""The sketch bench."""

from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import Bench
from umber_compass.window.bench.hands import Hands
from umber_compass.window.bench.row import BenchRow
from umber_compass.window.benches.sketch.joined import join
from umber_compass.window.benches.sketch.sketch_bench import SketchBench
from umber_compass.window.desk.gaps import neck_marks_of
from umber_compass.window.stage.step_marks import Marks


def _marks(derived: Derived, selected: str) -> Marks:
    """The gaps of line art; a drag on the picture chooses."""
    sketch = derived.plan.sketch
    necks = neck_marks_of(sketch.necks, sketch.size)
    return Marks(necks=necks, frames=True)


def _join(bench: Bench, hands: Hands) -> None:
    assert isinstance(bench, SketchBench)
    join(bench, hands)


VIEWS = ("grey", "squint", "mirrored", "upside-down")
ROW = BenchRow("sketch", "Sketch", 1, SketchBench, VIEWS, _marks, join=_join)
