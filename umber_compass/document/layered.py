"""A layered file as regions: which layer is on top at each px."""

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import Packed
from umber_compass.formats import openraster
from umber_compass.formats.openraster import Group, Layer, Layered
from umber_compass.steps.sketch.kinds.layers import DEPTH, split_layers
from umber_compass.steps.sketch.kinds.spec import Settings, Split, number_told

_OWNS = 127  # of 255: from this alpha on a layer owns a px


def split(data: bytes, packed: Packed, settings: Settings, subject: str) -> Split:
    """The regions of a layered file: each layer or group that stands at the depth told is one."""
    layered = openraster.read(data, subject)
    children = _opened(layered.root, int(number_told(settings, DEPTH)))
    owner = np.full(packed.shape, -1, np.int32)
    names = []
    for i, child in enumerate(children):
        names.append(child.name or f"layer {i + 1}")
        owner[_alpha(layered, child, packed.shape) > _OWNS] = i
    return split_layers(owner, names, packed, settings, subject)


def _opened(root: Group, depth: int) -> list[Group | Layer]:
    """What is a region each, lowest first: a root that holds one group alone is opened further."""
    seen = [c for c in reversed(root.children) if c.visible and c.opacity > 0]
    if len(seen) == 1 and isinstance(seen[0], Group):
        return _opened(seen[0], depth)
    found: list[Group | Layer] = []
    for child in seen:
        if isinstance(child, Group) and depth > 0:
            found += _opened(child, depth - 1)
        else:
            found.append(child)
    return found


def _alpha(layered: Layered, child: Group | Layer, shape: tuple[int, ...]) -> npt.NDArray[np.uint8]:
    """How much of a layer or group is there, (h, w) 0-255."""
    # A group is laid together by itself, and only then thinned.
    whole = child.opacity if isinstance(child, Group) else 1.0
    group = (
        child._replace(opacity=1.0) if isinstance(child, Group) else Group("", (child,), 1, True)
    )
    seen = list(openraster.leaves(group))
    clear = np.ones(shape, np.float32)
    images = openraster.pictures(layered, [layer for layer, _ in seen])
    for (layer, share), image in zip(seen, images, strict=True):
        left, top = max(layer.x, 0), max(layer.y, 0)
        right, bottom = min(layer.x + image.width, shape[1]), min(layer.y + image.height, shape[0])
        if right <= left or bottom <= top:
            continue
        box = (left - layer.x, top - layer.y, right - layer.x, bottom - layer.y)
        part = np.asarray(image.getchannel("A").crop(box), np.float32) / 255 * share
        clear[top:bottom, left:right] *= 1 - part
    return np.asarray((1 - clear) * (255 * whole) + 0.5, np.uint8)
