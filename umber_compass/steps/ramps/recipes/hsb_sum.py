"""So many points more saturation and fewer of brightness for a shade, the reverse for a light, each
stopped at 0 and 100; the hexcone hue may turn a little each step."""

import numpy as np

from umber_compass.colour.spaces import Floats, hsb, hsb_to_encoded
from umber_compass.steps.ramps.recipes.spec import Ask, RecipeSpec, with_base


def _steps(ask: Ask) -> Floats:
    hue, saturation, brightness = hsb(ask.base)
    step = np.arange(-ask.darker, ask.lighter + 1, dtype=float)
    # A grey has no hue to give its shades: it stays grey.
    more = np.zeros_like(step) if saturation == 0 else -step * ask.points
    turned = (hue + step * ask.degrees) % 360
    colours = np.stack(
        [
            turned,
            np.clip(saturation + more, 0, 100),
            np.clip(brightness + step * ask.points, 0, 100),
        ],
        axis=-1,
    )
    return with_base(hsb_to_encoded(colours), ask)


RECIPE = RecipeSpec(
    "hsb-sum", "hsb sum", "shades gain saturation as they lose brightness", False, _steps
)
