"""How far each value may be moved, at what price, and what it then holds of bands and limits."""

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import Floats, oklab, polar
from umber_compass.plan.edits import part
from umber_compass.plan.model import Pinned
from umber_compass.steps.mending.programme import Cell, Room
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.values.measured import moved_values

_REACH = 50  # L*, the farthest a value is moved
_GRID = np.arange(-_REACH, _REACH + 1.0, 2)
_SAME, _PARTS = 0.004, 4  # of the picture, or of a region, within which two moves hold the same
_INSIDE = 0.5  # L*, by which moves end inside their step: levels are rounded
_PALE = 0.02  # chroma below which any value will do
_LOWEST, _HIGHEST = 4.0, 97.0  # L*, beyond which no value is moved
_LEVELS = np.linspace(0, 100, 41)  # L*, at which the screen is asked what it can show
_PRICES = {"ground": "ground", "middle ground": "middle", "figure": "figure", "focus": "focus"}
_LINE = "figure"


class Free(NamedTuple):
    """The regions whose values may be moved: neither given, nor locked, nor ink, nor empty."""

    ids: tuple[str, ...]
    place: Mapping[str, int]  # of each among them
    low: Floats  # (n,) how far each may go down, L*, nought or less
    high: Floats  # (n,) how far up
    price: Floats  # (n,) of a point of L*


def free_regions(derived: Derived) -> Free:
    """The regions of a plan whose values may be moved."""
    ids = tuple(
        r.id
        for r in derived.regions
        if is_movable(derived, r.id) and r.id not in derived.ink and derived.shares[r.id] > 0
    )
    low, high = _bounds(derived, ids)
    return Free(ids, {r: i for i, r in enumerate(ids)}, low, high, _prices(derived, ids))


def is_movable(derived: Derived, region_id: str) -> bool:
    """Whether the program may change a region's colour: it is neither given nor locked."""
    colour = derived.planned[region_id]
    given = any(isinstance(part(colour, end), Pinned) for end in (0, 1))
    return not given and region_id not in derived.locked


def room_of(derived: Derived, free: Free, moved: Floats, measures: Floats) -> Room:
    """The room there is, in moves from where a plan began; `measures`, (measures, 100), say which
    points of L* count for which share."""
    low, high = free.low, free.high
    label = {r.id: r.label for r in derived.regions}
    histograms = _histograms(derived)
    planned = [derived.colours[r].mean_value for r in free.ids]
    cells = tuple(
        _cells(histograms[label[r]], planned[i], float(moved[i]), low[i], high[i], measures)
        for i, r in enumerate(free.ids)
    )
    others = histograms.sum(axis=0) - sum((histograms[label[r]] for r in free.ids), np.zeros(100))
    now = measures @ histograms.sum(axis=0)
    return Room(low, high, free.price, cells, measures @ others, now)


def _histograms(derived: Derived) -> Floats:
    """The share of the picture that each label holds in each point of L*, (labels, 100)."""
    held = derived.by_label
    most = max(r.label for r in derived.regions) + 1 - len(held)
    whole = np.pad(held, ((0, max(most, 0)), (0, 0)))
    return np.asarray(whole / max(float(whole.sum()), 1.0))


def _cells(
    held: Floats, planned: float, moved: float, low: float, high: float, measures: Floats
) -> tuple[Cell, ...]:
    """The moves within which a region holds the same of every measure. `held` is its histogram as
    it stands, `moved` how far it was moved to stand there."""
    some = np.flatnonzero(held > 0)
    grid = _GRID[(low <= _GRID) & (high >= _GRID)]
    if not len(some) or not len(grid):
        return (Cell(low, high, measures @ held),)
    there = moved_values(some + 0.5, planned, (grid - moved)[:, None])
    at = np.clip(there.astype(int), 0, 99)
    by_move = (measures[:, at] @ held[some]).T
    same = max(_SAME, float(held.sum()) / _PARTS)
    found: list[Cell] = []
    begin = 0
    for i in range(1, len(grid) + 1):
        if i == len(grid) or np.abs(by_move[i] - by_move[begin]).max() > same:
            nearest = begin + int(np.abs(grid[begin:i]).argmin())
            inside = _INSIDE if i - 1 > begin else 0.0
            first = float(grid[begin]) + inside * (begin > 0)
            last = float(grid[i - 1]) - inside * (i < len(grid))
            found.append(Cell(first, last, by_move[nearest]))
            begin = i
    return tuple(found)


def _bounds(derived: Derived, ids: tuple[str, ...]) -> tuple[Floats, Floats]:
    """How far each value may go down and up, (n,) each: as far as the screen still shows most of
    the colour's chroma. A yellow cannot be dark and strong."""
    count = len(ids)
    low, high = np.zeros(count), np.zeros(count)
    ends = [(i, e) for i, r in enumerate(ids) for e in derived.colours[r].ends]
    if not ends:
        return low, high
    keep = derived.rules["balance.chroma"] / 100
    hue = np.array([e.hue or 0.0 for _, e in ends])
    chroma = np.array([e.chroma for _, e in ends])
    shown = polar(oklab(fit(_LEVELS, chroma[:, None], hue[:, None])))[..., 1]
    good = (shown >= keep * chroma[:, None] - 1e-6) | (chroma[:, None] < _PALE)
    low -= 100
    high += 100
    for (i, end), fits in zip(ends, good, strict=True):
        down, up = _span(fits, end.value)
        low[i], high[i] = max(low[i], down - end.value), min(high[i], up - end.value)
    return np.minimum(low, 0.0), np.maximum(high, 0.0)


def _span(
    fits: np.ndarray[tuple[int, ...], np.dtype[np.bool_]], value: float
) -> tuple[float, float]:
    """The values round a colour's own between which it keeps its chroma."""
    step = _LEVELS[1]
    at = min(round(value / step), len(_LEVELS) - 1)
    down = up = at
    while down > 0 and fits[down - 1]:
        down -= 1
    while up < len(_LEVELS) - 1 and fits[up + 1]:
        up += 1
    lowest, highest = min(_LOWEST, value), max(_HIGHEST, value)
    return max(float(_LEVELS[down]), lowest), min(float(_LEVELS[up]), highest)


def _prices(derived: Derived, ids: tuple[str, ...]) -> Floats:
    """What a point of L* costs for each, by its part in the picture: else a small focus would be
    the cheap one to move."""
    role = {r.id: r.role for r in derived.regions}
    return np.array(
        [
            derived.rules[f"balance.{_PRICES.get(role[r], _LINE)}"]
            * (0.05 + derived.shares[r] ** 0.5)
            for r in ids
        ]
    )
