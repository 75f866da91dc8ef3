"""The harmony bench."""

from umber_compass.window.benches.harmony.bench import HarmonyBench
from umber_compass.window.benches.harmony.joined import join, marks
from umber_compass.window.benches.row import BenchRow

ROW = BenchRow("harmony", "Harmony", 2, HarmonyBench, marks=marks, join=join)
