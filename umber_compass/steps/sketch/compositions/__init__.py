"""Compositions of our own, to begin without a sketch."""

from umber_compass.registry import registered
from umber_compass.steps.sketch.compositions import table
from umber_compass.steps.sketch.compositions.composition import Composition, Drawn, drawn

COMPOSITIONS: dict[str, Composition] = registered("COMPOSITIONS", table)

__all__ = ["COMPOSITIONS", "Composition", "Drawn", "drawn"]
