"""Left for right, to see it afresh."""

import numpy as np

from umber_compass.views.spec import About, Picture, ViewSpec


def _see(picture: Picture, about: About) -> Picture:
    return np.ascontiguousarray(picture[:, ::-1])


VIEW = ViewSpec("mirrored", "Mirrored", "left for right", _see)
