"""Which regions are skin: it is changed less than anything else, or a person looks ill."""

import re

import numpy as np

from umber_compass.colour.spaces import Floats, polar
from umber_compass.plan.model import Region
from umber_compass.steps.harmony.colours import RegionColour

# What skin is in any light, OKLCh degrees and chroma, L* (studio rules, docs/checks.md).
HUES = (20.0, 95.0)
_CHROMA, _VALUE = (0.035, 0.15), (25.0, 92.0)
# What it keeps of its chroma at least, and how far it moves in value, L*; where it gives way to a
# focus it stays a little within both, for light answers a move in its own way.
LEAST_CHROMA, MOST_VALUE = 0.7, 7.0
_EASED_CHROMA, _EASED_LIGHT = 0.75, 0.05  # OKLab lightness
_NAMES = re.compile(
    r"\b(skin|faces?|hands?|arms?|legs?|foot|feet|cheeks?|nose|ears?|neck|head|body)\b"
)


def is_named_skin(region: Region) -> bool:
    """Whether a region's name is that of a part with skin."""
    return _NAMES.search(region.name.lower()) is not None


def is_told_skin(region: Region, colour: RegionColour) -> bool:
    """Whether a region is said to be skin, by its material or its name, and has a skin's hue."""
    hue = colour.first.hue
    told = region.material == "skin" or is_named_skin(region)
    return told and hue is not None and HUES[0] <= hue <= HUES[1]


def is_skin(region: Region, colour: RegionColour) -> bool:
    """The same; or, while a region has only a first guess of a name, whether it is part of a figure
    and has a colour that skin has."""
    if is_told_skin(region, colour):
        return True
    first = colour.first
    return (
        not region.named
        and region.role in ("figure", "focus")
        and first.hue is not None
        and HUES[0] <= first.hue <= HUES[1]
        and _CHROMA[0] <= first.chroma <= _CHROMA[1]
        and _VALUE[0] <= first.value <= _VALUE[1]
    )


def eased(own: Floats, there: Floats) -> Floats:
    """How far skin gives way toward another colour, both OKLab: a little, and in its own hue."""
    (light, chroma, hue), (other, weaker, _) = polar(own), polar(there)
    value = float(np.clip(other, light - _EASED_LIGHT, light + _EASED_LIGHT))
    kept = float(np.clip(weaker, _EASED_CHROMA * chroma, chroma))
    return np.array([value, kept * np.cos(np.radians(hue)), kept * np.sin(np.radians(hue))])
