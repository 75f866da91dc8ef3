"""The focus bench."""

from umber_compass.window.bench.row import BenchRow
from umber_compass.window.benches.focus.focus_bench import FocusBench, marks
from umber_compass.window.benches.focus.looking import join

ROW = BenchRow(
    "focus",
    "Focus",
    4,
    FocusBench,
    views=("heat", "borders", "grey", "squint"),
    marks=marks,
    join=join,
)
