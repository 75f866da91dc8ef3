"""The studies bench."""

from umber_compass.window.benches.row import BenchRow
from umber_compass.window.benches.studies.bench import StudiesBench

ROW = BenchRow("studies", "Studies", 5, StudiesBench, takes_stage=True)
