"""The few colours a picture is made of: k-means on a histogram of OKLab, after Lloyd 1982."""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.packed import PackedRow, unpack
from umber_compass.colour.spaces import (
    Floats,
    decode,
    encode,
    oklab,
    oklab_to_linear,
    to_bytes,
    value,
)
from umber_compass.picture.mixes import Ints

_BINS = 32  # a side of the histogram, in encoded levels
_MOST, _STARTS, _ROUNDS = 12, 3, 16
_NEAR = 0.035  # OKLab, within which two colours are one


class PictureColour(NamedTuple):
    """One colour of a picture."""

    lab: Floats  # (3,) OKLab
    hex: str
    value: float  # L*
    share: float  # of the picture, 0-1


def palette_of(px: PackedRow) -> list[PictureColour]:
    """The colours of a picture, (n,) 0x00RRGGBB, that hold most of it, the largest first; the same
    px give the same colours."""
    lab, share = _histogram(px)
    best: tuple[float, Floats] | None = None
    for start in range(_STARTS):
        centres = _spread(lab, share, start)
        cost, centres = _settled(lab, share, centres)
        if best is None or cost < best[0]:
            best = cost, centres
    assert best is not None
    own = nearest(lab, best[1])
    held = np.bincount(own, share, len(best[1]))
    found = [_colour(c, h) for c, h in zip(best[1], held.tolist(), strict=True) if h > 0]
    return sorted(_joined(found), key=lambda c: -c.share)


def _histogram(px: PackedRow) -> tuple[Floats, Floats]:
    """The mean OKLab, (bins, 3), and the share, (bins,), of the levels a picture has."""
    levels = unpack(px).astype(np.intp)
    step = 256 // _BINS
    key = (levels // step) @ np.array([_BINS * _BINS, _BINS, 1])
    _, own, count = np.unique(key, return_inverse=True, return_counts=True)
    mean = np.stack([np.bincount(own, levels[:, i]) / count for i in range(3)], axis=1)
    return oklab(decode(mean / 255)), count / len(px)


def _spread(lab: Floats, share: Floats, start: int) -> Floats:
    """Where the search begins: far from each other, and where much of the picture is."""
    first = int(np.argsort(-share)[min(start, len(share) - 1)])
    centres = [lab[first]]
    away = np.linalg.norm(lab - lab[first], axis=1)
    for _ in range(min(_MOST, len(lab)) - 1):
        at = int(np.argmax(away**2 * share ** (0.35 + 0.15 * start)))
        centres.append(lab[at])
        away = np.minimum(away, np.linalg.norm(lab - lab[at], axis=1))
    return np.stack(centres)


def _settled(lab: Floats, share: Floats, centres: Floats) -> tuple[float, Floats]:
    own = nearest(lab, centres)
    for _ in range(_ROUNDS):
        held = np.maximum(np.bincount(own, share, len(centres)), 1e-12)
        sums = [np.bincount(own, share * lab[:, i], len(centres)) for i in range(3)]
        mean = np.stack(sums, axis=1) / held[:, None]
        centres = np.where(held[:, None] > 1e-9, mean, centres)
        after = nearest(lab, centres)
        if (after == own).all():
            break
        own = after
    off = np.linalg.norm(lab - centres[own], axis=1)
    return float((off * off) @ share), centres


def nearest(lab: Floats, centres: Floats) -> Ints:
    """Which of some centres, (k, 3), each colour, (n, 3), is nearest to."""
    square = (centres * centres).sum(axis=1) - 2 * lab @ centres.T
    return np.asarray(square.argmin(axis=1))


def _joined(found: list[PictureColour]) -> list[PictureColour]:
    """Colours that are hardly told apart as one."""
    kept: list[PictureColour] = []
    for colour in sorted(found, key=lambda c: -c.share):
        near = [i for i, k in enumerate(kept) if np.linalg.norm(k.lab - colour.lab) < _NEAR]
        if near:
            old = kept[near[0]]
            whole = old.share + colour.share
            kept[near[0]] = _colour(
                (old.lab * old.share + colour.lab * colour.share) / whole, whole
            )
        else:
            kept.append(colour)
    return kept


def _colour(lab: Floats, share: float) -> PictureColour:
    linear = np.clip(oklab_to_linear(lab), 0, 1)
    levels = to_bytes(encode(linear))
    return PictureColour(
        lab, "#" + levels.tobytes().hex(), float(value(decode(levels / 255))), share
    )
