"""The focus bench."""

from umber_compass.window.bench.row import BenchParts
from umber_compass.window.benches.focus.focus_bench import FocusBench, marks
from umber_compass.window.benches.focus.looking import join

PARTS = BenchParts(FocusBench, marks, join)
