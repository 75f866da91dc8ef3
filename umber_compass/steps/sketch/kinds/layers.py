"""A layered file becomes regions: each layer, or group, that is seen; the top one wins where they
overlap (docs/sketch.md). The file itself is read in formats; what comes here is told px by px."""

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import Packed, unpack
from umber_compass.steps.sketch.kinds.many import AT_MOST, by_area, means_of, within_bounds
from umber_compass.steps.sketch.kinds.spec import KindSpec, Setting, Settings, Split
from umber_compass.words import Refusal, words
from umber_compass.work import Tick

DEPTH = Setting("depth", "groups opened", "levels", 0, 8, 0)
_UNEVEN = 0.25  # of a region's px that lie off its mean, from which the sketch is shaded
_OFF = 6  # levels


def split(packed: Packed, subject: str, settings: Settings, tick: Tick) -> Split:
    """Refused: without its layers a picture is none of this kind."""
    raise Refusal(subject, words("has no layers; bring in an OpenRaster file (.ora)"))


def split_layers(
    owner: npt.NDArray[np.int32],
    names: list[str],
    packed: Packed,
    settings: Settings,
    subject: str,
) -> Split:
    """The regions of layers: `owner`, (h, w), says which of the names, lowest first, is on top at
    each px, -1 where none is. Raises Refusal if nothing is seen."""
    if not (owner >= 0).any():
        raise Refusal(
            subject, words("none of its layers is seen; show those that should be regions")
        )
    rgb = np.ascontiguousarray(unpack(packed))
    kept = np.flatnonzero(np.bincount(owner[owner >= 0], minlength=len(names)) > 0)
    number = np.full(len(names) + 1, -1, np.int32)
    number[kept] = np.arange(len(kept))
    before = number[owner]
    parts = within_bounds(before, rgb, settings, subject)
    labels, order = by_area(parts)
    # What each part was before the smallest were joined: its largest layer.
    lead = [int(np.bincount(before[parts == p]).argmax()) for p in order.tolist()]
    rank = np.argsort(np.argsort(lead))
    colours = means_of(labels, rgb)
    off = np.abs(rgb.astype(np.int16) - np.vstack([[[0, 0, 0]], colours])[labels]).max(axis=2)
    shaded = bool((off[labels > 0] > _OFF).mean() > _UNEVEN)
    said = tuple(names[kept[i]] for i in lead)
    return Split(labels, colours, shaded, said, (), tuple(int(r) for r in rank))


KIND = KindSpec("layers", "Layered file", "a layer, a region", split, (DEPTH, AT_MOST))
