"""The ramps bench."""

from umber_compass.window.benches.ramps.bench import RampsBench
from umber_compass.window.benches.row import BenchRow

ROW = BenchRow("ramps", "Ramps", 7, RampsBench)
