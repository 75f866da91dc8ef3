"""Drawings and reliefs kept between two openings, by what they were made from."""

from collections.abc import Callable
from typing import TypeVar

from umber_compass.document.kept_arrays import (
    VERSION,
    buffer_arrays,
    buffers_of,
    drawing_arrays,
    drawing_of,
)
from umber_compass.formats.cache import Arrays, Cache, key_of
from umber_compass.picture.buffers import SurfaceBuffers
from umber_compass.picture.drawing import Drawing
from umber_compass.plan.model import Sketch
from umber_compass.steps.pipeline import Derived

T = TypeVar("T")


class Kept:
    """What a cache holds of sketches. Whatever is not whole counts as none and is forgotten."""

    def __init__(self, cache: Cache) -> None:
        self.cache = cache

    def drawing(self, sketch: Sketch, most_px: int) -> Drawing | None:
        """A sketch's drawing, at most so many px long, if it was kept."""
        return self._load(_key("drawing", sketch, str(most_px)), drawing_of)

    def keep_drawing(self, sketch: Sketch, most_px: int, drawing: Drawing) -> None:
        """Keep a sketch's drawing."""
        self.cache.store(_key("drawing", sketch, str(most_px)), drawing_arrays(drawing))

    def buffers(self, derived: Derived) -> SurfaceBuffers | None:
        """The surface buffers of a plan, if it was kept."""
        height, width = derived.drawing.labels.shape
        return self._load(_buffers_key(derived), lambda found: buffers_of(found, (height, width)))

    def keep_buffers(self, derived: Derived, buffers: SurfaceBuffers) -> None:
        """Keep a plan's surface buffers."""
        self.cache.store(_buffers_key(derived), buffer_arrays(buffers))

    def _load(self, key: str, make: Callable[[Arrays], T]) -> T | None:
        arrays = self.cache.load(key)
        if arrays is None:
            return None
        try:
            return make(arrays)
        except Exception:  # whatever is wrong with a copy, the next one is made anew
            self.cache.forget(key)
            return None


def _key(what: str, sketch: Sketch, *more: str) -> str:
    return key_of(VERSION, what, sketch.hash, sketch.labels, *more)


def _buffers_key(derived: Derived) -> str:
    size = str(derived.drawing.labels.shape)
    forms = (repr(derived.form_wishes), derived.rig.volume, str(derived.two_families))
    return _key("buffers", derived.plan.sketch, size, *forms, repr(derived.axes))


def built_buffers(derived: Derived, kept: Kept | None = None) -> SurfaceBuffers | None:
    """The buffers of a plan that may work: remembered, kept from an earlier opening, or built now
    and kept."""
    if derived.has(type(derived).built):
        return _with_cards(derived)
    found = kept.buffers(derived) if kept is not None else None
    if found is not None:
        derived.take(type(derived).built, found)
        return _with_cards(derived)
    built = _with_cards(derived)
    if kept is not None and built is not None:
        kept.keep_buffers(derived, built)
    return built


def _with_cards(derived: Derived) -> SurfaceBuffers | None:
    """A plan's buffers, its things made ready to cast shadows."""
    built = derived.built
    if derived.casts:
        derived.worked(type(derived).standees)
    return built
