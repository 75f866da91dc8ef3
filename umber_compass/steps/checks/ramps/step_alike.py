"""The lightest step of one material in the local colour of another reads as a patch of that."""

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
_ASKED = 64  # pairs
_LESS = 0.4  # of the lights' chroma, that is tried


class _Near(NamedTuple):
    light: str  # region whose lightest step it is
    other: str
    apart: float  # CIEDE2000


def _nearest(derived: Derived) -> _Near | None:
    """The lightest step that is nearest to another material's local colour."""
    tops, bases, of_top, of_base = [], [], [], []
    for region_id, many in (derived.ramps or {}).items():
        for ramp in many:
            bases.append(levels_of(ramp.steps[ramp.base].hex))
            of_base.append(region_id)
            if ramp.base < len(ramp.steps) - 1:
                tops.append(levels_of(ramp.steps[-1].hex))
                of_top.append(region_id)
    if not tops or len(set(of_base)) < 2:
        return None
    lab = [cielab(decode(np.array(part) / 255)) for part in (tops, bases)]
    plainly = np.linalg.norm(lab[0][:, None] - lab[1][None], axis=2)
    plainly[np.array(of_top)[:, None] == np.array(of_base)[None]] = np.inf
    # CIEDE2000 is dear: only of the pairs that are plainly near.
    near = np.argsort(plainly, axis=None)[: min(_ASKED, plainly.size)]
    i, j = np.unravel_index(near, plainly.shape)
    apart = np.where(np.isinf(plainly[i, j]), np.inf, ciede2000(lab[0][i], lab[1][j]))
    at = int(apart.argmin())
    return _Near(of_top[i[at]], of_base[j[at]], float(apart[at]))


def _measure(derived: Derived) -> list[Result]:
    if derived.study.within_budget and derived.planned_budget is not None:
        return []  # there steps are shared as was wished
    found = _nearest(derived)
    if found is None:
        return []
    wanted = derived.rules["step-alike.note"]
    level = level_under(found.apart, wanted, derived.rules["step-alike.warning"])
    said = names(derived)
    light, other = said[found.light], said[found.other]
    if level == "fine":
        title = words("No light step is another material’s colour")
    else:
        title = words("The lightest step of {name} is the colour of {other}",
                      name=light, other=other)  # fmt: skip
    text = words(
        "{measured:.1f} CIEDE2000 between {name}’s lightest step and {other}, wanted {wanted:g} "
        "or more",
        measured=found.apart, name=upper(light), other=other, wanted=wanted,
    )  # fmt: skip
    ids = (found.light, found.other)
    return [Result(NAME, level, ids, found.apart, wanted, "CIEDE2000", title, text)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """One light step less; lights of less chroma, as far as either parts them."""
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
        near = _nearest(then)
        if near is None or near.apart >= result.wanted:
            fixes.append(Fix(key, text, edit))
    return fixes


_ABOUT = (
    "A light on one material in the very colour of another reads as a piece of that other. In "
    "few colours this happens by itself; then it should be wished."
)
CHECK = CheckSpec(NAME, "ramps", _measure, _candidates, _ABOUT)
