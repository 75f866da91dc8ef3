"""Warm, cool and neutral: what a picture holds of each.

After Ou et al. 2004, in OKLCh: warm from 45 degrees, cool from 222; hues near the crossings, and
colours called grey, are neither.
"""

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np

from umber_compass.colour.spaces import GREY_CHROMA, Floats
from umber_compass.steps.harmony.colours import RegionColour

WARM_HUE, COOL_HUE = 45.0, 222.0
_NEITHER = 15.0  # degrees round a crossing


class Temperature(NamedTuple):
    """Shares of a picture, 0-1."""

    warm: float
    cool: float
    neutral: float


def temperature_of(hue: Floats, chroma: Floats, weight: Floats | float = 1.0) -> Temperature:
    """The shares of colours, (n,), of OKLCh hues in degrees and chromas; each counts by its
    weight."""
    from_warm, from_cool = (np.abs((hue - p + 180) % 360 - 180) for p in (WARM_HUE, COOL_HUE))
    coloured, held = chroma >= GREY_CHROMA, np.broadcast_to(weight, hue.shape)
    whole = max(float(held.sum()), 1e-9)
    warm = float(held[coloured & (from_warm < from_cool - _NEITHER)].sum()) / whole
    cool = float(held[coloured & (from_cool < from_warm - _NEITHER)].sum()) / whole
    return Temperature(warm, cool, 1 - warm - cool)


def temperature(colours: Mapping[str, RegionColour], shares: Mapping[str, float]) -> Temperature:
    """What a plan's local colours hold; the ends of a gradient count half each."""
    rows = [
        (e.hue or 0.0, e.chroma, shares[r] / len(c.ends))
        for r, c in colours.items()
        for e in c.ends
    ]
    hue, chroma, weight = np.array(rows or [(0.0, 0.0, 1.0)]).T
    return temperature_of(hue, chroma, weight)
