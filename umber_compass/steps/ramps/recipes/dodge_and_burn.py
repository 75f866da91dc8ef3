"""Shades burnt and lights dodged as painting programs do it by range: most in the middle tones, so
that neither end turns black or white at once. Both gain saturation."""

import numpy as np

from umber_compass.colour.spaces import Floats
from umber_compass.steps.ramps.recipes.layered import layered
from umber_compass.steps.ramps.recipes.recipe import Ask, RecipeSpec

_MOST = 0.72  # how strongly, at most


def _steps(ask: Ask) -> Floats:
    def burn(base: Floats, amount: Floats) -> Floats:
        return np.asarray(base ** (1 / (1 - amount * _MOST)))

    def dodge(base: Floats, amount: Floats) -> Floats:
        return np.asarray(base ** (1 - amount * _MOST))

    return layered(ask, burn, dodge)


RECIPE = RecipeSpec(
    "dodge-and-burn", "dodge and burn", "burnt shades, dodged lights, in the middle tones", False,
    _steps,
)  # fmt: skip
