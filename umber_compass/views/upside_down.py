"""Upside down: the eye loses the story, and sees shapes and values."""

import numpy as np

from umber_compass.views.spec import About, Picture, ViewSpec


def _see(picture: Picture, about: About) -> Picture:
    return np.ascontiguousarray(picture[::-1])


VIEW = ViewSpec("upside-down", "Upside down", "stood on its head", _see)
