"""The studies bench."""

from umber_compass.window.bench.row import BenchRow
from umber_compass.window.benches.studies.studies_bench import StudiesBench

ROW = BenchRow("studies", "Studies", 5, StudiesBench, takes_stage=True)
