"""The ramps bench."""

from umber_compass.window.bench.row import BenchRow
from umber_compass.window.benches.ramps.ramps_bench import RampsBench

ROW = BenchRow("ramps", "Ramps", 7, RampsBench)
