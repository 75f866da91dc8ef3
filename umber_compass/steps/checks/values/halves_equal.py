"""Light or dark holds clearly more: halves that weigh the same argue."""

import numpy as np

from umber_compass.steps.checks.check import CheckSpec, Fix, Result, level_under
from umber_compass.steps.checks.values.balanced import balanced
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

NAME = "halves-equal"


def _measure(derived: Derived) -> list[Result]:
    if not derived.wishes.on("halves"):
        return []
    edge = derived.rules["halves-equal.edge"]
    light = float(derived.values.histogram[np.arange(100) >= round(edge)].sum())
    apart, held = 100 * abs(2 * light - 1), derived.wishes.of["halves"]
    level = level_under(apart, held.number, held.warning)
    title = "Light and dark are unequal" if level == "fine" else "Light and dark weigh the same"
    text = words(
        "light {light:.0%}, dark {dark:.0%}, wanted {wanted:g} points apart or more",
        light=light,
        dark=1 - light,
        wanted=held.number,
    )
    return [Result(NAME, level, (), apart, held.number, "points", words(title), text, whole=True)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    return balanced(derived, result, "halves")


_SAYS = (
    "One of light and dark should clearly hold more, so that the other can answer. Measured as "
    "what lies over and under the middle of L*."
)
CHECK = CheckSpec(NAME, "values", _measure, _candidates, _SAYS, wishes=("halves",))
