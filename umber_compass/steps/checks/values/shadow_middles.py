"""A figure in shadow keeps some middle tones, or it is a hole."""

from functools import partial

from umber_compass.steps.checks.check import (
    TOGETHER,
    CheckSpec,
    Fix,
    Result,
    level_under,
    listed,
    names,
    upper,
)
from umber_compass.steps.checks.shifting import amount, least_move, shifting
from umber_compass.steps.mending.room import is_movable
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.values.figures import Figure
from umber_compass.steps.values.measured import moved_values, region_values
from umber_compass.words import Words, words

NAME = "shadow-middles"
_MOST = 50.0  # L*, of a move


def _measure(derived: Derived) -> list[Result]:
    if not derived.wishes.on("middles"):
        return []
    found = [
        _result(derived, figure)
        for figure in derived.figures
        if figure.median(derived.by_label) < derived.rules["shadow-middles.below"]
    ]
    dark = [r for r in found if r.level != "fine"]
    if dark or not found:
        return dark
    least = min(found, key=lambda r: r.measured)
    return [least._replace(title=words("Figures in shadow keep middle tones"))]


def _result(derived: Derived, figure: Figure) -> Result:
    held, named = derived.wishes.of["middles"], names(derived)
    share = 100 * figure.share_over(derived.by_label, derived.rules["shadow-middles.low"])
    title = words("{figure} in shadow has no middle tones", figure=upper(named[figure.regions[0]]))
    text = words(
        "{share:.0f} % of {whose} over {low:g} L*, wanted {wanted:g} % or more",
        share=share,
        whose=listed([named[r] for r in figure.regions]),
        low=derived.rules["shadow-middles.low"],
        wanted=held.number,
    )
    level = level_under(share, held.number, held.warning)
    return Result(NAME, level, figure.regions, share, held.number, "%", title, text)


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """The whole figure lifted, or its lightest part alone, by the least that is enough."""
    free = [r for r in result.regions if is_movable(derived, r)]
    figure = next((f for f in derived.figures if f.regions == result.regions), None)
    if figure is None or not free:
        return []
    lightest = max(free, key=lambda r: derived.colours[r].mean_value)
    largest = max(free, key=lambda r: derived.shares[r])
    found = []
    for kind, some in ((TOGETHER, free), ("lightest", [lightest]), ("largest", [largest])):
        by = _least(derived, figure, some, result.wanted / 100)
        if by is not None:
            moves, said = dict.fromkeys(some, by), partial(_lift, by)
            found.append(shifting(derived, kind, moves, said))
    return found


def _least(derived: Derived, figure: Figure, some: list[str], wanted: float) -> float | None:
    low = derived.rules["shadow-middles.low"]
    held = [
        (
            r in some,
            derived.colours[r].mean_value,
            *region_values(derived.values, derived.adjacency, i),
        )
        for r, i in zip(figure.regions, figure.labels, strict=True)
    ]
    whole = max(sum(float(px.sum()) for *_, px in held), 1.0)

    def enough(by: float) -> bool:
        over = 0.0
        for moves, planned, values, px in held:
            there = moved_values(values, planned, by) if moves else values
            over += float(px[there >= low].sum())
        return over / whole >= wanted

    by = least_move(enough, _MOST)
    return None if by is None else by + derived.rules["fix.value"]


def _lift(by: float, times: float) -> Words:
    return words("Lift the figure by {by} L*", by=amount(by * times))


_SAYS = (
    "A figure in shadow still needs some middle tones, or its form is gone. A figure is all "
    "regions of that role that touch; it is in shadow where half of it is dark."
)
CHECK = CheckSpec(NAME, "values", _measure, _candidates, _SAYS, wishes=("middles",))
