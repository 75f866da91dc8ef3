"""A drawing whose regions were changed by hand: only the box of what changed is looked at anew."""

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import Levels, Packed
from umber_compass.picture.borders import Borders
from umber_compass.picture.drawing import Drawing, boxes, draw
from umber_compass.picture.mixes import Blends, Ints, Labels
from umber_compass.picture.shading import Shades, means_by_label, shades_of

_INNER_PX, _OUTER_PX = 14, 48  # round what changed: what is taken anew, what is looked at for it
_MOST = 0.6  # of the picture, beyond which all of it is
Box = tuple[slice, slice]


def redrawn(before: Drawing, packed: Packed, grey: Levels, labels: Labels) -> Drawing:
    """The drawing of a picture, (h, w) 0x00RRGGBB, whose greys, (h, w), are known, with other
    labels, (h, w)."""
    shaded = before.shades is not None
    changed = before.labels != labels
    rows, columns = np.flatnonzero(changed.any(axis=1)), np.flatnonzero(changed.any(axis=0))
    if not len(rows):
        return before._replace(labels=labels)
    inner = _box(rows, columns, labels.shape, _INNER_PX)
    outer = _box(rows, columns, labels.shape, _OUTER_PX)
    if labels[outer].size > _MOST * labels.size:
        return draw(packed, labels, shaded)
    part = np.ascontiguousarray(packed[outer])
    here = np.ascontiguousarray(labels[outer])
    if before.shades is None:
        fresh, shades = draw(part, here).borders, None
    else:
        mean = means_by_label(grey, labels)
        fresh, shades = shades_of(part, here, mean)
    number = _numbers(before.labels, labels, changed)
    borders, other = _spliced(before, (fresh, shades), (inner, outer), labels.shape, number)
    if shades is None or before.shades is None:
        return Drawing(labels, borders, boxes(labels))
    told = before.shades.grey.copy()
    told[inner] = shades.grey[_within(inner, outer)]
    return Drawing(labels, borders, boxes(labels), Shades(told, other, shades.mean))


def _box(rows: Ints, columns: Ints, shape: tuple[int, ...], by: int) -> Box:
    return (
        slice(max(int(rows[0]) - by, 0), min(int(rows[-1]) + 1 + by, shape[0])),
        slice(max(int(columns[0]) - by, 0), min(int(columns[-1]) + 1 + by, shape[1])),
    )


def _within(inner: Box, outer: Box) -> Box:
    """The inner box as it lies in the outer one."""
    return (
        slice(inner[0].start - outer[0].start, inner[0].stop - outer[0].start),
        slice(inner[1].start - outer[1].start, inner[1].stop - outer[1].start),
    )


def _numbers(before: Labels, labels: Labels, changed: npt.NDArray[np.bool_]) -> Labels:
    """What each old label is called now: those that are gone, what holds their px."""
    most = max(int(before.max(initial=0)), int(labels.max(initial=0)))
    number = np.arange(most + 1, dtype=np.uint16)
    there = np.bincount(labels.reshape(-1), minlength=most + 1) > 0
    was, now = before[changed], labels[changed]
    gone = ~there[was]
    number[was[gone]] = now[gone]
    return number


def _spliced(
    before: Drawing,
    fresh: tuple[Borders, Shades | None],
    box: tuple[Box, Box],
    shape: tuple[int, ...],
    number: Labels,
) -> tuple[Borders, npt.NDArray[np.uint8]]:
    """Borders as they were outside the inner box and as they are now inside it, and the greys of
    their other sides."""
    inner, outer = box
    borders, shades = fresh
    old = before.borders
    stays = ~_inside(old.place, inner, shape)
    place = _moved(borders.place, outer, shape)
    comes = _inside(place, inner, shape)
    places = np.concatenate([old.place[stays], place[comes]])
    order = np.argsort(places, kind="stable")
    other = np.zeros(0, np.uint8)
    if shades is not None and before.shades is not None:
        other = np.concatenate([before.shades.other[stays], shades.other[comes]])[order]
    rest_stays = ~_inside(old.rest.place, inner, shape)
    rest_place = _moved(borders.rest.place, outer, shape)
    rest_comes = _inside(rest_place, inner, shape)
    rest = Blends(
        np.concatenate([old.rest.place[rest_stays], rest_place[rest_comes]]),
        np.concatenate([number[old.rest.of[rest_stays]], borders.rest.of[rest_comes]]),
        np.concatenate([old.rest.share[rest_stays], borders.rest.share[rest_comes]]),
    )
    return (
        Borders(
            places[order],
            np.concatenate([number[old.own[stays]], borders.own[comes]])[order],
            np.concatenate([number[old.other[stays]], borders.other[comes]])[order],
            np.concatenate([old.cover[stays], borders.cover[comes]])[order],
            rest,
        ),
        other,
    )


def _inside(place: Ints, box: Box, shape: tuple[int, ...]) -> npt.NDArray[np.bool_]:
    y, x = np.divmod(place, shape[1])
    rows, columns = box
    return np.asarray(
        (y >= rows.start) & (y < rows.stop) & (x >= columns.start) & (x < columns.stop)
    )


def _moved(place: Ints, box: Box, shape: tuple[int, ...]) -> Ints:
    """Places in a box as places in the whole picture."""
    y, x = np.divmod(place, box[1].stop - box[1].start)
    return np.asarray((y + box[0].start) * shape[1] + x + box[1].start)
