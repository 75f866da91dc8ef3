"""The sketch bench."""

from umber_compass.window.benches.row import BenchRow
from umber_compass.window.benches.sketch.bench import SketchBench

ROW = BenchRow("sketch", "Sketch", 1, SketchBench)
