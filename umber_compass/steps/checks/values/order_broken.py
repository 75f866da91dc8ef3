"""A dark material stays darker than a light one, as the order of materials says."""

from itertools import pairwise

from umber_compass.steps.checks.check import CheckSpec, Fix, Result, level_under, names, upper
from umber_compass.steps.checks.values.balanced import balanced
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.values.measured import mean_value
from umber_compass.words import words

NAME = "order-broken"


def _measure(derived: Derived) -> list[Result]:
    order, wishes = derived.wishes.order, derived.wishes
    if len(order) < 2 or not wishes.on("order"):
        return []
    label, named = {r.id: r.label for r in derived.regions}, names(derived)
    value = {r: mean_value(derived.by_label[label[r]]) for r in order}
    found = []
    for dark, light in pairwise(order):
        if wishes.on(f"order.{dark}.{light}"):
            apart = value[light] - value[dark]
            title = words(
                "{dark} is not darker than {light}", dark=upper(named[dark]), light=named[light]
            )
            found.append(_result(derived, (dark, light), apart)._replace(title=title))
    broken = [r for r in found if r.level != "fine"]
    if broken or not found:
        return broken
    closest = min(found, key=lambda r: r.measured)
    return [closest._replace(title=words("Materials keep their order"))]


def _result(derived: Derived, pair: tuple[str, str], apart: float) -> Result:
    held = derived.wishes.of["order"]
    text = words(
        "{apart:.3g} L* apart in the picture, wanted {wanted:g} or more",
        apart=apart,
        wanted=held.number,
    )
    level = level_under(apart, held.number, held.warning)
    return Result(NAME, level, pair, apart, held.number, "L*", words(""), text)


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    return balanced(derived, result, f"order.{result.regions[0]}.{result.regions[1]}")


_SAYS = (
    "The eye knows materials by which is darker before it sees their colour. Measured as the mean "
    "value of each in the picture that is shown."
)
CHECK = CheckSpec(
    NAME, "values", _measure, _candidates, _SAYS, "{count} materials are out of order", always=True
)
