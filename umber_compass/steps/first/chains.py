"""Where proposals begin: each with a scheme, a way to deal values, and a light."""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.spaces import hue_distance
from umber_compass.plan.first import FirstLight
from umber_compass.plan.model import Scheme
from umber_compass.plan.terms import Slot
from umber_compass.steps.first.lights import SKIN, in_light
from umber_compass.steps.first.materials import MATERIALS, range_in
from umber_compass.steps.first.task import FUR, Task
from umber_compass.steps.harmony.living import FLESH
from umber_compass.steps.harmony.scheme import slot_hues, wished_shares
from umber_compass.steps.harmony.schemes import SCHEMES, spec_of
from umber_compass.steps.harmony.warmth import temperature_of

SHAPES = ("neighbours-opposite", "opposites", "split-opposite", "neighbours", "triad")
_MANY = "two-pairs"  # also, where more than three materials are told
_SPREADS = (20.0, 30.0, 42.0)  # wheel degrees
_STEP = 15  # wheel degrees between leads that are tried
_FREE_ARC = 12.0  # OKLCh degrees beside a material's hues that cost nothing
_FLESH_TURN, _FLESH_AREA = 14.0, 0.06  # degrees flesh may stray; as how much it counts at least
_LEAST_AREA, _COUNTS = 0.004, 0.012  # from which a coloured thing counts, and as how much at least
_FAR = 60.0  # from which more costs no more
_LEAST_CHROMA = 0.035  # a material duller than this does not bind the scheme


class Chain(NamedTuple):
    """One beginning."""

    scheme: Scheme
    key: str
    light: FirstLight


def shares_for(name: str) -> dict[Slot, float]:
    """What each slot of a scheme should hold: lead .60, supports .27 together, answers .08, grey
    the rest; a scheme with answers alone leaves more to grey (docs/first-colours.md)."""
    needles = SCHEMES[name].needles
    supports = [n.slot for n in needles if n.part == "supports"]
    answers = [n.slot for n in needles if n.part == "answers"]
    held: dict[Slot, float] = {"A": 0.60, "grey": 0.05}
    if supports and answers:
        held |= dict.fromkeys(supports, 0.27 / len(supports))
        held |= dict.fromkeys(answers, 0.08 / len(answers))
    elif supports:
        held |= {supports[0]: 0.25, **dict.fromkeys(supports[1:], 0.10 / max(len(supports) - 1, 1))}
    elif len(answers) == 1:
        held |= {answers[0]: 0.14, "grey": 0.26}
    elif answers:
        held |= {answers[0]: 0.25, **dict.fromkeys(answers[1:], 0.10 / (len(answers) - 1))}
    else:
        held = {"A": 0.75, "grey": 0.25}
    return held


def accent_of(scheme: Scheme) -> Slot | None:
    """The slot that answers sparingly: the last; None where one hue is all there is."""
    needles = spec_of(scheme).needles
    return needles[-1].slot if len(needles) > 1 else None


def begin(task: Task, count: int, rng: np.random.Generator) -> list[Chain]:
    """So many beginnings, the lights and keys in turn."""
    lights = [task.lights[i % len(task.lights)] for i in range(count)]
    keys = []
    for i, light in enumerate(lights):
        pool = task.keys[light]
        keys.append(pool[(i // len(task.lights)) % len(pool)])
    if task.scheme is not None:
        return [Chain(task.scheme, k, li) for k, li in zip(keys, lights, strict=True)]
    schemes: list[Scheme | None] = [None] * count
    for light in dict.fromkeys(lights):
        mine = [i for i in range(count) if lights[i] == light]
        for i, one in zip(mine, _schemes(task, light, len(mine), rng), strict=True):
            schemes[i] = one
    return [Chain(s, k, li) for s, k, li in zip(schemes, keys, lights, strict=True) if s]


def _schemes(task: Task, light: FirstLight, count: int, rng: np.random.Generator) -> list[Scheme]:
    bound = bound_by(task, light)
    if not bound and task.warm is None:
        leads = rng.permutation(count)
        return [
            _scheme(task, SHAPES[k % len(SHAPES)], float(leads[k] * 360 / count), None)
            for k in range(count)
        ]
    every = every_scheme(task, rng)
    cost = np.array([misfit(s, bound) + _off_warm(s, task.warm) for s in every])
    odds = np.exp(-(cost - cost.min()) / max(0.01, 0.2 * float(np.std(cost))))
    odds /= odds.sum()
    few = int((odds > 1e-9).sum()) < count
    return [every[i] for i in rng.choice(len(every), count, replace=few, p=odds)]


def every_scheme(task: Task, rng: np.random.Generator | None = None) -> list[Scheme]:
    """Schemes with leads round the wheel, each off its place by chance where that is given."""
    many = len({m for m in task.things.material if m}) > 3
    return [
        _scheme(task, name, float(lead + (rng.integers(0, _STEP) if rng else 0)), spread)
        for name in (*SHAPES, *((_MANY,) if many else ()))
        for spread in (_SPREADS if SCHEMES[name].spread_deg else (None,))
        for lead in range(0, 360, _STEP)
    ]


def _scheme(task: Task, name: str, lead: float, spread: float | None) -> Scheme:
    usual = float(SCHEMES[name].spread_deg or 0)
    return Scheme(
        wheel=task.wheel,  # type: ignore[arg-type]  # a plan's own
        name=name,
        lead_deg=lead % 360,
        spread_deg=usual if spread is None else spread,
        shares=shares_for(name),
    )


class Bound(NamedTuple):
    """A material, or a colour that stays, that a scheme should have a hue for."""

    thing: int
    hue: float  # OKLCh degrees, its middle
    half: float  # degrees to either side that serve too
    area: float
    chroma: float


def bound_by(task: Task, light: FirstLight) -> list[Bound]:
    found = []
    for thing, material in enumerate(task.things.material):
        area = float(task.things.area[thing])
        if thing in task.locked:
            _, chroma, hue = task.locked[thing]
            if chroma >= _LEAST_CHROMA:
                found.append(Bound(thing, hue, 0.0, area, chroma))
            continue
        row = MATERIALS.get(material)
        if row is None:
            continue
        own = range_in(material, light)
        span = own or row.noon
        if span.any_hue or span.high_chroma < _LEAST_CHROMA:
            continue
        chroma = (span.low_chroma + span.high_chroma) / 2
        hue = span.from_deg + span.span_deg / 2
        if own is None:
            hue = float(in_light(np.array([55.0, chroma, hue]), light)[2])
        half = span.span_deg / 2
        if material in FLESH:  # has one hue
            base = {"skin": task.skin, "fur": FUR}.get(material, (60.0, chroma, hue))
            _, chroma, hue = in_light(np.array(base), light, SKIN).tolist()
            half, area = _FLESH_TURN, max(area, _FLESH_AREA)
        found.append(Bound(thing, hue % 360, half, area, chroma))
    return found


def misfit(scheme: Scheme, bound: list[Bound]) -> float:
    """How badly a scheme holds some materials: 2.5 area^.7 mean chroma (arc misfit / 60), and half
    of what they hold of a slot beyond its share."""
    hues, wished = slot_hues(scheme), wished_shares(scheme)
    needles = [s for s in hues if s != "grey"]
    held: dict[Slot, float] = {}
    cost = 0.0
    for one in bound:
        far = {s: abs(float(hue_distance(one.hue, hues[s]))) for s in needles}
        near = min(far, key=far.__getitem__)
        held[near] = held.get(near, 0.0) + one.area
        off = min(max(0.0, far[near] - one.half - _FREE_ARC), _FAR) / _FAR
        counts = max(one.area, _COUNTS) if one.area >= _LEAST_AREA else one.area
        cost += min(counts, 0.25) ** 0.7 * one.chroma / 0.07 * off * 2.5
    return cost + 0.5 * sum(max(0.0, v - wished.get(s, 0.0)) for s, v in held.items())


def _off_warm(scheme: Scheme, wish: float | None) -> float:
    """How far a scheme lies from a wished share of warm colours."""
    if wish is None:
        return 0.0
    hues, wished = slot_hues(scheme), wished_shares(scheme)
    coloured = {s: w for s, w in wished.items() if s != "grey"}
    at = np.array([hues[s] for s in coloured])
    warm = temperature_of(at, np.full(len(at), 0.1), np.array([*coloured.values()])).warm
    return 1.5 * abs(warm - wish)
