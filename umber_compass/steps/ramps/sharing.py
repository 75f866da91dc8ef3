"""Ramps within a number of colours: every base stays as it is; the rest goes, one by one, to the
colour that serves the most steps, and steps are shared."""

from collections.abc import Mapping, Sequence
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.difference import ciede2000
from umber_compass.colour.measured import levels_of, measured
from umber_compass.colour.packed import Levels
from umber_compass.colour.spaces import Floats, cielab, decode
from umber_compass.plan.model import Ramp, Region
from umber_compass.plan.rig import Rig
from umber_compass.steps.harmony.colours import RegionColour
from umber_compass.steps.ramps.ramps import Steps, all_steps
from umber_compass.work import Tick, idle

AnyRamps: TypeAlias = Mapping[str, tuple[Steps, ...]]
_APART = 4.0  # L*, by which a step lies on its own side of its base at least
_UNSERVED = 30.0  # CIEDE2000 that counts for a step that no colour serves
_NEAR, _FAR = 0.6, 0.4  # what the first step beside a base counts, and what those beyond it do
_ROUNDS = 2  # in which each chosen colour may be exchanged


class Sharing(NamedTuple):
    """How the steps of ramps share colours."""

    colours: int  # in all
    off: float  # CIEDE2000 of the steps from those that were wished, on the weighted mean
    worst: tuple[str, float] | None  # the region of the step that is furthest off, and how far
    whole: int  # regions whose ramps kept every step


class Ramps(dict[str, tuple[Steps, ...]]):
    """Every region's ramps by id, an end of a gradient each; and how they share colours, where
    they do."""

    sharing: Sharing | None = None


class _Wanted(NamedTuple):
    """Every step that is no base."""

    levels: Levels  # (n, 3)
    owner: npt.NDArray[np.intp]  # (n,) index of its ramp
    side: npt.NDArray[np.intp]  # (n,) -1 darker, 1 lighter
    weight: Floats  # (n,)


def shared(ramps: AnyRamps, shares: Mapping[str, float], budget: int) -> Ramps:
    """The ramps with no more colours than a budget, unless the bases alone are more: then those
    alone. A step that no colour serves is left out. `shares` are the regions' of the picture."""
    flat = [(region, ramp) for region, many in ramps.items() for ramp in many]
    if not flat:
        return Ramps()
    bases = np.array([levels_of(ramp.steps[ramp.base].hex) for _, ramp in flat], np.uint8)
    pinned = np.unique(bases, axis=0)
    wanted = _wanted([(ramp, max(shares.get(region, 0.0), 0.01)) for region, ramp in flat])
    known = np.concatenate([pinned, wanted.levels])
    apart = _apart(wanted, known, bases)
    chosen = _chosen(apart, wanted.weight, len(pinned), max(budget, len(pinned)))
    pick = np.array(chosen)[apart[:, chosen].argmin(axis=1)] if len(apart) else np.zeros(0, int)
    off = apart[np.arange(len(apart)), pick] if len(apart) else np.zeros(0)
    made: dict[str, list[Steps]] = {region: [] for region, _ in flat}
    whole: set[str] = set(made)
    for i, (region, ramp) in enumerate(flat):
        own = np.flatnonzero(wanted.owner == i)
        served = own[off[own] < _UNSERVED]
        made[region].append(_steps(ramp, known[pick[served]], bases[i], wanted.side[served]))
        if len(made[region][-1].steps) < len(ramp.steps):
            whole.discard(region)
    used = {s.hex for many in made.values() for ramp in many for s in ramp.steps}
    reached = off < _UNSERVED
    mean = float(np.average(off[reached], weights=wanted.weight[reached])) if reached.any() else 0.0
    worst = None
    if reached.any():
        at = int(np.where(reached, off, -1).argmax())
        worst = flat[int(wanted.owner[at])][0], float(off[at])
    found = Ramps({r: tuple(m) for r, m in made.items()})
    found.sharing = Sharing(len(used), mean, worst, len(whole))
    return found


def ramps_of(
    regions: Sequence[Region],
    recipes: Mapping[str, Ramp],
    colours: Mapping[str, RegionColour],
    numbers: Mapping[str, float],
    rig: Rig,
    shares: Mapping[str, float],
    budget: int | None,
    tick: Tick = idle,
) -> Ramps:
    """Every region's ramps, within a number of colours where there is a budget. `numbers` are the
    rules."""
    every = all_steps(regions, recipes, colours, numbers, rig, tick)
    return Ramps(every) if budget is None else shared(every, shares, budget)


def _wanted(ramps: list[tuple[Steps, float]]) -> _Wanted:
    rows = [
        (levels_of(step.hex), i, np.sign(k - ramp.base), share**0.5 * _counts(k - ramp.base))
        for i, (ramp, share) in enumerate(ramps)
        for k, step in enumerate(ramp.steps)
        if k != ramp.base
    ]
    levels = np.array([row[0] for row in rows], np.uint8).reshape(-1, 3)
    owner, side = (np.array([row[n] for row in rows], np.intp) for n in (1, 2))
    return _Wanted(levels, owner, side, np.array([row[3] for row in rows], float))


def _counts(away: int) -> float:
    return _NEAR if abs(away) == 1 else _FAR


def _apart(wanted: _Wanted, known: Levels, bases: Levels) -> Floats:
    """CIEDE2000 from each step to each colour that might serve it, (n, m); those on the wrong side
    of its base serve it not at all."""
    lab, own = cielab(decode(known / 255)), cielab(decode(wanted.levels / 255))
    base = cielab(decode(bases / 255))[wanted.owner, 0] if len(wanted.owner) else np.zeros(0)
    found = ciede2000(own[:, None], lab[None])
    right = (lab[None, :, 0] - base[:, None]) * wanted.side[:, None] >= _APART
    return np.where(right, np.minimum(found, _UNSERVED), _UNSERVED)


def _chosen(apart: Floats, weight: Floats, pinned: int, total: int) -> list[int]:
    """The colours that are kept: the pinned ones, then greedily those that serve best, each of
    which may be exchanged."""
    chosen = list(range(pinned))
    best = apart[:, :pinned].min(axis=1, initial=_UNSERVED)
    while len(chosen) < total and len(apart):
        gain = weight @ (best[:, None] - np.minimum(best[:, None], apart))
        found = int(gain.argmax())
        if gain[found] <= 1e-9:
            break
        chosen.append(found)
        best = np.minimum(best, apart[:, found])
    for _ in range(_ROUNDS):
        for k in range(pinned, len(chosen)):
            rest = chosen[:k] + chosen[k + 1 :]
            best = apart[:, rest].min(axis=1, initial=_UNSERVED)
            gain = weight @ (best[:, None] - np.minimum(best[:, None], apart))
            chosen[k] = int(gain.argmax())
    return chosen


def _steps(
    ramp: Steps, levels: Levels, base: npt.NDArray[np.uint8], side: npt.NDArray[np.intp]
) -> Steps:
    """A ramp with other steps, rising in value, its base exactly as it was."""
    every = np.concatenate([levels[side < 0], base[None], levels[side > 0]])
    kept = np.unique(every, axis=0)
    kept = kept[np.argsort(cielab(decode(kept / 255))[:, 0], kind="stable")]
    at = int((kept == base).all(axis=1).argmax())
    steps = tuple(measured(kept, ("given",) * len(kept)))
    return Steps(ramp.ramp, steps, at, len(ramp.steps) - len(kept) + ramp.left_out)
