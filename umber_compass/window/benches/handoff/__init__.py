"""The hand-off bench."""

from umber_compass.window.benches.handoff.bench import HandoffBench, join
from umber_compass.window.benches.row import BenchRow

ROW = BenchRow("handoff", "Hand-off", 8, HandoffBench, join=join)
