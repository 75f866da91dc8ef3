"""The values bench."""

from umber_compass.window.bench.row import BenchRow
from umber_compass.window.benches.values.values_bench import ValuesBench, join, marks

ROW = BenchRow(
    "values",
    "Values",
    3,
    ValuesBench,
    views=("groups-3", "grey", "squint", "small"),
    marks=marks,
    join=join,
)
