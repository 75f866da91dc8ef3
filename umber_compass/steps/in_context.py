"""A region among its neighbours, drawn twice: as it is, and as it looks among them."""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.measured import levels_of
from umber_compass.colour.packed import Levels, Packed, pack
from umber_compass.colour.spaces import decode, encode, oklab, oklab_to_linear, to_bytes
from umber_compass.picture.mixes import Labels
from umber_compass.steps.harmony.relativity import Reads
from umber_compass.steps.pipeline import Derived
from umber_compass.words import Words, words

_ROUND = 0.35  # of a region's box that is shown round it, to each side
_LEAST = 0.12  # of the picture's width and height that is shown at least
_MOST = 0.06  # OKLab, of a shift that is drawn (studio rule, docs/harmony.md)
_SEEN = 1.0  # L*, and OKLab x 100, from which a shift is worth a word


class Pair(NamedTuple):
    """Two pictures of one part of the sketch, (h, w), 0x00RRGGBB: the region as it is, and as it
    looks among its neighbours."""

    measured: Packed
    looks: Packed


def in_context(derived: Derived, found: Reads, most_px: int) -> Pair | None:
    """The surroundings of a region, at most so many px wide or high; None where it holds no px."""
    labels = derived.drawing.labels
    label = next(r.label for r in derived.regions if r.id == found.region)
    box = _box(labels, label)
    if box is None:
        return None
    top, bottom, left, right = box
    step = max(1, int(np.ceil(max(bottom - top, right - left) / most_px)))
    part = labels[top:bottom:step, left:right:step]
    table = np.full((int(labels.max()) + 1, 3), 128, np.uint8)
    for region in derived.regions:
        if region.label < len(table):
            table[region.label] = _mean_levels([e.hex for e in derived.colours[region.id].ends])
    measured = pack(table[part])
    table[label] = _shown(found)
    return Pair(measured, pack(table[part]))


def in_words(found: Reads, name: str) -> Words:
    """How a region looks among its neighbours, in a sentence."""
    if found.apart < _SEEN:
        return words("{name} looks as it is", name=name)
    if abs(found.lighter) < _SEEN:
        return words("{name} looks of another hue or strength than it is", name=name)
    line = "{name} looks {by:.0f} L* lighter than it is"
    if found.lighter < 0:
        line = "{name} looks {by:.0f} L* darker than it is"
    return words(line, name=name, by=abs(found.lighter))


def _shown(found: Reads) -> Levels:
    """The colour that a region looks like; the model makes too much of a strong surround."""
    own, seen = (oklab(decode(levels_of(h) / 255)) for h in (found.hex, found.seen))
    far = float(np.linalg.norm(seen - own))
    part = min(1.0, _MOST / far) if far > 0 else 0.0
    return to_bytes(encode(np.clip(oklab_to_linear(own + (seen - own) * part), 0, 1)))


def _mean_levels(hexes: list[str]) -> Levels:
    return to_bytes(encode(np.mean([decode(levels_of(h) / 255) for h in hexes], axis=0)))


def _box(labels: Labels, label: int) -> tuple[int, int, int, int] | None:
    """The part of a sketch round a label, px: top, bottom, left, right."""
    mine = labels == label
    found: list[int] = []
    for along, whole in ((mine.any(axis=1), labels.shape[0]), (mine.any(axis=0), labels.shape[1])):
        ends = np.flatnonzero(along)
        if not len(ends):
            return None
        low, high = int(ends[0]), int(ends[-1]) + 1
        more = max(round(_ROUND * (high - low)), round((_LEAST * whole - (high - low)) / 2), 2)
        found += [max(low - more, 0), min(high + more, whole)]
    return found[0], found[1], found[2], found[3]
