"""The harmony bench."""

from umber_compass.window.bench.row import BenchRow
from umber_compass.window.benches.harmony.harmony_bench import HarmonyBench
from umber_compass.window.benches.harmony.joined import join, marks

ROW = BenchRow("harmony", "Harmony", 2, HarmonyBench, marks=marks, join=join)
