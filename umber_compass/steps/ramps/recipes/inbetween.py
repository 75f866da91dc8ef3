"""Steps on the straight way to another colour, evenly apart: darker ones where that is darker,
lighter ones where it is lighter; the other side is cool-warm."""

import numpy as np

from umber_compass.colour.difference import ciede2000
from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import (
    Floats,
    cielab,
    decode,
    oklab,
    polar,
    value,
)
from umber_compass.steps.ramps.recipes.even import evenly
from umber_compass.steps.ramps.recipes.path import Sides, way_of, ways
from umber_compass.steps.ramps.recipes.recipe import Ask, RecipeSpec

_OTHER = np.array([0x1C, 0x24, 0x3C]) / 255  # an ink blue, until the artist says another
_SAMPLES = 33


def _steps(ask: Ask) -> Floats:
    other = _OTHER if ask.tint is None else ask.tint
    dark, light = ways(
        ask.base[None], way_of([ask._replace(degrees=0.0)]), (ask.darker, ask.lighter)
    )
    between = _between(ask.base, other)
    is_dark = float(value(decode(other))) < float(value(decode(ask.base)))
    count = ask.darker if is_dark else ask.lighter
    # All the way to the other colour, however far it is.
    step = max(float(between.far[0, -1]) / max(count, 1), 1e-6)
    whole = ask._replace(spacing=step, spread="even")
    if is_dark:
        return np.concatenate(
            [
                evenly(whole._replace(lighter=0), between, light, gives=False)[: count + 1],
                evenly(ask._replace(darker=0), dark, light, gives=False)[1:],
            ]
        )
    return np.concatenate(
        [
            evenly(ask._replace(lighter=0), dark, light, gives=False)[:-1],
            evenly(whole._replace(darker=0), dark, between, gives=False)[-(count + 1) :],
        ]
    )


def _between(base: Floats, other: Floats) -> Sides:
    ends = oklab(decode(np.stack([base, other])))
    share = np.linspace(0, 1, _SAMPLES)
    lch = polar(ends[:1] + (ends[1:] - ends[:1]) * share[:, None])
    values = value(decode(np.stack([base, other])))
    # Value runs evenly: between two hues the straight way may dip.
    light = fit(values[0] + (values[1] - values[0]) * share, lch[:, 1], lch[:, 2])
    light[[0, -1]] = decode(np.stack([base, other]))
    cie = cielab(light)
    far = np.concatenate([[0.0], np.cumsum(ciede2000(cie[:-1], cie[1:]))])
    return Sides(light[None], far[None])


RECIPE = RecipeSpec(
    "inbetween", "in between", "steps on the way to another colour", False, _steps, tints=True
)
