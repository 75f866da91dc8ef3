"""By how much each region of a painting has drifted from the plan.

A painting is compared inside each region, away from its soft edges, with what the plan shows there.
What is still flat colour is held against the flat colour, what is shaded against the lit picture,
and what lies between against as much of the light as is painted there. Edges are taken to be as
soft as they are painted.
"""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import Floats
from umber_compass.picture.mixes import Labels
from umber_compass.steps.painting.aligning import Planes, Seen
from umber_compass.work import Tick, idle

_Plane = npt.NDArray[np.float32]

_INSIDE = 8  # px away from a border, at most, that is left out
_CELL = 16  # px of a square in which brush strokes are one sample
_LEAST_PX = 40  # of a region, under which nothing is said
_LEAST_SHARE = 0.2  # of a region, that must be painted
_DEEP = 3.0  # px from its border, that a region reaches
_OWN = 0.7  # of a px's colour, that is its region's own where edges are soft
_WINDOWS = (201, 91, 41)  # px round a px, from which it is told how much light is painted there
_TRACE, _MOST = 0.1, 0.7  # of the light, found: none, and all of it
_PRIOR = 1.5  # L* squared: how much a wider window says of it
_SOFTNESS = (0.0, 1.0, 2.0, 3.0, 4.5, 6.0)  # px that are tried
_ERRORS = 3.0  # standard errors, that a drift must be beyond
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


class Wanted(NamedTuple):
    """What a plan shows on a grid: flat, and in its light."""

    labels: Labels  # (h, w)
    flat: Planes
    lit: Planes


class Goal(NamedTuple):
    """What a painting should show."""

    planes: Planes
    softness: float  # px, of its edges


def goal_of(painting: Planes, painted: Seen, wanted: Wanted, tick: Tick = idle) -> Goal:
    """What a painting should show, (3, h, w): the plan, with as much of its light as is painted and
    edges as soft."""
    whole = _whole_light(wanted, painting, painted)
    flat, light = wanted.flat, wanted.lit - wanted.flat
    softness = _softness(painting, painted, flat[0] + np.float32(whole) * light[0])
    tick(-1.0)
    if softness:
        flat, light = _soft(flat, softness), _soft(light, softness)
    tick(-1.0)
    part = _light_painted(painting[0] - flat[0], light[0], painted, whole)
    return Goal(np.asarray(flat + part * light, np.float32), softness)


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
    depth = _depth(labels)
    inside = painted & _away(labels, depth)
    held = np.bincount(labels.reshape(-1), minlength=max(ids, default=0) + 1)
    shown = np.bincount(labels[painted], minlength=len(held))
    order = np.argsort(labels, axis=None, kind="stable")
    ends = np.cumsum(held)
    found = []
    for label, region in sorted(ids.items()):
        at = order[ends[label] - held[label] : ends[label]]
        at = at[inside.reshape(-1)[at]]
        share = float(shown[label] / max(int(held[label]), 1))
        if len(at) < _LEAST_PX or share < _LEAST_SHARE:
            continue
        deep = depth.reshape(-1)[at]
        own = _own_share(deep, goal.softness)
        if own < _OWN or deep.max() < _DEEP:
            continue
        wished = goal.planes.reshape(3, -1)[:, at]
        off = painting.reshape(3, -1)[:, at] - wished
        was = np.median(wished, axis=1).astype(float)
        found.append(_drift(region, off / own, at, labels.shape[1], was, share, limits))
    return found


def _whole_light(wanted: Wanted, painting: Planes, painted: Seen) -> float:
    """How much of the light is painted over all, 0 to 1; all of it where a plan has hardly any."""
    plan = (wanted.lit[0] - wanted.flat[0])[painted]
    own = (painting[0] - wanted.flat[0])[painted]
    if not len(plan) or float(plan.var()) < 0.5:
        return 1.0
    together = ((plan - plan.mean()) * (own - own.mean())).mean()
    return float(np.clip(together / plan.var(), 0, 1))


def _light_painted(own: _Plane, plan: _Plane, painted: Seen, whole: float) -> _Plane:
    """How much of the plan's light is painted at each px, 0 to 1: by how the painting's values
    follow the light's over the picture, and ever nearer round the px where that can be told. Both
    planes are L* away from the flat picture."""
    from scipy.ndimage import uniform_filter

    weight = painted.astype(np.float32)
    light: _Plane = np.full_like(weight, whole)
    for window in _WINDOWS:

        def near(plane: _Plane, window: int = window) -> _Plane:
            return np.asarray(uniform_filter(plane * weight, window, mode="constant"))

        held = np.maximum(near(np.ones_like(weight)), 1e-6)
        p, o = near(plan) / held, near(own) / held
        spread = np.maximum(near(plan**2) / held - p**2, 0)
        together = near(plan * own) / held - p * o
        light = np.clip((together + _PRIOR * light) / (spread + _PRIOR), 0, 1)
    # Strokes hide some of it: most of the light is the light, a trace is none.
    light = np.clip((light - _TRACE) / (_MOST - _TRACE), 0, 1)
    return np.asarray(light * light * (3 - 2 * light), np.float32)


def _softness(painting: Planes, painted: Seen, goal: _Plane) -> float:
    """How soft edges are painted, px: by which blur a goal's values come nearest."""
    best = (np.inf, 0.0)
    for softness in _SOFTNESS:
        made = _soft(goal[None], softness)[0] if softness else goal
        off = float(np.abs(painting[0] - made)[painted].mean()) if painted.any() else 0.0
        if off >= best[0]:
            break
        best = off, softness
    return best[1]


def _soft(planes: Planes, px: float) -> Planes:
    from scipy.ndimage import gaussian_filter

    return np.stack([gaussian_filter(p, px) for p in planes])


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


def _drift(
    region: str,
    off: npt.NDArray[np.float32],
    at: npt.NDArray[np.intp],
    width: int,
    was: Floats,
    share: float,
    limits: Limits,
) -> Drift:
    by, error = _middle(off, at, width)
    value, hue, chroma, errors = _in_terms(was, by, error)
    terms = zip(("value", "hue", "chroma"), (value, hue, chroma), errors, limits, strict=True)
    drifted = [
        name
        for name, found, err, limit in terms
        if found is not None and abs(found) > max(limit, _ERRORS * err)
    ]
    if "hue" in drifted and not _is_turned(was, by):
        drifted.remove("hue")
    goal = float(was[0]), float(was[1]), float(was[2])
    return Drift(region, value, hue, chroma, share, goal, tuple(drifted))


def _middle(
    off: npt.NDArray[np.float32], at: npt.NDArray[np.intp], width: int
) -> tuple[Floats, Floats]:
    """The middle of many differences, (3, n), and its standard error: a stroke of a brush is one
    sample, however many px it holds."""
    cell = (at // width) // _CELL * 10_000 + (at % width) // _CELL
    _, of, count = np.unique(cell, return_inverse=True, return_counts=True)
    means = np.stack([np.bincount(of, row) / count for row in off])
    means = means[:, count >= min(_CELL, count.max())]
    if means.shape[1] < 4:
        spread = np.std(off, axis=1)
    else:  # of the middle two thirds: a spot of another colour is no doubt about the rest
        spread = (np.percentile(means, 84, axis=1) - np.percentile(means, 16, axis=1)) / 2
    # 1.25: the standard error of a median over that of a mean.
    return np.median(off, axis=1).astype(float), 1.25 * spread / np.sqrt(max(means.shape[1], 1))


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
    side, least = float(np.hypot(error[1], error[2])), min(float(before), float(after))
    errors = float(error[0]), float(np.degrees(side / max(least, _GREY))), side / 100
    return float(by[0]), turn if least >= _GREY else None, float(after - before) / 100, errors
