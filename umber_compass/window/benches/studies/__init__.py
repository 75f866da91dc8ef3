"""The studies bench."""

from umber_compass.window.bench.row import BenchParts
from umber_compass.window.benches.studies.studies_bench import StudiesBench

PARTS = BenchParts(StudiesBench)
