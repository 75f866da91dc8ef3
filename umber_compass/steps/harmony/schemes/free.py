"""Hues where the artist puts them: a scheme that is none of the eight."""

from collections.abc import Callable

from umber_compass.plan.model import Scheme
from umber_compass.plan.terms import Slot
from umber_compass.steps.harmony.schemes.spec import Needle, SchemeSpec

NAME = "free"
_SLOTS: tuple[Slot, ...] = ("B", "C", "D")
_LEADS, _REST = 0.5, 0.12  # shares


def _standing(offset: float) -> Callable[[float], float]:
    return lambda spread: offset


def free_spec(scheme: Scheme) -> SchemeSpec:
    """The spec of a free scheme; what stands within 60 wheel degrees of the lead supports it, the
    rest answers."""
    needles = [Needle("A", "leads", lambda spread: 0, _LEADS)]
    for slot, offset in zip(_SLOTS, scheme.offsets, strict=False):
        part = "supports" if min(offset, 360 - offset) <= 60 else "answers"
        needles.append(Needle(slot, part, _standing(offset), _REST))
    return SchemeSpec(NAME, NAME, "hues of your own", "no rule", 0, tuple(needles))
