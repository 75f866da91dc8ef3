"""Value alone, without detail: every shape at its mean value."""

import numpy as np

from umber_compass.views.grey import as_grey, grey_of, values_of
from umber_compass.views.spec import About, Picture, ViewSpec


def _see(picture: Picture, about: About) -> Picture:
    values = values_of(picture)
    if about.labels is None:
        return as_grey(grey_of(values))
    flat = about.labels.reshape(-1).astype(np.intp)
    count = np.maximum(np.bincount(flat), 1)
    mean = np.bincount(flat, values.reshape(-1)) / count
    return as_grey(grey_of(mean)[about.labels])


VIEW = ViewSpec("value-only", "Value only", "every shape at its mean value", _see)
