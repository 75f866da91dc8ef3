"""Darker turns toward a cool pole and lighter toward a warm one, a little each step, the shorter
way round and never past the pole; the values are those of straight steps."""

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import GREY_CHROMA, Floats, encode, hue_distance
from umber_compass.steps.ramps.recipes.spec import Ask, RecipeSpec, base_lch, ladder, with_base

COOL_HUE, WARM_HUE = 264.0, 105.0  # OKLCh; studio rule, docs/ramps.md: full blue and near yellow


def _steps(ask: Ask) -> Floats:
    value, chroma, hue = base_lch(ask)
    step = np.arange(-ask.darker, ask.lighter + 1)
    degrees = 0.0 if chroma < GREY_CHROMA else ask.degrees
    way = np.where(step < 0, _way(hue, COOL_HUE), _way(hue, WARM_HUE))
    turn = np.sign(way) * np.minimum(np.abs(way), np.abs(step) * degrees)
    return with_base(encode(fit(ladder(value, ask), chroma, hue + turn)), ask)


def _way(hue: float, pole: float) -> float:
    """Degrees to the pole; at exactly opposite always the rising way."""
    way = float(hue_distance(hue, pole))
    return 180.0 if way == -180.0 else way


RECIPE = RecipeSpec(
    "cool-warm", "cool-warm", "darker turns to blue, lighter to yellow", True, _steps
)
