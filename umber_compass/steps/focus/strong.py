"""Strong colour: from which chroma a colour is strong, and how much of a picture each region holds
of it, as planned."""

from collections.abc import Mapping

import numpy as np

from umber_compass.colour.gamut import greatest_ratio
from umber_compass.colour.spaces import Floats, decode, luminance_of_value, oklab
from umber_compass.steps.harmony.colours import RegionColour

# A chroma of the practice’s number, or four fifths of what the screen shows at that value and hue
# where that is less; pale, very dark and very light colours never (studio rule, docs/focus.md).
_OF_GAMUT, _LEAST, _LOW, _HIGH = 0.8, 0.05, 10, 95
_NEVER = 1.0


def strong_from(
    colours: Mapping[str, RegionColour], rules: Mapping[str, float]
) -> dict[str, tuple[float, ...]]:
    """The OKLCh chroma from which each end of a region’s colour would be strong, by region id."""
    ends = [e for c in colours.values() for e in c.ends]
    if not ends:
        return {}
    value = np.array([e.value for e in ends])
    hue = np.radians([e.hue or 0.0 for e in ends])
    levels = np.frombuffer(bytes.fromhex("".join(e.hex[1:] for e in ends)), np.uint8)
    light = oklab(decode(levels.reshape(-1, 3) / 255))[:, 0]
    most = greatest_ratio(luminance_of_value(value), hue) * light
    limit: Floats = np.maximum(np.minimum(rules["strong-colour.chroma"], _OF_GAMUT * most), _LEAST)
    shown = np.array([e.hue is not None for e in ends]) & (value >= _LOW) & (value <= _HIGH)
    found = iter(np.where(shown, limit, _NEVER).tolist())
    return {r: tuple(next(found) for _ in c.ends) for r, c in colours.items()}


def strong_shares(
    colours: Mapping[str, RegionColour],
    limits: Mapping[str, tuple[float, ...]],
    shares: Mapping[str, float],
) -> dict[str, float]:
    """The share of the picture, 0-1, that each region holds of strong colour; those with none are
    left out."""
    found = {}
    for region, colour in colours.items():
        over = [e.chroma >= t for e, t in zip(colour.ends, limits[region], strict=True)]
        if any(over):
            found[region] = shares[region] * sum(over) / len(over)
    return found
