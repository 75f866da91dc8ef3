"""A layered file becomes regions: each layer, or group, that is seen; the top one wins where they
overlap (docs/sketch.md). The file itself is read in formats; what comes here is told px by px."""

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import Levels, Packed, unpack
from umber_compass.picture.mixes import Labels
from umber_compass.plan.terms import Role
from umber_compass.steps.sketch.kinds.kind import KindSpec, Setting, Settings, Split, setting_of
from umber_compass.steps.sketch.kinds.many import (
    AT_MOST,
    by_area,
    means_of,
    strips_of,
    within_bounds,
)
from umber_compass.words import Refusal, words
from umber_compass.work import Tick

DEPTH = Setting("depth", "groups opened", "levels", 0, 8, 0)
_UNEVEN = 0.25  # of a region's px that lie off its mean, from which the sketch is shaded
_OFF = 6  # levels


def split(packed: Packed, subject: str, settings: Settings, tick: Tick) -> Split:
    """Refused: without its layers a picture is none of this kind."""
    raise Refusal(subject, words("has no layers; bring in an OpenRaster file (.ora)"))


def split_layers(
    owner: npt.NDArray[np.int16],
    names: list[str],
    roles: list[Role | None],
    packed: Packed,
    settings: Settings,
    subject: str,
) -> Split:
    """The regions of layers: `owner`, (h, w), says which of the names, lowest first, is on top at
    each px, -1 where none is; `roles` are those that layers tell. Raises Refusal if nothing is
    seen."""
    area = np.zeros(len(names), np.intp)
    for rows in strips_of(owner.shape):
        area += np.bincount(owner[rows].reshape(-1) + 1, minlength=len(names) + 1)[1:]
    if not area.any():
        raise Refusal(
            subject, words("none of its layers is seen; show those that should be regions")
        )
    rgb = unpack(packed)
    most = setting_of(settings, AT_MOST)
    if most is None or np.count_nonzero(area) <= most:
        labels, lead = _numbered(owner, area)
    else:
        labels, lead = _joined(owner, area, np.ascontiguousarray(rgb), settings, subject)
    rank = np.argsort(np.argsort(lead))
    colours = means_of(labels, rgb)
    shaded = _is_shaded(labels, rgb, colours)
    said = tuple(names[i] for i in lead)
    told = tuple(roles[i] for i in lead)
    return Split(labels, colours, shaded, said, told, tuple(int(r) for r in rank))


def _numbered(owner: npt.NDArray[np.int16], area: npt.NDArray[np.intp]) -> tuple[Labels, list[int]]:
    """Labels from 1, the largest layer first, and which layer each is."""
    order = np.argsort(-area, kind="stable")
    order = order[area[order] > 0]
    number = np.zeros(len(area) + 1, np.uint16)  # the last for -1
    number[order] = np.arange(1, len(order) + 1)
    labels = np.zeros(owner.shape, np.uint16)
    for rows in strips_of(owner.shape):
        labels[rows] = number[owner[rows]]
    return labels, order.tolist()


def _joined(
    owner: npt.NDArray[np.int16],
    area: npt.NDArray[np.intp],
    rgb: Levels,
    settings: Settings,
    subject: str,
) -> tuple[Labels, list[int]]:
    """The same where the smallest join what is beside them: each is then its largest layer."""
    kept = np.flatnonzero(area > 0)
    number = np.full(len(area) + 1, -1, np.int32)
    number[kept] = np.arange(len(kept))
    before = number[owner]
    parts = within_bounds(before, rgb, settings, subject)
    labels, order = by_area(parts)
    return labels, [int(kept[np.bincount(before[parts == p]).argmax()]) for p in order.tolist()]


def _is_shaded(labels: Labels, rgb: Levels, colours: Levels) -> bool:
    """Whether so many px lie off their region's mean that there is light and dark in them."""
    table = np.vstack([[[0, 0, 0]], colours]).astype(np.int16)
    off = there = 0
    for rows in strips_of(labels.shape):
        inside = labels[rows] > 0
        if inside.any():
            far = np.abs(rgb[rows] - table[labels[rows]]).max(axis=2) > _OFF
            off += int(np.count_nonzero(far & inside))
            there += int(np.count_nonzero(inside))
    return off > _UNEVEN * there


KIND = KindSpec("layers", "Layered file", "a layer, a region", split, (DEPTH, AT_MOST))
