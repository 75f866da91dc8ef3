"""Darker turns toward a cool pole and lighter toward a warm one, a little each step, the shorter
way round and never past the pole; the values are those of straight steps."""

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import Floats, encode, hue_distance
from umber_compass.steps.ramps.recipes.recipe import (
    Ask,
    RecipeSpec,
    base_lch,
    colourfulness,
    ladder,
    with_base,
)

COOL_HUE, WARM_HUE = 264.0, 105.0  # OKLCh; studio rule, docs/ramps.md: full blue and near yellow
# Opposite a pole both ways are as long. There the turn fades out and in again over so many degrees
# a side; and that place gives way to a family that lies by it, so that one family turns one way.
_ZONE_DEG, _GIVES_DEG, _FAMILY_DEG = 14.0, 25.0, 60.0


def _steps(ask: Ask) -> Floats:
    value, chroma, hue = base_lch(ask)
    step = np.arange(-ask.darker, ask.lighter + 1)
    degrees = np.abs(step) * ask.degrees * colourfulness(ask)
    turn = np.where(
        step < 0,
        _turn(hue, COOL_HUE, degrees, ask.family_hue),
        _turn(hue, WARM_HUE, degrees, ask.family_hue),
    )
    return with_base(encode(fit(ladder(value, ask), chroma, hue + turn)), ask)


def _turn(hue: float, pole: float, degrees: Floats, family: float | None) -> Floats:
    """How far steps turn toward a pole, OKLCh degrees."""
    parting = pole + 180.0  # where the way round changes
    if family is not None:
        beside = float(hue_distance(parting, family))
        near = max(0.0, 1 - abs(beside) / _FAMILY_DEG)
        parting -= _GIVES_DEG * near * (1 if beside >= 0 else -1)
    off = float(hue_distance(parting, hue))
    way = float(hue_distance(hue, pole))
    if abs(off) <= 90 and way * off < 0:  # by the parting, which may lie beside the exact opposite
        way -= 360.0 * np.sign(way)
    share = min(abs(off) / _ZONE_DEG, 1.0)
    return np.asarray(np.sign(way) * np.minimum(abs(way), degrees) * share)


RECIPE = RecipeSpec(
    "cool-warm", "cool-warm", "darker turns to blue, lighter to yellow", True, _steps
)
