"""A relief, built from a drawing: slow, once for a sketch, its forms and its gradients."""

from umber_compass.picture.codes import Axes, Codes
from umber_compass.picture.drawing import Drawing
from umber_compass.picture.forms import FormWish
from umber_compass.picture.forms import build as build_forms
from umber_compass.picture.relief import Relief, encode_relief
from umber_compass.work import Tick, idle

_FORMS_SHARE = 0.6  # of the time


def build_relief(
    drawing: Drawing, wishes: tuple[FormWish, ...], axes: Axes, codes: Codes, tick: Tick = idle
) -> Relief:
    """The relief of a drawing for the forms its regions were told and their gradients' axes."""
    forms = build_forms(drawing.labels, wishes, drawing.box, lambda s: tick(_FORMS_SHARE * s))
    tick(_FORMS_SHARE)
    relief = encode_relief(drawing, axes, codes, forms)
    tick(1.0)
    return relief
