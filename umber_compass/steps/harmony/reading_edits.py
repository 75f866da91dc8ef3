"""A region's colour changed so that it reads another way."""

from umber_compass.plan.edits import Edit
from umber_compass.steps.harmony.relativity import Found, Way
from umber_compass.steps.harmony.shifts import Shift, shift_colours
from umber_compass.words import words


def read_way(region: str, found: Found, way: Way, name: str) -> Edit:
    """The smallest change that was found, made."""
    shift = Shift(found.value, found.chroma, found.hue_deg)
    text = words("make {name} look {way}", name=name, way=way)
    return Edit(text, shift_colours({region: shift}))
