"""Colours that own no block: thin lines and dots. The true one is the extreme that explains what is
still open, mixed with what lies around."""

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import CLEAR, Packed, unpack
from umber_compass.picture.mixes import (
    Ints,
    Mixes,
    around,
    explain,
    few,
    framed,
    some,
    take,
    with_one,
)
from umber_compass.steps.sketch.flats.known import Known, try_ink

_OPEN = 10.0  # levels; what is explained worse is open
_LEAST_PX, _TOUCHING = 8, 0.35  # of a line’s colour; share that touches its like
_HIT, _SHARP_HITS, _SOFT_HITS, _SOFT_SHARE = 2.5, 40, 100, 0.1
_SAME_LINE = 16  # levels; in a soft picture a colour so near one just found is the same line
_DOT_PX, _DOT_BOX, _DOT_HITS, _DOT_SHARE = (3, 16), 8, 9, 0.6
_MOST, _LOOKED_AT = 24, 40  # colours added; candidates tried a round
_SAMPLE = 6000  # open px that are asked


def add_thin_colours(
    packed: Packed, known: Known, place: Ints, mixes: Mixes, sharp: bool
) -> tuple[Known, Ints, Mixes]:
    """Colours of thin lines and, in sharp pictures, dots added to those known; with the px that
    are mixed then and their mixes."""
    added: list[int] = []
    for _ in range(_MOST):
        found = _line(packed, known, place[mixes.residual > _OPEN], sharp, added)
        if found is None:
            break
        added.append(found)
        known, place, mixes = _with(packed, known, place, mixes, found)
    for dot in _dots(packed, known, place[mixes.residual > _OPEN]) if sharp else ():
        known, place, mixes = _with(packed, known, place, mixes, dot)
    return known, place, mixes


def _with(
    packed: Packed, known: Known, place: Ints, mixes: Mixes, colour: int
) -> tuple[Known, Ints, Mixes]:
    """One more colour, and what was open explained with it."""
    known = known.and_one(packed, colour)
    still = known.labels.reshape(-1)[place] == 0
    place, mixes = place[still], some(mixes, np.flatnonzero(still))
    open_ = np.flatnonzero(mixes.residual > _HIT)
    fresh = explain(packed, framed(known.labels), place[open_], known.levels)
    take(mixes, open_, fresh)
    try_ink(packed, known, place, mixes, [len(known.levels) - 1])
    return known, place, mixes


def _line(packed: Packed, known: Known, open_: Ints, sharp: bool, added: list[int]) -> int | None:
    """The repeated colour among the open px that explains most of them; None where none explains
    enough."""
    flat = packed.reshape(-1)
    colours, count = np.unique(flat[open_], return_counts=True)
    often = np.argsort(-count, kind="stable")[:_LOOKED_AT]
    often = often[count[often] >= _LEAST_PX]
    candidates = [int(c) for c in colours[often] if c != CLEAR and _touches(packed, open_, int(c))]
    if not sharp:
        candidates = [c for c in candidates if all(_apart(c, a) > _SAME_LINE for a in added)]
    if not candidates:
        return None
    asked = open_[:: max(1, len(open_) // _SAMPLE)]
    hits = [_hits(packed, known, asked, c).sum() * len(open_) / len(asked) for c in candidates]
    best = int(np.argmax(hits))
    needed = _SHARP_HITS if sharp else max(_SOFT_HITS, _SOFT_SHARE * len(open_))
    return candidates[best] if hits[best] >= needed else None


def _hits(packed: Packed, known: Known, asked: Ints, colour: int) -> npt.NDArray[np.bool_]:
    """Which px are a mix of a colour and one that lies near."""
    levels = np.concatenate([known.levels, unpack(np.array([colour], np.uint32))])
    first = few(around(framed(known.labels), asked))
    shown = unpack(packed.reshape(-1)[asked]).astype(np.float32)
    found = with_one(shown, first, len(levels) - 1, levels.astype(np.float32))
    part = np.where(found.own == len(levels) - 1, found.cover, 1 - found.cover)
    return np.asarray((found.residual <= _HIT) & (part > 0.1))


def _touches(packed: Packed, open_: Ints, colour: int) -> bool:
    """Whether enough px of a colour touch another of it: a line does, a smoothed edge hardly."""
    height, width = packed.shape
    own = open_[packed.reshape(-1)[open_] == colour]
    row, column = np.divmod(own, width)
    touching = np.zeros(len(own), bool)
    for dy in (-1, 0, 1):
        for dx in (-1, 0, 1):
            if dy or dx:
                y, x = np.clip(row + dy, 0, height - 1), np.clip(column + dx, 0, width - 1)
                touching |= (packed[y, x] == colour) & ((y != row) | (x != column))
    return bool(touching.mean() >= _TOUCHING)


def _apart(one: int, other: int) -> int:
    pair = unpack(np.array([one, other], np.uint32)).astype(int)
    return int(np.abs(pair[0] - pair[1]).max())


def _dots(packed: Packed, known: Known, open_: Ints) -> list[int]:
    """Colours of dots: a few equal px in a small box that explain what is open around them."""
    flat, width = packed.reshape(-1), packed.shape[1]
    colours, count = np.unique(flat[open_], return_counts=True)
    rare = colours[(count >= _DOT_PX[0]) & (count <= _DOT_PX[1])][:400]
    row, column = np.divmod(open_, width)
    found = []
    for colour in rare.tolist():
        own = flat[open_] == colour
        y, x = row[own], column[own]
        if max(np.ptp(y), np.ptp(x)) >= _DOT_BOX or colour == CLEAR:
            continue
        close = (np.abs(row - y.mean()) <= _DOT_BOX) & (np.abs(column - x.mean()) <= _DOT_BOX)
        hits = _hits(packed, known, open_[close], colour)
        if hits.sum() >= _DOT_HITS and hits.mean() >= _DOT_SHARE:
            found.append(colour)
    return found
