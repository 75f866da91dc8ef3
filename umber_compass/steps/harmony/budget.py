"""The colour budget: how many colours a plan needs, and the merges that cost least.

Merges after Ward 1963 in OKLab, weighted by area, with pairs that are never merged; each group
takes that of its colours that lies nearest to its mean, and colours go over to the group whose
colour lies nearest, until none does.
"""

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np

from umber_compass.colour.spaces import Floats, decode, oklab, parse_hex
from umber_compass.plan.edits import Edit, each_part, study, with_colours
from umber_compass.plan.model import Pinned, Plan, Solid
from umber_compass.steps.harmony.colours import RegionColour
from umber_compass.steps.harmony.edits import planned_from_hex
from umber_compass.words import Refusal, Words, words

_ROUNDS = 8  # of colours that go over to another group


class Merge(NamedTuple):
    """Regions that share one colour from now on."""

    regions: tuple[str, ...]
    hex: str
    worst: float  # OKLab x 100 that the region that moves most moves


class Budget(NamedTuple):
    """What a plan needs, and what would bring it within its budget."""

    needed: int  # local colours that differ
    wanted: int
    merges: tuple[Merge, ...]


def budget_of(planned: int | None, practice: float) -> int | None:
    """How many colours the piece may use: the plan's number, else the practice's; None where
    neither has one."""
    return planned or round(practice) or None


def colours_needed(colours: Mapping[str, RegionColour]) -> int:
    """How many local colours a plan has; both ends of a gradient count."""
    return len({e.hex for c in colours.values() for e in c.ends})


def within(
    colours: Mapping[str, RegionColour],
    shares: Mapping[str, float],
    wanted: int,
    apart: frozenset[tuple[str, str]],
    fixed: frozenset[str],
) -> Budget:
    """The merges that bring a plan to so many colours at the least cost. `apart` are pairs of
    regions that are never merged, `fixed` regions that keep their colour; gradients count, but are
    not merged. Raises Refusal where that cannot be."""
    solid = [r for r, c in colours.items() if c.second is None]
    needed = colours_needed(colours)
    ends = {e.hex for r, c in colours.items() if c.second is not None for e in c.ends}
    groups = _by_hex(solid, colours)
    labs = [oklab(decode(parse_hex(colours[g[0]].first.hex))) for g in groups]
    area = [max(sum(shares[r] for r in g), 1e-6) for g in groups]
    room = wanted - len(ends - {colours[g[0]].first.hex for g in groups})
    while len(groups) > max(room, 1):
        pair = _cheapest(groups, labs, area, apart, fixed)
        if pair is None:
            break
        i, j = pair
        keeps = [k for k in (i, j) if fixed & set(groups[k])]
        whole = area[i] + area[j]
        labs[i] = labs[keeps[0]] if keeps else (labs[i] * area[i] + labs[j] * area[j]) / whole
        groups[i], area[i] = groups[i] + groups[j], whole
        del groups[j], labs[j], area[j]
    if len(groups) > room:
        least = len(groups) + needed - len(_by_hex(solid, colours))
        line = words(
            "are too few: what is wished apart, locked or given needs {least}", least=least
        )
        raise Refusal(f"{wanted} colours", line)
    units = _by_hex(solid, colours)
    return Budget(needed, wanted, tuple(_merges(units, groups, colours, shares, apart, fixed)))


def _by_hex(solid: list[str], colours: Mapping[str, RegionColour]) -> list[list[str]]:
    found: dict[str, list[str]] = {}
    for region in solid:
        found.setdefault(colours[region].first.hex, []).append(region)
    return list(found.values())


def _cheapest(
    groups: list[list[str]],
    labs: list[Floats],
    area: list[float],
    apart: frozenset[tuple[str, str]],
    fixed: frozenset[str],
) -> tuple[int, int] | None:
    """The two groups whose merge costs least, of those that may merge."""
    lab, held = np.array(labs), np.array(area)
    cost = held[:, None] * held / (held[:, None] + held)
    cost = cost * ((lab[:, None] - lab) ** 2).sum(axis=2)
    order = np.argsort(cost, axis=None)
    for flat in order.tolist():
        i, j = divmod(flat, len(groups))
        if i < j and _may_merge(groups[i], groups[j], apart, fixed):
            return i, j
    return None


def _may_merge(
    one: list[str], two: list[str], apart: frozenset[tuple[str, str]], fixed: frozenset[str]
) -> bool:
    if fixed & set(one) and fixed & set(two):
        return False
    return not any((a, b) in apart or (b, a) in apart for a in one for b in two)


def _merges(
    units: list[list[str]],
    groups: list[list[str]],
    colours: Mapping[str, RegionColour],
    shares: Mapping[str, float],
    apart: frozenset[tuple[str, str]],
    fixed: frozenset[str],
) -> list[Merge]:
    """The merges that groups come to; `units` are the regions of each colour as it is."""
    lab = np.array([oklab(decode(parse_hex(colours[u[0]].first.hex))) for u in units])
    area = np.array([max(sum(shares[r] for r in u), 1e-6) for u in units])
    at = {r: i for i, unit in enumerate(units) for r in unit}
    places = [sorted({at[r] for r in group}) for group in groups]
    held = {i for i, unit in enumerate(units) if fixed & set(unit)}
    for _ in range(_ROUNDS):
        takes = [_takes(own, lab, area, held) for own in places]
        if not _regrouped(places, takes, units, lab, apart, held):
            break
    takes = [_takes(own, lab, area, held) for own in places]
    found = []
    for own, to in zip(places, takes, strict=True):
        if len(own) > 1:
            worst = float(np.linalg.norm(lab[own] - lab[to], axis=1).max() * 100)
            regions = tuple(r for i in own for r in units[i])
            found.append(Merge(regions, colours[units[to][0]].first.hex, worst))
    return sorted(found, key=lambda m: m.worst)


def _takes(own: list[int], lab: Floats, area: Floats, held: set[int]) -> int:
    """Which of a group's colours all of it takes: one that is there, so no new one need be
    mixed."""
    kept = [i for i in own if i in held]
    if kept:
        return kept[0]
    middle = np.average(lab[own], axis=0, weights=area[own])
    return own[int(np.linalg.norm(lab[own] - middle, axis=1).argmin())]


def _regrouped(
    places: list[list[int]],
    takes: list[int],
    units: list[list[str]],
    lab: Floats,
    apart: frozenset[tuple[str, str]],
    held: set[int],
) -> bool:
    """Let each colour go over to the group whose colour lies nearest, where it may; whether any
    did."""
    moved = False
    for own, to in zip(places, takes, strict=True):
        for i in [i for i in own if i != to and i not in held]:
            far = np.linalg.norm(lab[takes] - lab[i], axis=1)
            for k in far.argsort(kind="stable").tolist():
                if places[k] is own or far[k] >= np.linalg.norm(lab[to] - lab[i]):
                    break
                others = [r for m in places[k] for r in units[m]]
                if _may_merge(units[i], others, apart, frozenset()):
                    own.remove(i)
                    places[k].append(i)
                    moved = True
                    break
    return moved


def merging(merges: tuple[Merge, ...], text: Words) -> Edit:
    """Regions brought to one colour each group; given ones stay given."""

    def change(plan: Plan) -> Plan:
        now = study(plan)
        changed = {}
        for merge in merges:

            def one(solid: Solid, hex_text: str = merge.hex) -> Solid:
                if isinstance(solid, Pinned):
                    return solid
                return planned_from_hex(now.scheme, hex_text)

            changed.update({r: each_part(now.colours[r], one) for r in merge.regions})
        return with_colours(plan, changed)

    return Edit(text, change)
