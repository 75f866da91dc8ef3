"""The values bench."""

from umber_compass.window.bench.row import BenchParts
from umber_compass.window.benches.values.values_bench import ValuesBench, join, marks

PARTS = BenchParts(ValuesBench, marks, join)
