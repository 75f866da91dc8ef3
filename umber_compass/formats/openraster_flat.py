"""A layered file as one picture: its layers and groups laid on each other."""

from collections.abc import Iterator
from typing import NamedTuple

from PIL import Image

from umber_compass.formats.layer_modes import KEPT_WITHIN, MIXED, mixed
from umber_compass.formats.openraster import (
    MOST_PX,
    OVER,
    Box,
    Group,
    Layer,
    Pictures,
    damaged,
    read,
)
from umber_compass.work import Tick, idle

_STRIP_PX, _MIXED_PX = 2_000_000, 400_000  # laid on at a time, the latter where colours are mixed
_MOST_HELD = 4 * MOST_PX  # px of all pictures that groups are laid together on at one time


class _Canvas(NamedTuple):
    """A picture that layers are laid on, RGBA, and where it lies in the whole one."""

    image: Image.Image
    box: Box


class _Composing:
    """Lays the seen layers of a file on each other. A layer costs the px it covers."""

    def __init__(self, pictures: Pictures, size: tuple[int, int], count: int, tick: Tick) -> None:
        self._pictures, self._size, self._tick = pictures, size, tick
        self._count, self._done, self._held = count, 0, 0

    def lay_whole(self, root: Group, canvas: _Canvas) -> None:
        """The layers of a file on an empty picture."""
        if root.opacity < 1:
            self._lay_apart(root, canvas)
        else:
            self.lay_group(root, canvas)

    def lay_group(self, group: Group, canvas: _Canvas) -> None:
        """The children of a group, the lowest first."""
        for child in reversed(group.children):
            if not child.visible or child.opacity <= 0:
                continue
            if isinstance(child, Layer):
                self._lay_layer(child, canvas)
            elif child.apart:
                self._lay_apart(child, canvas)
            else:
                self.lay_group(child, canvas)

    def _lay_layer(self, layer: Layer, canvas: _Canvas) -> None:
        self._tick(self._done / self._count)
        self._done += 1
        box = self._pictures.box_of(layer, self._size)
        if box is None:
            if layer.mode in KEPT_WITHIN:
                canvas.image.paste((0, 0, 0, 0), (0, 0, *canvas.image.size))
            return
        left, top = box[:2]
        inner = (left - layer.x, top - layer.y, box[2] - layer.x, box[3] - layer.y)
        image = self._pictures.of(layer).crop(inner)
        self._lay(canvas, _Canvas(image, box), layer.mode, layer.opacity)

    def _lay_apart(self, group: Group, canvas: _Canvas) -> None:
        """A group laid together by itself, then laid on as one picture."""
        box = box_of(self._pictures, group, self._size)
        if box is None:
            return
        area = (box[2] - box[0]) * (box[3] - box[1])
        self._held += area
        if self._held > _MOST_HELD:
            raise damaged(self._pictures.subject, "its groups are too large within each other")
        own = _Canvas(Image.new("RGBA", (box[2] - box[0], box[3] - box[1])), box)
        self.lay_group(group, own)
        self._lay(canvas, own, group.mode, group.opacity)
        self._held -= area

    def _lay(self, under: _Canvas, over: _Canvas, mode: str, share: float) -> None:
        left, top = max(over.box[0], under.box[0]), max(over.box[1], under.box[1])
        right, bottom = min(over.box[2], under.box[2]), min(over.box[3], under.box[3])
        if mode in KEPT_WITHIN:
            _clear_outside(under, (left, top, right, bottom))
        high = max(1, (_STRIP_PX if mode == OVER else _MIXED_PX) // max(right - left, 1))
        for begin in range(top, bottom, high):
            self._tick(-1)
            part = (left, begin, right, min(begin + high, bottom))
            above, place = over.image.crop(_within(part, over.box)), _within(part, under.box)
            if share < 1:
                above.putalpha(above.getchannel("A").point(lambda a: round(a * share)))
            if mode in MIXED:
                under.image.paste(mixed(under.image.crop(place), above, mode), place[:2])
            else:
                under.image.alpha_composite(above, place[:2])


def layers_seen(group: Group) -> Iterator[Layer]:
    """The layers of a group that are seen, wherever in it they lie."""
    for child in group.children:
        if child.visible and child.opacity > 0:
            if isinstance(child, Group):
                yield from layers_seen(child)
            else:
                yield child


def box_of(pictures: Pictures, group: Group, size: tuple[int, int]) -> Box | None:
    """The box on a canvas of a size, px, that the seen layers of a group cover; None where they
    cover nothing."""
    boxes = [b for layer in layers_seen(group) if (b := pictures.box_of(layer, size)) is not None]
    if not boxes:
        return None
    sides = list(zip(*boxes, strict=True))
    return min(sides[0]), min(sides[1]), max(sides[2]), max(sides[3])


def _within(part: Box, box: Box) -> Box:
    """A part of the whole picture in a canvas that covers a box of it."""
    return part[0] - box[0], part[1] - box[1], part[2] - box[0], part[3] - box[1]


def _clear_outside(canvas: _Canvas, box: Box) -> None:
    kept = canvas.image.crop(_within(box, canvas.box)) if box[0] < box[2] else None
    canvas.image.paste((0, 0, 0, 0), (0, 0, *canvas.image.size))
    if kept is not None and box[1] < box[3]:
        canvas.image.paste(kept, _within(box, canvas.box)[:2])


def flat(data: bytes, subject: str, tick: Tick = idle) -> Image.Image:
    """A layered file as one picture, RGBA, of its own size: every seen layer laid over those below,
    as its mode says; a group that stands by itself is laid together first."""
    layered = read(data, subject)
    whole = _Canvas(Image.new("RGBA", layered.size), (0, 0, *layered.size))
    root = layered.root
    count = max(sum(1 for _ in layers_seen(root)), 1)
    composing = _Composing(Pictures(layered), layered.size, count, tick)
    if root.visible:
        composing.lay_whole(root, whole)
    return whole.image
