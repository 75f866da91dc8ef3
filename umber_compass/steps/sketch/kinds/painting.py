"""A rough painting becomes regions: small pieces joined until a wished number is left
(docs/sketch.md)."""

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageFilter

from umber_compass.colour.packed import CLEAR, Packed, unpack
from umber_compass.steps.sketch.joining import Parts
from umber_compass.steps.sketch.kinds.kind import (
    KindSpec,
    Setting,
    Settings,
    Split,
    number_of,
    setting_of,
)
from umber_compass.steps.sketch.kinds.many import by_area, means_in_value
from umber_compass.words import Refusal, words
from umber_compass.work import Tick

REGIONS = Setting("regions", "regions", "regions", 1, 200, None)
SURFACES = Setting("surfaces", "by surface, not by tone", "0 or 1", 0, 1, 1)
_BY_TONE = 24  # regions, where no number is told
_SMALL_PX = 400  # the longer side of the copy that regions are found on


def split(packed: Packed, subject: str, settings: Settings, tick: Tick) -> Split:
    """The regions of a painting, (h, w) 0x00RRGGBB; its shading within them is kept. Raises
    Refusal if it is of one colour."""
    rgb = np.ascontiguousarray(unpack(packed))
    if (rgb.reshape(-1, 3).max(axis=0) - rgb.reshape(-1, 3).min(axis=0)).max() <= 3:
        raise Refusal(subject, words("it is of one colour; bring in a painting of several"))
    told = setting_of(settings, REGIONS)
    wanted = None if told is None else round(told)
    by_surface = bool(number_of(settings, SURFACES))
    whole = painted_areas(rgb, wanted, by_surface, tick)
    labels, _ = by_area(np.where(packed == CLEAR, -1, whole))
    return Split(labels, means_in_value(labels, packed), shaded=True)


def painted_areas(
    rgb: npt.NDArray[np.uint8], wanted: int | None, by_surface: bool, tick: Tick
) -> Parts:
    """The areas of a painting, (h, w) numbered from 0: so many, or as many as there are surfaces,
    or a few by tone, where light and dark of one surface may be several."""
    # A start that reads no painting does without these.
    from umber_compass.steps.sketch.paints.merging import merged
    from umber_compass.steps.sketch.paints.pieces import colours_of, pieces_of
    from umber_compass.steps.sketch.paints.refining import at_full_size
    from umber_compass.steps.sketch.paints.surfaces import surfaces

    by = max(1, round(max(rgb.shape[:2]) / _SMALL_PX))
    small = np.asarray(Image.fromarray(rgb).reduce(by).filter(ImageFilter.MedianFilter(5)))
    colours = colours_of(small)
    tick(0.2)
    pieces = pieces_of(colours)
    tick(0.4)
    if by_surface:
        parts = surfaces(pieces, colours, wanted)
    else:
        parts = merged(pieces, colours, wanted or _BY_TONE)
    tick(0.7)
    return at_full_size(parts, rgb, by)


KIND = KindSpec(
    "painting", "Rough painting", "colours and shading are read", split, (SURFACES, REGIONS)
)
