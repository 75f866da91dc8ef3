"""Fixes of the light solved by trying it: the least change of the rig that meets a wish."""

from collections.abc import Callable

from umber_compass.plan.edits import Edit
from umber_compass.plan.light_edits import rig_of
from umber_compass.plan.rig import Rig
from umber_compass.steps.pipeline import Derived

_HALVINGS = 7


def least_share(
    derived: Derived, edit: Callable[[float], Edit], good: Callable[[Derived], bool]
) -> float | None:
    """The least share, 0-1, of a change of the light after which a plan is good; None where the
    whole change is not enough."""

    def is_good(share: float) -> bool:
        return good(derived.of(edit(share).apply(derived.plan)))

    if not is_good(1.0):
        return None
    low, high = 0.0, 1.0
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        low, high = (low, middle) if is_good(middle) else (middle, high)
    return high


def rig(derived: Derived) -> Rig:
    """The plan's rig."""
    return rig_of(derived.plan)
