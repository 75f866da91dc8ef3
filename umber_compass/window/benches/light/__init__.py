"""The light bench."""

from umber_compass.window.bench.row import BenchParts
from umber_compass.window.benches.light.light_bench import LightBench, join, marks

PARTS = BenchParts(LightBench, marks, join)
