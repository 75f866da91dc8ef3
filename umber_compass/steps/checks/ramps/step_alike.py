"""The lightest step of one material in the own colour of what it touches reads as a patch of it."""

from typing import NamedTuple

import numpy as np
from msgspec.structs import replace

from umber_compass.colour.difference import ciede2000
from umber_compass.colour.measured import levels_of
from umber_compass.colour.spaces import cielab, decode
from umber_compass.plan.edits import region
from umber_compass.plan.ramp_edits import set_recipe
from umber_compass.steps.checks.check import (
    CheckSpec,
    Fix,
    Result,
    level_under,
    names,
    upper,
)
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.ramps.ramps import ramp_of
from umber_compass.words import words

NAME = "step-alike"
_MOST = 3  # results that are said
_LESS = 0.4  # of the lights' chroma, that is tried


class _Near(NamedTuple):
    light: str  # region whose lightest step it is
    other: str
    apart: float  # CIEDE2000


def _nearest(derived: Derived) -> list[_Near]:
    """Of regions that touch, how far the lightest step of one lies from the other's own colour, the
    nearest first."""
    ramps, touching = derived.ramps, derived.touching
    if not ramps:
        return []
    pairs: list[tuple[str, str]] = []
    colours: list[tuple[str, str]] = []
    both = [(touching.ids[i], touching.ids[j]) for i, j in touching.pairs.tolist()]
    for light, other in [*both, *((b, a) for a, b in both)]:
        for top in ramps[light]:
            if top.base < len(top.steps) - 1:
                hexes = [(top.steps[-1].hex, own.steps[own.base].hex) for own in ramps[other]]
                colours += hexes
                pairs += [(light, other)] * len(hexes)
    if not pairs:
        return []
    lab = [
        cielab(decode(np.array([levels_of(h) for h in side]) / 255))
        for side in zip(*colours, strict=True)
    ]
    found = [
        _Near(*pair, apart) for pair, apart in zip(pairs, ciede2000(*lab).tolist(), strict=True)
    ]
    return sorted(found, key=lambda near: near.apart)


def _measure(derived: Derived) -> list[Result]:
    if derived.study.within_budget and derived.planned_budget is not None:
        return []  # there steps are shared as was wished
    found = _nearest(derived)
    wanted = derived.rules["step-alike.note"]
    under = {(near.light, near.other): near for near in reversed(found) if near.apart < wanted}
    if under:
        alike = sorted(under.values(), key=lambda near: near.apart)
        return [_result(derived, near) for near in alike[:_MOST]]
    return [_result(derived, near) for near in found[:1]]


def _result(derived: Derived, near: _Near) -> Result:
    wanted, said = derived.rules["step-alike.note"], names(derived)
    level = level_under(near.apart, wanted, derived.rules["step-alike.warning"])
    light, other = said[near.light], said[near.other]
    if level == "fine":
        title = words("No light step is the colour of what it touches")
    else:
        title = words("The lightest step of {name} is the colour of {other}",
                      name=light, other=other)  # fmt: skip
    text = words(
        "{measured:.1f} CIEDE2000 between {name}’s lightest step and {other}, wanted {wanted:g} "
        "or more",
        measured=near.apart, name=upper(light), other=other, wanted=wanted,
    )  # fmt: skip
    ids = (near.light, near.other)
    return Result(NAME, level, ids, near.apart, wanted, "CIEDE2000", title, text)


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """One light step less; lights of less chroma, as far as either parts these two."""
    name = region(derived.plan, result.regions[0]).name
    ramp = ramp_of(derived.recipes, result.regions[0])
    tried = [
        ("less", replace(ramp, lighter=max(ramp.lighter - 1, 0)),
         words("One light step less for {name}", name=name)),
        ("paler", replace(ramp, light_chroma=ramp.light_chroma * _LESS),
         words("Paler lights for {name}", name=name)),
    ]  # fmt: skip
    fixes = []
    for key, other, text in tried:
        edit = set_recipe(result.regions[0], other, name)
        then = derived.of(edit.apply(derived.plan))
        then.take(Derived.ramps, then.worked(Derived.ramps))
        these = [n.apart for n in _nearest(then) if (n.light, n.other) == result.regions]
        if min(these, default=result.wanted) >= result.wanted:
            fixes.append(Fix(key, text, edit))
    return fixes


_ABOUT = (
    "A light on one material in the very colour of another reads as a piece of that other. In "
    "few colours this happens by itself; then it should be wished."
)
_MANY = "{count} light steps are the colour of what they touch"
CHECK = CheckSpec(NAME, "ramps", _measure, _candidates, _ABOUT, _MANY)
