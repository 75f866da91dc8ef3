"""A figure that parts from its ground by hue alone is lost to eyes that lack a kind of cone."""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.difference import ciede2000
from umber_compass.colour.eyes import KINDS, as_seen
from umber_compass.colour.spaces import cielab
from umber_compass.steps.checks.check import CheckSpec, Fix, Result, level_under, names, upper
from umber_compass.steps.checks.shifting import least_move, shifting
from umber_compass.steps.harmony.touching import light_of
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

NAME = "other-eyes"
_SAYS = {"deutan": "green", "protan": "red", "tritan": "blue"}
_APART = 12.0  # CIEDE2000 to usual eyes, from which two parted at all
_MOST = 30.0  # L*, the largest move that is proposed


class _Lost(NamedTuple):
    one: int  # place among the regions
    other: int
    kind: str
    apart: float


def _worst(derived: Derived) -> _Lost | None:
    """The figure and what touches it that are nearest to each other in any such eyes."""
    pairs = derived.touching.pairs
    part = np.array([r.role in ("figure", "focus") for r in derived.regions])
    if not len(pairs) or not part.any():
        return None
    pairs = pairs[part[pairs].any(axis=1)]
    light = light_of(derived.touching, derived.colours)
    usual = cielab(light)
    told = pairs[ciede2000(usual[pairs[:, 0]], usual[pairs[:, 1]]) >= _APART]
    found = None
    for kind in KINDS:
        lab = cielab(as_seen(light, kind))
        apart = ciede2000(lab[told[:, 0]], lab[told[:, 1]])
        if len(apart) and (found is None or apart.min() < found.apart):
            at = int(apart.argmin())
            found = _Lost(int(told[at, 0]), int(told[at, 1]), kind, float(apart[at]))
    return found


def _measure(derived: Derived) -> list[Result]:
    found = _worst(derived)
    if found is None:
        return []
    wanted = derived.rules["other-eyes.note"]
    level = level_under(found.apart, wanted, derived.rules["other-eyes.warning"])
    ids = derived.touching.ids[found.one], derived.touching.ids[found.other]
    one, other = (names(derived)[r] for r in ids)
    if level == "fine":
        title = words("Figures part in other eyes too")
    else:
        title = words("{one} and {other} fall together in other eyes", one=upper(one), other=other)
    text = words(
        "{one} and {other} lie {measured:.1f} CIEDE2000 apart without {cones} cones, "
        "wanted {wanted:g} or more",
        one=upper(one), other=other, measured=found.apart, cones=_SAYS[found.kind], wanted=wanted,
    )  # fmt: skip
    return [Result(NAME, level, ids, found.apart, wanted, "CIEDE2000", title, text)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """One of the two moved in value, up or down, by as little as is enough."""
    fixes = []
    for region in result.regions:
        for way, word in ((1, "up"), (-1, "down")):

            def enough(by: float, region: str = region, way: int = way) -> bool:
                fix = shifting(derived, "try", {region: by * way})
                found = _worst(derived.of(fix.edit.apply(derived.plan)))
                return found is None or found.apart >= result.wanted

            by = least_move(enough, _MOST, 2.0)
            if by is not None:
                fixes.append(shifting(derived, f"{region}-{word}", {region: by * way}))
    return fixes


_ABOUT = (
    "One man in twelve lacks a kind of cone, or nearly. To him two colours of one value that part "
    "by red and green alone are one; a difference of value is seen by everyone."
)
CHECK = CheckSpec(NAME, "harmony", _measure, _candidates, _ABOUT, coloured=True)
