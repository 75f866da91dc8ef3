"""What happens to colours where light turns to shade: they gain in saturation, and may take a tint.
On round forms alone: a flat wall that the key grazes is not flooded."""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import Floats, luminance
from umber_compass.picture.light import DARK, Lights, Turned
from umber_compass.picture.screen import luminance_of
from umber_compass.picture.ways import WAYS, Planar, Row

_LEAST_TINT = 1 / 48  # a share below it changes next to nothing
_LEAST_LACKING = 1e-6
_MOST_SCALE = 3.0  # by which a tinted colour is lifted to its luminance; the rest is added


class Tint(NamedTuple):
    """What is done to colours where light turns: which places it reaches, what it multiplies the
    three channels there by, and how much they gain in saturation."""

    at: npt.NDArray[np.intp]  # (k,)
    factor: Planar | None  # (3, k)
    colour: Floats  # (3,), of luminance 1
    sharper: Row | None  # (k,)


def tinting(cosine: Row, lights: Lights, turned: Turned | None = None) -> Tint | None:
    """What is done at N.L of the key (n,), on round forms; None where nothing is."""
    sharper = WAYS[lights.way].sharper if luminance(lights.key.light) > DARK else 0.0
    most = max(lights.tint_share, sharper)
    if most <= 0:
        return None
    near = cosine * np.float32(1 / lights.band)
    near *= near
    # Far off the bell is nothing; most places are never asked for it.
    least = near < np.float32(np.log(max(most / _LEAST_TINT, 1.0)))
    at = np.flatnonzero(least if turned is None else least & turned)
    bell = np.exp(-near[at])
    factor = None
    if lights.tint_share > 0:
        share = bell * np.float32(lights.tint_share)
        factor = np.asarray(1 + share * (lights.tint - 1).astype(np.float32)[:, None], np.float32)
    return Tint(at, factor, lights.tint, bell * np.float32(sharper) if sharper else None)


def tinted(out: Planar, tint: Tint | None) -> Planar:
    """Lit colours, linear (3, n), turned toward the terminator's tint, and more saturated. The
    luminance stays what it was, and what a colour has nothing of to be multiplied is added. In
    place."""
    if tint is None or not len(tint.at):
        return out
    parts = np.take(out, tint.at, axis=1, mode="clip")
    before = luminance_of(parts)
    if tint.sharper is not None:
        apart = np.maximum(parts, np.float32(1e-6)) / np.maximum(before, np.float32(1e-6))
        parts *= np.exp(np.log(np.clip(apart, 1e-3, 8)) * tint.sharper)
    if tint.factor is not None:
        parts *= tint.factor
    after = luminance_of(parts)
    scale = np.minimum(before / np.maximum(after, np.float32(1e-9)), np.float32(_MOST_SCALE))
    lacking = np.maximum(before - after * scale, 0)
    parts *= scale
    some = bool((lacking > _LEAST_LACKING).any())
    for i, (row, part) in enumerate(zip(out, parts, strict=True)):
        row[tint.at] = part + lacking * np.float32(tint.colour[i]) if some else part
    return out
