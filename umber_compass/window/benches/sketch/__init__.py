"""The sketch bench."""

from umber_compass.window.bench.row import BenchParts
from umber_compass.window.benches.sketch.joined import join, marks
from umber_compass.window.benches.sketch.sketch_bench import SketchBench

PARTS = BenchParts(SketchBench, marks, join)
