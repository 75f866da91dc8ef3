"""A figure that parts from what it touches by a colour that another screen or paper cannot show."""

from typing import NamedTuple

import numpy as np

from umber_compass.colour import screens
from umber_compass.colour.press import printed
from umber_compass.colour.spaces import Floats, cielab, decode, encode
from umber_compass.plan.terms import Use
from umber_compass.steps.checks.check import CheckSpec, Fix, Result, level_under, names, upper
from umber_compass.steps.checks.harmony.figures_apart import Seen, all_near, nearest, parting
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

NAME = "other-screens"


def _narrow(light: Floats) -> Floats:
    return decode(screens.narrow(encode(light)))


def _newsprint(light: Floats) -> Floats:
    return decode(screens.newsprint(encode(light)))


def _print(light: Floats) -> Floats:
    return decode(printed(np.asarray(encode(light) * 255 + 0.5).astype(np.uint8)) / 255)


def _greys(light: Floats) -> Floats:
    return decode(np.repeat(screens.e_reader(cielab(light)[:, 0])[:, None], 3, axis=1))


class _Screen(NamedTuple):
    says: str
    shows: Seen


_SCREENS = {
    "narrow-gamut": _Screen("on a poor screen", _narrow),
    "e-reader": _Screen("in an e-reader’s greys", _greys),
    "newsprint": _Screen("on newsprint", _newsprint),
    "print": _Screen("in offset print", _print),
}
# Where a piece will be seen, by its use: a cover also on the shelf of an e-reader.
_OF_USE: dict[Use, tuple[str, ...]] = {
    "spread": ("narrow-gamut", "print"),
    "cover": ("narrow-gamut", "e-reader", "print"),
    "poster": ("newsprint", "print"),
    "card": ("print",),
}
_OTHERWISE = ("narrow-gamut",)


def _ways(derived: Derived) -> dict[str, Seen]:
    used = _OF_USE.get(derived.plan.brief.use, _OTHERWISE)
    return {name: _SCREENS[name].shows for name in used}


def _measure(derived: Derived) -> list[Result]:
    found = nearest(all_near(derived, _ways(derived)))
    if found is None:
        return []
    wanted = derived.rules["other-screens.note"]
    level = level_under(found.apart, wanted, derived.rules["other-screens.warning"])
    one, other = (names(derived)[r] for r in found.regions)
    where = _SCREENS[found.way].says
    if level == "fine":
        title = words("Figures part where the piece is seen")
    else:
        title = words("{one} and {other} fall together {where}",
                      one=upper(one), other=other, where=where)  # fmt: skip
    text = words(
        "{one} and {other} lie {measured:.1f} CIEDE2000 apart {where}, wanted {wanted:g} or more",
        one=upper(one), other=other, measured=found.apart, where=where, wanted=wanted,
    )  # fmt: skip
    return [Result(NAME, level, found.regions, found.apart, wanted, "CIEDE2000", title, text)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    return parting(derived, result, _ways(derived))


_ABOUT = (
    "A cheap screen loses red, a press strong greens and blues, an e-reader all colour. Two "
    "colours that part by what is lost there become one; a difference of value stays. It is judged "
    "where the brief says the piece is seen."
)
CHECK = CheckSpec(NAME, "harmony", _measure, _candidates, _ABOUT, coloured=True)
