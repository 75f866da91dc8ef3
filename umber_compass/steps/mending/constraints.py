"""A plan's wishes as constraints on the moves of its values, in the light that is on."""

from collections.abc import Iterator
from itertools import pairwise
from typing import NamedTuple

import numpy as np

from umber_compass.colour.spaces import Floats
from umber_compass.plan.model import Region
from umber_compass.steps.mending.programme import Constraint, Held, Room, Row
from umber_compass.steps.mending.room import Free, free_regions, room_of
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.values.bands import band_of
from umber_compass.steps.values.measured import moved_values, region_values
from umber_compass.steps.values.parting import Border, sides_of, wanted
from umber_compass.words import words


class State(NamedTuple):
    """Where a picture stands: what may move in it, and by how much it did."""

    derived: Derived
    free: Free
    room: Room
    moved: Floats  # (n,) L* by which each free region was moved to come here


def state_at(derived: Derived, begin: Derived, free: Free | None = None) -> State:
    """Where a picture stands whose values were moved from those of another; `free` is what may be
    moved there, where that is known."""
    free = free or free_regions(begin)
    moved = np.array(
        [derived.colours[r].mean_value - begin.colours[r].mean_value for r in free.ids]
    )
    return State(derived, free, room_of(derived, free, moved, measures(derived)), moved)


def measures(derived: Derived) -> Floats:
    """Which points of L* count for each measure of a share, (measures, 100): every band, what is
    beyond the limits, the light half."""
    at = np.arange(100) + 0.5
    band = band_of(at, derived.wishes.bands.edges)
    rules = derived.rules
    beyond = (at < rules["extremes.dark"]) | (at > rules["extremes.light"])
    light = at > rules["halves-equal.edge"]
    own = [band == b for b in range(len(derived.wishes.bands.shares))]
    return np.array([*own, beyond, light], float)


def constraints_of(state: State) -> list[Constraint]:
    """Every constraint of the plan's wishes that is on."""
    return [
        *_parting(state),
        *_order(state),
        *_bands(state),
        *_extremes(state),
        *_halves(state),
    ]


class _Reading(NamedTuple):
    """A mean value L* and how fast it follows a move of its region."""

    value: float
    answer: float
    region: str


def _reading(state: State, region: str, values: Floats, px: Floats) -> _Reading:
    planned = state.derived.colours[region].mean_value
    whole = max(float(px.sum()), 1.0)
    now = float((values * px).sum() / whole)
    there = float((moved_values(values, planned, 1.0) * px).sum() / whole)
    return _Reading(now, max(there - now, 0.05), region)


def _lighter(state: State, light: _Reading, dark: _Reading, by: float) -> Row | None:
    """The row that one thing is lighter than another by so much; None where neither can move and it
    is so."""
    at, times = [], []
    rest = by - (light.value - dark.value)
    for reading, sign in ((light, 1.0), (dark, -1.0)):
        index = state.free.place.get(reading.region)
        if index is not None:
            at.append(index)
            times.append(sign * reading.answer)
            rest += sign * reading.answer * float(state.moved[index])
    if not at and rest <= 0:
        return None
    return Row(tuple(at), tuple(times), rest)


def _constraint(
    state: State, name: str, text: str, row: Row | None, **fields: str | float
) -> list[Constraint]:
    locked = state.derived.wishes.locked(name)
    return [] if row is None else [Constraint(name, words(text, **fields), locked, (row,))]


def _parting(state: State) -> Iterator[Constraint]:
    derived = state.derived
    named = {r.id: r.name for r in derived.regions}
    side = derived.wishes.number("figure") if derived.wishes.on("figure") else 0.0
    margin = derived.rules["fix.value"]
    for border in wanted(derived.borders, derived.wishes):
        by = derived.wishes.number(border.wish)
        figure, behind = _two(state, border)
        lighter = figure.value >= behind.value if not side else side > 0
        by = max(by, abs(side)) if border.wish == "parting" else by
        light, dark = (figure, behind) if lighter else (behind, figure)
        yield from _constraint(
            state,
            border.constraint,
            "{a} {by:.3g} L* lighter than {b}",
            _lighter(state, light, dark, by + margin),
            a=named[light.region],
            b=named[dark.region],
            by=by,
        )


def _two(state: State, border: Border) -> tuple[_Reading, _Reading]:
    sides = sides_of(state.derived.adjacency, border, state.derived.values.by_code)
    px = sides.px.astype(float)
    return (
        _reading(state, border.figure, sides.figure, px),
        _reading(state, border.behind, sides.behind, px),
    )


def _order(state: State) -> Iterator[Constraint]:
    derived, wishes = state.derived, state.derived.wishes
    named = {r.id: r for r in derived.regions}
    by, margin = wishes.number("order"), derived.rules["fix.value"]
    for dark, light in pairwise(wishes.order):
        name = f"order.{dark}.{light}"
        if not wishes.on(name):
            continue
        first, second = (_whole(state, named[r]) for r in (light, dark))
        yield from _constraint(
            state,
            name,
            "{a} {by:.3g} L* darker than {b}, by the order of materials",
            _lighter(state, first, second, by + margin),
            a=named[dark].name,
            b=named[light].name,
            by=by,
        )


def _whole(state: State, region: Region) -> _Reading:
    values, px = region_values(state.derived.values, state.derived.adjacency, region.label)
    return _reading(state, region.id, values, px)


def _bands(state: State) -> Iterator[Constraint]:
    wishes = state.derived.wishes
    slack = wishes.number("bands") / 100
    for i, share in enumerate(wishes.bands.shares):
        name = f"bands.{i + 1}"
        if wishes.on(name):
            held = Held(i, max(share - slack, 0.0), min(share + slack, 1.0))
            text = words(
                "band {number} of {count} holds {share:.0%}, give or take {slack:.0%}",
                number=i + 1,
                count=len(wishes.bands.shares),
                share=share,
                slack=slack,
            )
            yield Constraint(name, text, wishes.locked(name), shares=(held,))


def _extremes(state: State) -> Iterator[Constraint]:
    wishes = state.derived.wishes
    if wishes.on("extremes"):
        most = wishes.number("extremes") / 100
        text = words("extremes hold {most:.0%} at most", most=most)
        held = Held(len(wishes.bands.shares), 0.0, most)
        yield Constraint("extremes", text, wishes.locked("extremes"), shares=(held,))


def _halves(state: State) -> Iterator[Constraint]:
    """Light or dark holds clearly more: whichever does today."""
    wishes = state.derived.wishes
    if not wishes.on("halves"):
        return
    apart = wishes.number("halves") / 100
    measure = len(wishes.bands.shares) + 1
    more, less = (1 + apart) / 2, (1 - apart) / 2
    is_light = bool(state.room.now[measure] >= 0.5)
    held = Held(measure, more, 1.0) if is_light else Held(measure, 0.0, less)
    side = "light" if is_light else "dark"
    text = words("{side} holds {apart:.0%} more than the other", side=side, apart=apart)
    yield Constraint("halves", text, wishes.locked("halves"), shares=(held,))


def unmet(state: State, constraints: list[Constraint]) -> list[Constraint]:
    """Those that the picture as it stands does not meet."""
    return [d for d in constraints if not state.room.meets(d, state.moved)]
