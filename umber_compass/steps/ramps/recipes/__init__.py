"""The recipes for shade and light steps, one file each."""

from umber_compass.registry import registered
from umber_compass.steps.ramps.recipes import (
    borrowed,
    cool_warm,
    dodge_and_burn,
    hsb_sum,
    inbetween,
    lean,
    rig,
    straight,
    tinted_multiply,
)
from umber_compass.steps.ramps.recipes.recipe import Ask, RecipeSpec

RECIPES: dict[str, RecipeSpec] = registered(
    "RECIPE",
    cool_warm,
    straight,
    hsb_sum,
    lean,
    inbetween,
    tinted_multiply,
    dodge_and_burn,
    rig,
    borrowed,
)

__all__ = ["RECIPES", "Ask", "RecipeSpec"]
