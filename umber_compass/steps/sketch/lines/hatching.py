"""Hatching: stripes of one direction and spacing between lines are one tone, not many areas."""

import numpy as np
import numpy.typing as npt

from umber_compass.picture.adjacency import touching_pairs
from umber_compass.steps.sketch.lines.necks import Areas, Found, grow_into

_WIDE_PX, _LONG = 16.0, 2.0  # a stripe's width, at most; its length over that, at least
_TURN_DEG, _TIMES = 18.0, 2.2  # between two stripes beside each other: turn, ratio of widths
_SIDE_BY_SIDE = 0.4  # of the shorter stripe, along which two must meet
_FEWEST = 5  # stripes of a hatched tone
_SCRAP_PX, _AROUND = 400, 0.5  # an area so small, with so much of its outline on stripes, is of it


def without_stripes(found: Found) -> Found:
    """Areas with the stripes of each hatched tone joined to one, numbered anew from 1; gaps within
    a tone are gaps no longer."""
    count = int(found.areas.max(initial=0))
    if count < _FEWEST:
        return found
    width, long, turn, area = _shapes(found.areas, count)
    stripe = (width <= _WIDE_PX) & (long >= _LONG * width)
    if stripe.sum() < _FEWEST:
        return found
    grown = grow_into(found.areas - 1, np.ones(found.areas.shape, bool))
    pairs, length = touching_pairs(grown)
    group = _groups(pairs, length, stripe, (width, long, turn))
    held = np.bincount(group[stripe], minlength=count)
    toned = stripe & (held[group] >= _FEWEST)
    if not toned.any():
        return found
    owner = np.where(toned, count + group, np.arange(count))
    _take_scraps(owner, toned, area, pairs, length)
    _, number = np.unique(owner, return_inverse=True)
    table = np.concatenate([[0], number + 1]).astype(np.int32)
    necks = [n._replace(one=int(table[n.one]), other=int(table[n.other])) for n in found.necks]
    return Found(table[found.areas], [n for n in necks if n.one != n.other or not n.closed])


def _shapes(areas: Areas, count: int) -> tuple[npt.NDArray[np.float64], ...]:
    """Of each area: width and length, px, as an even bar of its spread would have; its turn,
    degrees; its px."""
    y, x = np.nonzero(areas)
    of = areas[y, x] - 1
    px = np.maximum(np.bincount(of, minlength=count), 1).astype(float)
    mx, my = np.bincount(of, x, count) / px, np.bincount(of, y, count) / px
    dx, dy = x - mx[of], y - my[of]
    xx, yy, xy = (np.bincount(of, v, count) / px for v in (dx * dx, dy * dy, dx * dy))
    middle, apart = (xx + yy) / 2, np.hypot((xx - yy) / 2, xy)
    width = np.sqrt(12 * np.maximum(middle - apart, 1 / 12))
    turn = np.degrees(np.arctan2(2 * xy, xx - yy)) / 2
    return width, np.sqrt(12 * (middle + apart)), turn, px


def _groups(
    pairs: npt.NDArray[np.intp],
    length: npt.NDArray[np.intp],
    stripe: npt.NDArray[np.bool_],
    shapes: tuple[npt.NDArray[np.float64], ...],
) -> npt.NDArray[np.intp]:
    """Which tone each area would be of: stripes lie side by side, not end to end."""
    from scipy.sparse import coo_array
    from scipy.sparse.csgraph import connected_components

    a, b = pairs.T
    width, long, turn = shapes
    off = np.abs((turn[a] - turn[b] + 90) % 180 - 90)
    alike = stripe[a] & stripe[b] & (off <= _TURN_DEG)
    alike &= length >= _SIDE_BY_SIDE * np.minimum(long[a], long[b])
    alike &= np.maximum(width[a], width[b]) <= _TIMES * np.minimum(width[a], width[b])
    one, other = a[alike], b[alike]
    graph = coo_array((np.ones(len(one)), (one, other)), (len(stripe), len(stripe)))
    return np.asarray(connected_components(graph, directed=False)[1], np.intp)


def _take_scraps(
    owner: npt.NDArray[np.intp],
    toned: npt.NDArray[np.bool_],
    area: npt.NDArray[np.float64],
    pairs: npt.NDArray[np.intp],
    length: npt.NDArray[np.intp],
) -> None:
    """Give the small ends between stripes and an outline to the tone they lie along. In place."""
    count = len(owner)
    whole = np.bincount(pairs.reshape(-1), np.repeat(length, 2), count)
    for i in np.flatnonzero(~toned & (area <= _SCRAP_PX)).tolist():
        mine = (pairs == i).any(axis=1)
        others = pairs[mine].sum(axis=1) - i
        along = toned[others]
        px = length[mine]
        if px[along].sum() >= _AROUND * whole[i]:
            best = others[along][px[along].argmax()]
            owner[i] = owner[best]
