"""What carries: the picture with what an eye no longer parts from where the piece is seen."""

import numpy as np

from umber_compass.colour.spaces import decode, encode
from umber_compass.views.spec import About, Picture, ViewSpec
from umber_compass.views.squint import blurred

_LIGHT = decode(np.arange(256) / 255).astype(np.float32)


def _see(picture: Picture, about: About) -> Picture:
    light = blurred(np.asarray(_LIGHT[picture]), about.blur)
    return np.asarray(encode(np.clip(light, 0, 1)) * 255 + 0.5).astype(np.uint8)


VIEW = ViewSpec("far", "From its place", "what the eye still parts where the piece is seen", _see)
