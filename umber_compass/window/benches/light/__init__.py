"""The light bench."""

from umber_compass.window.benches.light.bench import LightBench, join, marks
from umber_compass.window.benches.row import BenchRow

ROW = BenchRow(
    "light",
    "Light",
    6,
    LightBench,
    views=("lights-off", "ambient-only", "key-only", "grey"),
    marks=marks,
    join=join,
)
