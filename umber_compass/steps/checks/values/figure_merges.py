"""A figure must part in value from the ground it stands before, along the border they share."""

from functools import partial

import numpy as np

from umber_compass.steps.checks.check import (
    OTHERS,
    SUBJECT,
    CheckSpec,
    Fix,
    Result,
    level_under,
    names,
    upper,
)
from umber_compass.steps.checks.shifting import shifting
from umber_compass.steps.focus.attention import focus_regions
from umber_compass.steps.mending.room import is_movable
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.values.measured import moved_values
from umber_compass.steps.values.parting import Border, gaps, sides_of, wanted
from umber_compass.words import Words, words

NAME = "figure-merges"
_SCAN = np.arange(0, 100.01, 0.5)  # L*, the moves that are tried


def _measure(derived: Derived) -> list[Result]:
    apart = gaps(derived.adjacency, derived.values.by_code)
    asked = wanted(derived.borders, derived.wishes)
    lost, subject = derived.merged, _subject(derived)
    found = [_result(derived, b, float(apart[b.pair]), b.pair in lost, subject) for b in asked]
    return _worst_or_fine(derived, found)


def _subject(derived: Derived) -> frozenset[str]:
    """The regions of the figures that the focus is part of; of all figures where none is set."""
    focus = set(focus_regions(derived.regions, derived.focus))
    mine = [f.regions for f in derived.figures if not focus or focus & set(f.regions)]
    return frozenset(r for own in mine for r in own)


def _result(
    derived: Derived, border: Border, apart: float, lost: bool, subject: frozenset[str]
) -> Result:
    held, named = derived.wishes.of[border.wish], names(derived)
    return Result(
        NAME,
        level_under(apart, held.number, held.warning),
        (border.figure, border.behind),
        apart,
        held.number,
        "L*",
        words(
            "{figure} and {ground} merge",
            figure=upper(named[border.figure]),
            ground=named[border.behind],
        ),
        words(
            "{measured:.3g} L* apart, wanted {wanted:g} or more", measured=apart, wanted=held.number
        ),
        damage=lost,
        rank=SUBJECT if border.figure in subject else OTHERS,
    )


def _worst_or_fine(derived: Derived, found: list[Result]) -> list[Result]:
    merging = [r for r in found if r.level != "fine"]
    if merging:
        return merging
    if not found:
        least = derived.wishes.number("parting")
        text = words("no figure touches a ground, so nothing to measure")
        return [Result(NAME, "fine", (), least, least, "L*", words("No figure merges"), text)]
    closest = min(found, key=lambda r: r.measured - r.wanted)
    said = names(derived)
    title = words("Figures part from their grounds")
    text = words(
        "closest: {figure} and {ground}, {measured:.3g} L* apart, wanted {wanted:g}",
        figure=said[closest.regions[0]],
        ground=said[closest.regions[1]],
        measured=closest.measured,
        wanted=closest.wanted,
    )
    return [closest._replace(title=title, text=text)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """Figure or ground, up or down, or half each: the smallest move of each kind that meets the
    wish and its margin along the whole border."""
    figure, ground = result.regions
    said, found = names(derived), list[Fix]()
    for kind, one, two in (
        ("figure-up", 1.0, 0.0),
        ("figure-down", -1.0, 0.0),
        ("ground-up", 0.0, 1.0),
        ("ground-down", 0.0, -1.0),
        ("part-up", 0.5, -0.5),
        ("part-down", -0.5, 0.5),
    ):
        if (one and not is_movable(derived, figure)) or (two and not is_movable(derived, ground)):
            continue
        move = _least_move(derived, result, one, two)
        if move is None:
            continue
        sides = {r: move * s for r, s in ((figure, one), (ground, two)) if s}
        text = "Lighten {a}, darken {b}" if one > 0 else "Darken {a}, lighten {b}"
        both = words(text, a=said[figure], b=said[ground])
        found.append(shifting(derived, kind, sides, partial(_same, both)))
    return found


def _same(text: Words, times: float) -> Words:
    return text


def _least_move(derived: Derived, result: Result, one: float, two: float) -> float | None:
    """The smallest move in L* that parts them; None if values end before that."""
    border = next(b for b in derived.borders if (b.figure, b.behind) == result.regions)
    own, other, weight = sides_of(derived.adjacency, border, derived.values.by_code)
    moves = _SCAN[:, None]
    own_now, other_now = (
        moved_values(v, derived.colours[r].mean_value, moves * s) if s else v[None]
        for v, s, r in ((own, one, result.regions[0]), (other, two, result.regions[1]))
    )
    apart = (np.abs(own_now - other_now) * weight).sum(axis=1) / weight.sum()
    good = np.flatnonzero(apart >= result.wanted + derived.rules["fix.value"])
    return float(_SCAN[good[0]]) if len(good) else None


_MANY = "{count} figures merge with what is behind them"
_SAYS = (
    "What does not part in grey is lost at a glance, whatever its hue. Measured as the mean "
    "difference in L* along the border that two share."
)
CHECK = CheckSpec(
    NAME, "values", _measure, _candidates, _SAYS, _MANY, wishes=("parting", "parting-middle")
)
