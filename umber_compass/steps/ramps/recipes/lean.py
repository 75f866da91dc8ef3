"""Shades lean toward a hue of the artist's own, as purple or rose; lights stay with the warm."""

from collections.abc import Sequence

import numpy as np

from umber_compass.colour.spaces import Floats, decode, oklab, polar
from umber_compass.steps.ramps.recipes.cool_warm import along
from umber_compass.steps.ramps.recipes.path import way_of
from umber_compass.steps.ramps.recipes.recipe import Ask, RecipeSpec

_TINT = np.array([0x7A, 0x4F, 0xA0]) / 255  # a violet, until the artist says another


def _steps(ask: Ask) -> Floats:
    tint = _TINT if ask.tint is None else ask.tint
    hue = float(polar(oklab(decode(tint)))[2])
    return along([ask], way_of([ask], cool=hue, parting=None))[0]


def _many(asks: Sequence[Ask]) -> list[Floats]:
    return [_steps(ask) for ask in asks]


RECIPE = RecipeSpec(
    "lean",
    "lean",
    "shades lean to a colour of your own",
    True,
    _steps,
    many=_many,
    tints=True,
    amounts=True,
)
