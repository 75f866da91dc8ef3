"""A rough painting becomes regions: small pieces joined until a wished number is left
(docs/sketch.md)."""

import numpy as np
from PIL import Image, ImageFilter

from umber_compass.colour.packed import CLEAR, Packed, unpack
from umber_compass.steps.sketch.kinds.kind import KindSpec, Setting, Settings, Split, number_of
from umber_compass.steps.sketch.kinds.many import by_area, means_in_value
from umber_compass.words import Refusal, words
from umber_compass.work import Tick

REGIONS = Setting("regions", "regions", "regions", 1, 200, 24)
_SMALL_PX = 400  # the longer side of the copy that regions are found on


def split(packed: Packed, subject: str, settings: Settings, tick: Tick) -> Split:
    """The regions of a painting, (h, w) 0x00RRGGBB; its shading within them is kept. Raises
    Refusal if it is of one colour."""
    # A start that reads no painting does without these.
    from umber_compass.steps.sketch.paints.merging import merged
    from umber_compass.steps.sketch.paints.pieces import colours_of, pieces_of
    from umber_compass.steps.sketch.paints.refining import at_full_size

    rgb = np.ascontiguousarray(unpack(packed))
    if (rgb.reshape(-1, 3).max(axis=0) - rgb.reshape(-1, 3).min(axis=0)).max() <= 3:
        raise Refusal(subject, words("it is of one colour; bring in a painting of several"))
    by = max(1, round(max(packed.shape) / _SMALL_PX))
    small = np.asarray(Image.fromarray(rgb).reduce(by).filter(ImageFilter.MedianFilter(5)))
    colours = colours_of(small)
    tick(0.2)
    pieces = pieces_of(colours)
    tick(0.4)
    parts = merged(pieces, colours, round(number_of(settings, REGIONS)))
    tick(0.7)
    whole = at_full_size(parts, rgb, by)
    labels, _ = by_area(np.where(packed == CLEAR, -1, whole))
    return Split(labels, means_in_value(labels, packed), shaded=True)


KIND = KindSpec("painting", "Rough painting", "colours and shading are read", split, (REGIONS,))
