"""The focus bench."""

from umber_compass.window.benches.focus.bench import FocusBench, marks
from umber_compass.window.benches.focus.looking import join
from umber_compass.window.benches.row import BenchRow

ROW = BenchRow(
    "focus",
    "Focus",
    4,
    FocusBench,
    views=("heat", "borders", "grey", "squint"),
    marks=marks,
    join=join,
)
