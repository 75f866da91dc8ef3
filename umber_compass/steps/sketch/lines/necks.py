"""Areas of line art, found from the widest places outward; where two meet, the neck between them is
judged: a gap in a line keeps them apart, a narrow place of one area does not."""

from collections.abc import Iterator
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.picture.mixes import Ints
from umber_compass.steps.sketch.lines.ink import Mask, Near
from umber_compass.steps.sketch.lines.tips import Gap, gap_at

Areas: TypeAlias = npt.NDArray[np.int32]  # (h, w), 0 where there is none

_LEVELS = (72, 49, 30, 16, 6, 0)  # px², distances to ink at which areas are looked for
_WIDER = 1.82  # times the neck's square that the smaller side's widest place must have
_LEAST_PX, _LEAST_PEAK = 60, 5.3  # an area smaller, or nowhere as far from ink (px²), is none
_LARGE_PX = 1200  # both sides of a doubtful neck have at least so many


class Neck(NamedTuple):
    """A narrow place between two areas, or within one that may be two."""

    gap: Gap
    one: int  # the areas on its sides; the same where they were joined
    other: int
    closed: bool  # whether the areas are kept apart here


class Found(NamedTuple):
    """Areas of line art and the necks that were judged."""

    areas: Areas
    necks: list[Neck]


class _Joined:
    """Which numbers stand for one area."""

    def __init__(self) -> None:
        self.parent = [0]

    def new(self) -> int:
        self.parent.append(len(self.parent))
        return len(self.parent) - 1

    def root(self, one: int) -> int:
        while self.parent[one] != one:
            self.parent[one] = self.parent[self.parent[one]]
            one = self.parent[one]
        return one

    def join(self, one: int, other: int) -> None:
        self.parent[max(self.root(one), self.root(other))] = min(self.root(one), self.root(other))

    def table(self) -> npt.NDArray[np.int32]:
        return np.array([self.root(i) for i in range(len(self.parent))], np.int32)


class _Finding:
    """The areas as they are while they grow."""

    def __init__(self, ink: Mask, near: Near, gap_px: float) -> None:
        self.ink, self.near, self.gap_px = ink, near, gap_px
        self.areas: Areas = np.zeros(ink.shape, np.int32)
        self.joined = _Joined()
        self.peak = [0.0]
        self.first: set[int] = set()
        self.seed: dict[int, int] = {}  # one px of each area, in the flat picture
        self.apart: dict[tuple[int, int], Neck] = {}
        self.doubtful: list[Neck] = []

    def level(self, least: int) -> None:
        """Grow to all that lies further from ink than this, px²."""
        from scipy.ndimage import find_objects, label

        there = self.near > least
        part, count = label(there)
        inside: dict[int, set[int]] = {}
        for area, place in self.seed.items():
            inside.setdefault(int(part.reshape(-1)[place]), set()).add(self.joined.root(area))
        number = np.zeros(count + 1, np.int32)
        for component, held in inside.items():
            if len(held) == 1:
                number[component] = next(iter(held))
        fresh = np.flatnonzero(there & (self.areas == 0))
        of = part.reshape(-1)[fresh].astype(np.intp)
        self._begin(of, fresh, number, set(inside), least)
        self.areas.reshape(-1)[fresh] = number[of]
        several = [i for i, held in inside.items() if len(held) > 1]
        boxes = find_objects(part) if several else []
        for component in several:
            box = (boxes[component - 1][0], boxes[component - 1][1])
            self._share(box, part[box] == component)

    def _begin(self, part: Ints, fresh: Ints, number: Areas, known: set[int], least: int) -> None:
        """Give a number to the parts in which no area began earlier."""
        first = np.full(len(number), -1, np.intp)
        first[part[::-1]] = fresh[::-1]
        near = self.near.reshape(-1)[fresh]
        peak = np.zeros(len(number))
        for level in np.unique(near):
            peak[part[near == level]] = level
        for component in np.flatnonzero(first >= 0).tolist():
            if component in known:
                continue
            number[component] = area = self.joined.new()
            self.seed[area] = int(first[component])
            self.peak.append(float(peak[component]))
            if least == _LEVELS[0]:
                self.first.add(area)

    def _share(self, box: tuple[slice, slice], mask: Mask) -> None:
        """Areas that meet in one part: each grows into what is free there; where two come together
        the widest place is judged."""
        areas = self.areas[box]
        own = np.where(mask, self.joined.table()[areas], -1)
        meeting: dict[tuple[int, int], list[tuple[int, int]]] = {}
        for a, b, at_a, at_b in _grown(own):
            one, other = self.joined.root(a), self.joined.root(b)
            if one != other:
                pair = (min(one, other), max(one, other))
                meeting.setdefault(pair, []).append((at_a, at_b))
        areas[mask] = own[mask]
        near, width = self.near[box], mask.shape[1]
        flat = near.reshape(-1)
        widest = []
        for pair, places in meeting.items():
            best = max(places, key=lambda two: min(flat[two[0]], flat[two[1]]))
            widest.append((float(min(flat[best[0]], flat[best[1]])), pair, best[0]))
        for saddle, pair, place in sorted(widest, reverse=True):
            y, x = divmod(int(place), width)
            self._judge(pair, (box[0].start + y, box[1].start + x), saddle)

    def _judge(self, pair: tuple[int, int], at: tuple[int, int], saddle: float) -> None:
        one, other = self.joined.root(pair[0]), self.joined.root(pair[1])
        if one == other or (one, other) in self.apart:
            return
        smaller = min(self.peak[one], self.peak[other])
        parted = smaller >= _WIDER * max(saddle, 1) or {one, other} <= self.first
        gap = gap_at(self.ink, at, self.gap_px) if parted else None
        if gap is not None and gap.is_tip:
            self.apart[one, other] = Neck(gap, one, other, True)
            return
        if gap is not None and {one, other} <= self.first:  # both sides are wide
            self.doubtful.append(Neck(gap, one, other, False))
        self._merge(one, other)

    def _merge(self, one: int, other: int) -> None:
        self.joined.join(one, other)
        kept = self.joined.root(one)
        self.peak[kept] = max(self.peak[one], self.peak[other])
        if {one, other} & self.first:
            self.first.add(kept)
        self.apart = {
            self._pair(neck.one, neck.other): neck
            for neck in self.apart.values()
            if self.joined.root(neck.one) != self.joined.root(neck.other)
        }

    def _pair(self, one: int, other: int) -> tuple[int, int]:
        a, b = self.joined.root(one), self.joined.root(other)
        return min(a, b), max(a, b)


def _grown(own: Areas) -> Iterator[tuple[int, int, int, int]]:
    """Let areas, (h, w) with 0 free and -1 closed, grow into what is free, one px at a time, in
    place; gives where two of them come together: both areas and both px."""
    height, width = own.shape
    framed = np.full((height + 2, width + 2), -1, np.int32)
    framed[1:-1, 1:-1] = own
    flat = framed.reshape(-1)
    steps = (1, -1, width + 2, -(width + 2))
    wide = width + 2
    free = np.flatnonzero(flat == 0)
    edge = np.concatenate([free + s for s in steps]) if len(free) else free
    front = np.unique(edge[flat[edge] > 0])
    while len(front):
        fresh: list[Ints] = []
        for step in steps:
            there = front + step
            now = flat[there]
            meets = (now > 0) & (now != flat[front])
            yield from _told(flat, front[meets], there[meets], wide)
            open_ = now == 0
            target, first = np.unique(there[open_], return_index=True)
            flat[target] = flat[front[open_][first]]
            fresh.append(target)
        front = np.concatenate(fresh)
    own[:] = framed[1:-1, 1:-1]


def _told(flat: Areas, a: Ints, b: Ints, wide: int) -> Iterator[tuple[int, int, int, int]]:
    def inner(at: Ints) -> Ints:
        y, x = np.divmod(at, wide)
        return np.asarray((y - 1) * (wide - 2) + x - 1)

    yield from zip(
        flat[a].tolist(), flat[b].tolist(), inner(a).tolist(), inner(b).tolist(), strict=True
    )


def find_areas(ink: Mask, near: Near, gap_px: float) -> Found:
    """The areas that lines enclose, (h, w) numbered from 1, 0 on ink and in what is too small; gaps
    up to so many px are closed where a line ends there."""
    finding = _Finding(ink, near, gap_px)
    for least in _LEVELS:
        finding.level(least)
    root = finding.joined.table()
    area = np.bincount(finding.areas.reshape(-1), minlength=len(root))
    size = np.bincount(root, area, len(root)).astype(float)
    peak = np.zeros(len(root))
    np.maximum.at(peak, root, np.array(finding.peak))
    good = (size >= _LEAST_PX) & (peak >= _LEAST_PEAK)
    good[0] = False
    number = np.where(good, np.cumsum(good), 0).astype(np.int32)
    return Found(number[root][finding.areas], list(_standing(finding, number, size)))


def _standing(finding: _Finding, number: Areas, size: npt.NDArray[np.float64]) -> Iterator[Neck]:
    """The necks that still part two areas, and those inside one that is large on both sides."""
    for neck in finding.apart.values():
        one, other = (int(number[finding.joined.root(n)]) for n in (neck.one, neck.other))
        if one and other and one != other:
            yield neck._replace(one=one, other=other)
    for neck in finding.doubtful:
        root = finding.joined.root(neck.one)
        if number[root] and size[root] >= 2 * _LARGE_PX:
            yield neck._replace(one=int(number[root]), other=int(number[root]))


def grow_into(parts: Areas, where: Mask) -> Areas:
    """Parts, (h, w) numbered from 0, -1 where there is none, grown over what is free of a mask."""
    if not ((parts < 0) & where).any():
        return parts
    own = np.where(parts >= 0, parts + 1, np.where(where, 0, -1)).astype(np.int32)
    for _ in _grown(own):
        pass
    return np.asarray(np.where(own > 0, own - 1, -1), np.int32)
