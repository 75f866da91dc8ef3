"""A highlight in the colour of another material reads as a patch of that material."""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from umber_compass.colour.difference import ciede2000
from umber_compass.colour.measured import Measured, levels_of
from umber_compass.colour.spaces import Floats, cielab, decode
from umber_compass.plan.terms import Material
from umber_compass.steps.checks.check import CheckSpec, Fix, Result, level_under, upper
from umber_compass.steps.checks.light.highlight_fixes import other_materials, without_highlights
from umber_compass.steps.light.two_sides import Sides
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

NAME = "highlight-alike"
_TRIED: tuple[Material, ...] = ("satin", "wet", "metal", "leather", "cloth")
_WHITE = 94.0  # L*, from which a highlight is white, as highlights are


class _Near(NamedTuple):
    shiny: Sides
    other: Sides
    apart: float  # CIEDE2000


def _labs(colours: list[Measured]) -> Floats:
    return cielab(decode(np.array([levels_of(c.hex) for c in colours]) / 255))


def _nearest(sides: Sequence[Sides]) -> _Near | None:
    """The highlight that is nearest to what another material is in the light."""
    found = None
    for one in sides:
        if one.highlight is None or one.highlight.value >= _WHITE:
            continue
        others = [s for s in sides if s.region != one.region]
        if not others:
            continue
        labs = _labs([one.highlight, *(s.lit for s in others)])
        apart = ciede2000(labs[:1], labs[1:])
        at = int(apart.argmin())
        if found is None or apart[at] < found.apart:
            found = _Near(one, others[at], float(apart[at]))
    return found


def _measure(derived: Derived) -> list[Result]:
    found = _nearest(derived.two_sides)
    if found is None:
        return []
    wanted = derived.rules["highlight-alike.note"]
    level = level_under(found.apart, wanted, derived.rules["highlight-alike.warning"])
    shiny, other = found.shiny.name, found.other.name
    if level == "fine":
        title = words("No highlight looks like another material")
    else:
        title = words("The highlight on {name} looks like {other}", name=shiny, other=other)
    text = words(
        "{measured:.1f} CIEDE2000 between {name}’s highlight and {other} in the light, "
        "wanted {wanted:g} or more",
        measured=found.apart, name=upper(shiny), other=other, wanted=wanted,
    )  # fmt: skip
    ids = (found.shiny.region, found.other.region)
    return [Result(NAME, level, ids, found.apart, wanted, "CIEDE2000", title, text)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """Another material for what shines whose highlight parts from all; highlights left out."""
    region = next(r for r in derived.regions if r.id == result.regions[0])

    def good(then: Derived) -> bool:
        near = _nearest(then.two_sides)
        return near is None or near.apart >= result.wanted

    return [*other_materials(derived, region, _TRIED, good), without_highlights()]


_SAYS = (
    "A highlight takes the lamp's colour and may come out as the very colour of another thing. "
    "Then the eye reads a patch of that thing, not light."
)
CHECK = CheckSpec(NAME, "light", _measure, _candidates, _SAYS)
