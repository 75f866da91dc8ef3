"""In how many separate places of the picture each slot appears."""

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np

from umber_compass.colour.spaces import Floats
from umber_compass.picture.drawing import Drawing
from umber_compass.picture.mixes import Ints
from umber_compass.plan.model import Region
from umber_compass.plan.terms import Slot
from umber_compass.steps.harmony.colours import RegionColour
from umber_compass.work import Tick, idle

_ACROSS = 240  # px across of the copy in which parts are looked for
_LEAST = 4  # of its px; a smaller part is none
_SLOTS: tuple[Slot, ...] = ("A", "B", "C", "D")


class Parts(NamedTuple):
    """The connected parts of a drawing's labels, the larger ones."""

    label: Ints  # (parts,)
    share: Floats  # (parts,) of the picture, 0-1
    centre: Floats  # (parts, 2) x, y as shares of the diagonal


def parts_of(drawing: Drawing, tick: Tick = idle) -> Parts:
    """The connected parts of every label."""
    from scipy.sparse import coo_array
    from scipy.sparse.csgraph import connected_components

    step = max(1, drawing.labels.shape[1] // _ACROSS)
    labels = drawing.labels[step // 2 :: step, step // 2 :: step].astype(np.intp)
    height, width = labels.shape
    at = np.arange(labels.size).reshape(labels.shape)
    links = [
        (one[same], two[same])
        for one, two, same in (
            (at[:, 1:], at[:, :-1], labels[:, 1:] == labels[:, :-1]),
            (at[1:], at[:-1], labels[1:] == labels[:-1]),
        )
    ]
    first, second = (np.concatenate(side) for side in zip(*links, strict=True))
    graph = coo_array((np.ones(len(first), bool), (first, second)), (labels.size, labels.size))
    _, own = connected_components(graph, directed=False)
    area = np.bincount(own)
    y, x = np.divmod(at.reshape(-1), width)
    diagonal = float(np.hypot(width, height))
    centre = np.stack([np.bincount(own, x), np.bincount(own, y)], axis=1) / area[:, None]
    label = np.zeros(len(area), np.intp)
    label[own] = labels.reshape(-1)
    kept = np.flatnonzero((area >= _LEAST) & (label > 0))
    return Parts(label[kept], area[kept] / labels.size, centre[kept] / diagonal)


class SlotPlaces(NamedTuple):
    """Where one slot appears."""

    slot: Slot
    many: int  # separate places
    regions: tuple[str, ...]
    share: float  # of the picture, 0-1
    centres: tuple[tuple[float, float], ...]  # as shares of the diagonal


def slot_places(
    parts: Parts | None,
    regions: tuple[Region, ...],
    colours: Mapping[str, RegionColour],
    apart: float,
) -> tuple[SlotPlaces, ...]:
    """The separate places of each slot that colours follow, greys and given ones apart; nearer
    parts than `apart`, % of the diagonal, are one place. None where the parts are not known."""
    if parts is None:
        return ()
    slot_of = {r.label: colours[r.id].first.slot for r in regions}
    id_of = {r.label: r.id for r in regions}
    found = []
    for slot in _SLOTS:
        if slot not in slot_of.values():
            continue
        mine = np.array([slot_of.get(int(i)) == slot for i in parts.label], bool)
        centres, share = parts.centre[mine], parts.share[mine]
        ids = tuple(dict.fromkeys(id_of[int(i)] for i in parts.label[mine]))
        kept = _apart(centres, share, apart / 100)
        where = tuple((float(x), float(y)) for x, y in centres[kept])
        found.append(SlotPlaces(slot, len(kept), ids, float(share.sum()), where))
    return tuple(found)


def _apart(centres: Floats, share: Floats, least: float) -> list[int]:
    """Parts that lie apart from each other, the largest first."""
    kept: list[int] = []
    free = np.ones(len(share), bool)
    for i in np.argsort(-share).tolist():
        if free[i]:
            kept.append(i)
            away = centres - centres[i]
            free &= np.sqrt(away[:, 0] ** 2 + away[:, 1] ** 2) > least
    return kept


def places_of_region(parts: Parts, label: int) -> Floats:
    """The middles of a region's parts, (n, 2), as shares of the diagonal."""
    return np.asarray(parts.centre[parts.label == label])
