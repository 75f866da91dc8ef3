"""The recipes for shade and light steps, one file each."""

from umber_compass.registry import registered
from umber_compass.steps.ramps.recipes import cool_warm, hsb_sum, rig, straight
from umber_compass.steps.ramps.recipes.recipe import Ask, RecipeSpec

RECIPES: dict[str, RecipeSpec] = registered("RECIPE", straight, hsb_sum, cool_warm, rig)

__all__ = ["RECIPES", "Ask", "RecipeSpec"]
