"""What parts in L* must part in the other grey too: the one painting programs make by taking colour
away, which weighs the encoded channels by .3, .59 and .11."""

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import Floats, encode
from umber_compass.steps.checks.check import CheckSpec, Fix, Result, level_under, names, upper
from umber_compass.steps.checks.shifting import least_move, shifting
from umber_compass.steps.mending.room import is_movable
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.values.parting import Border, gaps, sides_of, wanted
from umber_compass.words import words

NAME = "other-grey"
LUMA = np.array([0.3, 0.59, 0.11])  # W3C Compositing and Blending Level 1, luminosity
_MOST = 60.0  # L*, of a move


def luma_by_code(derived: Derived) -> Floats:
    """The other grey of every code of the shown picture, 0-100."""
    if derived.buffers is None or derived.lit is None:
        return np.asarray(derived.table @ LUMA * (100 / 255))
    packed, found = derived.lit.packed, np.zeros(len(derived.lit.packed), np.float32)
    for shift, weight in zip((16, 8, 0), LUMA * (100 / 255), strict=True):
        found += ((packed >> np.uint32(shift)) & np.uint32(255)) * np.float32(weight)
    return found


def _measure(derived: Derived) -> list[Result]:
    asked = wanted(derived.borders, derived.wishes)
    if not asked:
        return []
    value = gaps(derived.adjacency, derived.values.by_code)
    luma = gaps(derived.adjacency, luma_by_code(derived))
    # What merges in L* is said by that check; here what parts in that grey and not in the other.
    found = [
        _result(derived, b, float(luma[b.pair]), float(value[b.pair]))
        for b in asked
        if value[b.pair] >= derived.wishes.number(b.wish)
    ]
    failing = [r for r in found if r.level != "fine"]
    if failing or not found:
        return failing
    closest = min(found, key=lambda r: r.measured)
    return [closest._replace(title=words("Figures part in either grey"))]


def _result(derived: Derived, border: Border, luma: float, value: float) -> Result:
    named, rules = names(derived), derived.rules
    title = words(
        "{figure} and {ground} look alike when desaturated",
        figure=upper(named[border.figure]),
        ground=named[border.behind],
    )
    text = words(
        "{luma:.3g} points apart with colour taken away, {value:.3g} in L*, wanted {wanted:g}",
        luma=luma,
        value=value,
        wanted=rules["other-grey.note"],
    )
    level = level_under(luma, rules["other-grey.note"], rules["other-grey.warning"])
    pair = (border.figure, border.behind)
    return Result(NAME, level, pair, luma, rules["other-grey.note"], "points", title, text)


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """Figure or what is behind, up or down: the smallest move that parts them in the other grey."""
    border = next(b for b in derived.borders if (b.figure, b.behind) == result.regions)
    sides = sides_of(derived.adjacency, border, luma_by_code(derived))
    gap = sides.figure - sides.behind
    found = []
    for region, sign in ((border.figure, 1.0), (border.behind, -1.0)):
        if not is_movable(derived, region):
            continue
        for way in (1.0, -1.0):
            move = _least(derived, region, gap, sides.px.astype(float), sign, way, result.wanted)
            if move is not None:
                found.append(_fix(derived, region, move * way))
    return found


def _least(
    derived: Derived, region: str, gap: Floats, px: Floats, sign: float, way: float, wanted: float
) -> float | None:
    colour = derived.colours[region].first

    def luma(by: float) -> float:
        value = min(max(colour.value + way * by, 0.0), 100.0)
        return float(encode(fit(value, colour.chroma, colour.hue or 0.0)) @ LUMA * 100)

    now = luma(0.0)

    def enough(by: float) -> bool:
        apart = (np.abs(gap + sign * (luma(by) - now)) * px).sum() / max(float(px.sum()), 1)
        return bool(apart >= wanted + derived.rules["fix.value"])

    return least_move(enough, _MOST, 1.0)


def _fix(derived: Derived, region: str, by: float) -> Fix:
    kind = f"{region}-{'up' if by > 0 else 'down'}"
    return shifting(derived, kind, {region: by})


_SAYS = (
    "A painting program's grey is not L*: strong blues turn out darker there and yellows lighter. "
    "What is judged on such a layer should part in both."
)
CHECK = CheckSpec(
    NAME,
    "values",
    _measure,
    _candidates,
    _SAYS,
    "{count} figures look like what is behind them when desaturated",
    coloured=True,
    wishes=("parting", "parting-middle"),
)
