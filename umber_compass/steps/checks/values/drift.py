"""Too dark or too light over all: the usual drift is downward, until shapes lose their edges."""

import numpy as np

from umber_compass.plan.edits import Edit
from umber_compass.steps.checks.check import TOGETHER, WHOLE_PICTURE, CheckSpec, Fix, Level, Result
from umber_compass.steps.checks.shifting import amount, least_move
from umber_compass.steps.harmony.shifts import shift_values
from umber_compass.steps.mending.room import is_movable
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.values.measured import median, moved_values
from umber_compass.words import Words, words

NAME = "drift"
_HALF, _ACCENT = 50.0, 0.05  # L*; the share of a picture that accents hold
_MOST = 60.0  # L*, of a move


def _measure(derived: Derived) -> list[Result]:
    rules = derived.rules
    middle, lost = median(derived.values.histogram), _lost(derived)
    low, high = rules["drift.dark"], rules["drift.light"]
    level: Level = "fine" if low <= middle <= high else "note"
    # A dark scene with bright lights may be meant; one whose lights are dark too has drifted.
    damage = level == "note" and _is_all(derived, middle < low) and bool(derived.merged)
    if level == "note" and (damage or lost > rules["drift.lost"]):
        level = "warning"
    wanted = low if middle < low else high
    side = "dark" if middle < low else "light"
    title = words("Neither too dark nor too light over all")
    if level != "fine":
        title = words(f"Too {side} over all")
    if level == "warning":
        title = words(f"Too {side} over all, shapes lose their edges")
    text = words(
        "half of the picture is darker than {middle:.0f} L*, wanted {low:g} to {high:g}; "
        "{lost:.0f} % of edges lost",
        middle=middle,
        low=low,
        high=high,
        lost=lost,
    )
    found = Result(NAME, level, (), middle, wanted, "L*", title, text, whole=True)
    return [found._replace(damage=True, rank=WHOLE_PICTURE) if damage else found]


def _is_all(derived: Derived, dark: bool) -> bool:
    """Whether the lightest lights lie in the dark half too, or the darkest darks in the light
    half."""
    held = derived.values.histogram
    if dark:
        return float(held[round(_HALF) :].sum()) < _ACCENT
    return float(held[: round(_HALF)].sum()) < _ACCENT


def _lost(derived: Derived) -> float:
    """The share of all borders, percent, along which values hardly differ."""
    adjacency, by_code = derived.adjacency, derived.values.by_code
    gap = np.abs(by_code[adjacency.touching[:, 0]] - by_code[adjacency.touching[:, 1]])
    whole = float(adjacency.touch_px.sum())
    return 100 * float(adjacency.touch_px[gap < derived.rules["drift.edge"]].sum()) / max(whole, 1)


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """Everything that is free moved by one amount, the least that brings the middle inside."""
    up = result.measured < result.wanted
    free = [r.id for r in derived.regions if is_movable(derived, r.id)]
    label = {r.id: r.label for r in derived.regions}
    adjacency, by_code = derived.adjacency, derived.values.by_code
    weight = np.where(adjacency.label > 0, adjacency.pixels, 0)
    groups = [
        (np.flatnonzero(adjacency.label == label[r]), derived.colours[r].mean_value) for r in free
    ]
    way, margin = (1.0 if up else -1.0), derived.rules["fix.value"]

    def enough(by: float) -> bool:
        there = by_code.copy()
        for at, planned in groups:
            there[at] = moved_values(by_code[at], planned, by * way)
        held = np.bincount(np.clip(there.astype(int), 0, 99), weight, 100)
        return (median(held / max(float(held.sum()), 1)) - result.wanted) * way >= margin

    by = least_move(enough, _MOST)
    return [] if by is None else [_fix(free, by * way, 1.0)]


def _fix(free: list[str], by: float, times: float) -> Fix:
    move = by * times
    text: Words = words(
        "Lift all by {by} L*" if by > 0 else "Lower all by {by} L*", by=amount(abs(move))
    )
    return Fix(
        TOGETHER,
        text,
        Edit(text, shift_values(dict.fromkeys(free, move))),
        at=lambda more: _fix(free, by, more),
        move=abs(move),
    )


_SAYS = (
    "Pictures drift darker as they are worked on, until dark shapes merge. Measured as the value "
    "half of the picture lies under, and the share of edges with hardly any difference."
)
CHECK = CheckSpec(NAME, "values", _measure, _candidates, _SAYS)
