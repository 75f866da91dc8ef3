"""The paint-along card: the plan as steps to be painted one after the other, by the practice, each
with its layer and its colours."""

from collections.abc import Callable, Iterator, Sequence
from typing import NamedTuple

from umber_compass.colour.measured import greys_of
from umber_compass.plan.practices import PRACTICES
from umber_compass.plan.practices.practice import VALUES_FIRST
from umber_compass.plan.terms import Role
from umber_compass.steps.light.chart import PLACES
from umber_compass.steps.light.chart import Row as ChartRow
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.ramps.sharing import Ramps
from umber_compass.words import Words, words

MOST_COLOURS = 14  # of a step: those of the largest regions
_LAYS: tuple[tuple[Role, str], ...] = (
    ("ground", "Lay in the grounds"),
    ("middle ground", "Lay in the middle ground"),
    ("figure", "Lay in the figures"),
    ("focus", "Lay in the focus"),
)


class Paint(NamedTuple):
    """A colour to paint with, and what for."""

    hex: str
    name: str


class CardStep(NamedTuple):
    """One step of the card. `key` stays as long as the step is about the same."""

    key: str
    title: Words
    says: Words
    layer: str
    mode: str
    opacity: int  # percent
    paints: tuple[Paint, ...] = ()


def card(derived: Derived) -> list[CardStep]:
    """The steps of a plan, in the order they are painted. What light does is left out while the
    chart, and shade while the ramps, are not known; there are none while no colour is planned."""
    if derived.unpainted:
        return []
    return [*_drawn(derived), *_values(derived), *_laid(derived), *_lit(derived), *_last(derived)]


def _largest(derived: Derived, role: Role | None = None) -> list[str]:
    mine = [r for r in derived.regions if role is None or r.role == role]
    return [r.id for r in sorted(mine, key=lambda r: -derived.shares.get(r.id, 0.0))]


def _names(derived: Derived) -> dict[str, str]:
    return {r.id: r.name for r in derived.regions}


def _base(derived: Derived, ids: Sequence[str]) -> tuple[Paint, ...]:
    names = _names(derived)
    found = [Paint(e.hex, names[i]) for i in ids for e in derived.colours[i].ends]
    return tuple(found[:MOST_COLOURS])


def _drawn(derived: Derived) -> Iterator[CardStep]:
    lines = _largest(derived, "line")
    if lines:
        yield CardStep(
            "lines",
            words("Lines on top"),
            words("Keep the lines on a layer of their own above all others, and lock it"),
            "lines",
            "normal",
            100,
            _base(derived, lines),
        )


def _values(derived: Derived) -> Iterator[CardStep]:
    """Those who settle value first block in greys, and glaze them with colour afterwards."""
    if PRACTICES[derived.plan.practice].route != VALUES_FIRST:
        return
    names, ids = _names(derived), _largest(derived)[:MOST_COLOURS]
    greys = greys_of([derived.colours[i].mean_value for i in ids])
    yield CardStep(
        "values",
        words("Block in the values in grey"),
        words("One grey for each shape; squint, and go on only when it reads"),
        "values",
        "normal",
        100,
        tuple(Paint(g, names[i]) for g, i in zip(greys, ids, strict=True)),
    )


def _laid(derived: Derived) -> Iterator[CardStep]:
    """Local colours, from the back to the front."""
    for role, title in _LAYS:
        ids = _largest(derived, role)
        if ids:
            yield CardStep(
                f"base-{role.replace(' ', '-')}",
                words(title),
                words("Flat local colours, each shape on its own layer or masked; no light yet"),
                "base",
                "normal",
                100,
                _base(derived, ids),
            )


def _lit(derived: Derived) -> Iterator[CardStep]:
    """Light and shade, highlights last: by the chart where there is light, else by the ramps."""
    if derived.lit is not None and derived.chart is not None:
        yield from _by_chart(derived, derived.chart)
    elif derived.ramps is not None:
        yield from _by_ramps(derived)


_OF_LIGHT = (
    (
        "shade",
        "Shade what turns from the light",
        "The large shadow shapes first, one colour each; cast shadows with hard edges near their"
        " foot",
        ("core-shadow", "cast-shadow"),
    ),
    (
        "light",
        "Paint the light",
        "The side that faces the key; leave the local colour where neither light nor shade is",
        ("lit",),
    ),
    (
        "between",
        "Turn the forms",
        "Halftone and terminator between light and shade, bounce inside the shadow",
        ("halftone", "terminator", "bounce"),
    ),
    (
        "highlight",
        "Highlights last",
        "Small, and only on what is wet, glossy or metal",
        ("highlight",),
    ),
)


def _by_chart(derived: Derived, rows: Sequence[ChartRow]) -> Iterator[CardStep]:
    titles: dict[str, str] = {p.name: p.title for p in PLACES}
    order = {r: i for i, r in enumerate(_largest(derived))}
    largest = sorted(rows, key=lambda row: order.get(row.region, len(order)))
    for key, title, says, places in _OF_LIGHT:
        paints = [
            Paint(row.places[place].hex, f"{row.name}, {titles[place]}")
            for row in largest
            for place in places
            if place in row.places and row.places[place].hex != row.local.hex
        ]
        if paints:
            opacity = 100 if key != "highlight" else 90
            yield CardStep(
                key, words(title), words(says), key, "normal", opacity, tuple(paints[:MOST_COLOURS])
            )


def _by_ramps(derived: Derived) -> Iterator[CardStep]:
    names, ramps = _names(derived), derived.ramps or Ramps()
    sides: tuple[tuple[str, str, str, Callable[[int], bool]], ...] = (
        ("shade", "Shade with the darker steps", "From the base toward the darkest, each smaller"
         " than the one before", lambda by: by < 0),
        ("light", "Light with the lighter steps", "From the base toward the lightest; the lightest"
         " is an accent", lambda by: by > 0),
    )  # fmt: skip
    for key, title, says, is_mine in sides:
        paints = [
            Paint(s.hex, f"{names[r]} {i - ramp.base:+d}".replace("-", "−"))
            for r in _largest(derived)
            if r in ramps
            for ramp in ramps[r]
            for i, s in enumerate(ramp.steps)
            if is_mine(i - ramp.base)
        ]
        if paints:
            yield CardStep(
                key, words(title), words(says), key, "normal", 100, tuple(paints[:MOST_COLOURS])
            )


def _last(derived: Derived) -> Iterator[CardStep]:
    focus = [*_largest(derived, "focus"), *_largest(derived, "figure")][:1]
    if focus:
        name = _names(derived)[focus[0]]
        yield CardStep(
            "accents",
            words("Accents at the focus"),
            words("The strongest contrast of value, hue and detail belongs to {n}", n=name),
            "accents",
            "normal",
            100,
            _base(derived, focus),
        )
    yield CardStep(
        "check",
        words("Look at it in grey, small and mirrored"),
        words("Save, and see what has drifted from the plan on the page Painting"),
        "grey check",
        "color",
        100,
    )
