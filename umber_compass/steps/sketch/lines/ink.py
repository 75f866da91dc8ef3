"""Which px of line art are ink, and how far the others lie from it."""

from typing import TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import CLEAR, Packed, unpack

Mask: TypeAlias = npt.NDArray[np.bool_]
Near: TypeAlias = npt.NDArray[np.uint8]  # (h, w) squared distance to the nearest ink, capped, px²

CAP = 9  # px; further off nothing is a gap
CAPPED = CAP * CAP
_DARKER = 0.35  # of what parts paper from ink, by which a px must be darker than paper
_LEAST_PARTED = 40  # levels between paper and ink, under which there are no lines
_EVERY = 7  # px, looked at for paper and ink


def grey_of(packed: Packed) -> npt.NDArray[np.uint8]:
    """A picture, (h, w) 0x00RRGGBB, as one level a px; what is clear is paper."""
    rgb = unpack(packed).astype(np.uint16)
    grey = ((rgb[..., 0] * 54 + rgb[..., 1] * 183 + rgb[..., 2] * 19) >> 8).astype(np.uint8)
    grey[packed == CLEAR] = 255
    return grey


def ink_of(grey: npt.NDArray[np.uint8]) -> Mask | None:
    """Which px are ink, (h, w); None where nothing parts from the paper."""
    paper, dark = np.percentile(grey.reshape(-1)[::_EVERY], (90, 1))
    if paper - dark < _LEAST_PARTED:
        dark = float(grey.min())
        if paper - dark < _LEAST_PARTED:
            return None
    return np.asarray(grey < paper - _DARKER * (paper - dark))


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
