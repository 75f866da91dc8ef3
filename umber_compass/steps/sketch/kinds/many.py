"""Regions numbered by area, and no more of them than can be planned."""

from collections.abc import Iterator

import numpy as np
import numpy.typing as npt

from umber_compass.colour.gamut import fit
from umber_compass.colour.packed import Packed, unpack
from umber_compass.colour.spaces import decode, encode, luminance_of_value, oklab, to_bytes
from umber_compass.picture.mixes import Labels
from umber_compass.picture.shading import grey_levels, means_by_label
from umber_compass.steps.sketch.joining import (
    Parts,
    borders_between,
    merged_specks,
)
from umber_compass.steps.sketch.kinds.kind import Setting, Settings, setting_of
from umber_compass.words import Refusal, words

MOST_REGIONS = 2000
AT_MOST = Setting("at-most", "regions at most", "regions", 1, MOST_REGIONS, None)
_FAR = 1e9
_STRIP_PX = 2_000_000


def within_bounds(
    parts: Parts, picture: npt.NDArray[np.uint8], settings: Settings, subject: str
) -> Parts:
    """Parts, (h, w) numbered from 0, -1 where there is none, no more than can be planned. Where a
    number was told the smallest join what is beside them; else too many are refused, with the offer
    to."""
    most = setting_of(settings, AT_MOST)
    count = int(parts.max()) + 1
    if most is None:
        if count <= MOST_REGIONS:
            return parts
        line = words(
            "{found:,} areas found, and at most {most:,} can be planned; tell a number of regions "
            "at most, as 300, and the smallest join those beside them",
            found=count,
            most=MOST_REGIONS,
        )
        raise Refusal(subject, line)
    return joined_to(parts, picture, int(most))


def joined_to(parts: Parts, picture: npt.NDArray[np.uint8], most: int) -> Parts:
    """Parts, (h, w) numbered from 0, the smallest joined to the likest beside them until so many
    are left; those that touch nothing join the last."""
    count = int(parts.max()) + 1
    if count <= most:
        return parts
    there = parts >= 0
    flat = parts[there]
    size = np.bincount(flat, minlength=count).astype(float)
    mean = (
        np.stack([np.bincount(flat, picture[there][:, i], count) for i in range(3)], axis=1)
        / np.maximum(size, 1)[:, None]
    )
    shifted = np.where(there, parts, count)
    borders = borders_between(shifted)
    for other in borders.pop(count, {}):
        del borders[other][count]
    left = [count]

    def is_speck(area: float, apart: float) -> bool:
        if left[0] <= most:
            return False
        left[0] -= 1
        return True

    found = merged_specks(
        shifted,
        np.append(size, _FAR),
        np.vstack([mean, [[_FAR] * 3]]),
        borders | {count: {}},
        is_speck,
        lambda border, apart: border / (8 + apart),
    )
    found = np.where(there, found, -1)
    if int(found.max()) + 1 > most:
        # Islands that touch nothing: the smallest are one region.
        area = np.bincount(found[there])
        order = np.argsort(-area, kind="stable")
        number = np.empty(len(order), np.intp)
        number[order] = np.minimum(np.arange(len(order)), most - 1)
        found[there] = number[found[there]]
    return found


def by_area(parts: Parts) -> tuple[Labels, npt.NDArray[np.intp]]:
    """Parts, (h, w) numbered from 0, -1 where there is none, as labels from 1, the largest first;
    and which part each label was."""
    flat = parts.reshape(-1)
    area = np.bincount(flat[flat >= 0])
    order = np.argsort(-area, kind="stable")
    order = order[area[order] > 0]
    number = np.zeros(len(area) + 1, np.uint16)  # the last for -1
    number[order] = np.arange(1, len(order) + 1)
    return number[parts], order


def strips_of(shape: tuple[int, ...]) -> Iterator[slice]:
    """Rows of a large picture, (h, w), that are worked on at a time, so that what is made of them
    does not fill the memory."""
    high = max(1, _STRIP_PX // max(shape[1], 1))
    for top in range(0, shape[0], high):
        yield slice(top, top + high)


def means_of(labels: Labels, rgb: npt.NDArray[np.uint8]) -> npt.NDArray[np.uint8]:
    """The mean colour of each label, (labels, 3), label 1 first."""
    most = int(labels.max(initial=0))
    total = np.zeros((3, most + 1))
    size = np.zeros(most + 1)
    for rows in strips_of(labels.shape):
        flat = labels[rows].reshape(-1)
        if flat.any():
            size += np.bincount(flat, minlength=most + 1)
            for i in range(3):
                total[i] += np.bincount(flat, rgb[rows, :, i].reshape(-1), most + 1)
    return ((total / np.maximum(size, 1)).T[1:] + 0.5).astype(np.uint8)


def means_in_value(labels: Labels, packed: Packed, grey: bool = False) -> npt.NDArray[np.uint8]:
    """The mean colour of each label of a shaded picture, (labels, 3), or its `grey`, at the mean
    value L* of its px, not at that of the mixed colour: what is planned so gives the picture
    back."""
    values = means_by_label(grey_levels(packed), labels)[1:].astype(float)
    if grey:
        level = encode(luminance_of_value(values))
        return to_bytes(np.repeat(level[:, None], 3, axis=1))
    lab = oklab(decode(means_of(labels, unpack(packed)) / 255))
    hue = np.degrees(np.arctan2(lab[:, 2], lab[:, 1]))
    return to_bytes(encode(fit(values, np.hypot(lab[:, 1], lab[:, 2]), hue)))
