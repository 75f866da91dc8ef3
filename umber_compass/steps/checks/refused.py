"""What no fix offers, for an artist would refuse it outright: skin of another hue or value, or gone
dull, a black ground made grey, a colour made pure black."""

from umber_compass.steps.checks.check import TOGETHER, Fix, Result
from umber_compass.steps.harmony.colours import RegionColour
from umber_compass.steps.harmony.skin import HUES, LEAST_CHROMA, MOST_VALUE, is_skin
from umber_compass.steps.pipeline import Derived

# Studio rules, docs/checks.md.
_BLACK, _LIFTED = 12.0, 4.0  # L*; a ground that is black, and by how much it may be lifted
_LARGE = 0.1  # of the picture


def is_refused(derived: Derived, after: Derived, result: Result, fix: Fix) -> bool:
    """Whether a fix of a result, which leads to `after`, changes a region as nobody would."""
    for region in derived.regions:
        one, two = derived.colours[region.id], after.colours[region.id]
        if one is two or one == two:
            continue
        if is_skin(region, one) and _spoils_skin(one, two, fix.id == TOGETHER):
            return True
        # The whole of a picture that has drifted is lifted with its darkest parts.
        drifted = result.damage and result.whole
        if not drifted and region.role == "ground" and _greys_black(derived, region.id, two):
            return True
        if two.mean_value < derived.rules["pure.dark"] <= one.mean_value:
            return True
    return False


def _spoils_skin(before: RegionColour, after: RegionColour, together: bool) -> bool:
    """Whether skin is changed as nobody would; `together`: with all that stands beside it."""
    one, two = before.first, after.first
    if two.chroma < LEAST_CHROMA * one.chroma - 1e-6:
        return True
    if not together and abs(two.value - one.value) > MOST_VALUE:
        return True
    if one.hue is None or two.hue is None:
        return False
    was_skin = HUES[0] <= one.hue <= HUES[1]
    return was_skin and not HUES[0] <= two.hue <= HUES[1]


def _greys_black(derived: Derived, region: str, after: RegionColour) -> bool:
    before = derived.colours[region].mean_value
    large = derived.shares[region] >= _LARGE
    return large and before < _BLACK and after.mean_value > before + _LIFTED
