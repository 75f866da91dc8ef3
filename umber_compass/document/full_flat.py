"""The flat picture at the full size of a sketch that is larger than what is worked on: strip by
strip, so that it takes little more room than the picture itself."""

import numpy as np

from umber_compass.colour.packed import Packed
from umber_compass.picture import borders
from umber_compass.picture.codes import Axes, encode_drawing, paint
from umber_compass.picture.drawing import Drawing, main_levels
from umber_compass.picture.mixes import Labels
from umber_compass.steps.harmony.colours import code_table
from umber_compass.steps.pipeline import Derived
from umber_compass.work import Tick, idle

_STRIP_PX = 3_000_000
_OVERLAP = 12  # rows; what a border px is mixed of lies no further off
_ASKED_PX = 6_000_000  # px that are asked for a region's main colour


def flat_in_strips(derived: Derived, packed: Packed, labels: Labels, tick: Tick = idle) -> Packed:
    """The plan's flat picture, (h, w), from its sketch's own picture and labels; `derived` may be
    of a smaller drawing, for only its colours are used."""
    height, width = labels.shape
    step = int(np.ceil(np.sqrt(labels.size / _ASKED_PX)))
    few = np.ascontiguousarray(packed[::step, ::step]), np.ascontiguousarray(labels[::step, ::step])
    levels = main_levels(*few)
    whole = np.zeros((int(labels.max(initial=0)) + 1, 3), np.float32)
    whole[: len(levels)] = levels
    out = np.empty(labels.shape, np.uint32)
    high = max(1, _STRIP_PX // width)
    for top in range(0, height, high):
        tick(top / height)
        bottom = min(top + high, height)
        rows = slice(max(top - _OVERLAP, 0), min(bottom + _OVERLAP, height))
        part = np.ascontiguousarray(labels[rows])
        mixed = borders.find(packed[rows], part, whole)
        axes = _axes_in(derived.axes, rows, height)
        codes = encode_drawing(Drawing(part, mixed, {}), axes)
        shown = paint(codes, code_table(codes, derived.regions, derived.colours))
        out[top:bottom] = shown[top - rows.start : bottom - rows.start]
    return out


def _axes_in(axes: Axes, rows: slice, height: int) -> Axes:
    """The axes of gradients, shares of the whole picture, as shares of a strip of it."""
    high = rows.stop - rows.start
    return {
        label: (x0, (y0 * height - rows.start) / high, x1, (y1 * height - rows.start) / high)
        for label, (x0, y0, x1, y1) in axes.items()
    }
