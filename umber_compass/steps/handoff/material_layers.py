"""A plan's materials as layers: each region's flat colour with smooth borders, grown a little under
what lies before it, so that no gap shows where one is painted anew."""

from collections.abc import Iterator
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageFilter

from umber_compass.picture.forms import front_order
from umber_compass.picture.mixes import Labels
from umber_compass.plan.model import Region
from umber_compass.steps.pipeline import Derived

GROWN = 3  # px of the picture that a material goes on beneath what lies before it
Alpha = npt.NDArray[np.uint8]


class MaterialLayer(NamedTuple):
    """One region: its px, RGBA (h, w, 4), and where they lie."""

    region: Region
    pixels: npt.NDArray[np.uint8]
    x: int
    y: int


def material_layers(
    derived: Derived, colours: npt.NDArray[np.uint8], grown: int = GROWN
) -> Iterator[MaterialLayer]:
    """Every region's layer, the lowest first; lines lie on top. `colours` is the flat picture
    without the mixing of borders, (h, w, 3)."""
    labels = derived.drawing.labels
    place = _places(derived)
    for region in sorted(derived.regions, key=lambda r: place[r.label]):
        box = _box(labels, region.label, grown)
        if box is None:
            continue
        left, top, right, bottom = box
        part = np.s_[top:bottom, left:right]
        alpha = _alpha(derived, region.label, place, box, grown)
        pixels = np.zeros((*alpha.shape, 4), np.uint8)
        own = labels[part] == region.label
        mean = colours[part][own].mean(axis=0)
        pixels[..., :3] = np.where(own[..., None], colours[part], np.round(mean))
        pixels[..., 3] = alpha
        yield MaterialLayer(region, pixels, left, top)


def _places(derived: Derived) -> npt.NDArray[np.intp]:
    """Each label's place from back to front; what is bare lies behind all."""
    most = max(r.label for r in derived.regions)
    order = front_order(derived.form_wishes, derived.indexed.areas(most))
    place = np.full(int(max(most, derived.drawing.labels.max(initial=0))) + 1, -1, np.intp)
    lines = {r.label for r in derived.regions if r.role == "line"}
    for label, at in order.items():
        place[label] = at + (len(order) if label in lines else 0)
    return place


def _box(labels: Labels, label: int, grown: int) -> tuple[int, int, int, int] | None:
    rows = np.flatnonzero((labels == label).any(axis=1))
    if not len(rows):
        return None
    columns = np.flatnonzero((labels[rows[0] : rows[-1] + 1] == label).any(axis=0))
    height, width = labels.shape
    left, top = max(int(columns[0]) - grown, 0), max(int(rows[0]) - grown, 0)
    right, bottom = int(columns[-1]) + 1 + grown, int(rows[-1]) + 1 + grown
    return left, top, min(right, width), min(bottom, height)


def _alpha(
    derived: Derived,
    label: int,
    place: npt.NDArray[np.intp],
    box: tuple[int, int, int, int],
    grown: int,
) -> Alpha:
    """How much of each px in a box is the region's: all of its own, its share of those it is mixed
    with behind it, and all of what lies before it within reach."""
    labels, borders = derived.drawing.labels, derived.drawing.borders
    left, top, right, bottom = box
    part = labels[top:bottom, left:right]
    own = part == label
    alpha = np.where(own, np.uint8(255), np.uint8(0))
    y, x = np.divmod(borders.place, labels.shape[1])
    inside = (y >= top) & (y < bottom) & (x >= left) & (x < right)
    mine = (borders.own == label) & inside
    theirs = (borders.other == label) & inside
    behind = place[borders.other] < place[label]
    at = np.flatnonzero(mine & behind)
    alpha[y[at] - top, x[at] - left] = np.round(borders.cover[at] * 255).astype(np.uint8)
    at = np.flatnonzero(theirs & (place[borders.own] < place[label]))
    share = np.round((1 - borders.cover[at]) * 255).astype(np.uint8)
    alpha[y[at] - top, x[at] - left] = share
    if grown:
        wide = Image.fromarray(np.where(own, np.uint8(255), np.uint8(0)))
        near = np.asarray(wide.filter(ImageFilter.MaxFilter(2 * grown + 1))) > 0
        before = place[part] > place[label]
        alpha[near & before] = 255
        # Beneath the smooth border of what lies before it, it is whole.
        at = np.flatnonzero(mine & ~behind)
        alpha[y[at] - top, x[at] - left] = 255
    return alpha
