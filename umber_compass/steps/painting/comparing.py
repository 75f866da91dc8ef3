"""By how much each region of a painting has drifted from the plan.

A painting is compared inside each region, away from its soft edges, with what the plan shows there.
A region has drifted where it is off by more than its limit, and by more than its own strokes and
those of the whole painting may do.
"""

from statistics import NormalDist
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import Floats
from umber_compass.picture.mixes import Labels
from umber_compass.steps.painting.aligning import Planes, Seen
from umber_compass.steps.painting.goal import Goal
from umber_compass.steps.painting.strokes import Strokes, strokes_of
from umber_compass.work import Tick, idle

_Plane = npt.NDArray[np.float32]

_INSIDE = 8  # px away from a border, at most, that is left out
_CELL = 16  # px of a square in which brush strokes are one sample
_LEAST_PX = 40  # of a region, under which nothing is said
_LEAST_SHARE = 0.2  # of a region, that must be painted
_DEEP = 3.0  # px from its border, that a region reaches
_OWN = 0.7  # of a px's colour, that is its region's own where edges are soft
_ERRORS = 3.0  # standard errors, that a drift must be beyond at least
_BY_CHANCE = 0.03  # of paintings, in which a region differs as much by its strokes alone
_OWN_SAY = 0.4  # of a region's own spread in its doubt; the painting's strokes have the rest
_MOST_TIMES = 1.25  # a doubt that many regions share, by which each one's is raised at most
_MANY = 20  # regions, of which it can be told what is usual
_TURNED = 0.8  # OKLab x 100, sideways, from which a turn of hue is seen
_GREY = 2.5  # OKLab x 100, under which a hue says nothing


class Limits(NamedTuple):
    """From where a difference counts as drift."""

    value: float  # L*
    hue: float  # OKLCh degrees
    chroma: float  # OKLCh


class Drift(NamedTuple):
    """How a region of the painting differs from the plan: the painting minus the plan."""

    region: str
    value: float  # L*
    hue: float | None  # OKLCh degrees; None where either is grey
    chroma: float  # OKLCh
    painted: float  # share of the region that is painted and seen
    goal: tuple[float, float, float]  # what the plan shows there: L*, OKLab a and b x 100
    drifted: tuple[str, ...]  # of value, hue and chroma

    @property
    def size(self) -> float:
        """How far it has drifted: 6 L*, 12 degrees or .03 chroma are 1."""
        hue = abs(self.hue or 0.0) / 12
        return max(
            abs(self.value) / 6, hue if "hue" in self.drifted else 0, abs(self.chroma) / 0.03
        )


def drifts(
    painting: Planes,
    painted: Seen,
    goal: Goal,
    labels: Labels,
    ids: dict[int, str],
    limits: Limits,
    tick: Tick = idle,
) -> list[Drift]:
    """Each region's drift, in the order of the labels; regions of which too little is painted, or
    that are too thin, are left out. `painted` are the px to be compared, `ids` the regions by
    label."""
    samples = _samples(painting, painted, goal, labels, ids)
    tick(-1.0)
    strokes = strokes_of(*_evened(samples, labels.shape))
    by = [_nearest(s, goal) for s in samples]
    errors = [_both(_error(s, labels.shape[1]), strokes, len(s.at)) for s in samples]
    times = _sure_from(len(samples)) * _understated(by, errors)
    return [
        _drift(s, goal, b, times * e, limits) for s, b, e in zip(samples, by, errors, strict=True)
    ]


class _Sample(NamedTuple):
    """The px of a region that are looked at."""

    region: str
    at: npt.NDArray[np.intp]
    off: npt.NDArray[np.float32]  # (3, n), the painting minus the plan
    share: float  # of the region, that is painted and seen
    own: float  # of its colour, where edges are soft


def _samples(
    painting: Planes, painted: Seen, goal: Goal, labels: Labels, ids: dict[int, str]
) -> list[_Sample]:
    """What is looked at of each region, of which enough can be seen."""
    depth = _depth(labels)
    inside = (painted & _away(labels, depth)).reshape(-1)
    held = np.bincount(labels.reshape(-1), minlength=max(ids, default=0) + 1)
    shown = np.bincount(labels[painted], minlength=len(held))
    order = np.argsort(labels, axis=None, kind="stable")
    ends = np.cumsum(held)
    off = (painting - goal.planes).reshape(3, -1)
    found = []
    for label, region in sorted(ids.items()):
        at = order[ends[label] - held[label] : ends[label]]
        at = at[inside[at]]
        share = float(shown[label] / max(int(held[label]), 1))
        if len(at) < _LEAST_PX or share < _LEAST_SHARE:
            continue
        deep = depth.reshape(-1)[at]
        own = _own_share(deep, goal.softness)
        if own >= _OWN and deep.max() >= _DEEP:
            found.append(_Sample(region, at, off[:, at] / own, share, own))
    return found


def _both(own: Floats, strokes: Strokes, area_px: int) -> Floats:
    """A region's standard error: by its own spread, and where that is small, as a small region may
    show little of it, also by what strokes do to areas of its size."""
    both = _OWN_SAY * own**2 + (1 - _OWN_SAY) * strokes.error(area_px) ** 2
    return np.maximum(own, np.sqrt(both))


def _sure_from(looks: int) -> float:
    """How many standard errors a drift must be beyond, so that seldom one of so many regions is by
    chance (Bonferroni)."""
    return max(_ERRORS, NormalDist().inv_cdf(1 - _BY_CHANCE / 2 / max(looks, 1)))


def _understated(by: list[Floats], errors: list[Floats]) -> Floats:
    """How many times its standard error a region is off, by the middle of many, (3,): the paint of
    most is as meant. 1 where there are few regions."""
    if len(by) < _MANY:
        return np.ones(3)
    off = np.array(by) / np.maximum(np.array(errors), 1e-6)
    found = np.median(np.abs(off - np.median(off, axis=0)), axis=0) / 0.6745
    return np.asarray(np.clip(found, 1, _MOST_TIMES))


def _evened(samples: list[_Sample], shape: tuple[int, ...]) -> tuple[Planes, Seen]:
    """What a painting varies within its regions, (3, h, w), and where."""
    px = int(np.prod(shape))
    planes, seen = np.zeros((3, px), np.float32), np.zeros(px, bool)
    for s in samples:
        planes[:, s.at] = s.off - np.median(s.off, axis=1)[:, None]
        seen[s.at] = True
    return planes.reshape(3, *shape), seen.reshape(shape)


def _depth(labels: Labels) -> _Plane:
    """How far each px lies from the border of its region, px."""
    from scipy.ndimage import distance_transform_edt

    edge = np.zeros(labels.shape, bool)
    across, down = labels[:, 1:] != labels[:, :-1], labels[1:] != labels[:-1]
    edge[:, 1:] |= across
    edge[:, :-1] |= across
    edge[1:] |= down
    edge[:-1] |= down
    return np.asarray(distance_transform_edt(~edge), np.float32)


def _away(labels: Labels, depth: _Plane) -> Seen:
    """The px of each region that lie well within it: some px from its border, or deep in it where
    it is thin."""
    deepest = np.zeros(int(labels.max(initial=0)) + 1)
    np.maximum.at(deepest, labels.reshape(-1), depth.reshape(-1))
    least = np.minimum(_INSIDE, 0.5 * deepest)
    return np.asarray(depth > least[labels])


def _own_share(depth: _Plane, softness: float) -> float:
    """How much of the colour of px so deep in a region is its own where edges are so soft: in a
    strip that is twice as wide as the deepest of them lies."""
    from scipy.special import erf

    if not softness:
        return 1.0
    near, far = (
        float(np.median(depth)) + 0.5,
        2 * float(depth.max()) - float(np.median(depth)) + 0.5,
    )
    return float((erf(near / (softness * np.sqrt(2))) + erf(far / (softness * np.sqrt(2)))) / 2)


def _drift(s: _Sample, goal: Goal, by: Floats, least: Floats, limits: Limits) -> Drift:
    """A region's drift, where it is beyond its limit and `least`, (3,) as the planes are."""
    was = np.median(goal.planes.reshape(3, -1)[:, s.at], axis=1).astype(float)
    value, hue, chroma, errors = _in_terms(was, by, least)
    terms = zip(("value", "hue", "chroma"), (value, hue, chroma), errors, limits, strict=True)
    drifted = [
        name
        for name, found, err, limit in terms
        if found is not None and abs(found) > max(limit, err)
    ]
    if "hue" in drifted and not _is_turned(was, by):
        drifted.remove("hue")
    wanted = float(was[0]), float(was[1]), float(was[2])
    return Drift(s.region, value, hue, chroma, s.share, wanted, tuple(drifted))


def _nearest(s: _Sample, goal: Goal) -> Floats:
    """The middle of a region's differences, of which so much of the light is meant, within doubt,
    as leaves the least."""
    middle = np.median(s.off, axis=1).astype(float)
    least = middle
    for other in (goal.less, goal.more):
        by = np.median(other.reshape(3, -1)[:, s.at], axis=1).astype(float) / s.own
        part = float(np.clip(middle @ by / max(float(by @ by), 1e-9), 0, 1))
        found = middle - part * by
        if found @ found < least @ least:
            least = found
    return least


def _error(s: _Sample, width: int) -> Floats:
    """The standard error of the middle of a region's differences, by its own spread: a stroke of a
    brush is one sample, however many px it holds. The picture's width in px says which lie near."""
    cell = (s.at // width) // _CELL * 10_000 + (s.at % width) // _CELL
    _, of, count = np.unique(cell, return_inverse=True, return_counts=True)
    means = np.stack([np.bincount(of, row) / count for row in s.off])
    means = means[:, count >= min(_CELL, count.max())]
    if means.shape[1] < 4:
        spread = np.std(s.off, axis=1)
    else:  # of the middle two thirds: a spot of another colour is no doubt about the rest
        spread = (np.percentile(means, 84, axis=1) - np.percentile(means, 16, axis=1)) / 2
    # 1.25: the standard error of a median over that of a mean.
    return np.asarray(1.25 * spread / np.sqrt(max(means.shape[1], 1)), float)


def _is_turned(was: Floats, by: Floats) -> bool:
    """Whether a turn of hue is large enough to be seen: of pale colours it is not."""
    before, after = was[1:], was[1:] + by[1:]
    far = float(np.hypot(*before)), float(np.hypot(*after))
    apart = after / max(far[1], 1e-6) - before / max(far[0], 1e-6)
    return min(far) * float(np.hypot(*apart)) > _TURNED


def _in_terms(
    was: Floats, by: Floats, error: Floats
) -> tuple[float, float | None, float, tuple[float, float, float]]:
    """A difference of planes as value L*, OKLCh hue in degrees and chroma, and their errors."""
    before, after = np.hypot(was[1], was[2]), np.hypot(was[1] + by[1], was[2] + by[2])
    turn = np.degrees(np.arctan2(was[2] + by[2], was[1] + by[1]) - np.arctan2(was[2], was[1]))
    turn = float((turn + 180) % 360 - 180)
    side, least = float(np.hypot(error[1], error[2]) / np.sqrt(2)), min(float(before), float(after))
    errors = float(error[0]), float(np.degrees(side / max(least, _GREY))), side / 100
    return float(by[0]), turn if least >= _GREY else None, float(after - before) / 100, errors
