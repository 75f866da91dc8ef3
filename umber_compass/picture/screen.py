"""Light brought into what a screen shows: one smooth shoulder below white, and no clipping."""

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt

from umber_compass.colour.edge import toward_grey
from umber_compass.colour.spaces import LUMINANCE
from umber_compass.picture.ways import Planar, Row

SHOULDER = 0.8  # luminance, L* 91.7, from which more light gives ever less (studio rule)
_LUMINANCE = LUMINANCE.astype(np.float32)


def luminance_of(rows: Sequence[Row] | npt.NDArray[np.float32]) -> Row:
    """Relative luminance, (n,), of three rows of linear light."""
    found: Row = rows[0] * _LUMINANCE[0]
    found += rows[1] * _LUMINANCE[1]
    found += rows[2] * _LUMINANCE[2]
    return found


def fitted(out: Planar) -> Planar:
    """Linear light, (3, n), brought into what the screen shows. Light beyond the shoulder gives
    way smoothly, so that white is never reached by a step; colours too strong for the screen lose
    chroma at their OKLCh hue, so that value is exact and the hue stays. In place."""
    top = np.maximum(np.maximum(out[0], out[1]), out[2])
    near = np.flatnonzero(top > SHOULDER)
    if len(near):
        # Most of these are bright in one channel only: neither white nor beyond the screen.
        lum = luminance_of([np.take(row, near, mode="clip") for row in out])
        some = np.flatnonzero((lum > SHOULDER) | (np.take(top, near, mode="clip") > 1))
        over, lum = near[some], lum[some]
        parts = [np.take(row, over, mode="clip") for row in out]
        kept = shouldered(lum)
        scale = kept / np.maximum(lum, np.float32(1e-6))
        for part in parts:
            part *= scale
        beyond = np.flatnonzero(np.take(top, over, mode="clip") * scale > 1)
        if len(beyond):
            inside = toward_grey(np.stack([p[beyond] for p in parts]), kept[beyond])
            for part, row in zip(parts, inside, strict=True):
                part[beyond] = row
        for row, part in zip(out, parts, strict=True):
            row[over] = part
    return out


def eased(out: Planar) -> Planar:
    """The same, quickly, of colours that the screen shows but for some light that was added: what
    is too strong goes straight toward grey, which keeps value and nearly the hue. In place."""
    top = np.maximum(np.maximum(out[0], out[1]), out[2])
    over = np.flatnonzero(top > 1)
    if len(over):
        parts = np.take(out, over, axis=1, mode="clip")
        lum = luminance_of(parts)
        kept = np.minimum(shouldered(lum), 1)
        parts *= kept / np.maximum(lum, np.float32(1e-6))
        share = (1 - kept) / np.maximum(parts.max(axis=0) - kept, np.float32(1e-6))
        parts -= kept
        parts *= np.minimum(share, 1)
        parts += kept
        out[:, over] = np.minimum(parts, 1)
    return out


def shouldered(lum: Row) -> Row:
    """Luminance as it is up to the shoulder, and beyond it ever less of it, up to white."""
    found = lum.copy()
    over = lum > SHOULDER
    if over.any():
        beyond = (lum[over] - lum.dtype.type(SHOULDER)) * lum.dtype.type(1 / (1 - SHOULDER))
        found[over] = 1 - lum.dtype.type(1 - SHOULDER) * np.exp(-beyond)
    return found
