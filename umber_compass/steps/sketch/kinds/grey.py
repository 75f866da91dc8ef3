"""A grey thumbnail becomes regions: a few groups of value, and the connected areas of each
(docs/sketch.md)."""

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageFilter

from umber_compass.colour.packed import CLEAR, Packed
from umber_compass.picture.shading import VALUE_OF_LEVEL
from umber_compass.steps.sketch.kinds.kind import (
    KindSpec,
    Setting,
    Settings,
    Split,
    number_of,
    setting_of,
)
from umber_compass.steps.sketch.kinds.many import AT_MOST, by_area, means_in_value, within_bounds
from umber_compass.steps.sketch.kinds.painting import painted_areas
from umber_compass.steps.sketch.lines.paper import grey_of
from umber_compass.steps.sketch.tones import areas
from umber_compass.steps.sketch.tones.groups import LEAST, MOST, find_groups
from umber_compass.words import Refusal, words
from umber_compass.work import Tick

GROUPS = Setting("groups", "values", "groups", LEAST, MOST, None)
SURFACES = Setting("surfaces", "by surface, not by tone", "0 or 1", 0, 1, 0)
_SMALLEST = 64  # px of a side, under which it is looked at as it is
_FLAT = 3  # levels, over all of a picture in which there is nothing to part


def split(packed: Packed, subject: str, settings: Settings, tick: Tick) -> Split:
    """The regions of a grey picture, (h, w) 0x00RRGGBB; its shading within them is kept. Raises
    Refusal if it is of one value."""
    grey = grey_of(packed)
    there = packed != CLEAR
    if not there.any() or int(grey[there].max()) - int(grey[there].min()) <= _FLAT:
        line = words("it is of one value; bring in a thumbnail in at least two greys")
        raise Refusal(subject, line)
    if number_of(settings, SURFACES):
        return _by_surface(packed, grey, settings, subject, tick)
    halved = min(grey.shape) >= _SMALLEST
    image = Image.fromarray(grey)
    image = (image.reduce(2) if halved else image).filter(
        ImageFilter.MedianFilter(5 if halved else 3)
    )
    small = np.asarray(image)
    count = setting_of(settings, GROUPS)
    groups = find_groups(small, None if count is None else round(count))
    tick(0.4)
    group = areas.without_bands(areas.grouped(small, groups))
    parts = areas.areas_of(group, small)
    tick(0.7)
    whole = areas.at_full_size(parts, grey, 2 if halved else 1)
    rgb = np.repeat(grey[..., None], 3, axis=2)
    whole = within_bounds(np.where(there, whole, -1), rgb, settings, subject)
    labels, _ = by_area(whole)
    edges = tuple(float(VALUE_OF_LEVEL[edge]) for edge in groups.edges)
    return Split(labels, means_in_value(labels, packed, grey=True), shaded=True, edges=edges)


def _by_surface(
    packed: Packed, grey: npt.NDArray[np.uint8], settings: Settings, subject: str, tick: Tick
) -> Split:
    """Each thing a region, however light and dark pass into each other on it."""
    rgb = np.repeat(grey[..., None], 3, axis=2)
    whole = painted_areas(rgb, None, True, tick)
    whole = within_bounds(np.where(packed == CLEAR, -1, whole), rgb, settings, subject)
    labels, _ = by_area(whole)
    return Split(labels, means_in_value(labels, packed, grey=True), shaded=True)


KIND = KindSpec(
    "grey", "Grey thumbnail", "your shading is kept", split, (GROUPS, SURFACES, AT_MOST)
)
