"""The hand-off bench."""

from umber_compass.window.bench.row import BenchParts
from umber_compass.window.benches.handoff.handoff_bench import HandoffBench, join

PARTS = BenchParts(HandoffBench, join=join)
