"""The picture that hands work on: decoded once for many strokes, and only looked at anew where
regions changed."""

from umber_compass.colour.packed import Levels, Packed
from umber_compass.document.pixels import (
    Pixels,
    as_drawn,
    labels_at_working_size,
    shown_at_working_size,
)
from umber_compass.picture.drawing import Drawing, draw
from umber_compass.picture.mixes import Labels
from umber_compass.picture.redrawing import redrawn
from umber_compass.picture.shading import grey_levels
from umber_compass.plan.model import Sketch


def drawing_with(pixels: Pixels, sketch: Sketch, labels: Labels) -> Drawing:
    """The drawing of a sketch with other labels, (h, w): where its own is known, only what changed
    is looked at anew."""
    (shown, grey), before = _shown(pixels, sketch), pixels.drawings.get(sketch.labels)
    small = labels_at_working_size(labels)
    if before is None:
        return draw(shown, small, sketch.shaded)
    return redrawn(before, shown, grey, small)


def shown_whole(pixels: Pixels, sketch: Sketch) -> Packed:
    """A sketch's picture at its own size, (h, w), as its drawing is made of it."""
    shown = _shown(pixels, sketch)[0]
    is_whole = shown.shape == pixels.labels(sketch).shape
    return shown if is_whole else as_drawn(pixels.picture(sketch), sketch)


def _shown(pixels: Pixels, sketch: Sketch) -> tuple[Packed, Levels]:
    """The picture at working size, and its greys."""
    if pixels.shown is None or pixels.shown[0] != sketch.hash:
        shown = shown_at_working_size(as_drawn(pixels.picture(sketch), sketch))
        pixels.shown = (sketch.hash, shown, grey_levels(shown))
    return pixels.shown[1:]
