"""Regions drawn by hand: an outline makes one, a brush widens or narrows it. Where an edge of the
picture lies near what was drawn, the drawn edge goes along it. Label maps in, label maps out;
`shown` is the picture, (h, w) 0x00RRGGBB."""

from collections.abc import Collection, Sequence
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageDraw

from umber_compass.colour.packed import Packed
from umber_compass.picture.mixes import Labels
from umber_compass.picture.shading import grey_levels
from umber_compass.steps.sketch.label_edits import SPECK_PX, Point
from umber_compass.words import Refusal, words

Mask: TypeAlias = npt.NDArray[np.bool_]
Grey: TypeAlias = npt.NDArray[np.uint8]
Box: TypeAlias = tuple[slice, slice]

_PULL_PX = 7  # beside what was drawn, within which an edge of the picture pulls
_STEEP = 4  # times an edge's levels a px, beside `_RIDGE`
_RIDGE = 60  # of 255; where no edge is as steep the drawn line stands


class Drawn(NamedTuple):
    """Labels after a stroke, and the label that was drawn."""

    labels: Labels
    label: int


def outlined(labels: Labels, shown: Packed, line: Sequence[Point], kept: Collection[int]) -> Drawn:
    """What a closed line, px, goes round, as a region of its own; labels that are `kept`, as lines,
    are not covered. Raises Refusal if it holds hardly a px."""
    box, inside = _mask(labels.shape, line, 0.0)
    inside = pulled(inside, _grey_in(shown, box)) & ~np.isin(labels[box], list(kept))
    if np.count_nonzero(inside) < SPECK_PX:
        raise Refusal("the outline", words("holds hardly a px; draw it round the thing"))
    label = int(labels.max(initial=0)) + 1
    if label > np.iinfo(np.uint16).max:
        raise Refusal("the outline", words("cannot be taken: there are too many regions"))
    return Drawn(_given(labels, box, inside, label), label)


def widened(
    labels: Labels,
    shown: Packed,
    stroke: Sequence[Point],
    brush_px: float,
    label: int,
    kept: Collection[int],
) -> Labels:
    """A region with what a stroke covers, `brush_px` wide. Raises Refusal if nothing is new."""
    box, inside = _mask(labels.shape, stroke, brush_px)
    inside = pulled(inside, _grey_in(shown, box)) & ~np.isin(labels[box], list(kept))
    inside &= labels[box] != label
    if not inside.any():
        raise Refusal("the stroke", words("adds nothing; draw it over what the region should have"))
    return _given(labels, box, inside, label)


def narrowed(
    labels: Labels,
    shown: Packed,
    stroke: Sequence[Point],
    brush_px: float,
    label: int,
    kept: Collection[int],
) -> Labels:
    """A region without what a stroke covers: its px go to the nearest other region. Raises Refusal
    if nothing goes, or all of it would."""
    from scipy.ndimage import distance_transform_edt

    box, inside = _mask(labels.shape, stroke, brush_px)
    inside = pulled(inside, _grey_in(shown, box)) & (labels[box] == label)
    if not inside.any():
        raise Refusal("the stroke", words("takes nothing away; draw it over the region"))
    others = (labels > 0) & (labels != label) & ~np.isin(labels, list(kept))
    if not others.any() or np.count_nonzero(inside) == np.count_nonzero(labels == label):
        raise Refusal("the stroke", words("would leave nothing of the region; merge it instead"))
    v, u = distance_transform_edt(~others, return_distances=False, return_indices=True)
    found = labels.copy()
    found[box][inside] = labels[v[box][inside], u[box][inside]]
    return found


def pulled(inside: Mask, grey: Grey) -> Mask:
    """A mask whose edge goes along an edge of the picture where a steep one lies near, and stays
    where it was drawn elsewhere (watershed by image foresting, Falcao, Stolfi and Lotufo 2004)."""
    from scipy.ndimage import distance_transform_edt, gaussian_gradient_magnitude, watershed_ift

    deep = distance_transform_edt(np.pad(inside, 1))[1:-1, 1:-1]
    far = distance_transform_edt(~inside)
    reach = min(_PULL_PX, deep.max() * 0.6)
    markers = np.where(deep > reach, 1, np.where(far > reach, 2, 0)).astype(np.int16)
    if not (markers == 1).any() or not (markers == 2).any():
        return inside
    steep = gaussian_gradient_magnitude(grey.astype(np.float32), 1.0) * _STEEP
    away = np.where(inside, deep, far) - 0.5
    ridge = _RIDGE * np.clip(1 - away / max(reach, 1), 0, 1)
    cost = np.clip(np.maximum(steep, ridge), 0, 255).astype(np.uint8)
    return np.asarray(watershed_ift(cost, markers) == 1)


def _grey_in(shown: Packed, box: Box) -> Grey:
    return grey_levels(np.ascontiguousarray(shown[box]))


def _mask(shape: tuple[int, ...], line: Sequence[Point], brush_px: float) -> tuple[Box, Mask]:
    """What a line goes round, or covers as a brush so wide, in a box round it."""
    pad = brush_px / 2 + 2 * _PULL_PX + 2
    x, y = np.array(line, float).T
    box = (
        slice(int(max(y.min() - pad, 0)), int(min(y.max() + pad, shape[0] - 1)) + 1),
        slice(int(max(x.min() - pad, 0)), int(min(x.max() + pad, shape[1] - 1)) + 1),
    )
    size = (max(box[1].stop - box[1].start, 0), max(box[0].stop - box[0].start, 0))
    if not size[0] or not size[1]:
        raise Refusal("the line", words("lies outside the picture; draw it on the picture"))
    image = Image.new("1", size)
    pen = ImageDraw.Draw(image)
    points = [(u - box[1].start, v - box[0].start) for u, v in line]
    if brush_px:
        pen.line(points, fill=1, width=max(round(brush_px), 1), joint="curve")
        r = brush_px / 2
        for u, v in points:
            pen.ellipse((u - r, v - r, u + r, v + r), fill=1)
    elif len(points) > 2:
        pen.polygon(points, fill=1)
    return box, np.asarray(image, bool)


def _given(labels: Labels, box: Box, inside: Mask, label: int) -> Labels:
    found = labels.copy()
    found[box][inside] = label
    return found
