"""Colours moved a little until figures part from grounds and the focus is met first."""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.difference import ciede2000
from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import Floats, cielab, oklab
from umber_compass.picture.mixes import Ints
from umber_compass.steps.first.labels import FAMILY, LINE, Borders
from umber_compass.steps.first.materials import LIVING
from umber_compass.steps.first.task import Task
from umber_compass.steps.focus.pull import AROUND, DULLER, OVERALL, UNITS
from umber_compass.steps.harmony.living import FLESH

ROUNDS = 18
WANTED = 1.24  # times the strongest other, that the focus pulls
_FOCUS_LOUDER = 0.03  # of chroma, that the focus may have beyond what glares
_MOST = 44  # moves that are compared at once
_ALIKE, _GROUND, _MIDDLE = 5.5, 15.5, 9.0  # CIEDE2000; L* of a figure against each
_RIVALS, _WATCHED = 3, 14


class Mix(NamedTuple):
    """A proposal's colours by thing, (m,): L*, OKLCh chroma, hue in degrees."""

    value: Floats
    chroma: Floats
    hue: Floats

    def moved(self, thing: int, value: float, chroma: float) -> "Mix":
        """The same with one thing's value and chroma changed."""
        v, c = self.value.copy(), self.chroma.copy()
        v[thing], c[thing] = value, chroma
        return Mix(v, c, self.hue)


class Limits(NamedTuple):
    """How far things may go, (m, 2): value L*, and chroma; and the chroma none is pushed beyond."""

    value: Floats
    chroma: Floats
    cap: Floats


def loudest(value: float, hue: float) -> float:
    """The most chroma a colour may have at a value L*, or it glares: .17 up to 62, .07 from 80;
    yellows and oranges .14 there, for they are light by nature (studio rule). In plain numbers: it
    is asked for thousands of moves."""
    t = min(max((value - 62) / 18, 0.0), 1.0)
    sunny = min(max(1 - abs((hue - 85 + 180) % 360 - 180) / 40, 0.0), 1.0)
    return 0.17 - t * (0.10 - 0.07 * sunny)


def _groups(mix: Mix) -> Ints:
    """Which things have one colour, a number for each."""
    rows = np.stack(mix, axis=1).round(6)
    return np.asarray(np.unique(rows, axis=0, return_inverse=True)[1].reshape(-1))


class _Measured(NamedTuple):
    """Proposals as they are seen, (k, m, ...)."""

    lab: Floats  # OKLab
    cie: Floats  # CIELAB


class _Costs(NamedTuple):
    """What some proposals cost, (k,), and why: the focus's lead, (k,)."""

    cost: Floats
    lead: Floats


class Search:
    """What all proposals of a task share when they are searched."""

    def __init__(self, task: Task, borders: list[Borders]) -> None:
        self.task, things = task, task.things
        edges = [
            (q, int(j), float(w), int(k))
            for q, b in enumerate(borders)
            for j, w, k in zip(b.beside, b.weight, b.kind, strict=True)
            if j < q and k != LINE
        ]
        table = np.array(edges or np.zeros((0, 4)))
        self.one, self.other = table[:, 0].astype(int), table[:, 1].astype(int)
        self.weight, kind = table[:, 2], table[:, 3].astype(int)
        self.family = kind == FAMILY
        roles = np.array(things.role)
        figure = np.isin(roles, ("figure", "focus"))
        parts = figure[self.one] != figure[self.other]
        before = np.array([roles[self.one], roles[self.other]])
        ground = parts & (before == "ground").any(axis=0)
        middle = parts & (before == "middle ground").any(axis=0)
        need = np.where(ground, _GROUND, np.where(middle, _MIDDLE, 0.0))
        self.need = np.where(self.family, 0.0, need) * (self.weight >= 0.1)
        along = things.border[self.one, self.other]
        self.along = along / max(float(along.sum()), 1e-9)
        self.frozen = set(task.locked) | set(task.follows)
        self.flesh = {q for q, m in enumerate(things.material) if m in FLESH}
        self.kin = [
            [
                j
                for j in range(things.many)
                if j != q
                and things.material[j] == things.material[q]
                and things.material[q] in LIVING
                and j not in self.frozen
            ]
            for q in range(things.many)
        ]
        each = np.zeros((len(things.of), things.many))
        each[np.arange(len(things.of)), things.of] = 1
        self.near = task.near @ each  # (n, m)
        self.lonely = 1 - self.near.sum(axis=1)
        self.focal = (
            np.zeros(0, int) if task.focus is None else np.asarray(things.members(task.focus))
        )
        self.line = task.is_line.copy()
        self.line[self.focal] = False

    def run(
        self, mix: Mix, limits: Limits, rounds: int = ROUNDS, together: bool = False
    ) -> tuple[Mix, float]:
        """A proposal moved for the better, and what it costs then; things of one colour are moved
        `together`, so that it has no more colours than before."""
        self._together = together
        self._group = _groups(mix) if together else np.arange(self.task.things.many)
        mix = self._followed(mix)
        start = mix
        rows = np.arange(len(self.task.things.of))
        for round_ in range(rounds):
            watched, rivals = rows, []
            seen = _measured(mix, mix, None)
            if len(self.focal):
                pull = self._pull(seen.lab, rows)[0]
                pull[self.line] = 0
                order = np.argsort(-pull)
                rivals = [int(i) for i in order if i not in self.focal][: 2 * _RIVALS]
                watched = np.unique([*order[:_WATCHED], *self.focal])
            now = self._cost(mix, mix, seen, start, watched)
            bad, worst = self._bad(seen)
            done = worst <= 1e-6 and (not len(self.focal) or now.lead[0] >= WANTED)
            if done and (together or round_ > 2 or now.cost[0] < 0.1):
                break
            moves = self._moves(mix, limits, rivals, float(now.lead[0]), bad)
            if not moves:
                break
            many = Mix(*(np.array([getattr(m, f) for m in moves]) for f in Mix._fields))
            cost = self._cost(many, mix, seen, start, watched).cost
            best = int(cost.argmin())
            if cost[best] >= now.cost[0] - 1e-3:
                break
            mix = moves[best]
        seen = _measured(mix, mix, None)
        return mix, float(self._cost(mix, mix, seen, start, rows).cost[0])

    def _bad(self, seen: _Measured) -> tuple[list[int], float]:
        """The borders that lack most, and how much the first lacks."""
        de, dl = self._apart(seen)
        bad = self.weight * 3 * np.maximum(0, _ALIKE - de[0]) / _ALIKE
        bad = bad + np.clip(self.weight, 0.3, 1) * 4 * np.maximum(0, self.need - dl[0]) / 15
        order = np.argsort(-bad)[:4]
        return [int(e) for e in order if bad[e] > 1e-6], float(bad.max(initial=0))

    def _moves(
        self, mix: Mix, limits: Limits, rivals: list[int], lead: float, bad: list[int]
    ) -> list[Mix]:
        """What may be tried: borders parted, the focus strengthened, rivals brought nearer to what
        lies about them, the largest areas moved."""
        wanted: list[tuple[int, float, float]] = []  # thing, L* by, chroma times
        of = self.task.things.of
        found: list[Mix] = []
        if lead < WANTED and len(self.focal):
            for i in rivals[:_RIVALS]:
                toward = float(self.near[i] @ mix.value / max(self.near[i].sum(), 1e-9))
                by = toward - float(mix.value[of[i]])
                wanted += [
                    (int(of[i]), by * t, k) for t, k in ((0.3, 1), (0.6, 1), (0, 0.6), (0.35, 0.65))
                ]
            found.append(self._quieted(mix, limits, rivals))
            wanted += self._for_focus(mix)
        for e in bad:
            for q in (int(self.one[e]), int(self.other[e])):
                wanted += [(q, d, 1.0) for d in (-14, -7, -3.5, 3.5, 7, 14)]
                wanted += [(q, 0, 1.4), (q, 0, 0.6)]
        if not self.task.keeps_values:
            large = np.argsort(-self.task.things.area)[:3]
            wanted += [(int(q), d, 1.0) for q in large for d in (-5, 5)]
        wanted = [w for w in wanted if w[0] not in self.frozen and not self._is_held(w[0])]
        if len(wanted) > _MOST:
            at = np.unique(np.linspace(0, len(wanted) - 1, _MOST).astype(int))
            wanted = [wanted[i] for i in at]
        return found + [self._moved(mix, limits, *w) for w in wanted]

    def _for_focus(self, mix: Mix) -> list[tuple[int, float, float]]:
        focus = self.task.focus
        assert focus is not None
        found: list[tuple[int, float, float]] = []
        flesh = focus in self.flesh
        found += [(focus, d, 1.0) for d in ((-6, -3, 3, 6) if flesh else (-12, -6, 6, 12))]
        if not flesh:
            found += [(focus, d, 1.3) for d in (-8, 0, 8)]
        beside = np.argsort(-self.task.things.border[focus])[:4]
        for j in beside.tolist():
            if self.task.things.border[focus, j] > 0:
                found += [(j, d, 1.0) for d in (-16, -8, 8, 16)]
                found += [(j, 0, 0.6)]
        return found

    def _moved(self, mix: Mix, limits: Limits, q: int, by: float, times: float) -> Mix:
        """One thing moved; the rest of a face goes with it."""
        if self.task.keeps_values:
            by = 0.0
        if q in self.flesh:
            times = min(max(times, 0.85), 1.0)
        chroma = float(mix.chroma[q]) * times + (0.01 if times > 1 else 0)
        low, high = limits.value[q].tolist()
        value = min(max(float(mix.value[q]) + by, low), high)
        top = max(float(limits.cap[q]), 0.0)
        if q not in self.flesh:
            more = _FOCUS_LOUDER if q == self.task.focus else 0.0
            top = min(top, loudest(value, float(mix.hue[q])) + more)
        least = min(float(limits.chroma[q, 0]), top)
        moved = mix.moved(q, value, min(max(chroma, least), top))
        if self._together:
            mine = self._group == self._group[q]
            moved.value[mine], moved.chroma[mine] = moved.value[q], moved.chroma[q]
        if by and q in self.flesh:
            for j in self.kin[q]:
                also = mix.value[j] + 0.7 * (value - mix.value[q])
                low, high = limits.value[j].tolist()
                moved.value[j] = min(max(float(also), low), high)
        return self._followed(moved)

    def _quieted(self, mix: Mix, limits: Limits, rivals: list[int]) -> Mix:
        """All rivals brought toward what lies about them at once."""
        value, chroma = mix.value.copy(), mix.chroma.copy()
        for i in rivals:
            q = int(self.task.things.of[i])
            if q in self.frozen or q == self.task.focus or self._is_held(q):
                continue
            if not self.task.keeps_values:
                toward = float(self.near[i] @ mix.value / max(self.near[i].sum(), 1e-9))
                value[q] = np.clip(mix.value[q] + 0.4 * (toward - mix.value[q]), *limits.value[q])
            quiet = mix.chroma[q] * (0.9 if q in self.flesh else 0.7)
            chroma[q] = max(quiet, min(float(limits.chroma[q, 0]), float(mix.chroma[q])))
        for q in {int(self.task.things.of[i]) for i in rivals}:
            mine = self._group == self._group[q]
            value[mine], chroma[mine] = value[q], chroma[q]
        return self._followed(Mix(value, chroma, mix.hue))

    def _is_held(self, q: int) -> bool:
        """Whether a thing has the colour of one that stays."""
        return any(self._group[q] == self._group[k] for k in self.task.locked)

    def _followed(self, mix: Mix) -> Mix:
        """What is coloured as another, coloured so."""
        for q, (leader, by) in self.task.follows.items():
            mix.chroma[q], mix.hue[q] = mix.chroma[leader], mix.hue[leader]
            if not self.task.keeps_values:
                mix.value[q] = min(max(float(mix.value[leader]) + by, 12.0), 92.0)
        return mix

    def _apart(self, seen: _Measured) -> tuple[Floats, Floats]:
        """CIEDE2000 over borders, where it is small; about that where it is not; and L*, (k, e)."""
        off = seen.lab[:, self.one] - seen.lab[:, self.other]
        de = 110 * np.sqrt((off * off).sum(axis=-1))
        at, edge = np.nonzero(de < 9)
        if len(at):
            de[at, edge] = ciede2000(seen.cie[at, self.one[edge]], seen.cie[at, self.other[edge]])
        return de, np.abs(seen.cie[:, self.one, 0] - seen.cie[:, self.other, 0])

    def _cost(self, mix: Mix, before: Mix, known: _Measured, start: Mix, rows: Ints) -> _Costs:
        """What some proposals cost, (k, m) or (m,); `known` is what `before` looks like."""
        seen = known if mix is before else _measured(mix, before, known)
        de, dl = self._apart(seen)
        value, area = seen.cie[..., 0], self.task.things.area
        cost = (self.weight * 3 * np.maximum(0, _ALIKE - de) / _ALIKE).sum(axis=1)
        short = np.maximum(0, self.need - dl) / 15
        cost = cost + (np.clip(self.weight, 0.3, 1) * 4 * short).sum(axis=1)
        cost = cost + (0.3 * np.maximum(0, dl - 16) * self.family).sum(axis=1)
        cost = cost + _of_whole(value, area)
        cost = cost + 12 * np.maximum(0, (dl < 4.5) @ self.along - 0.28)
        strong = (np.hypot(seen.lab[..., 1], seen.lab[..., 2]) >= 0.118) @ area
        cost = cost + 25 * np.maximum(0, strong - 0.13)
        lead = np.full(len(value), 9.0)
        if len(self.focal):
            pull = self._pull(seen.lab, rows)
            own = np.isin(rows, self.focal)
            other = ~own & ~self.line[rows]
            mine = pull[:, own].max(axis=1)
            lead = mine / np.maximum(pull[:, other].max(axis=1, initial=0), 1e-9)
            cost = cost + 14 * np.maximum(0, WANTED - lead) + 2 * np.maximum(0, 0.5 - mine)
        much = np.clip(area * 6, 0.25, 1)
        cost = cost + 0.0006 * ((np.atleast_2d(mix.value) - start.value) ** 2 @ much)
        off = np.abs(np.atleast_2d(mix.chroma) - start.chroma) / 0.05
        return _Costs(cost + 0.18 * (off @ much), lead)

    def _pull(self, lab: Floats, rows: Ints) -> Floats:
        """How much some regions draw the eye in flat colours, (k, rows): attention as it is
        measured, detail as drawn (docs/focus.md)."""
        of, task = self.task.things.of, self.task
        own = lab[:, of[rows]]
        beside = np.einsum("rm,kmc->krc", self.near[rows], lab)
        beside = beside + self.lonely[rows][None, :, None] * own
        chroma = np.hypot(lab[..., 1], lab[..., 2])
        mine = chroma[:, of[rows]]
        around = _difference(own - beside, mine - np.hypot(beside[..., 1], beside[..., 2]))
        whole = _difference(own[:, :, None] - lab[:, None], mine[:, :, None] - chroma[:, None])
        found = AROUND * around + OVERALL * (whole @ task.things.area)
        return np.asarray(task.size[rows] * found + task.detail[rows])


def _difference(lab: Floats, chroma: Floats) -> Floats:
    """Differences in value, hue and chroma in units of attention, added."""
    turn = np.sqrt(np.maximum(lab[..., 1] ** 2 + lab[..., 2] ** 2 - chroma**2, 0))
    stronger = np.where(chroma < 0, -DULLER * chroma, chroma)
    parts = np.abs(lab[..., 0]) / UNITS["value"] + turn / UNITS["hue"]
    return np.asarray(parts + stronger / UNITS["chroma"])


def _measured(mix: Mix, before: Mix, known: _Measured | None) -> _Measured:
    """Colours as they are seen; only those that differ from the ones before are worked out."""
    value, chroma, hue = (np.atleast_2d(part) for part in mix)
    if known is None:
        linear = fit(value, chroma, hue)
        return _Measured(oklab(linear), cielab(linear))
    lab = np.repeat(known.lab, len(value), 0)
    cie = np.repeat(known.cie, len(value), 0)
    at = np.nonzero((value != before.value) | (chroma != before.chroma) | (hue != before.hue))
    if len(at[0]):
        linear = fit(value[at], chroma[at], hue[at])
        lab[at], cie[at] = oklab(linear), cielab(linear)
    return _Measured(lab, cie)


def _of_whole(value: Floats, area: Floats) -> Floats:
    """What whole pictures cost, (k,), by the values they hold: too much very dark or light, halves
    alike, a median far off the middle."""
    cost = 30 * np.maximum(0, ((value < 20) | (value > 80)) @ area - 0.19)
    half = np.abs((value > 50) @ area * 2 - 1)
    cost = cost + 4 * np.maximum(0, 0.13 - half)
    order = np.argsort(value, axis=1)
    held = np.cumsum(area[order], axis=1)
    at = (held >= 0.5 * held[:, -1:]).argmax(axis=1)
    median = np.take_along_axis(value, order, 1)[np.arange(len(value)), at]
    return np.asarray(cost + 0.4 * (np.maximum(0, 31 - median) + np.maximum(0, median - 77)))
