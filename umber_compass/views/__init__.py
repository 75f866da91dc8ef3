"""Ways of seeing the same picture: plain arrays in, plain arrays out. One file each."""

from umber_compass.views import (
    borders,
    colour_only,
    extremes,
    far,
    grey,
    groups,
    heat,
    mirrored,
    neutral,
    small,
    squint,
    upside_down,
    value_only,
)
from umber_compass.views.spec import PLAIN, About, ViewSpec

_SPECS = (
    grey.VIEW,
    squint.VIEW,
    mirrored.VIEW,
    upside_down.VIEW,
    small.VIEW,
    far.VIEW,
    *groups.VIEWS,
    heat.VIEW,
    borders.VIEW,
    extremes.VIEW,
    value_only.VIEW,
    colour_only.VIEW,
    *neutral.VIEWS,
)
VIEWS: dict[str, ViewSpec] = {v.name: v for v in _SPECS}

__all__ = ["PLAIN", "VIEWS", "About", "ViewSpec"]
