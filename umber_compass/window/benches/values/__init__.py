"""The values bench."""

from umber_compass.window.benches.row import BenchRow
from umber_compass.window.benches.values.bench import ValuesBench, marks

ROW = BenchRow("values", "Values", 3, ValuesBench, marks=marks)
