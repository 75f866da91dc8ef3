"""Every view that the small tiles and the stage can show: of the picture as it is, or of a part of
its light."""

from typing import NamedTuple

from umber_compass.steps.light_views import LIGHT_VIEWS
from umber_compass.views import VIEWS


class View(NamedTuple):
    """A view in words."""

    title: str
    says: str


EVERY_VIEW = {
    **{n: View(v.title, v.says) for n, v in VIEWS.items()},
    **{n: View(v.title, v.says) for n, v in LIGHT_VIEWS.items()},
}
OF_RAMPS = tuple(v.name for v in VIEWS.values() if v.needs_ramps)
OF_PULL = tuple(v.name for v in VIEWS.values() if v.needs_pull)  # until it is known, nothing
OF_LIGHT = tuple(n for n, v in LIGHT_VIEWS.items() if v.part is not None)  # which need the light
USUAL = ("grey", "squint", "mirrored", "small")
