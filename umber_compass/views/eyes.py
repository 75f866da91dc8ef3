"""As other eyes see the picture: three kinds of colour vision; and the grey of painting
programs."""

import numpy as np

from umber_compass.colour.eyes import as_seen
from umber_compass.colour.spaces import Floats, decode, encode
from umber_compass.views.colour_only import each_colour
from umber_compass.views.grey import as_grey
from umber_compass.views.view import About, Picture, ViewSpec

_LUMA = np.array([0.3, 0.59, 0.11])


def _view(name: str, title: str, says: str) -> ViewSpec:
    def change(mean: Floats, _: Floats) -> Floats:
        return encode(as_seen(decode(mean / 255), name))

    return ViewSpec(name, title, says, lambda picture, _: each_colour(picture, change))


def _luma(picture: Picture, about: About) -> Picture:
    return as_grey(np.asarray(picture @ _LUMA + 0.5).astype(np.uint8))


VIEWS = (
    _view("deutan", "Without green cones", "as 1 man in 16 nearly sees it: green cones missing"),
    _view("protan", "Without red cones", "as 1 man in 50 nearly sees it: red cones missing"),
    _view("tritan", "Without blue cones", "as very few see it: blue cones missing"),
    ViewSpec("luma", "Program’s grey", "the grey of painting programs: .3 .59 .11", _luma),
)
