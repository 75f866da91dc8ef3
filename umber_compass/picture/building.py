"""Surface buffers, built from a drawing: slow, once for a sketch, its forms and its gradients."""

from umber_compass.picture.buffers import SurfaceBuffers, encode_buffers
from umber_compass.picture.drawing import Drawing
from umber_compass.picture.forms import FormWish, lines_of
from umber_compass.picture.forms import build as build_forms
from umber_compass.picture.indexed import Axes, IndexedPicture
from umber_compass.picture.pieces import pieces_of
from umber_compass.work import Tick, idle

_FORMS_SHARE = 0.6  # of the time


def build_buffers(
    drawing: Drawing,
    wishes: tuple[FormWish, ...],
    axes: Axes,
    indexed: IndexedPicture,
    volume: str = "medium",
    families: bool = False,
    tick: Tick = idle,
) -> SurfaceBuffers:
    """The buffers of a drawing for the forms its regions were told and their gradients' axes."""
    pieces = pieces_of(drawing.labels, lines_of(wishes))
    labels = drawing.labels
    forms = build_forms(labels, wishes, pieces, volume, lambda s: tick(_FORMS_SHARE * s))
    tick(_FORMS_SHARE)
    buffers = encode_buffers(drawing, axes, indexed, forms, pieces, families)
    tick(1.0)
    return buffers
