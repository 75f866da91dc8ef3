"""A figure that parts from its ground by hue alone is lost to eyes that lack a kind of cone."""

from functools import partial

from umber_compass.colour.eyes import KINDS, as_seen
from umber_compass.steps.checks.check import CheckSpec, Fix, Result, level_under, names, upper
from umber_compass.steps.checks.harmony.figures_apart import all_near, nearest, parting
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

NAME = "other-eyes"
_SAYS = {"deutan": "green", "protan": "red", "tritan": "blue"}
_WAYS = {kind: partial(as_seen, kind=kind) for kind in KINDS}


def _measure(derived: Derived) -> list[Result]:
    found = nearest(all_near(derived, _WAYS))
    if found is None:
        return []
    wanted = derived.rules["other-eyes.note"]
    level = level_under(found.apart, wanted, derived.rules["other-eyes.warning"])
    one, other = (names(derived)[r] for r in found.regions)
    if level == "fine":
        title = words("Figures part in other eyes too")
    else:
        title = words("{one} and {other} fall together in other eyes", one=upper(one), other=other)
    text = words(
        "{one} and {other} lie {measured:.1f} CIEDE2000 apart without {cones} cones, "
        "wanted {wanted:g} or more",
        one=upper(one), other=other, measured=found.apart, cones=_SAYS[found.way], wanted=wanted,
    )  # fmt: skip
    return [Result(NAME, level, found.regions, found.apart, wanted, "CIEDE2000", title, text)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    return parting(derived, result, _WAYS)


_ABOUT = (
    "One man in twelve lacks a kind of cone, or nearly. To him two colours of one value that part "
    "by red and green alone are one; a difference of value is seen by everyone."
)
CHECK = CheckSpec(NAME, "harmony", _measure, _candidates, _ABOUT, coloured=True)
