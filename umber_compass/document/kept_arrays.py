"""Drawings and reliefs as named arrays, to be kept, and back. What does not fit is refused with a
ValueError, so that a damaged copy is made anew."""

from typing import Any, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.picture.borders import Borders
from umber_compass.picture.drawing import Drawing
from umber_compass.picture.forms import Forms
from umber_compass.picture.grain import Grain
from umber_compass.picture.relief import Relief

Arrays: TypeAlias = dict[str, npt.NDArray[Any]]
VERSION = "6"  # of what is kept; another one is never read


def drawing_arrays(drawing: Drawing) -> Arrays:
    """A drawing as arrays."""
    boxes = np.array([[label, *box] for label, box in drawing.box.items()], np.int64)
    kept = {**_named(drawing.borders), "labels": drawing.labels, "boxes": boxes.reshape(-1, 5)}
    if drawing.shading is not None:
        kept["shading"] = drawing.shading
    return kept


def drawing_of(arrays: Arrays) -> Drawing:
    """A drawing from its arrays. Raises ValueError or KeyError if they are none."""
    labels = arrays["labels"]
    borders = Borders(*(arrays[name] for name in Borders._fields))
    _fit(labels.ndim == 2 and labels.dtype == np.uint16 and labels.size > 0)
    _fit(len({len(a) for a in borders}) == 1 and _within(borders.place, labels.size))
    boxes = {int(b[0]): (int(b[1]), int(b[2]), int(b[3]), int(b[4])) for b in arrays["boxes"]}
    shading = arrays.get("shading")
    _fit(shading is None or (shading.dtype == np.uint8 and shading.shape == labels.shape))
    return Drawing(labels, borders, boxes, shading)


def relief_arrays(relief: Relief) -> Arrays:
    """A relief as arrays."""
    plain = {k: v for k, v in relief._asdict().items() if isinstance(v, np.ndarray)}
    forms = {f"forms_{k}": v for k, v in _named(relief.forms).items()}
    grain = {f"grain_{k}": v for k, v in _named(relief.grain).items()}
    return {**plain, **forms, **grain}


def relief_of(arrays: Arrays, shape: tuple[int, int]) -> Relief:
    """A relief of a picture of this shape. Raises ValueError or KeyError if the arrays are none."""
    forms = Forms(*(arrays[f"forms_{name}"] for name in Forms._fields))
    grain = Grain(*(arrays[f"grain_{name}"] for name in Grain._fields))
    plain = {k: arrays[k] for k in Relief._fields if k not in ("shape", "forms", "grain")}
    relief = Relief(shape=shape, forms=forms, grain=grain, **plain)
    _fit(forms.nx.shape == forms.ny.shape == forms.openness.shape == shape)
    _fit(relief.code.size == shape[0] * shape[1] and _within(relief.code, relief.size))
    _fit(relief.normal.shape == (3, relief.size) and len(relief.local) == relief.size)
    _fit(_within(grain.touching, relief.size) and len(grain.label) == relief.size)
    _fit(all(_within(a, relief.size) for a in (relief.own, relief.other)))
    _fit(len(relief.part) == len(relief.place) == len(relief.cover) == len(relief.own))
    _fit(_within(relief.begin, relief.size) and len(relief.weight) == relief.size)
    _fit(_within(relief.other_place, relief.code.size) and _within(relief.place, relief.code.size))
    _fit(len(grain.pair) == len(grain.touching) and _within(grain.pair, len(grain.pair_px)))
    return relief


def _named(record: Borders | Forms | Grain) -> Arrays:
    return dict(record._asdict())


def _fit(good: bool) -> None:
    if not good:
        raise ValueError("kept arrays do not fit each other")


def _within(numbers: npt.NDArray[Any], end: int) -> bool:
    return not numbers.size or (int(numbers.min()) >= 0 and int(numbers.max()) < end)
