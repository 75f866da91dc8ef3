"""Where the eye is drawn, as light on a dim grey picture; predicted, not measured on eyes."""

import numpy as np

from umber_compass.colour.spaces import Floats
from umber_compass.views.grey import as_grey, grey_of, values_of
from umber_compass.views.squint import blurred
from umber_compass.views.view import About, Picture, ViewSpec

_WIDE = 0.025  # of the width, by which what draws the eye shines out
_DIM = 0.28  # of its value, that a picture keeps where nothing draws the eye
_LIFT = 30.0  # L* that the strongest place gains at least


def _see(picture: Picture, about: About) -> Picture:
    values = values_of(picture)
    if about.pull is None or about.labels is None:
        return as_grey(grey_of(values * _DIM))
    most = max(float(about.pull.max()), 1e-6)
    strength = (np.clip(about.pull, 0, None) / most) ** 2
    shine: Floats = blurred(strength[about.labels].astype(np.float32)[..., None], _WIDE)[..., 0]
    shine = shine / max(float(shine.max()), 1e-6)
    lit = values * _DIM + (np.maximum(values, _LIFT) + _LIFT - values * _DIM) * shine
    return as_grey(grey_of(np.clip(lit, 0, 100)))


VIEWS = (ViewSpec("heat", "Pull", "where the eye is drawn, predicted", _see, True),)
