"""What one tinted multiply layer makes of the base, laid on again and again; lights are the same
tint's opposite, screened over it."""

import numpy as np

from umber_compass.colour.spaces import Floats
from umber_compass.steps.ramps.recipes.layered import layered
from umber_compass.steps.ramps.recipes.recipe import Ask, RecipeSpec

_TINT = np.array([0x9A, 0x8C, 0xC4]) / 255  # a cool violet, until the artist says another
_LAID, _SCREENED = 5.0, 0.55  # times the multiply layer, and how much is screened, at most


def _steps(ask: Ask) -> Floats:
    tint = _TINT if ask.tint is None else ask.tint
    dark = np.clip(tint, 0.02, 1)
    warm = (1.2 - tint) / max(float((1.2 - tint).max()), 1e-6)

    def shade(base: Floats, amount: Floats) -> Floats:
        return np.asarray(base * dark ** (amount * _LAID))

    def light(base: Floats, amount: Floats) -> Floats:
        return np.asarray(1 - (1 - base) * (1 - warm * amount * _SCREENED))

    return layered(ask, shade, light)


RECIPE = RecipeSpec(
    "tinted-multiply",
    "tinted multiply",
    "a multiply layer of one tint, laid on again and again",
    False,
    _steps,
    tints=True,
)
