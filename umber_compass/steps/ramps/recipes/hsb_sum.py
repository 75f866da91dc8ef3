"""So many points more saturation and fewer of brightness for a shade, the reverse for a light, each
stopped at 0 and 100; the hexcone hue may turn a little each step."""

import numpy as np

from umber_compass.colour.spaces import Floats, hsb, hsb_to_encoded
from umber_compass.steps.ramps.recipes.recipe import Ask, RecipeSpec, colourfulness, with_base


def _steps(ask: Ask) -> Floats:
    hue, saturation, brightness = hsb(ask.base)
    step = np.arange(-ask.darker, ask.lighter + 1, dtype=float)
    bright = np.clip(brightness + step * ask.points, 0, 100)
    # A grey has no hue to give its shades: it stays grey, and what is nearly one nearly so; a light
    # of a dark one would else show a hue that nobody saw in it.
    seen = colourfulness(ask)
    more = -step * ask.points * seen**2
    kept = saturation * (seen + (1 - seen) * np.minimum(1, brightness / np.maximum(bright, 1)))
    turned = (hue + step * ask.degrees) % 360
    colours = np.stack(
        [
            turned,
            np.clip(kept + more, 0, 100),
            bright,
        ],
        axis=-1,
    )
    return with_base(hsb_to_encoded(colours), ask)


RECIPE = RecipeSpec(
    "hsb-sum", "hsb sum", "shades gain saturation as they lose brightness", False, _steps
)
