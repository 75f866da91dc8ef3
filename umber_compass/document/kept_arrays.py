"""Drawings and reliefs as named arrays, to be kept, and back. What does not fit is refused with a
ValueError, so that a damaged copy is made anew."""

from typing import Any, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.picture.adjacency import Adjacency
from umber_compass.picture.borders import Borders
from umber_compass.picture.buffers import SurfaceBuffers
from umber_compass.picture.drawing import Drawing
from umber_compass.picture.forms import Forms
from umber_compass.picture.mixes import Blends
from umber_compass.picture.pieces import Pieces
from umber_compass.picture.shading import Shades

Arrays: TypeAlias = dict[str, npt.NDArray[Any]]
Spec: TypeAlias = tuple[str, int, tuple[float, float]]
VERSION = "12"  # of what is kept; another one is never read

# What each array must be: type, dimensions, and the least and greatest it may hold.
_ANY = (-np.inf, np.inf)
_BORDERS: dict[str, Spec] = {
    "place": ("int64", 1, _ANY),
    "own": ("uint16", 1, _ANY),
    "other": ("uint16", 1, _ANY),
    "cover": ("float32", 1, (-1, 2)),
}
_BLENDS: dict[str, Spec] = {
    "place": ("int64", 1, _ANY),
    "of": ("int64", 2, _ANY),
    "share": ("float32", 2, (-2, 3)),
}
_SHADES: dict[str, Spec] = {
    "grey": ("uint8", 2, _ANY),
    "other": ("uint8", 1, _ANY),
    "mean": ("float32", 1, (0, 100.01)),
}
_FORMS: dict[str, Spec] = {
    "kind": ("uint8", 1, (0, 3)),
    "nx": ("float16", 2, (-1.01, 1.01)),
    "ny": ("float16", 2, (-1.01, 1.01)),
    "occlusion": ("uint8", 2, _ANY),
}
_ADJACENCY: dict[str, Spec] = {
    "label": ("int64", 1, (0, 65535)),
    "pixels": ("int64", 1, (0, 2**31)),
    "touching": ("int64", 2, _ANY),
    "touch_px": ("int64", 1, (0, 2**31)),
    "pair": ("int64", 1, _ANY),
    "pair_labels": ("int64", 2, (0, 65535)),
    "pair_px": ("int64", 1, (0, 2**31)),
}
_PIECES: dict[str, Spec] = {
    "number": ("int32", 2, (0, 2**31)),
    "label": ("int64", 1, (0, 65535)),
    "area": ("int64", 1, (0, 2**31)),
    "box": ("int64", 2, (0, 2**31)),
    "inside": ("int64", 1, (0, 2**31)),
    "pairs": ("int64", 2, (0, 2**31)),
    "length": ("int64", 1, (0, 2**31)),
    "framed": ("int64", 1, (0, 2**31)),
}
_BUFFERS: dict[str, Spec] = {
    "code": ("int64", 1, _ANY),
    "local": ("int64", 1, (0, 65536 * 129)),
    "normal": ("float32", 2, (-1.01, 1.01)),
    "occlusion": ("float32", 1, (0, 1.01)),
    "place": ("int64", 1, _ANY),
    "own": ("int64", 1, _ANY),
    "other": ("int64", 1, _ANY),
    "other_place": ("int64", 1, _ANY),
    "cover": ("float32", 1, (-1, 2)),
    "part": ("uint32", 1, (0, 256)),
    "rest_places": ("int64", 2, _ANY),
    "begin": ("int64", 1, _ANY),
    "weight": ("float32", 1, (0, 1.01)),
}


def drawing_arrays(drawing: Drawing) -> Arrays:
    """A drawing as arrays."""
    boxes = np.array([[label, *box] for label, box in drawing.box.items()], np.int64)
    kept: Arrays = {"labels": drawing.labels, "boxes": boxes.reshape(-1, 5)}
    kept |= {k: getattr(drawing.borders, k) for k in _BORDERS}
    kept |= _named("rest", drawing.borders.rest)
    if drawing.shades is not None:
        kept |= _named("shades", drawing.shades)
    return kept


def drawing_of(arrays: Arrays) -> Drawing:
    """A drawing from its arrays. Raises ValueError or KeyError if they are none."""
    labels = _one(arrays, "labels", ("uint16", 2, _ANY))
    _fit(labels.size > 0)
    rest = Blends(**_several(arrays, "rest_", _BLENDS))
    borders = Borders(**_several(arrays, "", _BORDERS), rest=rest)
    _fit(len({len(a) for a in (borders.place, borders.own, borders.other, borders.cover)}) == 1)
    most = int(labels.max()) + 1
    _fit(_within(borders.place, labels.size) and _whole(rest, labels.size, most))
    _fit(_within(borders.own, most) and _within(borders.other, most))
    found = _one(arrays, "boxes", ("int64", 2, (0, 2**31)))
    _fit(found.shape[1] == 5 and _within(found[:, 0], most))
    boxes = {int(b[0]): (int(b[1]), int(b[2]), int(b[3]), int(b[4])) for b in found}
    shades = None
    if "shades_grey" in arrays:
        shades = Shades(**_several(arrays, "shades_", _SHADES))
        _fit(shades.grey.shape == labels.shape and len(shades.mean) == most)
        _fit(len(shades.other) == len(borders.place) and rest.place.size == 0)
    return Drawing(labels, borders, boxes, shades)


def buffer_arrays(buffers: SurfaceBuffers) -> Arrays:
    """Surface buffers as arrays."""
    plain = {k: getattr(buffers, k) for k in _BUFFERS}
    parts = (("forms", buffers.forms), ("adjacency", buffers.adjacency), ("rest", buffers.rest))
    plain["pieces_scale"] = np.array([buffers.pieces.scale])
    plain |= {f"pieces_{k}": getattr(buffers.pieces, k) for k in _PIECES}
    return {**plain, **{k: v for name, part in parts for k, v in _named(name, part).items()}}


def buffers_of(arrays: Arrays, shape: tuple[int, int]) -> SurfaceBuffers:
    """Buffers of a picture of this shape. Raises ValueError or KeyError if the arrays are none."""
    forms = Forms(**_several(arrays, "forms_", _FORMS))
    adjacency = Adjacency(**_several(arrays, "adjacency_", _ADJACENCY))
    rest = Blends(**_several(arrays, "rest_", _BLENDS))
    plain = _several(arrays, "", _BUFFERS)
    buffers = SurfaceBuffers(
        shape=shape, forms=forms, adjacency=adjacency, rest=rest, pieces=_pieces(arrays), **plain
    )
    size, px, labels = buffers.size, shape[0] * shape[1], len(forms.kind)
    _fit(size > 0 and forms.nx.shape == forms.ny.shape == forms.occlusion.shape == shape)
    _fit(buffers.code.size == px and _within(buffers.code, size))
    _fit(buffers.normal.shape == (3, size) and len(buffers.local) == len(buffers.weight) == size)
    _fit(len(adjacency.label) == len(adjacency.pixels) == size and _within(adjacency.label, labels))
    _fit(adjacency.touching.shape == (len(adjacency.pair), 2) and _within(adjacency.touching, size))
    _fit(
        len(adjacency.touch_px) == len(adjacency.pair)
        and _within(adjacency.pair, len(adjacency.pair_px))
    )
    _fit(
        adjacency.pair_labels.shape == (len(adjacency.pair_px), 2)
        and bool((adjacency.pair_px > 0).all())
    )
    _fit(all(_within(a, size) for a in (buffers.own, buffers.other)))
    sides = (
        buffers.part,
        buffers.place,
        buffers.cover,
        buffers.own,
        buffers.other,
        buffers.other_place,
    )
    _fit(len({len(a) for a in sides}) == 1)
    _fit(_within(buffers.other_place, px) and _within(buffers.place, px))
    _fit(_whole(rest, px, size) and buffers.rest_places.shape == rest.of.shape)
    _fit(_within(buffers.rest_places, px) and _within(buffers.begin, size))
    _fit(len(buffers.begin) > 0 and bool((np.diff(buffers.begin) > 0).all()))
    return buffers


def _pieces(arrays: Arrays) -> Pieces:
    told = _one(arrays, "pieces_scale", ("int64", 1, (1, 64)))
    _fit(len(told) == 1)
    scale = int(told[0])
    found = Pieces(scale=scale, **_several(arrays, "pieces_", _PIECES))
    count = len(found.label)
    _fit(found.number.size > 0 and _within(found.number, count) and _within(found.inside, count))
    _fit(len(found.area) == len(found.inside) == len(found.framed) == count)
    _fit(found.box.shape == (count, 4) and _within(found.pairs, count))
    _fit(found.pairs.shape == (len(found.length), 2))
    return found


def _named(name: str, record: Blends | Forms | Adjacency | Shades) -> Arrays:
    return {f"{name}_{k}": v for k, v in record._asdict().items()}


def _several(arrays: Arrays, prefix: str, specs: dict[str, Spec]) -> Arrays:
    return {name: _one(arrays, prefix + name, spec) for name, spec in specs.items()}


def _one(arrays: Arrays, name: str, spec: Spec) -> npt.NDArray[Any]:
    """One array, of the type, dimensions and range it must have."""
    array, (kind, dimensions, (low, high)) = arrays[name], spec
    _fit(array.dtype == kind and array.ndim == dimensions)
    if array.size and (low, high) != _ANY:
        # NaN is within nothing.
        _fit(bool(array.min() >= low) and bool(array.max() <= high))
    return array


def _whole(rest: Blends, px: int, size: int) -> bool:
    """Whether blends name px, and three each of what there are so many."""
    fits = rest.of.shape == rest.share.shape == (len(rest.place), 3)
    return fits and _within(rest.place, px) and _within(rest.of, size)


def _fit(good: bool) -> None:
    if not good:
        raise ValueError("kept arrays do not fit each other")


def _within(numbers: npt.NDArray[Any], end: int) -> bool:
    return not numbers.size or (int(numbers.min()) >= 0 and int(numbers.max()) < end)
