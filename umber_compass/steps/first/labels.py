"""Which paint each thing takes: all proposals at once, by annealing (Gibbs sampling; docs/
first-colours.md has the costs and what each is for)."""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import Floats, oklab, value
from umber_compass.picture.mixes import Ints
from umber_compass.steps.first.chains import Chain, accent_of
from umber_compass.steps.first.materials import LIVING
from umber_compass.steps.first.paints import DEAD, NONE, SLOTS, Paints, caps
from umber_compass.steps.first.task import Task
from umber_compass.steps.first.things import RANK, Things
from umber_compass.steps.first.value_keys import VALUE_KEYS, ValueKey
from umber_compass.steps.harmony.living import FLESH
from umber_compass.steps.harmony.scheme import wished_shares
from umber_compass.work import Tick, idle

SWEEPS = 7
_HOT, _COLD = 1.2, 0.03
_DE = 110.0  # times OKLab distance: about CIEDE2000
OTHER, GROUND, MIDDLE, FOCUS, LINE, FAMILY = range(6)  # what a border is


class Borders(NamedTuple):
    """What each thing touches, how much each counts, and what that border is."""

    beside: Ints
    weight: Floats
    kind: Ints


def borders_of(task: Task) -> list[Borders]:
    """The borders of every thing."""
    things, found = task.things, []
    for q in range(things.many):
        beside = np.flatnonzero(things.border[q] > 0)
        least = np.minimum(things.outline[q], things.outline[beside])
        weight = np.clip(things.border[q, beside] / least, 0, 1)
        kind = np.array([_kind(things, q, int(j), task) for j in beside], np.intp)
        found.append(Borders(beside, np.clip(weight, 0.08, 1), kind))
    return found


def _kind(things: Things, q: int, j: int, task: Task) -> int:
    low, high = sorted((RANK[things.role[q]], RANK[things.role[j]]))
    own = things.material[q]
    if low == 0 or task.follows.get(q, (-1,))[0] == j or task.follows.get(j, (-1,))[0] == q:
        return LINE
    if own and own == things.material[j] and own in LIVING:
        return FAMILY
    if task.focus in (q, j):
        other = j if q == task.focus else q
        along = things.border[q, j] / min(things.outline[q], things.outline[j])
        return FOCUS if along > 0.12 and things.parent[other] != task.focus else OTHER
    if high >= 3 and low == 1:
        return GROUND
    return MIDDLE if high >= 3 and low == 2 else OTHER


class Labelled(NamedTuple):
    """The paint of each thing in each proposal, (r, m), and what each proposal costs, (r,)."""

    paint: Ints
    cost: Floats


def label(
    task: Task,
    borders: list[Borders],
    chains: list[Chain],
    paints: Paints,
    rng: np.random.Generator,
    tick: Tick = idle,
) -> Labelled:
    """The paints of all things in all proposals."""
    return _Annealing(task, borders, chains, paints, rng).run(tick)


class _Annealing:
    """What proposals hold so far, kept up as things change their paint."""

    def __init__(
        self,
        task: Task,
        borders: list[Borders],
        chains: list[Chain],
        paints: Paints,
        rng: np.random.Generator,
    ) -> None:
        self.task, self.borders, self.rng, self.paints = task, borders, rng, paints
        colour = paints.colour
        linear = fit(colour[..., 0], colour[..., 1], colour[..., 2])
        lab = oklab(linear)
        self.lab, self.value = (_DE * lab).astype(np.float32), value(linear).astype(np.float32)
        self.chroma = np.hypot(lab[..., 1], lab[..., 2])
        self.count = len(chains)
        self.rows = np.arange(self.count)
        self.area = task.things.area
        self.slot = np.where(paints.slot < 0, NONE, paints.slot)
        self.band = np.where(self.value < 35, 0, np.where(self.value > 68, 2, 1))
        self.extreme = ((self.value < 20) | (self.value > 80)).astype(float)
        accents = [accent_of(c.scheme) for c in chains]
        self.accent = np.array([SLOTS.index(a) if a else -7 for a in accents])
        self.is_accent = (self.slot == self.accent[:, None]).astype(float)
        self.wish = np.zeros((self.count, 6))
        for r, chain in enumerate(chains):
            for slot, share in wished_shares(chain.scheme).items():
                self.wish[r, SLOTS.index(slot)] = share
        self.bands = np.array([VALUE_KEYS[c.key].bands for c in chains])
        self.own = [self._own_cost(q, chains) for q in range(task.things.many)]
        self.free = [q for q in range(task.things.many) if q not in task.follows]
        self._begin()

    def _own_cost(self, q: int, chains: list[Chain]) -> Floats:
        """What each of a thing's paints costs by itself, (r, choices)."""
        task, things = self.task, self.task.things
        mine = self.paints.choices[q]
        role, area, material = things.role[q], float(self.area[q]), things.material[q]
        v, c = self.value[:, mine], self.chroma[:, mine]
        cost = np.zeros(v.shape)
        if not task.keeps_values and role != "focus":
            wish = np.array([_wish(VALUE_KEYS[k.key], role) for k in chains])[:, None]
            much = {"ground": 1.6, "middle ground": 0.55, "figure": 0.22}.get(role, 0.55)
            cost += much * min(1, 0.35 + 6 * area) * ((v - wish) / 14) ** 2
        cost += 90 * area**0.35 * np.maximum(c - caps(np.array(area), task.strength), 0)
        accent = self.is_accent[:, mine]
        if q == task.focus:
            if material not in FLESH:
                cost -= 8 * np.minimum(c, 0.13) + 2.2 * accent * (c > 0.09) * (not material)
        else:
            cost += 1.5 * np.maximum(c - 0.09, 0) / 0.06 * (area < 0.06)
            cost += 1.2 * np.maximum(v - 80, 0) / 8 * (area > 0.05)
            cost += accent * (3.0 if area > 0.06 else 1.5 if role == "ground" else 0.0)
        if role in ("figure", "focus") and not task.keeps_values:
            cost += np.maximum(26.5 - v, 0)
        return np.asarray(np.where(self.paints.slot[:, mine] == DEAD, 1e6, cost))

    def _begin(self) -> None:
        count, things = self.count, self.task.things.many
        self.paint = np.zeros((count, things), np.intp)
        for q in range(things):
            cost = self.own[q] + self.rng.random(self.own[q].shape) * 3
            self.paint[:, q] = self.paints.choices[q][cost.argmin(axis=1)]
        self.held, self.banded = np.zeros((count, 6)), np.zeros((count, 3))
        self.extremes, self.accents = np.zeros(count), np.zeros(count)
        self.used = np.zeros((count, self.paints.colour.shape[1]))
        for q in range(things):
            self._put(q, 1)

    def _put(self, q: int, sign: int) -> None:
        """Count a thing in, or out, of what proposals hold."""
        p, rows, area = self.paint[:, q], self.rows, sign * float(self.area[q])
        self.held[rows, self.slot[rows, p]] += area
        self.banded[rows, self.band[rows, p]] += area
        self.extremes += area * self.extreme[rows, p]
        self.used[rows, p] += sign
        self.accents += sign * self.is_accent[rows, p]

    def run(self, tick: Tick) -> Labelled:
        for sweep in range(SWEEPS):
            tick(sweep / SWEEPS * 0.4)
            heat = _HOT * (_COLD / _HOT) ** (sweep / (SWEEPS - 1))
            self.rng.shuffle(self.free)
            for q in self.free:
                self._put(q, -1)
                cost = self._cost(q)
                noise = -np.log(-np.log(self.rng.random(cost.shape) + 1e-12) + 1e-12)
                self.paint[:, q] = self.paints.choices[q][(cost - heat * noise).argmin(axis=1)]
                self._put(q, 1)
        for q, (leader, _) in self.task.follows.items():
            self._put(q, -1)
            self.paint[:, q] = self.paint[:, leader]
            self._put(q, 1)
        return Labelled(self.paint, self._whole())

    def _cost(self, q: int) -> Floats:
        """What each choice of a thing would cost, (r, choices), the thing itself counted out."""
        mine, area = self.paints.choices[q], float(self.area[q])
        slot, band = self.slot[:, mine], self.band[:, mine]
        cost = self.own[q] + self._pairs(q, mine)
        gap = np.take_along_axis(self.held - self.wish, slot, 1)
        cost = cost + 60 * (2 * area * gap + area**2) * (slot < NONE)
        if not self.task.keeps_values:
            over = np.take_along_axis(self.banded - self.bands, band, 1)
            cost = cost + 12 * (2 * area * over + area**2)
        out = self.extremes[:, None] + area * self.extreme[:, mine]
        cost = cost + 60 * np.maximum(out - 0.16, 0) ** 2
        used = (self.used > 0).sum(axis=1)[:, None]
        each = 3.0 if self.task.strict else 0.6
        new = self.used[:, mine] == 0
        cost = cost + new * (0.12 + each * np.maximum(used + 1 - self.task.most, 0))
        accent = self.is_accent[:, mine]
        cost = cost + accent * (self.accents[:, None] - 2)  # .5 (groups - 2.5)^2, its rise
        parent = int(self.task.things.parent[q])
        if parent >= 0:
            other = self.slot[self.rows, self.paint[:, parent]][:, None]
            cost = cost + 0.35 * (slot != other) * (1 - accent)
        return np.asarray(cost)

    def _pairs(self, q: int, mine: Ints) -> Floats:
        """What each choice costs for what it touches, (r, choices)."""
        beside, weight, kind = self.borders[q]
        if not len(beside):
            return np.zeros((self.count, len(mine)))
        there = self.paint[:, beside]
        rows = self.rows[:, None]
        off = self.lab[:, None, mine] - self.lab[rows, there][:, :, None]
        de = np.sqrt((off * off).sum(axis=-1))
        dl = np.abs(self.value[:, None, mine] - self.value[rows, there][:, :, None])
        cost = pair_cost(de, dl, COSTS[:, kind, None])
        return np.asarray(np.einsum("rjc,j->rc", cost, weight))

    def _whole(self) -> Floats:
        """What each proposal costs."""
        cost = np.zeros(self.count)
        for q in self.free:
            mine = self.paints.choices[q]
            at = np.searchsorted(mine, self.paint[:, q]).clip(0, len(mine) - 1)
            cost += np.minimum(self.own[q][self.rows, at], 50)
            beside, weight, kind = self.borders[q]
            some = beside < q
            here, there = self.paint[:, [q]], self.paint[:, beside[some]]
            rows = self.rows[:, None]
            de = np.linalg.norm(self.lab[rows, here] - self.lab[rows, there], axis=-1)
            dl = np.abs(self.value[rows, here] - self.value[rows, there])
            cost += pair_cost(de, dl, COSTS[:, kind[some]]) @ weight[some]
        cost += 60 * ((self.held - self.wish)[:, :NONE] ** 2).sum(axis=1)
        if not self.task.keeps_values:
            cost += 12 * ((self.banded - self.bands) ** 2).sum(axis=1)
        cost += 60 * np.maximum(self.extremes - 0.16, 0) ** 2
        over = np.maximum((self.used > 0).sum(axis=1) - self.task.most, 0)
        return np.asarray(cost + 0.6 * over)


# What a border costs, by its kind: (too alike, its CIEDE2000), alike in both, (too far in value,
# from, over L*), (too near in value, the least L*).
_ROWS = {
    OTHER: (3, 8, 1.2, 0.5, 38, 20, 0, 1),
    GROUND: (3, 8, 1.2, 0.5, 38, 20, 7, 18),
    MIDDLE: (3, 8, 1.2, 0.5, 38, 20, 3.5, 11),
    FOCUS: (3, 8, 0, 0, 38, 20, 4, 30),
    LINE: (0, 1, 0, 0, 38, 20, 0, 1),
    FAMILY: (1.5, 5, 0, 2, 13, 8, 0, 1),
}
COSTS = np.array([_ROWS[k] for k in range(6)], np.float32).T


def pair_cost(de: Floats, dl: Floats, costs: Floats) -> Floats:
    """What borders cost by the difference over them, about CIEDE2000, and that of value, L*; a
    column of COSTS for each."""
    alike, near, both, far, begin, over, parted, least = costs
    cost = alike * np.maximum(1 - de / near, 0) ** 2
    cost = cost + both * np.maximum(1 - dl / 5, 0) * np.maximum(1 - de / 14, 0)
    cost = cost + far * np.maximum((dl - begin) / over, 0) ** 2
    return np.asarray(cost + parted * np.maximum(1 - dl / least, 0) ** 2)


def _wish(key: ValueKey, role: str) -> float:
    """The value L* that a key wishes for a role; lines are dark."""
    wished = {"ground": key.ground, "middle ground": key.middle, "figure": key.figure}
    return wished.get(role, 14.0)
