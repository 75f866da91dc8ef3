"""The way of steps that were picked from a picture, laid on another base: how far each lies from
their middle one in value, how its chroma goes up or down, and how its hue turns."""

import numpy as np

from umber_compass.colour.difference import ciede2000
from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import (
    GREY_CHROMA,
    Floats,
    cielab,
    decode,
    hue_distance,
    oklab,
    polar,
    value,
)
from umber_compass.steps.ramps.recipes.even import evenly
from umber_compass.steps.ramps.recipes.path import DARKEST, LIGHTEST, Sides, way_of, ways
from umber_compass.steps.ramps.recipes.recipe import Ask, RecipeSpec

_SAMPLES = 33
_MOST_TIMES = 3.0  # by which chroma may grow


def _steps(ask: Ask) -> Floats:
    if len(ask.picked) < 2:
        return _plain(ask)
    light = decode(np.asarray(ask.picked, float))
    order = np.argsort(value(light), kind="stable")
    light = light[order]
    middle = _middle(light)
    dark = _side(ask, light[middle::-1], True)
    up = _side(ask, light[middle:], False)
    return evenly(ask, dark, up)


def _plain(ask: Ask) -> Floats:
    """Nothing was picked: straight along value."""
    dark, light = ways(
        ask.base[None], way_of([ask._replace(degrees=0.0)]), (ask.darker, ask.lighter)
    )
    return evenly(ask, dark, light)


def _middle(light: Floats) -> int:
    """Which picked colour stands for the local colour: the strongest of the middle ones."""
    if len(light) < 3:
        return int(polar(oklab(light))[:, 1].argmax())
    inner = slice(1, len(light) - 1)
    return 1 + int(polar(oklab(light[inner]))[:, 1].argmax())


def _side(ask: Ask, picked: Floats, dark: bool) -> Sides:
    """The way through picked colours, the middle one first, as seen from the base."""
    base, known = decode(ask.base)[None], _from_first(picked)
    own, (_, chroma, hue) = float(value(base)[0]), polar(oklab(base))[0]
    reach = abs(float(known[-1, 0]))
    room = own - min(DARKEST, own * 0.6) if dark else max(LIGHTEST - own, (100 - own) * 0.6)
    # Beyond what was picked the way goes on as it ended, no further than the screen shows.
    length = max(room, 1e-3)
    away = np.linspace(0, length, _SAMPLES)
    scale = min(1.0, room / reach) if reach > 0 else 1.0
    at = np.abs(known[:, 0]) * scale
    times, turn = (np.interp(away, at, known[:, i]) for i in (1, 2))
    coloured = min(chroma / GREY_CHROMA, 1.0)
    values = own + (-away if dark else away)
    light = fit(values, chroma * times, (hue + turn * coloured) % 360)
    light[0] = base[0]
    lab = cielab(light)
    far = np.concatenate([[0.0], np.cumsum(ciede2000(lab[:-1], lab[1:]))])
    return Sides(light[None], far[None])


def _from_first(picked: Floats) -> Floats:
    """Of each colour, L* from the first, times its chroma, degrees from its hue: (n, 3)."""
    lch, values = polar(oklab(picked)), value(picked)
    grey = lch[:, 1] < GREY_CHROMA
    times = np.minimum(lch[:, 1] / max(float(lch[0, 1]), 1e-3), _MOST_TIMES)
    turn = np.where(grey | grey[0], 0.0, hue_distance(lch[0, 2], lch[:, 2]))
    return np.stack([values - values[0], times, turn], axis=1)


RECIPE = RecipeSpec(
    "borrowed",
    "borrowed",
    "as colours picked from a picture step from dark to light",
    False,
    _steps,
    picks=True,
)
