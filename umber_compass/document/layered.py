"""A layered file as regions: which layer is on top at each px."""

import re
from typing import TypeAlias

import numpy as np
import numpy.typing as npt
from PIL import Image

from umber_compass.colour.packed import Packed
from umber_compass.formats import openraster
from umber_compass.formats.layer_modes import CLIPPED, CUT, DARKENING, MIXED
from umber_compass.formats.openraster import Box, Group, Layer, Pictures
from umber_compass.formats.openraster_flat import box_of
from umber_compass.plan.terms import Role
from umber_compass.steps.sketch.kinds.kind import Settings, Split, number_of
from umber_compass.steps.sketch.kinds.layers import DEPTH, split_layers
from umber_compass.steps.sketch.lines.ink import Mask, distance_to
from umber_compass.work import Tick, idle

Clear: TypeAlias = npt.NDArray[np.float32]

_OWNS = 127  # of 255: from this alpha on a layer owns a px
# px², beyond which what lies further inside is no line: at most, of the longer side, and at least.
_THIN_PX2, _THIN_SHARE, _LEAST_PX2 = 30, 0.012, 2.25
_CALLED_LINES = re.compile(r"\b(line|line ?art|lines|ink|inks|inking|outline|outlines)\b", re.I)


def split(
    data: bytes, packed: Packed, settings: Settings, subject: str, tick: Tick = idle
) -> Split:
    """The regions of a layered file: each layer or group that stands at the depth told is one."""
    layered = openraster.read(data, subject)
    children = _opened(layered.root, int(number_of(settings, DEPTH)))
    owner = np.full(packed.shape, -1, np.int16)
    names, roles, pictures = [], list[Role | None](), Pictures(layered)
    for i, child in enumerate(children):
        tick(i / len(children) * 0.8)
        names.append(child.name or f"layer {i + 1}")
        if not i or (owner < 0).all():
            child = child._replace(mode=openraster.OVER)  # over nothing it is what it is
        found = _alpha(pictures, child, layered.size, tick)
        role: Role | None = None
        if found is not None:
            (left, top, right, bottom), alpha = found
            owns = alpha > _OWNS
            darkens = child.mode in DARKENING
            if (darkens or _CALLED_LINES.search(child.name)) and owns.any():
                role = "line" if _is_thin(owns) else None
            # What darkens a whole area is its shade, not a thing of its own.
            if not darkens or role == "line":
                owner[top:bottom, left:right][owns] = i
        roles.append(role)
    return split_layers(owner, names, roles, packed, settings, subject)


def _is_thin(owns: Mask) -> bool:
    """Whether most of what a layer holds is lines."""
    wide = min(_THIN_PX2, max(_LEAST_PX2, (_THIN_SHARE * max(owns.shape)) ** 2))
    return bool((distance_to(~owns)[owns] <= wide).mean() >= 0.5)


def _presence(image: Image.Image, mode: str) -> npt.NDArray[np.float32]:
    """How much of a layer is there, (h, w) 0-1: of one that darkens, how dark it is; of one that
    only tints or lights what is below, nothing."""
    alpha = np.asarray(image.getchannel("A"), np.float32) / np.float32(255)
    if mode in DARKENING:
        light = np.asarray(image.convert("L"), np.float32) / np.float32(255)
        return np.asarray(alpha * (1 - light), np.float32)
    return alpha if mode not in MIXED or mode in (CLIPPED, CUT) else np.zeros_like(alpha)


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


def _alpha(
    pictures: Pictures, child: Group | Layer, size: tuple[int, int], tick: Tick
) -> tuple[Box, npt.NDArray[np.uint8]] | None:
    """How much of a layer or group is there, (h, w) 0-255, and the box that it covers; None where
    it covers nothing."""
    # A group is laid together by itself, and only then thinned.
    whole = child.opacity if isinstance(child, Group) else 1.0
    group = (
        child._replace(opacity=1.0) if isinstance(child, Group) else Group("", (child,), 1, True)
    )
    box = box_of(pictures, group, size)
    if box is None:
        return None
    clear = np.ones((box[3] - box[1], box[2] - box[0]), np.float32)
    _lay(pictures, group, clear, box, size, tick)
    np.subtract(1, clear, out=clear)
    clear *= np.float32(255 * whole)
    clear += np.float32(0.5)
    return box, clear.astype(np.uint8)


def _lay(
    pictures: Pictures, group: Group, clear: Clear, box: Box, size: tuple[int, int], tick: Tick
) -> None:
    """Take from what is clear in a box, (h, w) 0-1, what the seen layers of a group cover. A layer
    that only lies over those of its group is laid on as the group is."""
    for child in reversed(group.children):
        tick(-1)
        if not child.visible or child.opacity <= 0:
            continue
        if isinstance(child, Layer):
            mode = group.mode if child.mode == openraster.OVER else child.mode
            _take(pictures, child._replace(mode=mode), clear, box, size)
        elif child.apart:
            own = np.ones_like(clear)
            _lay(pictures, child, own, box, size, tick)
            clear *= 1 - (1 - own) * np.float32(child.opacity)
        else:
            _lay(pictures, child, clear, box, size, tick)


def _take(pictures: Pictures, layer: Layer, clear: Clear, box: Box, size: tuple[int, int]) -> None:
    covers = pictures.box_of(layer, size)
    there = np.zeros_like(clear)
    if covers is not None:
        inner = (covers[0] - layer.x, covers[1] - layer.y, covers[2] - layer.x, covers[3] - layer.y)
        alpha = _presence(pictures.of(layer).crop(inner), layer.mode) * np.float32(layer.opacity)
        rows, columns = (
            slice(covers[1] - box[1], covers[3] - box[1]),
            slice(covers[0] - box[0], covers[2] - box[0]),
        )
        there[rows, columns] = alpha
    if layer.mode == CUT:
        np.subtract(1, (1 - clear) * there, out=clear)
    else:
        clear *= 1 - there
