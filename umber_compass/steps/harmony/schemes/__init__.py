"""The eight schemes, one file each. A sentence that makes none of them is called free."""

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

__all__ = ["SCHEMES", "Needle", "SchemeSpec"]
