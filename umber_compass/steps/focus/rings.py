"""Where the focus is, as a few boxes: its parts that stand apart, the small ones left out."""

from typing import NamedTuple

import numpy as np

from umber_compass.steps.focus.attention import Attention
from umber_compass.steps.focus.lattice import Lattice
from umber_compass.work import Tick, idle

_JOINED = 0.035  # of the width, within which two parts are one
_LEAST = 0.2  # of the largest part; a smaller one has no ring
_MOST = 4


class Box(NamedTuple):
    """A box in shares of the picture's width and height."""

    left: float
    top: float
    right: float
    bottom: float


def rings_of(
    lattice: Lattice | None, seen: Attention | None, tick: Tick = idle
) -> tuple[Box, ...] | None:
    """The parts of the focus, the largest first; None until it is known."""
    if lattice is None or seen is None:
        return None
    from scipy.ndimage import find_objects, label  # slow to import, so only here

    tick(-1.0)
    inside = np.isin(lattice.label, seen.focus).reshape(lattice.shape)
    near = max(1, round(_JOINED * lattice.shape[1] / 2))
    wide = inside.copy()
    for axis in (0, 1):
        grown = wide.copy()
        for step in range(1, near + 1):
            ahead = [slice(None), slice(None)]
            behind = [slice(None), slice(None)]
            ahead[axis], behind[axis] = slice(step, None), slice(None, -step)
            grown[tuple(ahead)] |= wide[tuple(behind)]
            grown[tuple(behind)] |= wide[tuple(ahead)]
        wide = grown
    part, _ = label(wide)
    part = np.where(inside, part, 0)
    held = np.bincount(part.reshape(-1))
    held[0] = 0
    rows, columns = lattice.shape
    boxes = find_objects(part)
    order = [int(i) for i in np.argsort(-held) if held[i] >= _LEAST * max(int(held.max()), 1)]
    found = [boxes[i - 1] for i in order[:_MOST] if i and boxes[i - 1] is not None]
    return tuple(
        Box(x.start / columns, y.start / rows, x.stop / columns, y.stop / rows) for y, x in found
    )
