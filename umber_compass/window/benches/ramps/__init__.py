"""The ramps bench."""

from umber_compass.window.bench.row import BenchParts
from umber_compass.window.benches.ramps.ramps_bench import RampsBench, join

PARTS = BenchParts(RampsBench, join=join)
