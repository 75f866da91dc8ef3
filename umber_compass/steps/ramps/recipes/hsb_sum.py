"""So many points more saturation and fewer of brightness for the first shade, the reverse for the
first light; each further step takes the same share of what is left, so that none is black or white
at once. The hexcone hue may turn a little each step."""

import numpy as np

from umber_compass.colour.spaces import Floats, hsb, hsb_to_encoded
from umber_compass.steps.ramps.recipes.recipe import Ask, RecipeSpec, colourfulness, with_base

_DARKEST = 8.0  # of brightness, unless the base is darker
_LEAST_KEPT, _MOST_LIT, _MOST_GAINED, _MOST_FADED = 0.3, 0.65, 0.75, 0.45  # of what is left, a step


def _steps(ask: Ask) -> Floats:
    hue, saturation, brightness = (float(x) for x in hsb(ask.base))
    down, up = np.arange(ask.darker, 0, -1.0), np.arange(1.0, ask.lighter + 1)
    points = ask.points
    # A grey has no hue to give its shades: it stays grey, and what is nearly one nearly so.
    gained = min(points * colourfulness(ask) ** 2 / max(100 - saturation, 1e-9), _MOST_GAINED)
    kept = max(1 - points / max(brightness, 1e-9), _LEAST_KEPT)
    lit = min(points / max(100 - brightness, 1e-9), _MOST_LIT)
    faded = min(points / max(saturation, 1e-9), _MOST_FADED)
    dark = np.maximum(brightness * kept**down, min(_DARKEST, brightness))
    light = 100 - (100 - brightness) * (1 - lit) ** up
    more = 100 - (100 - saturation) * (1 - gained) ** down
    less = saturation * (1 - faded) ** up
    turned = hue + np.concatenate([-down, [0.0], up]) * ask.degrees
    colours = np.stack(
        [
            turned % 360,
            np.concatenate([more, [saturation], less]),
            np.concatenate([dark, [brightness], light]),
        ],
        axis=-1,
    )
    return with_base(hsb_to_encoded(colours), ask)


RECIPE = RecipeSpec(
    "hsb-sum", "hsb sum", "shades gain saturation as they lose brightness", False, _steps
)
