"""Darker turns toward a cool pole and lighter toward a warm one, in steps that look evenly far
apart; shades of yellow go through ochre, never through green."""

from collections.abc import Sequence

import numpy as np

from umber_compass.colour.spaces import Floats, decode, encode
from umber_compass.steps.ramps.recipes.even import evenly
from umber_compass.steps.ramps.recipes.path import Way, at_values, way_of, ways
from umber_compass.steps.ramps.recipes.recipe import (
    Ask,
    RecipeSpec,
    base_lch,
    ladder,
    with_base,
)


def _many(asks: Sequence[Ask]) -> list[Floats]:
    return along(asks, way_of(asks))


def along(asks: Sequence[Ask], way: Way) -> list[Floats]:
    """The steps of many bases along one kind of way; each evenly apart, or at the values of
    straight steps where it shall be the same in grey."""
    bases = np.array([ask.base for ask in asks])
    most = max(ask.darker for ask in asks), max(ask.lighter for ask in asks)
    dark, light = ways(bases, way, most)
    return [
        _same_in_grey(ask, way.one(i)) if ask.same_in_grey else evenly(ask, dark, light, i)
        for i, ask in enumerate(asks)
    ]


def _same_in_grey(ask: Ask, way: Way) -> Floats:
    own = base_lch(ask)[0]
    values, linear = ladder(own, ask), decode(ask.base)[None]
    below, above = values[: ask.darker], values[ask.darker :]
    steps = np.abs(np.arange(-ask.darker, ask.lighter + 1)) * ask.spacing
    far = steps[None, : ask.darker], steps[None, ask.darker :]
    dark = at_values(linear, below[None], way, True, far[0])[0]
    light = at_values(linear, above[None], way, False, far[1])[0]
    return with_base(encode(np.concatenate([dark, light])), ask)


RECIPE = RecipeSpec(
    "cool-warm",
    "cool-warm",
    "darker turns to blue, lighter to yellow, in even steps",
    True,
    lambda ask: _many([ask])[0],
    many=_many,
    amounts=True,
)
