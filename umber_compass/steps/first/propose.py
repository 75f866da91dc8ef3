"""Proposals for a drawing that has no colour (docs/first-colours.md)."""

from collections.abc import Callable, Mapping, Sequence
from typing import NamedTuple

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.plan.model import Study
from umber_compass.steps.first.as_study import study_of
from umber_compass.steps.first.chains import Chain, begin
from umber_compass.steps.first.choosing import Searched, begun_apart, chosen, nearest
from umber_compass.steps.first.fewer import fewer
from umber_compass.steps.first.labels import Labelled, borders_of, label
from umber_compass.steps.first.limits import keep_chroma, keep_hue, limits_of
from umber_compass.steps.first.notes import notes_on
from umber_compass.steps.first.paints import Paints, paints_of
from umber_compass.steps.first.search import Mix, Search, loudest
from umber_compass.steps.first.task import Task, task_of
from umber_compass.steps.harmony.study_light import doubled, linears_of
from umber_compass.steps.pipeline import Derived
from umber_compass.words import Words
from umber_compass.work import Tick, idle

COUNT = 6
# Proposals begun and searched: where nothing is told, where something is, of many things.
_CHAINS, _TOLD_CHAINS, _MANY_CHAINS = 24, 40, 18
_SEARCHED, _TOLD_SEARCHED, _MANY_SEARCHED = 10, 16, 10
_MANY = 120  # things
_AGAIN = 8  # rounds of the search after near colours became one
_BY_LABELS = 0.12  # of what its paints cost, that counts beside what the search leaves


class Proposed(NamedTuple):
    """Studies, what each began with, how far apart the nearest two of them lie (OKLab by area, a
    and b doubled; what was shown before counts too), and what is worth saying of how they came
    about."""

    studies: tuple[Study, ...]
    ways: tuple[Chain, ...]  # the scheme, the key and the light of each
    nearest: float
    notes: tuple[Words, ...]


def propose(
    derived: Derived,
    count: int = COUNT,
    kept: Mapping[str, str] | None = None,
    known: Sequence[Study] = (),
    like: Study | None = None,
    tick: Tick = idle,
    tell: Callable[[Study], object] | None = None,
) -> Proposed:
    """So many studies, the same for the same plan. `kept` are hexes by region that all have, with
    those the plan keeps; the rest lies far from `known` studies; those `like` a study have its
    scheme. `tell` is given the likeliest one as soon as it is there. Raises Refusal where no region
    is free."""
    derived.think(tick)
    task = task_of(derived, {**derived.plan.first.kept, **(kept or {})})
    if like is not None:
        task = task._replace(scheme=like.scheme)
    rng = np.random.default_rng([task.seed, len(known)])
    chains = begin(task, _how_many(task, count, (_CHAINS, _TOLD_CHAINS, _MANY_CHAINS)), rng)
    paints = paints_of(task, chains, rng)
    borders = borders_of(task)
    labelled = label(task, borders, chains, paints, rng, tick)
    ids = [r.id for r in derived.regions]
    seen = [doubled(one) for one in linears_of(known, ids)]
    many = _how_many(task, count, (_SEARCHED, _TOLD_SEARCHED, _MANY_SEARCHED))
    order = begun_apart(task, chains, paints, labelled, seen, many)
    search, tried = Search(task, borders), list[Searched]()
    for n, row in enumerate(order):
        tick(0.4 + 0.5 * n / len(order))
        tried.append(_search(task, search, chains[row], paints, labelled, row))
        if tell is not None and n == 0:
            tell(study_of(task, derived, tried[0]))
    taken = chosen(task, tried, seen, count)
    studies = tuple(study_of(task, derived, one) for one in taken)
    ways = tuple(one.chain for one in taken)
    return Proposed(studies, ways, nearest(task, taken, seen), notes_on(task, chains))


def _how_many(task: Task, count: int, numbers: tuple[int, int, int]) -> int:
    """How many proposals are looked at, for so many that are wanted."""
    usual, told, crowded = numbers
    something = any(task.things.material) or len(task.lights) > 1
    many = crowded if task.things.many > _MANY else told if something else usual
    return max(many, count + 2)


def _search(
    task: Task, search: Search, chain: Chain, paints: Paints, labelled: Labelled, row: int
) -> Searched:
    """One proposal, its colours moved until figures part and the focus leads, near ones made
    one."""
    paint = labelled.paint[row]
    value, chroma, hue = (paints.colour[row, paint, i].copy() for i in range(3))
    if paints.level is not None:
        value = paints.level[row].copy()
    for thing, (v, c, h) in task.locked.items():
        value[thing], chroma[thing], hue[thing] = v, c, h
    keep_chroma(task, paint, chroma)
    keep_hue(task, chain, chroma, hue)
    free = np.array([q not in task.locked for q in range(task.things.many)])
    unnamed = free & np.isin(task.things.material, ("", "cloth", "any"))
    for q in np.flatnonzero(unnamed):
        chroma[q] = min(chroma[q], loudest(float(value[q]), float(hue[q])))
    limits = limits_of(task, chain)
    value[free] = np.clip(value, *limits.value.T)[free]
    mix, cost = search.run(Mix(value, chroma, hue), limits)
    mix = fewer(task, mix)
    if not task.strict:  # a budget leaves no room for that
        mix, cost = search.run(mix, limits, _AGAIN, together=True)
        mix = fewer(task, mix)
    lab = doubled(fit(*mix))[task.things.of]
    return Searched(chain, mix, cost, cost + _BY_LABELS * float(labelled.cost[row]), lab)
