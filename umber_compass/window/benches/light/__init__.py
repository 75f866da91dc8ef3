"""The light bench."""

from umber_compass.window.bench.row import BenchRow
from umber_compass.window.benches.light.light_bench import LightBench, join, marks

ROW = BenchRow(
    "light",
    "Light",
    6,
    LightBench,
    views=("lights-off", "ambient-only", "key-only", "grey"),
    marks=marks,
    join=join,
)
