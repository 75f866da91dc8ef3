"""What hands do to the px of regions: merge, split, give to a neighbour. Label maps in, label maps
out; the old one stays as it was."""

from collections.abc import Sequence
from itertools import pairwise
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.picture.adjacency import touching_pairs
from umber_compass.picture.mixes import Labels
from umber_compass.steps.sketch.joining import connected_parts
from umber_compass.words import Refusal, words

SPECK_PX = 30  # a part smaller than this is a speck (studio rule, docs/sketch.md)
_MOST_PARTS = 200
Point = tuple[float, float]  # x, y in px of the sketch


class Parted(NamedTuple):
    """Labels after a split, and the new ones, largest first; what is left keeps the old label."""

    labels: Labels
    fresh: tuple[int, ...]


def merged(labels: Labels, into: int, others: Sequence[int]) -> Labels:
    """Some labels given to one."""
    number = np.arange(int(labels.max(initial=0)) + 1, dtype=np.uint16)
    number[list(others)] = into
    return np.asarray(number[labels])


def split_parts(labels: Labels, label: int, least_px: int = SPECK_PX) -> Parted:
    """A label split into its connected parts; those that are specks stay with the nearest large
    one. Raises Refusal if it hangs together."""
    box, inside = _box_of(labels, label)
    part, count = connected_parts(np.where(inside, 1, 0))
    part = np.where(inside, part, -1)
    size = np.bincount(part[inside], minlength=count)
    large = [i for i in np.argsort(-size, kind="stable").tolist() if size[i] >= least_px]
    if len(large) < 2:
        line = words("hangs together; draw a line through it to split it")
        raise Refusal("the region", line)
    return _given(labels, box, part, large[:_MOST_PARTS], inside, label)


def split_by_line(labels: Labels, label: int, line: Sequence[Point]) -> Parted:
    """A label split along a drawn line; the line's ends are carried on to the region's edge. Raises
    Refusal if it does not go through."""
    box, inside = _box_of(labels, label)
    side = _cut(inside, [(x - box[1].start, y - box[0].start) for x, y in line])
    part, count = connected_parts(np.where(inside & ~side, 1, 0))
    part = np.where(inside & ~side, part, -1)
    size = np.bincount(part[part >= 0], minlength=count)
    was, _ = connected_parts(np.where(inside, 1, 0))
    touched = set(np.unique(was[side & inside]).tolist())
    # What was apart before stays one: only what the line went through is parted.
    groups: dict[int, list[int]] = {}
    for i in np.flatnonzero(size >= SPECK_PX).tolist():
        groups.setdefault(int(was[part == i][0]), []).append(i)
    cut = [i for w in touched for i in groups.get(w, [])]
    if len(cut) < 2:
        text = words("is not split by that line; draw it from one edge of the region to another")
        raise Refusal("the region", text)
    cut.sort(key=lambda i: -int(size[i]))
    first = part == cut[0]
    rest = inside & ~np.isin(part, cut)
    part = np.where(rest & ~side, cut[0], part)
    part[first] = cut[0]
    return _given(labels, box, part, cut[:_MOST_PARTS], inside, label)


def _box_of(labels: Labels, label: int) -> tuple[tuple[slice, slice], npt.NDArray[np.bool_]]:
    rows = np.flatnonzero((labels == label).any(axis=1))
    if not len(rows):
        raise Refusal("the region", words("holds no px; merge it into another"))
    band = labels[rows[0] : rows[-1] + 1] == label
    columns = np.flatnonzero(band.any(axis=0))
    box = (slice(int(rows[0]), int(rows[-1]) + 1), slice(int(columns[0]), int(columns[-1]) + 1))
    return box, labels[box] == label


def _given(
    labels: Labels,
    box: tuple[slice, slice],
    part: npt.NDArray[np.integer],
    kept: list[int],
    inside: npt.NDArray[np.bool_],
    label: int,
) -> Parted:
    """The parts that are kept as labels, the first the old one; what is none of them goes to the
    nearest."""
    from scipy.ndimage import distance_transform_edt

    rank = np.full(int(part.max()) + 2, -1, np.intp)  # the last for -1
    rank[kept] = np.arange(len(kept))
    own = rank[part]
    v, u = distance_transform_edt(own < 0, return_distances=False, return_indices=True)
    own = own[v, u]
    begin = int(labels.max(initial=0))
    if begin + len(kept) - 1 > np.iinfo(np.uint16).max:
        raise Refusal("the region", words("cannot be split: there are too many regions"))
    number = np.array([label, *range(begin + 1, begin + len(kept))], np.uint16)
    found = labels.copy()
    found[box][inside] = number[own[inside]]
    return Parted(found, tuple(int(n) for n in number[1:]))


def _cut(inside: npt.NDArray[np.bool_], line: Sequence[Point]) -> npt.NDArray[np.bool_]:
    """The px a line goes through, (h, w), both of its ends carried on over what is inside."""
    points = [np.array(p, float) for p in line]
    if len(points) < 2 or max(np.hypot(*(p - points[0])) for p in points) < 2:
        raise Refusal("the line", words("is too short; draw it across the region"))
    far = float(sum(inside.shape))
    cut = np.zeros(inside.shape, bool)
    for a, b in pairwise(points):
        _mark(cut, a, b)
    for end, before in ((points[0], _away(points)), (points[-1], _away(points[::-1]))):
        way = end - before
        way /= max(float(np.hypot(*way)), 1e-6)
        _carry(cut, inside, end, way, far)
    return cut


def _away(points: list[npt.NDArray[np.float64]]) -> npt.NDArray[np.float64]:
    """A point of a line some px from its first: which way it comes from."""
    return next((p for p in points if np.hypot(*(p - points[0])) >= 6), points[-1])


def _mark(
    cut: npt.NDArray[np.bool_], a: npt.NDArray[np.float64], b: npt.NDArray[np.float64]
) -> None:
    count = int(np.hypot(*(b - a)) * 2) + 2
    for x, y in np.linspace(a, b, count):
        # Two px wide, so that nothing passes corner to corner.
        for dy in (0, 1):
            for dx in (0, 1):
                v, u = int(y) + dy, int(x) + dx
                if 0 <= v < cut.shape[0] and 0 <= u < cut.shape[1]:
                    cut[v, u] = True


def _carry(
    cut: npt.NDArray[np.bool_],
    inside: npt.NDArray[np.bool_],
    end: npt.NDArray[np.float64],
    way: npt.NDArray[np.float64],
    far: float,
) -> None:
    """Carry a line on while it is inside the region."""
    at = end.copy()
    for _ in range(int(far)):
        v, u = int(at[1]), int(at[0])
        if not (0 <= v < cut.shape[0] and 0 <= u < cut.shape[1]) or not inside[v, u]:
            return
        _mark(cut, at, at)
        at += way


def without_specks(
    labels: Labels, only: Sequence[int] | None = None, least_px: int = SPECK_PX
) -> tuple[Labels, int]:
    """Parts smaller than this given to the neighbour they touch most, of all labels or of some; and
    how many there were."""
    part, count = connected_parts(labels)
    flat, own = part.reshape(-1), labels.reshape(-1)
    size = np.bincount(flat, minlength=count)
    label = np.zeros(count, np.uint16)
    label[flat] = own
    small = (size < least_px) & (label > 0)
    if only is not None:
        small &= np.isin(label, list(only))
    # A label that has nothing but specks stays, or the region would be gone.
    whole = np.bincount(label, np.where(small, 0, size), int(label.max()) + 1)
    small &= whole[label] > 0
    if not small.any():
        return labels, 0
    touch: dict[int, dict[int, int]] = {}
    pairs, px = touching_pairs(part)
    for way in (pairs, pairs[:, ::-1]):
        at = small[way[:, 0]] & ~small[way[:, 1]]
        for (i, j), n in zip(way[at].tolist(), px[at].tolist(), strict=True):
            beside = touch.setdefault(i, {})
            beside[int(label[j])] = beside.get(int(label[j]), 0) + n
    given = label.copy()
    done = 0
    for i, beside in touch.items():
        beside.pop(0, None)
        if beside:
            given[i] = max(beside, key=lambda k: beside[k])
            done += 1
    return given[part], done


def reassigned(labels: Labels, place: Point, to: int) -> Labels:
    """The part of a region that lies at a place given to another label. Raises Refusal if the place
    is none, or the region would be gone."""
    height, width = labels.shape
    x, y = int(place[0]), int(place[1])
    if not (0 <= x < width and 0 <= y < height) or not labels[y, x]:
        raise Refusal("the place", words("lies on no region; click on one"))
    label = int(labels[y, x])
    if label == to:
        raise Refusal("the part", words("is already of that region"))
    box, inside = _box_of(labels, label)
    part, _ = connected_parts(np.where(inside, 1, 0))
    mine = inside & (part == part[y - box[0].start, x - box[1].start])
    if mine.sum() == inside.sum():
        raise Refusal("the part", words("is all of its region; merge the two instead"))
    found = labels.copy()
    found[box][mine] = to
    return found


def label_between(labels: Labels, a: Point, b: Point) -> int:
    """The label in the middle between two places."""
    height, width = labels.shape
    x, y = (a[0] + b[0]) / 2, (a[1] + b[1]) / 2
    return int(labels[min(max(int(y), 0), height - 1), min(max(int(x), 0), width - 1)])


def sides_of(labels: Labels, a: Point, b: Point) -> set[int]:
    """The labels on both sides of the line between two places, some px off it."""
    height, width = labels.shape
    x, y = (a[0] + b[0]) / 2, (a[1] + b[1]) / 2
    dx, dy = b[0] - a[0], b[1] - a[1]
    length = max(float(np.hypot(dx, dy)), 1.0)
    found = set()
    for side in (-1, 1):
        for far in (4, 7, 10):
            u, v = int(x - side * far * dy / length), int(y + side * far * dx / length)
            if 0 <= v < height and 0 <= u < width:
                found.add(int(labels[v, u]))
    return found


def lines_by_material(labels: Labels, line: int, least_px: int = SPECK_PX) -> dict[int, int]:
    """Not yet numbered: which regions lines lie along, by label, and how many px of line each
    has."""
    own = nearest_of(labels, line)
    held = np.bincount(own[labels == line])
    return {i: int(n) for i, n in enumerate(held.tolist()) if i and n >= least_px}


def nearest_of(labels: Labels, line: int) -> Labels:
    """Labels, (h, w), in which the px of lines have that of the nearest region."""
    from scipy.ndimage import distance_transform_edt

    away = (labels == line) | (labels == 0)
    v, u = distance_transform_edt(away, return_distances=False, return_indices=True)
    return np.asarray(labels[v, u])
