"""What the layered starter file will look like, small: its layers, which of them can be left out,
and how near they come to the lit picture."""

from collections.abc import Collection
from typing import NamedTuple

import numpy as np

from umber_compass.colour.blending import MODES
from umber_compass.colour.difference import ciede2000
from umber_compass.colour.packed import Packed, pack, unpack
from umber_compass.colour.spaces import cielab, decode
from umber_compass.picture.drawing import Drawing
from umber_compass.picture.indexed import paint
from umber_compass.steps.handoff.light_layers import LightLayer, light_layers
from umber_compass.steps.handoff.stack import (
    Canvas,
    MaterialGroup,
    groups,
    lay,
    lay_group,
    nearer,
)
from umber_compass.steps.pictures import exact_picture
from umber_compass.steps.pipeline import Derived
from umber_compass.work import Tick, idle

PREVIEW_PX = 360  # across, at most
GREY = "grey check"
_PAPER, _MIDDLE = 1.0, 0.5  # encoded
_ASKED = 40_000  # px that are compared


class Preview(NamedTuple):
    """Small pictures, (h, w) 0x00RRGGBB, flat and lit (the same where there is no light), the
    layers they are made of, the lowest first, and CIEDE2000 of the layers from the lit picture, on
    the mean and of 95 of 100 px; None where there is no light."""

    flat: Packed
    lit: Packed
    materials: tuple[MaterialGroup, ...]
    lights: tuple[str, ...]
    above: tuple[LightLayer, ...]
    off: tuple[float, float] | None


def preview(derived: Derived, tick: Tick = idle) -> Preview:
    """The starter file of a plan at the size of its drawing here, thinned to a small one."""
    repaintable = derived.plan.layers.light == "repaintable"
    lights = list(light_layers(derived, repaintable, tick))
    canvas = _empty(derived.drawing)
    materials = []
    step = max(1, -(-canvas.shape[1] // PREVIEW_PX))
    for one in groups(derived, lights, derived.plan.layers.grown):
        tick(-1.0)
        lay_group(canvas, one)
        materials.append(_thinned(one, step))
    above = nearer(canvas, derived, tick) if lights and not repaintable else ()
    for layer in above:
        lay(canvas, layer)
    lit = exact_picture(derived, tick)
    few = np.s_[::step, ::step]
    return Preview(
        np.ascontiguousarray(paint(derived.indexed, derived.table)[few]),
        np.ascontiguousarray(lit[few]),
        tuple(materials),
        tuple(layer.name for layer in lights),
        tuple(layer._replace(picture=layer.picture[few]) for layer in above),
        _off(canvas, lit) if lights else None,
    )


def shown(found: Preview, hidden: Collection[str]) -> Packed:
    """The layers laid on each other, (h, w) 0x00RRGGBB, without those that are hidden: by the name
    of a layer, or the id of a region for all of its group. The grey check is seen unless hidden."""
    canvas = np.zeros((*found.flat.shape, 4), np.float32)
    for one in found.materials:
        if one.region.id not in hidden:
            lay_group(canvas, one, hidden)
    for layer in found.above:
        if layer.name not in hidden:
            lay(canvas, layer)
    colours = canvas[..., :3] * canvas[..., 3:] + _PAPER * (1 - canvas[..., 3:])
    if GREY not in hidden:
        colours = np.asarray(MODES["color"](colours, np.full_like(colours, _MIDDLE)), np.float32)
    return pack(np.asarray(np.clip(colours, 0, 1) * 255 + 0.5).astype(np.uint8))


def _empty(drawing: Drawing) -> Canvas:
    return np.zeros((*drawing.labels.shape, 4), np.float32)


def _thinned(one: MaterialGroup, step: int) -> MaterialGroup:
    """A group with every so many-th px of the picture alone."""
    rows, columns = slice(-one.y % step, None, step), slice(-one.x % step, None, step)
    return one._replace(
        x=-(-one.x // step),
        y=-(-one.y // step),
        base=one.base[rows, columns],
        light=tuple(part._replace(pixels=part.pixels[rows, columns]) for part in one.light),
        edge=None if one.edge is None else one.edge[rows, columns],
    )


def _off(canvas: Canvas, lit: Packed) -> tuple[float, float]:
    flat = canvas.reshape(-1, 4)
    some = slice(None, None, max(1, len(flat) // _ASKED))
    wanted = unpack(np.ascontiguousarray(lit.reshape(1, -1)[:, some]))[0] / 255
    apart = ciede2000(cielab(decode(flat[some, :3])), cielab(decode(wanted)))
    painted = apart[flat[some, 3] > 0.5]
    if not len(painted):
        return 0.0, 0.0
    return float(painted.mean()), float(np.percentile(painted, 95))
