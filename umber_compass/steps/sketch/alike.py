"""Which regions are the same thing twice: both eyes, the panes of a window, the pieces of a ground
that a figure parts."""

import re
from collections.abc import Sequence
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import Floats
from umber_compass.picture.mixes import Labels
from umber_compass.plan.model import Region

Mask: TypeAlias = npt.NDArray[np.bool_]

_SIDE = 32  # px, at which two outlines are laid over each other
_SAME = 0.72  # of both outlines together, that they share
_AREA, _ASPECT = 1.5, 1.35  # times, by which two may differ in px and in width over height
_LEVEL = 0.06  # of the height, that a left and a right one may lie apart
_TINT = 0.025  # OKLab between their colours, where they have any
_LARGEST = 0.12  # of the picture, of a thing that is there twice
_EDGE = 0.08  # of the height, by which the pieces of a parted ground may differ above and below
_SIDES = re.compile(r"\b(left|right|upper|lower|first|second|third)\b\s*", re.I)


class Shape(NamedTuple):
    """A region as it lies in the picture: its box, shares of width and height, its px as a share,
    and its outline at one small size."""

    box: tuple[float, float, float, float]
    share: float
    mask: Mask


def shapes_of(labels: Labels, boxes: dict[int, tuple[int, int, int, int]]) -> dict[int, Shape]:
    """The shape of each label, (h, w)."""
    height, width = labels.shape
    found = {}
    for label, (x, y, wide, high) in boxes.items():
        inside = labels[y : y + high, x : x + wide] == label
        rows = ((np.arange(_SIDE) + 0.5) * high / _SIDE).astype(int)
        columns = ((np.arange(_SIDE) + 0.5) * wide / _SIDE).astype(int)
        box = (x / width, y / height, wide / width, high / height)
        share = np.count_nonzero(inside) / labels.size
        found[label] = Shape(box, share, inside[rows[:, None], columns])
    return found


def alike(
    regions: Sequence[Region],
    shapes: dict[int, Shape],
    lab: dict[int, Floats] | None,
    shape: tuple[int, int],
) -> list[list[Region]]:
    """Groups of regions that are one thing, the largest region of each first. `lab` are their
    colours, OKLab by label, where they have any of their own; `shape` is the picture's, px."""
    things = [r for r in regions if r.role != "line" and r.label in shapes]
    things.sort(key=lambda r: -shapes[r.label].share)
    groups: list[list[Region]] = []
    for one in things:
        for group in groups:
            lead = group[0]
            tinted = lab is None or np.linalg.norm(lab[one.label] - lab[lead.label]) <= _TINT
            if tinted and _is_twin(lead, one, shapes, shape):
                group.append(one)
                break
        else:
            groups.append([one])
    return [g for g in groups if len(g) > 1]


def _is_twin(one: Region, other: Region, shapes: dict[int, Shape], size: tuple[int, int]) -> bool:
    a, b = shapes[one.label], shapes[other.label]
    if one.role != other.role:
        return False
    if one.role == "ground":
        return _is_parted(a, b)
    if max(a.share, b.share) > _LARGEST or not _near(a.share, b.share, _AREA):
        return False
    aspects = [s.box[2] * size[1] / max(s.box[3] * size[0], 1e-9) for s in (a, b)]
    if not _near(aspects[0], aspects[1], _ASPECT):
        return False
    as_it_is, mirrored = _shared(a.mask, b.mask), _shared(a.mask, b.mask[:, ::-1])
    level = abs(_middle(a)[1] - _middle(b)[1]) <= _LEVEL
    # What is only mirrored lies at one height, as eyes do; what repeats may lie anywhere.
    return as_it_is >= _SAME or (level and mirrored >= _SAME)


def _is_parted(a: Shape, b: Shape) -> bool:
    """Whether two pieces of ground are one behind what stands between them."""
    above = abs(a.box[1] - b.box[1]) <= _EDGE
    below = abs(a.box[1] + a.box[3] - b.box[1] - b.box[3]) <= _EDGE
    left, right = sorted((a, b), key=lambda s: s.box[0])
    return above and below and left.box[0] <= 0.02 and right.box[0] + right.box[2] >= 0.98


def _near(one: float, other: float, times: float) -> bool:
    return max(one, other) <= times * min(one, other)


def _shared(one: Mask, other: Mask) -> float:
    return float((one & other).sum() / max((one | other).sum(), 1))


def _middle(shape: Shape) -> tuple[float, float]:
    x, y, wide, high = shape.box
    return x + wide / 2, y + high / 2


def name_of_all(group: Sequence[Region]) -> tuple[str, bool]:
    """A name for several that are one thing, and whether any was named: "left eye" gives "eyes"."""
    named = [r for r in group if r.named]
    if not named:
        return group[0].name, False
    plain = _SIDES.sub("", named[0].name).strip() or named[0].name
    return (plain if plain.endswith("s") else f"{plain}s"), True
