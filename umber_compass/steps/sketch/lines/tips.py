"""A narrow place between lines: how wide it is, and whether a line ends there."""

from typing import NamedTuple

import numpy as np

from umber_compass.steps.sketch.lines.ink import Mask

_OPPOSITE = -0.34  # cosine between the two sides, at most
_RIMS = (6, 9)  # px round an ink point at which a line is looked for
_MOST_RUN_DEG = 125.0  # of the rim that an ended line may hold
_SPOTS = 72  # looked at along the rim


class Gap(NamedTuple):
    """Two ink points with free px between them, and whether one is a line's end."""

    x0: float
    y0: float
    x1: float
    y1: float
    is_tip: bool

    @property
    def width(self) -> float:
        """px"""
        return float(np.hypot(self.x1 - self.x0, self.y1 - self.y0))


def gap_at(ink: Mask, at: tuple[int, int], most_px: float) -> Gap | None:
    """The gap at a place (y, x): the nearest ink on two opposite sides; None where it is wider."""
    reach = int(np.ceil(most_px))
    top, left = at[0] - reach, at[1] - reach
    window = _window(ink, top, left, 2 * reach + 1)
    y, x = np.nonzero(window)
    if not len(y):
        return None
    dy, dx = y - reach, x - reach
    far = np.hypot(dy, dx)
    order = np.argsort(far, kind="stable")
    y, x, dy, dx, far = y[order], x[order], dy[order], dx[order], np.maximum(far[order], 0.5)
    cosine = (dy * dy[0] + dx * dx[0]) / (far * far[0])
    opposite = np.flatnonzero(cosine < _OPPOSITE)
    if not len(opposite):
        return None
    k = opposite[0]
    gap = Gap(float(left + x[0]), float(top + y[0]), float(left + x[k]), float(top + y[k]), False)
    if gap.width > most_px:
        return None
    sides = ((gap.y0, gap.x0), (gap.y1, gap.x1))
    return gap._replace(is_tip=any(_is_tip(ink, int(v), int(u)) for v, u in sides))


def _window(ink: Mask, top: int, left: int, size: int) -> Mask:
    """A square of the ink; what lies outside the picture is ink."""
    height, width = ink.shape
    found = np.ones((size, size), bool)
    y0, x0 = max(top, 0), max(left, 0)
    y1, x1 = min(top + size, height), min(left + size, width)
    if y1 > y0 and x1 > x0:
        found[y0 - top : y1 - top, x0 - left : x1 - left] = ink[y0:y1, x0:x1]
    return found


def _is_tip(ink: Mask, y: int, x: int) -> bool:
    """Whether a line ends at an ink point: of the ink that hangs together with it nearby, one run
    leaves, and no wide one."""
    from scipy.ndimage import label

    for radius in _RIMS:
        size = 2 * radius + 3
        window = _window(ink, y - radius - 1, x - radius - 1, size)
        rows, columns = np.indices(window.shape) - (radius + 1)
        window &= np.hypot(rows, columns) <= radius + 0.7
        part, _ = label(window, np.ones((3, 3)))
        own = part[radius + 1, radius + 1]
        if not own:
            continue
        turn = np.arange(_SPOTS) * 2 * np.pi / _SPOTS
        at = (np.round(radius * np.sin(turn)) + radius + 1).astype(int)
        across = (np.round(radius * np.cos(turn)) + radius + 1).astype(int)
        held = part[at, across] == own
        begins = held & ~np.roll(held, 1)
        if begins.sum() == 1 and held.sum() * 360 / _SPOTS <= _MOST_RUN_DEG:
            return True
    return False
