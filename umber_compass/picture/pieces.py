"""The connected pieces of a sketch's regions, as if no lines lay over them: what can be told apart
when a colour is used in several places, what touches what, and what encloses what."""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.picture.adjacency import touching_pairs
from umber_compass.picture.mixes import Ints, Labels

SPRITE_PX = 128  # a picture smaller than this is a sprite
WIDE = 640  # px, the longer side at which pieces are found
_LEAST = 0.0001  # share of the picture from which a piece may enclose another

Numbers = npt.NDArray[np.int32]


class Pieces(NamedTuple):
    """Connected pieces, numbered from 1; 0 where nothing is painted."""

    scale: int  # px of the picture for one here
    number: Numbers  # (h, w)
    label: Ints  # (pieces + 1,) the region's
    area: Ints  # (pieces + 1,) px here
    box: Ints  # (pieces + 1, 4) left, top, right, bottom, px here; the last two one past the end
    inside: Ints  # (pieces + 1,) the piece that encloses it; 0 where none does
    pairs: Ints  # (n, 2) pieces that touch
    length: Ints  # (n,) px here of their border
    framed: Ints  # (pieces + 1,) px here that lie on the picture's frame

    def at(self, x: float, y: float) -> int:
        """The piece at a place, shares of width and height; 0 where nothing is painted."""
        height, width = self.number.shape
        column = min(max(int(x * width), 0), width - 1)
        return int(self.number[min(max(int(y * height), 0), height - 1), column])

    def place(self, piece: int) -> tuple[float, float]:
        """A place well inside a piece, shares of width and height."""
        from scipy.ndimage import distance_transform_edt  # costs 0.3 s, so only where it is used

        left, top, right, bottom = self.box[piece]
        own = np.pad(self.number[top:bottom, left:right] == piece, 1)
        row, column = np.unravel_index(int(distance_transform_edt(own).argmax()), own.shape)
        height, width = self.number.shape
        across, down = (left + column - 0.5) / width, (top + row - 0.5) / height
        return min(max(float(across), 0.0), 1.0), min(max(float(down), 0.0), 1.0)


def without_lines(labels: Labels, lines: frozenset[int] | set[int]) -> Labels:
    """Labels, (h, w), in which each px of a line belongs to the nearest region that is none. The
    same array where there are no lines, or nothing else."""
    is_line = np.zeros(int(labels.max(initial=0)) + 1, bool)
    is_line[[n for n in lines if n < len(is_line)]] = True
    covered = is_line[labels]
    if not covered.any() or (covered | (labels == 0)).all():
        return labels
    from scipy.ndimage import distance_transform_edt

    row, column = distance_transform_edt(
        covered | (labels == 0), return_distances=False, return_indices=True
    )
    return np.where(covered, labels[row, column], labels)


def pieces_of(labels: Labels, lines: frozenset[int]) -> Pieces:
    """The pieces of a sketch, (h, w); `lines` are the labels of lines, which part nothing."""
    scale = max(1, round(max(labels.shape) / WIDE))
    small = without_lines(labels[scale // 2 :: scale, scale // 2 :: scale], lines)
    number = _numbered(small)
    count = int(number.max(initial=0)) + 1
    flat = number.reshape(-1)
    area = np.bincount(flat, minlength=count)
    label = np.zeros(count, np.intp)
    label[flat] = small.reshape(-1)
    label[0] = 0
    pairs, length = touching_pairs(number)
    if max(labels.shape) < SPRITE_PX:
        pairs, length = _with_corners(number, pairs, length)
    painted = (pairs > 0).all(axis=1)
    pairs, length = pairs[painted].astype(np.intp), length[painted].astype(np.intp)
    edge = np.concatenate([number[0], number[-1], number[:, 0], number[:, -1]])
    framed = np.bincount(edge, minlength=count)
    return Pieces(
        scale,
        number,
        label,
        area,
        _boxes(number, count),
        _enclosing(pairs, length, framed, area),
        pairs,
        length,
        framed,
    )


def _numbered(labels: Labels) -> Numbers:
    """Connected px of one label under one number, from 1; 0 where nothing is painted."""
    from scipy.sparse import coo_array
    from scipy.sparse.csgraph import connected_components

    place = np.arange(labels.size).reshape(labels.shape)
    across, down = labels[:, 1:] == labels[:, :-1], labels[1:] == labels[:-1]
    one = np.concatenate([place[:, 1:][across], place[1:][down]])
    other = np.concatenate([place[:, :-1][across], place[:-1][down]])
    links = coo_array((np.ones(len(one), bool), (one, other)), shape=(labels.size, labels.size))
    _, part = connected_components(links.tocsr(), directed=False)
    part[labels.reshape(-1) == 0] = -1
    _, dense = np.unique(part, return_inverse=True)
    found = dense.reshape(labels.shape).astype(np.int32)
    return found if (labels == 0).any() else found + np.int32(1)


def _with_corners(number: Numbers, pairs: Ints, length: Ints) -> tuple[Ints, Ints]:
    """The pieces that touch, and those that touch at a corner only: in a sprite those hold
    together too."""
    wide = number.max() + 1
    keys = [pairs[:, 0] * wide + pairs[:, 1]]
    for a, b in ((number[1:, 1:], number[:-1, :-1]), (number[1:, :-1], number[:-1, 1:])):
        apart = a != b
        low, high = np.minimum(a, b)[apart], np.maximum(a, b)[apart]
        keys.append(low.astype(np.int64) * wide + high)
    key, first = np.unique(np.concatenate(keys), return_index=True)
    both = np.stack(np.divmod(key, wide), axis=-1)
    known = first < len(pairs)
    found = np.ones(len(key), np.intp)
    found[known] = length[first[known]]
    return both.astype(np.intp), found


def _boxes(number: Numbers, count: int) -> Ints:
    from scipy.ndimage import find_objects

    found = np.zeros((count, 4), np.intp)
    for i, box in enumerate(find_objects(number, count - 1)):
        if box is not None:
            found[i + 1] = box[1].start, box[0].start, box[1].stop, box[0].stop
    return found


def _enclosing(pairs: Ints, length: Ints, framed: Ints, area: Ints) -> Ints:
    """Which piece encloses each: the last that every way from the frame to it leads through, its
    immediate dominator in the graph of pieces that touch (Cooper, Harvey & Kennedy 2001). A piece
    too small to enclose anything lies in what it touches most."""
    count = len(area)
    near: list[list[int]] = [[] for _ in range(count)]
    large = area >= max(4, _LEAST * area.sum())
    for a, b in pairs[large[pairs].all(axis=1)].tolist():
        near[a].append(b)
        near[b].append(a)
    for piece in np.flatnonzero((framed > 0) & large).tolist():
        if piece:
            near[0].append(piece)
            near[piece].append(0)
    found = np.zeros(count, np.intp)
    for piece, over in _dominators(near).items():
        found[piece] = over
    longest = np.zeros(count, np.intp)
    for at in np.argsort(length, kind="stable"):
        a, b = pairs[at]
        longest[a], longest[b] = b, a
    small = np.flatnonzero(~large & (framed == 0))
    found[small] = np.where(area[longest[small]] > area[small], longest[small], 0)
    return found


def _dominators(near: list[list[int]]) -> dict[int, int]:
    """The immediate dominator of every node that is reached from node 0, 0 itself left out."""
    order, seen = [0], {0}
    for node in order:  # breadth first: it grows while it is gone through
        for other in near[node]:
            if other not in seen:
                seen.add(other)
                order.append(other)
    rank = {node: i for i, node in enumerate(order)}
    over = {0: 0}
    changed = True
    while changed:
        changed = False
        for node in order[1:]:
            known = [n for n in near[node] if n in over]
            best = known[0]
            for other in known[1:]:
                best = _common(best, other, over, rank)
            if over.get(node) != best:
                over[node] = best
                changed = True
    del over[0]
    return over


def _common(one: int, other: int, over: dict[int, int], rank: dict[int, int]) -> int:
    while one != other:
        while rank[one] > rank[other]:
            one = over[one]
        while rank[other] > rank[one]:
            other = over[other]
    return one
