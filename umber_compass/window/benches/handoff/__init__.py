"""The hand-off bench."""

from umber_compass.window.bench.row import BenchRow
from umber_compass.window.benches.handoff.handoff_bench import HandoffBench, join

ROW = BenchRow("handoff", "Hand-off", 8, HandoffBench, join=join)
