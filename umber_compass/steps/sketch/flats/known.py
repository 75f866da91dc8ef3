"""Colours of a sketch that count, and whose each px is."""

from collections.abc import Iterator
from typing import NamedTuple

import numpy as np

from umber_compass.colour.packed import CLEAR, Packed, PackedRow, unpack
from umber_compass.colour.spaces import Floats
from umber_compass.picture.mixes import (
    Ints,
    Labels,
    Mixes,
    Row,
    around,
    few,
    framed,
    nearest,
    some,
    take,
    thin_labels,
    with_one,
)

CLEAR_LABEL, FIRST = 1, 2  # what labels stand for here; 0 for none
UNEXPLAINED = 10.0  # levels; what is further from every mix is explained otherwise
_INK_LEVELS = 3.0
_CHUNK_PX = 8_000_000


class Known(NamedTuple):
    """Colours that count, and whose each px is."""

    colours: PackedRow  # (n,), label FIRST first
    labels: Labels  # (h, w): 0 where mixed, CLEAR_LABEL where clear

    @property
    def levels(self) -> Floats:
        """Colours by label, (n + 2, 3); clear is white paper, label 0 stands for none."""
        shown = unpack(self.colours).astype(np.float32)
        rest = np.array([[0] * 3, [255] * 3])
        return np.concatenate([rest, shown]).astype(np.float32)

    def and_one(self, packed: Packed, colour: int) -> "Known":
        """The same with one more colour, which takes those mixed px that have it just so."""
        colours = np.append(self.colours, np.uint32(colour))
        self.labels[(self.labels == 0) & (packed == colour)] = len(self.levels)
        return Known(colours, self.labels)


def runs_of(packed: Packed) -> Iterator[tuple[PackedRow, Ints]]:
    """The runs of equal px of a picture in their order, a part of it at a time: colours and
    lengths. A run ends at a part's end."""
    flat = packed.reshape(-1)
    for begin in range(0, flat.size, _CHUNK_PX):
        part = flat[begin : begin + _CHUNK_PX]
        start = np.flatnonzero(np.diff(part, prepend=~part[:1]))
        yield part[start], np.diff(np.append(start, len(part)))


def colours_of(colours: PackedRow, lengths: Ints) -> tuple[PackedRow, Ints]:
    """The different colours of some runs, and the px of each."""
    found, where = np.unique(colours, return_inverse=True)
    return found, np.bincount(where, lengths, len(found)).astype(np.intp)


def labelled(packed: Packed, colours: PackedRow) -> Known:
    """Every px of a colour that counts, labelled; `colours` rising."""
    labels = np.empty(packed.shape, np.uint16)
    out, begin = labels.reshape(-1), 0
    for runs, lengths in runs_of(packed):
        at = np.minimum(np.searchsorted(colours, runs), max(len(colours) - 1, 0))
        known = colours[at] == runs if len(colours) else np.zeros(len(runs), bool)
        number = np.where(known, at + FIRST, 0)
        number = np.where(runs == CLEAR, CLEAR_LABEL, number).astype(np.uint16)
        end = begin + int(lengths.sum())
        out[begin:end] = np.repeat(number, lengths)
        begin = end
    return Known(colours, labels)


def nearest_known(shown: PackedRow, known: Known) -> tuple[Labels, Row]:
    """The label of the colour nearest to each of some, and how far it is, levels in the worst
    channel."""
    index, far = nearest(unpack(shown), known.levels[FIRST:].astype(np.int16))
    return (index + FIRST).astype(np.uint16), far


def inks_of(known: Known) -> list[int]:
    """Labels of colours that are thin wherever they stand, as ink is."""
    return [i for i in thin_labels(known.labels) if i >= FIRST]


def try_ink(packed: Packed, known: Known, place: Ints, mixes: Mixes, known_inks: list[int]) -> None:
    """Explain what two colours near do not: with one of them and ink that has no plain px there.
    In place."""
    at = np.flatnonzero(mixes.residual > UNEXPLAINED)
    first = few(around(framed(known.labels), place[at]))
    shown = unpack(packed.reshape(-1)[place[at]]).astype(np.float32)
    for ink in known_inks:
        found = with_one(shown, first, ink, known.levels)
        good = np.flatnonzero(found.residual <= _INK_LEVELS)
        take(mixes, at[good], some(found, good))
