"""Which versions are taken of many: the few that differ most from each other and from what is there
(docs/studies.md)."""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.spaces import Floats
from umber_compass.plan.model import Plan
from umber_compass.plan.rig import Rig
from umber_compass.steps.studies.grow_rule import GrowContext

_OTHER_LIGHT = 0.09  # what another light counts as
_LIGHT_GROUND, _DARK_GROUND = 70.0, 32.0  # L*
_ROUNDS = 2
TOLD = 0.02  # under which no two are told apart, whatever is wished


class Candidate(NamedTuple):
    """One version, and what it is chosen by."""

    title: str
    says: str
    plan: Plan
    lab: Floats  # (regions, 3) OKLab, a and b doubled
    rig: Rig | None
    ground: float  # L*
    worth: float  # 0-1
    merging: int  # borders of figures that would be lost


def picked(
    tried: list[Candidate],
    count: int,
    known: list[Floats],
    rigs: list[Rig | None],
    context: GrowContext,
    least: float,
) -> list[Candidate]:
    """Candidates that lie far from each other and from what is known, by so much at least; one on a
    light and one on a dark ground among them where there are such."""
    base = np.array(
        [
            min(_apart(c.lab, k, (c.rig, r), context) for k, r in zip(known, rigs, strict=True))
            for c in tried
        ]
    )
    among = np.array(
        [[_apart(a.lab, b.lab, (a.rig, b.rig), context) for b in tried] for a in tried]
    )
    worth = np.array([c.worth for c in tried])
    taken: list[int] = []
    ground = np.array([c.ground for c in tried])
    for fits in (ground <= _DARK_GROUND, ground >= _LIGHT_GROUND):
        if fits.any() and len(taken) < count:
            taken.append(int(np.where(fits, _nearest(base, among, taken) * worth, -1).argmax()))
    taken = list(dict.fromkeys(taken))
    forced = len(taken)
    while len(taken) < min(count, len(tried)):
        near = _nearest(base, among, taken)
        near[taken] = 0
        best = int((near**2 * worth).argmax())
        if near[best] <= 1e-6:
            break
        taken.append(best)
    for _ in range(_ROUNDS):
        _exchange(taken, forced, base, among, worth)
    kept: list[int] = []
    for i in taken:
        if _nearest(base, among, kept)[i] >= least:
            kept.append(i)
    return [tried[i] for i in kept]


def _nearest(base: Floats, among: Floats, taken: list[int]) -> Floats:
    """How far each candidate lies from the nearest of what is known and taken."""
    if not taken:
        return base.copy()
    return np.asarray(np.minimum(base, among[:, taken].min(axis=1)))


def _exchange(taken: list[int], forced: int, base: Floats, among: Floats, worth: Floats) -> None:
    """Exchange what was taken, one by one, for what lies farther from the rest."""
    for at in range(forced, len(taken)):
        rest = taken[:at] + taken[at + 1 :]
        near = _nearest(base, among, rest)
        near[rest] = 0
        best = int((near**2 * worth).argmax())
        if near[best] ** 2 * worth[best] > near[taken[at]] ** 2 * worth[taken[at]] + 1e-9:
            taken[at] = best


def least_apart(
    taken: list[Candidate], known: list[Floats], rigs: list[Rig | None], context: GrowContext
) -> float:
    """How far apart the nearest two of them lie, of what was taken and of what is known."""
    labs = [*known, *(c.lab for c in taken)]
    lights = [*rigs, *(c.rig for c in taken)]
    begin = len(known)
    return min(
        _apart(labs[i], labs[j], (lights[i], lights[j]), context)
        for i in range(begin, len(labs))
        for j in range(i)
    )


def _apart(
    one: Floats, two: Floats, rigs: tuple[Rig | None, Rig | None], context: GrowContext
) -> float:
    """How far two versions lie apart."""
    weight = np.array(list(context.shares.values()))
    far = float(np.linalg.norm(one - two, axis=1) @ weight / max(weight.sum(), 1e-9))
    return far + (0.0 if rigs[0] == rigs[1] else _OTHER_LIGHT)
