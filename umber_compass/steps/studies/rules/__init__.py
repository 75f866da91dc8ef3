"""The rules studies are grown by, one file each, in the order they are shown."""

from umber_compass.registry import registered
from umber_compass.steps.studies.grow_rule import GrowRule
from umber_compass.steps.studies.rules import (
    daylight,
    ground,
    lead,
    library,
    lights,
    mood,
    scheme,
    strength,
    temperature,
    turn,
)

RULES: dict[str, GrowRule] = registered(
    "RULE", ground, turn, lead, scheme, temperature, strength, mood, daylight, library, lights
)
FIRST = ("ground", "turn", "lead", "strength")  # that are chosen until the artist says otherwise

__all__ = ["FIRST", "RULES", "GrowRule"]
