"""The harmony bench."""

from umber_compass.window.bench.row import BenchParts
from umber_compass.window.benches.harmony.harmony_bench import HarmonyBench
from umber_compass.window.benches.harmony.joined import join, marks

PARTS = BenchParts(HarmonyBench, marks, join)
