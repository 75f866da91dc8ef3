"""Only value moves: hue stays, chroma stays as far as the screen can show it."""

from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import Floats, encode
from umber_compass.steps.ramps.recipes.recipe import Ask, RecipeSpec, base_lch, ladder, with_base


def _steps(ask: Ask) -> Floats:
    value, chroma, hue = base_lch(ask)
    return with_base(encode(fit(ladder(value, ask), chroma, hue)), ask)


RECIPE = RecipeSpec("straight", "straight", "only value moves", False, _steps)
