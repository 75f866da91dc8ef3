"""Only the extremes: what lies beyond the limits for darks and lights, on grey."""

import numpy as np

from umber_compass.views.grey import as_grey, grey_of, values_of
from umber_compass.views.spec import About, Picture, ViewSpec

_BETWEEN = (46.0, 58.0)  # L*, between which all that is no extreme is shown


def _see(picture: Picture, about: About) -> Picture:
    values = values_of(picture)
    low, high = _BETWEEN
    span = max(about.light - about.dark, 1.0)
    calm = low + (np.clip(values, about.dark, about.light) - about.dark) / span * (high - low)
    shown = np.where(values < about.dark, 4.0, np.where(values > about.light, 99.0, calm))
    return as_grey(grey_of(shown))


VIEW = ViewSpec("extremes", "Extremes only", "what lies beyond the limits for values", _see)
