"""Every way the small views and the stage can show the picture: seen by an eye, or in a part of its
light."""

from typing import NamedTuple

from umber_compass.steps.showing import SHOWINGS
from umber_compass.views import VIEWS


class Way(NamedTuple):
    """A way of seeing, in words."""

    title: str
    says: str


WAYS = {
    **{n: Way(v.title, v.says) for n, v in VIEWS.items()},
    **{n: Way(s.title, s.says) for n, s in SHOWINGS.items()},
}
USUAL = ("grey", "squint", "mirrored", "small")
OF_STEP = {"light": ("lights-off", "ambient-only", "key-only", "grey")}
