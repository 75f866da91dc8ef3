"""A smooth swelling over a shape: the solution of a Poisson equation, whose square root is the
height of a form (docs/light.md).

The shape's own silhouette holds the swelling at zero; where something in front covers it, and at
the picture's frame, the border is a mirror, so that nothing dents what is behind it.
"""

from typing import TypeAlias

import numpy as np
import numpy.typing as npt

Plane: TypeAlias = npt.NDArray[np.float32]  # (h, w)
State: TypeAlias = npt.NDArray[np.uint8]  # (h, w): BEHIND, INSIDE or FRONT

BEHIND, INSIDE, FRONT = 0, 1, 2
SOURCE = 4.0  # a disc of radius r then swells to r x r - d x d, whose root is a half ball
_COARSEST = 10  # px, the shorter side below which a box is not halved again
_DEEPEST = 7
# By level, the finest first: coarse sweeps cost little. With this relaxation normals lie within a
# degree of an exact solution on the shapes that tests/steps/test_light.py holds them to.
_SWEEPS = (6, 28, 40, 60, 80)
_NARROW = 600  # px-sweeps that a narrow level is given beyond those
_RELAX = 1.85


def swelling(state: State) -> Plane:
    """The swelling, (h, w), px squared, of the INSIDE pixels of a box; 0 elsewhere. The box has a
    rim of one px that tells what lies around. Cascadic multigrid (Bornemann & Deuflhard 1996):
    solved on the coarsest halving, then carried up and smoothed."""
    depth = min(_DEEPEST, max(0, int(np.log2(max(min(state.shape) / _COARSEST, 1)))))
    margin = 2**depth
    right = [(-n) % margin + margin for n in state.shape]
    padded = np.pad(state, ((margin, right[0]), (margin, right[1])), mode="edge")
    levels = [padded]
    for _ in range(depth):
        levels.append(_halved(levels[-1]))
    solved = np.zeros(levels[-1].shape, np.float32)
    for level in range(depth, -1, -1):
        if level < depth:
            solved = _mirrored(solved, levels[level + 1])
            solved = carried_up(carried_up(solved, 0), 1)
        # A narrow box settles in about as many sweeps as it is wide: the coarsest must, and where
        # half a cell is much of the width, the finer ones have more to mend.
        side = min(state.shape) / 2**level
        settled = 6 + int(1.5 * side)
        mending = _SWEEPS[min(level, len(_SWEEPS) - 1)] + int(_NARROW / side)
        sweeps = settled if level == depth else min(mending, settled)
        solved = _smoothed(solved, levels[level], 4.0**level, sweeps)
    height, width = state.shape
    return solved[margin : margin + height, margin : margin + width]


def is_held(state: State) -> bool:
    """Whether some of a shape's border is its own silhouette: without that nothing holds it."""
    inside, behind = state == INSIDE, state == BEHIND
    return bool(
        (inside[1:] & behind[:-1]).any()
        or (inside[:-1] & behind[1:]).any()
        or (inside[:, 1:] & behind[:, :-1]).any()
        or (inside[:, :-1] & behind[:, 1:]).any()
    )


def _halved(state: State) -> State:
    """Half the size: inside where two of four pixels are, else behind where any is."""
    four = [state[i::2, j::2] for i in (0, 1) for j in (0, 1)]
    inside = sum((f == INSIDE).astype(np.uint8) for f in four)
    behind = (four[0] == BEHIND) | (four[1] == BEHIND) | (four[2] == BEHIND) | (four[3] == BEHIND)
    rest = np.where(behind, np.uint8(BEHIND), np.uint8(FRONT))
    return np.where(np.asarray(inside) >= 2, np.uint8(INSIDE), rest)


def _mirrored(plane: Plane, state: State) -> Plane:
    """The plane carried on, eight neighbours wide, into what lies in front, as a mirror shows it:
    or the next finer level would begin with dents there."""
    inside = (state == INSIDE).astype(np.float32)
    total, count = np.zeros_like(plane), np.zeros_like(plane)
    for dy in (0, 1, 2):
        for dx in (0, 1, 2):
            here = np.s_[dy : dy + plane.shape[0] - 2, dx : dx + plane.shape[1] - 2]
            total[1:-1, 1:-1] += plane[here]
            count[1:-1, 1:-1] += inside[here]
    filled = (state == FRONT) & (count > 0)
    return np.where(filled, total / np.maximum(count, 1), plane)


def carried_up(plane: Plane, axis: int) -> Plane:
    """A plane at twice its size along an axis, joined linearly between the middles of its cells."""
    plane = np.moveaxis(plane, axis, 0)
    before = np.concatenate([plane[:1], plane[:-1]])
    after = np.concatenate([plane[1:], plane[-1:]])
    fine = np.empty((2 * plane.shape[0], *plane.shape[1:]), np.float32)
    fine[0::2] = 0.75 * plane + 0.25 * before
    fine[1::2] = 0.75 * plane + 0.25 * after
    return np.ascontiguousarray(np.moveaxis(fine, 0, axis))


def _smoothed(plane: Plane, state: State, cell: float, sweeps: int) -> Plane:
    """Red-black over-relaxation on cells of an area of `cell` px. A neighbour behind holds the
    border half a cell away at zero, hence its double weight; one in front does not count."""
    inside = (state == INSIDE)[1:-1, 1:-1]
    weight = np.zeros(inside.shape, np.float32)
    for near in _around(state):
        weight += (near == INSIDE) + np.float32(2) * (near == BEHIND)
    share = np.where(inside, _RELAX / np.maximum(weight, 1), 0).astype(np.float32)
    even = (np.add.outer(np.arange(inside.shape[0]), np.arange(inside.shape[1])) % 2).astype(bool)
    turns = [np.where(even == turn, share, np.float32(0)) for turn in (True, False)]
    parts = [(p, p * np.float32(SOURCE * cell), 1 - p * weight) for p in turns]
    out = np.where(state == INSIDE, plane, 0).astype(np.float32)
    middle = out[1:-1, 1:-1]
    total = np.empty(inside.shape, np.float32)
    for _ in range(sweeps):
        for part, source, kept in parts:
            up, down, left, right = _around(out)
            np.add(up, down, out=total)
            total += left
            total += right
            total *= part
            middle *= kept
            middle += total
            middle += source
    return out


def _around(plane: npt.NDArray[np.generic]) -> tuple[npt.NDArray[np.generic], ...]:
    """The four neighbours of every pixel but the rim's."""
    return plane[:-2, 1:-1], plane[2:, 1:-1], plane[1:-1, :-2], plane[1:-1, 2:]
