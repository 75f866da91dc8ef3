"""The picture in the steps of its ramps, as they are and as an edit would have them, small."""

import numpy as np

from umber_compass.colour.packed import Packed, pack, unpack
from umber_compass.document.seeing import about, small_of
from umber_compass.plan.edits import Edit
from umber_compass.steps.pictures import picture
from umber_compass.steps.pipeline import Derived
from umber_compass.views import VIEWS
from umber_compass.work import Tick, idle


def compared(
    derived: Derived, edit: Edit, longer_px: int, tick: Tick = idle
) -> tuple[Packed, Packed]:
    """The two pictures, so many px wide or high."""
    small = np.ascontiguousarray(unpack(small_of(picture(derived), longer_px)))
    found = []
    for plan in (derived.plan, edit.apply(derived.plan)):
        tick(-1.0)
        own = derived.of(plan)
        own.take(Derived.ramps, own.worked(Derived.ramps, tick))
        found.append(pack(VIEWS["ramp-view"].see(small, about(own, small.shape))))
    return found[0], found[1]
