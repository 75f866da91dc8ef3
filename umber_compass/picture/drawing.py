"""A sketch as pixels: what lies beside the plan."""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.packed import Packed, unpack
from umber_compass.colour.spaces import Floats
from umber_compass.picture import borders
from umber_compass.picture.borders import Borders
from umber_compass.picture.mixes import Labels
from umber_compass.picture.shading import Shades, shades_of


class Drawing(NamedTuple):
    """A sketch as pixels: what lies beside the plan."""

    labels: Labels  # (h, w)
    borders: Borders
    box: dict[int, tuple[int, int, int, int]]  # by label: x, y, width, height in px
    shades: Shades | None = None  # the artist’s own light and dark, where it is kept

    def label_at(self, x: float, y: float) -> int:
        """The label at a place, shares of width and height from 0 to under 1; 0 where bare."""
        height, width = self.labels.shape
        return int(self.labels[int(y * height), int(x * width)])


def draw(packed: Packed, labels: Labels, shaded: bool = False) -> Drawing:
    """The pixels of a sketch, (h, w) 0x00RRGGBB, with its regions: borders, boxes, and its own
    light and dark where it is `shaded`."""
    if shaded:
        mixed, shades = shades_of(packed, labels)
        return Drawing(labels, mixed, boxes(labels), shades)
    levels = main_levels(packed, labels)
    return Drawing(labels, borders.find(packed, labels, levels), boxes(labels))


def main_levels(packed: Packed, labels: Labels) -> Floats:
    """Each label's main colour in the sketch, (labels + 1, 3), levels of 255: the colour most of
    its plain pixels have. A thin line's smoothed sides may be longer than its middle, so blocks of
    2 x 2 px are asked first."""
    most = int(labels.max(initial=0))
    plain = np.zeros(labels.shape, bool)
    plain[:, 1:] = (packed[:, 1:] == packed[:, :-1]) & (labels[:, 1:] == labels[:, :-1])
    if plain.sum() < 0.25 * plain.size:
        plain[:] = True
    # Every third pixel is enough to see which colour a region has most of; a region too thin for
    # that is looked at whole.
    thinned = plain.reshape(-1).copy()
    thinned[np.arange(thinned.size) % 3 != 0] = False
    levels, known = np.zeros((most + 1, 3), np.float32), np.zeros(most + 1, bool)
    block = np.zeros(labels.shape, bool)
    block[:-1, 1:] = plain[:-1, 1:] & plain[1:, 1:] & (packed[:-1, 1:] == packed[1:, 1:])
    whole = (block.reshape(-1), plain.reshape(-1), labels.reshape(-1) > 0)
    for where in (thinned & whole[0], whole[0], thinned, *whole[1:]):
        missing = np.bincount(labels.reshape(-1)[where], minlength=most + 1) > 0
        missing &= ~known
        at = np.flatnonzero(where & missing[labels.reshape(-1)])
        shown = packed.reshape(-1)[at] & np.uint32(0xFFFFFF)  # without the mark of clear px
        key = labels.reshape(-1)[at].astype(np.uint64) << np.uint64(24) | shown
        kinds, count = np.unique(key, return_counts=True)
        order = np.argsort(count, kind="stable")  # the most frequent is written last
        owner = (kinds[order] >> np.uint64(24)).astype(np.intp)
        levels[owner] = unpack(kinds[order].astype(np.uint32) & np.uint32(0xFFFFFF))
        known[owner] = True
    return levels


def boxes(labels: Labels) -> dict[int, tuple[int, int, int, int]]:
    """Each label's box, x, y, width, height in px."""
    from scipy.ndimage import find_objects  # costs 0.3 s, so only where it is used

    found = find_objects(labels.astype(np.int32))
    return {
        i + 1: (s[1].start, s[0].start, s[1].stop - s[1].start, s[0].stop - s[0].start)
        for i, s in enumerate(found)
        if s is not None
    }
