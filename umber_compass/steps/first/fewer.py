"""A proposal's colours made fewer: near ones become one, as many as may be used."""

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import Floats, oklab
from umber_compass.steps.first.materials import LIVING, MATERIALS
from umber_compass.steps.first.search import Mix
from umber_compass.steps.first.task import Task
from umber_compass.steps.first.things import RANK

_SAME = 3.5  # about CIEDE2000, under which two colours apart in the picture are one
_NEAR = 16.0  # beyond which two are only made one for a budget
_MOST, _REGIONS, _EACH = 14, 30, 6  # colours of 30 regions; one more for each so many more
_TOUCHING, _PARTED = 12.0, 60.0  # what it costs more where two touch, or should part
_KEPT_APART = 0.3  # L* that two kept values may be apart at most


def fewer(task: Task, mix: Mix) -> Mix:
    """The proposal with near colours made one; under a budget, as many as that allows."""
    value, chroma, hue = (part.copy() for part in mix)
    count = task.things.many
    most = task.most if task.strict else _MOST + max(0, len(task.things.of) - _REGIONS) // _EACH
    group = list(range(count))
    cost = _costs(task, mix)
    fixed = set(task.locked)
    while True:
        rows = np.stack([value, chroma, hue], axis=1).round(6)
        many = len(np.unique(rows, axis=0))
        at = int(cost.argmin())
        i, j = divmod(at, count)
        price = float(cost[i, j])
        limit = np.inf if task.strict and many > most else _NEAR if many > most else _SAME
        if not np.isfinite(price) or price > limit:
            return Mix(value, chroma, hue)
        keep, lose = (i, j) if _leads(task, i, j, fixed) else (j, i)
        own, other = group[keep], group[lose]
        members = [q for q in range(count) if group[q] == other]
        for q in members:
            group[q] = own
            value[q], chroma[q], hue[q] = value[keep], chroma[keep], hue[keep]
        both = [q for q in range(count) if group[q] == own]
        cost[np.ix_(both, both)] = np.inf
        if fixed & set(both):
            fixed |= set(both)
        rest = [q for q in range(count) if group[q] != own]
        # What became one is as far from the rest as its farthest part.
        far = np.maximum(cost[keep, rest], cost[lose, rest])
        for q in both:
            cost[q, rest] = cost[rest, q] = far


def _leads(task: Task, i: int, j: int, fixed: set[int]) -> bool:
    """Whether the first of two gives its colour: what is fixed, then the focus, then the larger."""
    if (i in fixed) != (j in fixed):
        return i in fixed
    if task.focus in (i, j):
        return i == task.focus
    return bool(task.things.area[i] >= task.things.area[j])


def _costs(task: Task, mix: Mix) -> Floats:
    """What it costs to make two things of one colour, (m, m): how far apart they are, more where
    they touch, much more where one is a figure before the other; infinite where neither may."""
    lab = 110 * oklab(fit(*mix))
    cost = np.linalg.norm(lab[:, None] - lab[None], axis=-1)
    things = task.things
    touching = things.border > 0
    rank = np.array([RANK[r] for r in things.role])
    parted = touching & ((rank[:, None] >= 3) != (rank[None] >= 3))
    cost = cost + _TOUCHING * touching + _PARTED * parted
    bound = np.array([m if m in MATERIALS and m != "cloth" else "" for m in things.material])
    differs = (bound[:, None] != bound[None]) & ((bound[:, None] != "") & (bound[None] != ""))
    cost = np.where(differs, cost * 1.6 + 2, cost)
    cost = np.where((bound[:, None] != "") != (bound[None] != ""), cost * 1.3 + 1, cost)
    living = np.isin(bound, LIVING)
    cost = np.where(living[:, None] != living[None], cost + 20, cost)
    locked = np.zeros(things.many, bool)
    locked[list(task.locked)] = True
    cost[locked[:, None] & locked[None]] = np.inf
    if task.keeps_values:
        cost[np.abs(mix.value[:, None] - mix.value[None]) > _KEPT_APART] = np.inf
    if task.focus is not None and not task.strict:
        cost[task.focus] = cost[:, task.focus] = np.inf
    if not task.strict:
        for q in task.follows:
            cost[q] = cost[:, q] = np.inf
    lines = rank == 0
    cost[lines[:, None] != lines[None]] += 0 if task.strict else np.inf
    np.fill_diagonal(cost, np.inf)
    return np.asarray(cost)
