"""The picture in the steps of its ramps alone: every px in the step of its region whose value is
nearest to its own, hard or in an ordered dither."""

import numpy as np

from umber_compass.colour.spaces import decode, value
from umber_compass.views.dither import thresholds
from umber_compass.views.grey import values_of
from umber_compass.views.view import About, Picture, ViewSpec


def _in_steps(picture: Picture, about: About, dithered: bool) -> Picture:
    if about.labels is None or not about.ramps:
        return picture.copy()
    values, out = values_of(picture), picture.copy()
    threshold = thresholds(*values.shape) if dithered else np.full(values.shape, 0.5)
    for label, steps in about.ramps.items():
        at = np.nonzero(about.labels == label)
        if not len(at[0]):
            continue
        own = value(decode(steps / 255))
        order = np.argsort(own, kind="stable")
        place = np.interp(values[at], own[order], np.arange(len(own)))
        step = np.floor(place + 1 - threshold[at]).astype(np.intp).clip(0, len(own) - 1)
        out[at] = steps[order][step]
    return out


VIEWS = (
    ViewSpec(
        "ramp-view",
        "Ramp steps",
        "only the steps of every region’s ramp, the nearest in value",
        lambda picture, about: _in_steps(picture, about, False),
        needs_ramps=True,
    ),
    ViewSpec(
        "ramp-dither",
        "Dithered steps",
        "only the steps of every region’s ramp, mixed in an ordered dither",
        lambda picture, about: _in_steps(picture, about, True),
        needs_ramps=True,
    ),
)
