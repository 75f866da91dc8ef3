"""One bench a step, each a folder and one row here, in the route's order."""

from umber_compass.window.bench.row import BenchRow
from umber_compass.window.benches import (
    focus,
    handoff,
    harmony,
    light,
    ramps,
    sketch,
    studies,
    values,
)


def steps_titles() -> dict[str, str]:
    """Every step's title, in the order of their numbers."""
    return {row.step: row.title for row in BENCHES.values()}


BENCHES: dict[str, BenchRow] = {
    m.ROW.step: m.ROW for m in (sketch, harmony, values, focus, studies, light, ramps, handoff)
}

__all__ = ["BENCHES", "BenchRow"]
