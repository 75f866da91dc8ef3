"""The eight schemes, one file each. A sentence that makes none of them is called free."""

from umber_compass.plan.model import Scheme
from umber_compass.steps.harmony.schemes import (
    neighbours,
    neighbours_opposite,
    one_hue,
    opposites,
    split_opposite,
    square,
    triad,
    two_pairs,
)
from umber_compass.steps.harmony.schemes.free import NAME as FREE
from umber_compass.steps.harmony.schemes.free import free_spec
from umber_compass.steps.harmony.schemes.spec import Needle, SchemeSpec

SCHEMES: dict[str, SchemeSpec] = {
    m.SCHEME.name: m.SCHEME
    for m in (
        one_hue,
        neighbours,
        opposites,
        neighbours_opposite,
        split_opposite,
        triad,
        two_pairs,
        square,
    )
}

SCHEME_NAMES: tuple[str, ...] = (*SCHEMES, FREE)


def spec_of(scheme: Scheme) -> SchemeSpec:
    """The spec of a plan's scheme: one of the eight, or the free one it describes."""
    return free_spec(scheme) if scheme.name == FREE else SCHEMES[scheme.name]


__all__ = ["FREE", "SCHEMES", "SCHEME_NAMES", "Needle", "SchemeSpec", "spec_of"]
