"""The flat picture at the full size of a sketch that is larger than what is worked on: strip by
strip, so that it takes little more room than the picture itself."""

import numpy as np

from umber_compass.colour.packed import Packed
from umber_compass.picture import borders
from umber_compass.picture.drawing import Drawing, main_levels
from umber_compass.picture.indexed import Axes, index_drawing, paint
from umber_compass.picture.mixes import Labels
from umber_compass.picture.shading import grey_levels, means_by_label, shades_of
from umber_compass.steps.harmony.colours import code_table
from umber_compass.steps.pipeline import Derived
from umber_compass.work import Tick, idle

_STRIP_PX = 3_000_000
_OVERLAP = 26  # rows; what a border px is mixed of lies no further off
_ASKED_PX = 6_000_000  # px that are asked for a region's main colour


def flat_in_strips(derived: Derived, packed: Packed, labels: Labels, tick: Tick = idle) -> Packed:
    """The plan's flat picture, (h, w), from its sketch's own picture and labels; `derived` may be
    of a smaller drawing, for only its colours are used."""
    height, width = labels.shape
    step = int(np.ceil(np.sqrt(labels.size / _ASKED_PX)))
    few = np.ascontiguousarray(packed[::step, ::step]), np.ascontiguousarray(labels[::step, ::step])
    shaded = derived.drawing.shades is not None
    most = int(labels.max(initial=0)) + 1
    mean = np.zeros(most, np.float32)
    whole = np.zeros((most, 3), np.float32)
    if shaded:
        found = means_by_label(grey_levels(few[0]), few[1])
        mean[: len(found)] = found
    else:
        levels = main_levels(*few)
        whole[: len(levels)] = levels
    out = np.empty(labels.shape, np.uint32)
    high = max(1, _STRIP_PX // width)
    for top in range(0, height, high):
        tick(top / height)
        bottom = min(top + high, height)
        rows = slice(max(top - _OVERLAP, 0), min(bottom + _OVERLAP, height))
        part = np.ascontiguousarray(labels[rows])
        if shaded:
            mixed, shades = shades_of(packed[rows], part, mean)
            drawing = Drawing(part, mixed, {}, shades)
        else:
            drawing = Drawing(part, borders.find(packed[rows], part, whole), {})
        axes = _axes_in(derived.axes, rows, height)
        indexed = index_drawing(drawing, axes)
        table = code_table(
            indexed,
            derived.regions,
            derived.levels,
            derived.shading,
            derived.shade_rig,
            derived.stops,
            derived.shade_maps,
        )
        shown = paint(indexed, table)
        out[top:bottom] = shown[top - rows.start : bottom - rows.start]
    return out


def _axes_in(axes: Axes, rows: slice, height: int) -> Axes:
    """The axes of gradients, shares of the whole picture, as shares of a strip of it."""
    high = rows.stop - rows.start

    def within(axis: tuple[float, ...]) -> tuple[float, ...]:
        x0, y0, x1, y1, *seed = axis
        begin = (y0 * height - rows.start) / high
        if seed:  # of patches the third and fourth are the size of a cell
            return (x0, begin, x1, y1 * height / high, *seed)
        return (x0, begin, x1, (y1 * height - rows.start) / high)

    return {label: within(axis) for label, axis in axes.items()}
