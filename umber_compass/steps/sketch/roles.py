"""What each region is likely to be in the picture: ground, middle ground, figure or line. A first
guess by where regions lie, how they touch and what encloses them (docs/sketch.md)."""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.measured import Measured
from umber_compass.colour.spaces import Floats
from umber_compass.picture.adjacency import touching_pairs
from umber_compass.picture.mixes import Labels
from umber_compass.plan.terms import Role

_LOOKED_AT = 480  # px, the longer side that regions are looked at at
_CLEAR = 0.15  # of the picture without paint, from which what is painted stands free
_PLAIN = 0.9  # of the frame that one region holds, which all else stands before
_GROUND_FRAME = 0.06  # of the frame, from which a region is ground
_AT_FOOT = 0.92  # of the lower edge, up to which what stands on it alone is no ground
_FOOT_TALL = 0.12  # of the height, that a figure cut by the lower edge has at least
# Shoulders cut by the lower edge: how far they fall to both sides; of each side edge, that they
# hold at most; of their outline, along things off the frame, at least.
_SLOPE, _SIDES, _NECK = 0.22, 0.4, 0.08
_LARGE = 0.35  # of the picture, from which what touches the frame is ground
_ENCLOSED, _ALONG = 0.85, 0.45  # shares of an outline: within one region; along figures
_BRIGHT = 55  # L* from which a window is one
_POST = 0.05  # of the longer side, that a post is wide at most
_STRAIGHT = 0.85  # of an outline, that straight sides hold
_LIGHTS = 0.07  # of the picture, up to which a round light thing in the sky is no figure
_THIN_DARK, _DARK = 35, 45  # L*, of thin strokes and of an outline round several things
_INNER = 0.05  # of a thin region, that lies 2 px inside its border
_WIDTH = 0.009  # of the longer side, up to which an outline is wide
_MOST_OTHERS = 0.5  # of the other regions, that an outline touches
_RING, _HOLLOW = 0.04, 0.35  # the same of a ring; of its box, that it fills at most
_ROUND = 0.6  # of the outline of what is in it, that a ring holds
_WEB, _SHORT, _LONG = 3, 0.15, 0.4  # regions that a web touches; of a side, that it or a stroke is


class _Seen(NamedTuple):
    """Regions without the lines over them; index 0 for label 1."""

    area: Floats  # shares of the picture
    sides: Floats  # (n, 4) of the top, right, bottom, left edge, that each holds
    frame: Floats  # of the whole frame
    border: Floats  # (n, n) of each region's outline, frame apart, along each other
    wide: Floats  # of the longer side, that each is wide on the mean
    straight: Floats  # of each outline, that straight sides hold
    middle: Floats  # (n, 2) x, y of each middle, shares
    tall: Floats  # of the height, that each reaches over
    slope: Floats  # of its height, that its upper edge falls toward both its sides
    round: Floats  # how much of its box's oval each fills, at most 1
    clear: float  # share of the picture without paint
    free: float  # share of the frame without paint


def guess_roles(labels: Labels, colours: list[Measured]) -> list[Role]:
    """A likely role for each region, (h, w) labels, label 1 first."""
    count = len(colours)
    values = np.array([c.value for c in colours])
    lines = _lines(labels, values)
    if lines.all():
        return ["line"] * count
    seen = _looked_at(labels, lines, count)
    roles: list[Role] = ["line" if line else "figure" for line in lines]
    if seen.clear > _CLEAR and seen.free > 0.5:
        return roles
    shoulders = _shoulders(seen, lines)
    grounds = _grounds(seen, lines) & ~shoulders
    for i in np.flatnonzero(grounds).tolist():
        roles[i] = "ground"
    plain = bool((seen.frame * grounds).max(initial=0) >= _PLAIN)
    others = np.flatnonzero(~lines & ~grounds).tolist()
    for i in others:
        if not (shoulders[i] or _is_figure(seen, i, grounds)):
            roles[i] = "middle ground"
    if not plain:
        for i in _built(seen, roles, values) | _in_the_sky(seen, roles):
            roles[i] = "middle ground"
    _share_with_encloser(seen, roles)
    return roles


def _grounds(seen: _Seen, lines: npt.NDArray[np.bool_]) -> npt.NDArray[np.bool_]:
    """What holds enough of the frame, and does not only stand on its lower edge."""
    touched = (seen.sides > 0.01).sum(axis=1)
    foot_only = (seen.sides[:, 2] > 0.01) & (touched == 1) & (seen.sides[:, 2] < _AT_FOOT)
    found = (seen.frame > _GROUND_FRAME) & (touched >= 2)
    found |= (touched >= 1) & (seen.area > _LARGE)
    found |= seen.sides.max(axis=1) >= _AT_FOOT
    standing = foot_only & (seen.tall >= _FOOT_TALL)
    return np.asarray(found & ~standing & ~lines)


def _shoulders(seen: _Seen, lines: npt.NDArray[np.bool_]) -> npt.NDArray[np.bool_]:
    """Whose upper edge falls to both sides from a neck, cut by the lower edge and the sides."""
    inside = (seen.sides.max(axis=1) <= 0.01) & ~lines
    found = (seen.sides[:, 2] > 0.3) & (seen.sides[:, 0] <= 0.01) & (seen.slope >= _SLOPE)
    found &= seen.sides[:, [1, 3]].max(axis=1) < _SIDES
    found &= seen.border[:, inside].sum(axis=1) >= _NECK
    return np.asarray(found & (np.abs(seen.middle[:, 0] - 0.5) < 0.2) & ~lines)


def _is_figure(seen: _Seen, i: int, grounds: npt.NDArray[np.bool_]) -> bool:
    """Whether a region that is no ground may be a figure: off the frame, on its lower edge alone,
    or along figures where the frame cuts it."""
    cut = seen.sides[i] > 0.01
    if not cut.any():
        return True
    if cut[2] and cut.sum() == 1 and 0.12 < seen.middle[i, 0] < 0.88:
        return bool(seen.tall[i] >= _FOOT_TALL)
    inside = ~grounds & (seen.sides.max(axis=1) <= 0.01)
    return bool(cut.sum() == 1 and seen.border[i, inside].sum() >= _ALONG)


def _built(seen: _Seen, roles: list[Role], values: Floats) -> set[int]:
    """Things with straight sides that lie wholly before what is behind, as windows and doors in a
    wall, and posts."""
    found: set[int] = set()
    for i in np.argsort(-seen.area).tolist():
        if roles[i] != "figure" or seen.straight[i] < _STRAIGHT:
            continue
        behind = [roles[k] in ("ground", "middle ground") or k in found for k in range(len(roles))]
        along = seen.border[i] * behind
        # A post may stand before several; what is as wide as a boat is none.
        held = float(along.sum() if seen.wide[i] <= _POST else along.max(initial=0))
        around = int(seen.border[i].argmax())
        if values[i] > max(values[around], _BRIGHT) and seen.straight[around] >= _STRAIGHT:
            held = max(held, float(seen.border[i, around]))  # a window in a wall of whatever role
        if held + _within(seen, i) >= _ENCLOSED:
            found.add(i)
    return found


def _within(seen: _Seen, i: int) -> float:
    """How much of a region's outline lies along what it encloses itself."""
    inside = seen.border[:, i] >= _ENCLOSED
    return float(seen.border[i, inside].sum())


def _in_the_sky(seen: _Seen, roles: list[Role]) -> set[int]:
    """Small round things that the ground above encloses: a sun, a moon."""
    found = set()
    for i, role in enumerate(roles):
        around = int(seen.border[i].argmax())
        if role != "figure" or roles[around] != "ground" or seen.border[i, around] < _ENCLOSED:
            continue
        above = seen.sides[around, 0] > 0.5 and seen.middle[i, 1] < 0.45
        small = seen.area[i] <= _LIGHTS and seen.round[i] > 0.9
        if above and small:
            found.add(i)
    return found


def _share_with_encloser(seen: _Seen, roles: list[Role]) -> None:
    """What one thing encloses is of it: features of a face, panes of a window. In place."""
    for i in np.argsort(-seen.area).tolist():
        around = int(seen.border[i].argmax())
        if roles[i] in ("line", "middle ground") or roles[around] not in (
            "figure",
            "middle ground",
        ):
            continue
        if seen.border[i, around] >= _ENCLOSED and seen.frame[i] == 0:
            roles[i] = roles[around]


def _lines(labels: Labels, values: Floats) -> npt.NDArray[np.bool_]:
    """Which regions are lines: a dark web of thin strokes, or an outline round several things."""
    count = len(values)
    area = np.bincount(labels.reshape(-1), minlength=count + 1)[1:].astype(float)
    core = np.ones(labels.shape, bool)
    for axis in (0, 1):
        for shift in (2, -2):
            core &= np.roll(labels, shift, axis) == labels
    inner = np.bincount(labels[core], minlength=count + 1)[1:]
    thin = (inner < _INNER * area) & (values < _THIN_DARK)
    pairs, length = touching_pairs(labels)
    outline = np.bincount(pairs.reshape(-1), np.repeat(length, 2), count + 1)[1:].astype(np.intp)
    width = 2 * area / np.maximum(outline, 1)
    wide = max(3.0, _WIDTH * max(labels.shape))
    darker = (values < _DARK) & (_beside(pairs, length, values) > values + 8)
    rings = (width <= _RING * max(labels.shape)) & darker & ~thin
    rings &= _goes_round(pairs, length, outline)
    touches = np.bincount(pairs[(pairs > 0).all(axis=1)].reshape(-1), minlength=count + 1)[1:]
    rings |= (width <= wide) & darker & (touches >= _MOST_OTHERS * (count - 1)) & ~thin
    for i in np.flatnonzero(thin | rings).tolist():
        rows, columns = np.nonzero(labels == i + 1)
        high, wide = int(np.ptp(rows)) + 1, int(np.ptp(columns)) + 1
        across = max(high / labels.shape[0], wide / labels.shape[1])
        long = across >= (_SHORT if touches[i] >= _WEB else _LONG)
        thin[i] = long and (bool(thin[i]) or area[i] <= _HOLLOW * high * wide)
    return np.asarray(thin)


def _goes_round(
    pairs: npt.NDArray[np.intp], length: npt.NDArray[np.intp], outline: npt.NDArray[np.intp]
) -> npt.NDArray[np.bool_]:
    """Which regions hold most of the outline of another."""
    found = np.zeros(len(outline) + 1, bool)
    own = np.concatenate([[np.inf], outline.astype(float)])
    for one, other in ((0, 1), (1, 0)):
        round_it = length >= _ROUND * own[pairs[:, other]]
        found[pairs[round_it, one]] = True
    return found[1:]


def _beside(pairs: npt.NDArray[np.intp], length: npt.NDArray[np.intp], values: Floats) -> Floats:
    """The mean value of what each region touches; clear ground is white."""
    shown = np.concatenate([[100.0], values])
    total, held = np.zeros(len(shown)), np.zeros(len(shown))
    for one, other in ((0, 1), (1, 0)):
        total += np.bincount(pairs[:, one], length * shown[pairs[:, other]], len(shown))
        held += np.bincount(pairs[:, one], length, len(shown))
    return np.asarray(total / np.maximum(held, 1))[1:]


def _looked_at(labels: Labels, lines: npt.NDArray[np.bool_], count: int) -> _Seen:
    step = max(1, -(-max(labels.shape) // _LOOKED_AT))
    small = labels[::step, ::step]
    if lines.any() and not lines.all():
        small = _without(small, np.flatnonzero(lines) + 1)
    height, width = small.shape
    area = np.bincount(small.reshape(-1), minlength=count + 1).astype(float)
    edges = (small[0], small[:, -1], small[-1], small[:, 0])
    sides = np.stack([np.bincount(e, minlength=count + 1) / len(e) for e in edges], axis=1)
    frame = sum(np.bincount(e, minlength=count + 1) for e in edges) / sum(map(len, edges))
    pairs, length = touching_pairs(small)
    border = np.zeros((count + 1, count + 1))
    border[pairs[:, 0], pairs[:, 1]] = border[pairs[:, 1], pairs[:, 0]] = length
    outline = np.maximum(border.sum(axis=1), 1)
    y, x = np.indices(small.shape)
    flat, whole = small.reshape(-1), np.maximum(area, 1)
    middle = np.stack(
        [
            np.bincount(flat, v.reshape(-1), count + 1) / whole / n
            for v, n in ((x, width), (y, height))
        ],
        axis=1,
    )
    tall, slope, around = _extents(small, count, area)
    return _Seen(
        area[1:] / small.size,
        sides[1:],
        np.asarray(frame)[1:],
        (border / outline[:, None])[1:, 1:],
        (2 * area / outline / max(small.shape))[1:],
        (_straight(small, count + 1) / outline)[1:],
        middle[1:],
        tall,
        slope,
        around,
        float(area[0] / small.size),
        float(np.asarray(frame)[0]),
    )


def _without(labels: Labels, lines: npt.NDArray[np.intp]) -> Labels:
    """Labels with the px of lines given to the nearest region, or to clear ground."""
    from scipy.ndimage import distance_transform_edt

    away = np.isin(labels, lines)
    if away.all():
        return labels
    v, u = distance_transform_edt(away, return_distances=False, return_indices=True)
    return np.asarray(labels[v, u])


def _extents(small: Labels, count: int, area: Floats) -> tuple[Floats, Floats, Floats]:
    """How tall each region is, a share of the height; how far its upper edge falls toward its
    sides; how much of its box's oval it fills."""
    from scipy.ndimage import find_objects

    tall, slope, around = np.zeros(count), np.zeros(count), np.zeros(count)
    for i, box in enumerate(find_objects(small.astype(np.int32), count)):
        if box is not None:
            high, wide = box[0].stop - box[0].start, box[1].stop - box[1].start
            tall[i] = high / small.shape[0]
            slope[i] = _fall(small[box] == i + 1)
            oval = np.pi / 4 * high * wide
            near = min(high, wide) >= 0.75 * max(high, wide)
            around[i] = min(area[i + 1] / oval, 1.0) if near else 0.0
    return tall, slope, around


def _fall(inside: npt.NDArray[np.bool_]) -> float:
    """How far down a region's box its upper edge is at the sides, the higher of the two."""
    high, wide = inside.shape
    part = max(wide // 12, 1)
    top = np.where(inside.any(axis=0), inside.argmax(axis=0), high) / high
    return float(min(top[:part].mean(), top[-part:].mean()))


def _straight(labels: Labels, count: int) -> Floats:
    """How many px of each outline go straight on, along the rows or down the columns."""
    found = np.zeros(count)
    for turned in (labels, labels.T):
        row, column = np.nonzero(turned[:, 1:] != turned[:, :-1])
        left, right = turned[row, column], turned[row, column + 1]
        below = np.minimum(row + 1, len(turned) - 1)
        goes_on = (turned[below, column] == left) & (turned[below, column + 1] == right)
        for side in (left, right):
            found += np.bincount(side[goes_on], minlength=count)
    return found
