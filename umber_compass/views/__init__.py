"""Ways of seeing the same picture: plain arrays in, plain arrays out."""

from umber_compass.registry import registered
from umber_compass.views import (
    borders,
    colour_only,
    eyes,
    grey,
    groups,
    heat,
    neutral,
    placed,
    ramp_steps,
    screens,
    squint,
)
from umber_compass.views.view import PLAIN, About, ViewSpec

_ORDER = (
    "grey squint mirrored upside-down small far groups groups-2 groups-3 groups-4 groups-5 heat "
    "borders extremes value-only colour-only one-hue one-chroma no-detail ramp-view "
    "ramp-dither luma deutan protan "
    "tritan phone tube e-reader narrow-gamut print newsprint"
)
_ALL: dict[str, ViewSpec] = registered(
    "VIEWS",
    grey,
    squint,
    placed,
    groups,
    heat,
    borders,
    colour_only,
    neutral,
    eyes,
    screens,
    ramp_steps,
)
_PLACE = {name: i for i, name in enumerate(_ORDER.split())}
VIEWS: dict[str, ViewSpec] = {
    name: _ALL[name] for name in sorted(_ALL, key=lambda name: _PLACE.get(name, len(_PLACE)))
}

__all__ = ["PLAIN", "VIEWS", "About", "ViewSpec"]
