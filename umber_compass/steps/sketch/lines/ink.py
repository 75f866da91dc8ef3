"""Which px of line art are ink, and how far the others lie from it."""

from typing import TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.steps.sketch.lines.paper import Dark, Grey, darkness

Mask: TypeAlias = npt.NDArray[np.bool_]
Near: TypeAlias = npt.NDArray[np.uint8]  # (h, w) squared distance to the nearest ink, capped, px²

CAP = 9  # px; further off nothing is a gap
CAPPED = CAP * CAP
_DARKER = 0.35  # of what parts paper from ink, by which a px must be darker than paper
_WEAK, _OVER_GRAIN = 0.2, 5.0  # the same where a line goes on weakly; times the paper's grain
_PAPER = 0.18  # up to which a px is paper
_WEAK_PX = 4  # of a weak place, at least


def ink_of(grey: Grey) -> Mask | None:
    """Which px are ink, (h, w), of a drawing dark on light; None where nothing parts from the
    paper."""
    dark = darkness(grey)
    return None if dark is None else inked(dark)


def inked(dark: Dark) -> Mask:
    """Which px are ink, (h, w), by how dark they are: those that are clearly darker than paper,
    and the weak places that go on from them, as where a pen runs dry."""
    strong = np.asarray(dark > _DARKER)
    paper = dark[::3, ::3]
    paper = paper[paper < _PAPER]
    grain = 1.48 * float(np.median(np.abs(paper - np.median(paper)))) if len(paper) else 0.0
    weak = dark > max(_WEAK, _OVER_GRAIN * grain)
    # The soft sides of a strong line are no weak line.
    weak &= ~_widened(strong)
    if not weak.any():
        return strong
    from scipy.ndimage import label

    part, count = label(weak, np.ones((3, 3)))
    goes_on = np.zeros(count + 1, bool)
    goes_on[np.unique(part[_widened(_widened(strong))])] = True
    goes_on[0] = False
    goes_on &= np.bincount(part.reshape(-1)) >= _WEAK_PX
    return np.asarray(strong | goes_on[part])


def _widened(mask: Mask) -> Mask:
    """A mask with the eight px round each of its own."""
    found = mask.copy()
    found[1:] |= mask[:-1]
    found[:-1] |= mask[1:]
    across = found.copy()
    found[:, 1:] |= across[:, :-1]
    found[:, :-1] |= across[:, 1:]
    return found


def distance_to(ink: Mask) -> Near:
    """Squared distance of every px to the nearest ink, px², at most `CAPPED`; the frame of the
    picture is ink. Exact (down the columns, then along the rows)."""
    height, width = ink.shape
    down = np.full((height + 2 * CAP, width), CAP, np.uint8)
    inner = down[CAP : CAP + height]
    inner[ink] = 0
    down[CAP - 1] = down[CAP + height] = 0
    for k in range(1, CAP):
        # A px one further than one that is k - 1 away.
        near = down == k - 1
        for side in (slice(None, -1), slice(1, None)):
            other = slice(1, None) if side == slice(None, -1) else slice(None, -1)
            at = near[other] & (down[side] > k)
            down[side][at] = k
    square = (np.minimum(inner, CAP).astype(np.uint8)) ** 2
    wide = np.full((height, width + 2 * CAP), CAPPED, np.uint8)
    wide[:, CAP : CAP + width] = square
    wide[:, CAP - 1] = wide[:, CAP + width] = 0
    found = square.copy()
    for k in range(1, CAP + 1):
        for start in (CAP - k, CAP + k):
            part = wide[:, start : start + width]
            reach = np.minimum(part, CAPPED - k * k) + np.uint8(k * k)
            np.minimum(found, reach, out=found)
    return found
