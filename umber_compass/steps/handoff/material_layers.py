"""A plan's materials as layers: each region's flat colour with smooth borders, grown a little under
what lies before it, so that no gap shows where one is painted anew."""

from collections.abc import Iterable, Iterator
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.picture.borders import Borders
from umber_compass.picture.drawing import boxes
from umber_compass.picture.forms import front_order
from umber_compass.picture.indexed import codes_by_px
from umber_compass.picture.mixes import Labels
from umber_compass.plan.model import Region
from umber_compass.steps.pipeline import Derived

Picture8 = npt.NDArray[np.uint8]
Places = npt.NDArray[np.intp]
Box = tuple[int, int, int, int]


class MaterialLayer(NamedTuple):
    """One region: its colours, levels (h, w, 4) whose fourth is unused, which px are its alone,
    (h, w), how much of each it covers, (h, w) of 255, and where its upper left corner lies."""

    region: Region
    colours: Picture8
    alone: npt.NDArray[np.bool_]
    cover: Picture8
    x: int
    y: int

    @property
    def part(self) -> tuple[slice, slice]:
        """Where it lies in the picture."""
        height, width = self.cover.shape
        return slice(self.y, self.y + height), slice(self.x, self.x + width)


class Sheet(NamedTuple):
    """The px that layers are made of: which region each belongs to, (h, w), those that are mixed,
    each region's box by label, and the flat codes, (h, w)."""

    labels: Labels
    borders: Borders
    box: dict[int, Box]
    codes: npt.NDArray[np.integer]


def sheet_of(derived: Derived, step: int = 1) -> Sheet:
    """The px of a plan's drawing, or every so many-th of them."""
    drawing = derived.drawing
    codes = codes_by_px(derived.indexed).reshape(drawing.labels.shape)
    if step == 1:
        return Sheet(drawing.labels, drawing.borders, drawing.box, codes)
    few = np.s_[::step, ::step]
    labels = np.ascontiguousarray(drawing.labels[few])
    y, x = np.divmod(drawing.borders.place, drawing.labels.shape[1])
    on = (y % step == 0) & (x % step == 0)
    some = Borders(
        (y[on] // step) * labels.shape[1] + x[on] // step,
        drawing.borders.own[on],
        drawing.borders.other[on],
        drawing.borders.cover[on],
        drawing.borders.rest,
    )
    return Sheet(labels, some, boxes(labels), codes[few])


def from_back(derived: Derived) -> list[Region]:
    """The regions, the lowest first; lines lie on top."""
    place = _places(derived)
    return sorted(derived.regions, key=lambda r: int(place[r.label]))


def material_layers(
    derived: Derived, sheet: Sheet, regions: Iterable[Region], grown: int
) -> Iterator[MaterialLayer]:
    """The layers of regions, in their order, grown by so many px of the sheet."""
    labels, codes = sheet.labels, sheet.codes
    # A colour is gathered as one number: three bytes by three are slow.
    table = np.zeros((len(derived.table), 4), np.uint8)
    table[:, :3] = derived.table
    table = table.view("<u4")[:, 0]
    place, near = _places(derived), _BordersOf(sheet.borders, labels.shape[1])
    for region in regions:
        found = sheet.box.get(region.label)
        if found is None:
            continue
        box = grown_box(found, grown, labels.shape)
        part = np.s_[box[1] : box[3], box[0] : box[2]]
        own = labels[part] == region.label
        pixels = table[codes[part]]
        mean = pixels[own].view(np.uint8).reshape(-1, 4).mean(axis=0)
        np.copyto(pixels, np.round(mean).astype(np.uint8).view("<u4")[0], where=~own)
        cover = _cover(labels[part], own, region.label, place, box, near, grown)
        alone = own.copy()
        mixed = near.of(region.label)[0]
        alone[near.y[mixed] - box[1], near.x[mixed] - box[0]] = False
        alone = alone if alone.any() else own
        held = pixels.view(np.uint8).reshape(*own.shape, 4)
        yield MaterialLayer(region, held, alone, cover, box[0], box[1])


def _places(derived: Derived) -> Places:
    """Each label's place from back to front; what is bare lies behind all."""
    most = max(r.label for r in derived.regions)
    order = front_order(derived.form_wishes, derived.indexed.areas(most))
    place = np.full(int(max(most, derived.drawing.labels.max(initial=0))) + 1, -1, np.intp)
    lines = {r.label for r in derived.regions if r.role == "line"}
    for label, at in order.items():
        place[label] = at + (len(order) if label in lines else 0)
    return place


def grown_box(box: Box, by: int, shape: tuple[int, ...]) -> Box:
    """Left, top, right, bottom of a box told as x, y, width, height, wider on every side."""
    x, y, width, height = box
    left, top = max(x - by, 0), max(y - by, 0)
    return left, top, min(x + width + by, shape[1]), min(y + height + by, shape[0])


class _BordersOf:
    """The mixed px of each region, found without looking through all of them."""

    def __init__(self, borders: Borders, width: int) -> None:
        self.own, self.other, self.cover = borders.own, borders.other, borders.cover
        self.y, self.x = np.divmod(borders.place, width)
        self._first, self._second = (np.argsort(x, kind="stable") for x in (self.own, self.other))

    def of(self, label: int) -> tuple[Places, Places]:
        """Those that are its own, and those that it is mixed into, as indices."""
        found = []
        for order, whose in ((self._first, self.own), (self._second, self.other)):
            sides = np.searchsorted(whose[order], [label, label + 1])
            found.append(order[sides[0] : sides[1]])
        return found[0], found[1]


def _cover(
    labels: npt.NDArray[np.uint16],
    own: npt.NDArray[np.bool_],
    label: int,
    place: Places,
    box: Box,
    near: _BordersOf,
    grown: int,
) -> Picture8:
    """How much of each px in a box is the region's: all of its own, its share of those it is mixed
    with behind it, and all of what lies before it within reach."""
    left, top, right, bottom = box
    cover = np.where(own, np.uint8(255), np.uint8(0))
    mine, theirs = near.of(label)
    behind = place[near.other[mine]] < place[label]
    at = mine[behind]
    cover[near.y[at] - top, near.x[at] - left] = np.round(near.cover[at] * 255).astype(np.uint8)
    y, x = near.y[theirs], near.x[theirs]
    inside = (y >= top) & (y < bottom) & (x >= left) & (x < right)
    at = theirs[inside & (place[near.own[theirs]] < place[label])]
    share = np.round((1 - near.cover[at]) * 255).astype(np.uint8)
    cover[near.y[at] - top, near.x[at] - left] = share
    if grown:
        cover[_within(own, grown) & (place[labels] > place[label])] = 255
        # Beneath the smooth border of what lies before it, it is whole.
        at = mine[~behind]
        cover[near.y[at] - top, near.x[at] - left] = 255
    return cover


def _within(mask: npt.NDArray[np.bool_], reach: int) -> npt.NDArray[np.bool_]:
    """What lies within a square of so many px a side of a mask, (h, w)."""
    from scipy.ndimage import maximum_filter1d

    wide = maximum_filter1d(mask.view(np.uint8), 2 * reach + 1, axis=0, mode="constant")
    wide = maximum_filter1d(wide, 2 * reach + 1, axis=1, mode="constant")
    return np.asarray(wide, np.uint8).view(np.bool_)
