"""Six compositions of our own, one file each, to begin without a sketch."""

from umber_compass.steps.sketch.compositions import (
    head_and_shoulders,
    high_horizon,
    low_horizon,
    table_group,
    through_a_door,
    winding_path,
)
from umber_compass.steps.sketch.compositions.spec import Composition, Drawn, drawn

COMPOSITIONS: dict[str, Composition] = {
    m.COMPOSITION.name: m.COMPOSITION
    for m in (
        low_horizon,
        high_horizon,
        winding_path,
        through_a_door,
        table_group,
        head_and_shoulders,
    )
}

__all__ = ["COMPOSITIONS", "Composition", "Drawn", "drawn"]
