"""What the layered starter file will look like, small: its layers, which of them can be left out,
and how near they come to the lit picture."""

from collections.abc import Collection, Mapping
from typing import NamedTuple

import numpy as np

from umber_compass.colour.blending import MODES
from umber_compass.colour.difference import ciede2000
from umber_compass.colour.packed import Packed, pack, unpack
from umber_compass.colour.spaces import cielab, decode
from umber_compass.picture.borders import Borders
from umber_compass.picture.indexed import paint
from umber_compass.steps.handoff.light_layers import LightLayer, light_layers, painted
from umber_compass.steps.handoff.material_layers import sheet_of
from umber_compass.steps.handoff.palette import GREY_CHECK
from umber_compass.steps.handoff.stack import (
    Canvas,
    MaterialGroup,
    groups,
    lay,
    lay_group,
    nearer,
)
from umber_compass.steps.handoff.thing_groups import runs_of
from umber_compass.steps.pipeline import Derived
from umber_compass.work import Tick, idle

PREVIEW_PX = 640  # across, at most
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
    thing_of: Mapping[str, str]  # by region, the group of its thing; those that lie in one


def preview(derived: Derived, tick: Tick = idle) -> Preview:
    """The starter file of a plan, of so few px of its drawing that it is small."""
    wish, exact = derived.plan.layers, derived.exact_light
    repaintable = wish.light == "repaintable"
    step = max(1, -(-derived.drawing.labels.shape[1] // PREVIEW_PX))
    sheet = sheet_of(derived, step)
    wanted = None if exact is None else painted(derived, derived.table, exact, tick, step)
    lights = list(light_layers(derived, repaintable, tick, step, wanted))
    canvas = np.zeros((*sheet.labels.shape, 4), np.float32)
    materials = []
    grown = -(-wish.grown // step)
    runs = runs_of(derived, sheet, grown)
    for one in groups(derived, sheet, runs, lights, grown):
        tick(-1.0)
        lay_group(canvas, one)
        materials.append(one)
    flat = np.ascontiguousarray(paint(derived.indexed, derived.table)[::step, ::step])
    lit, above = flat, tuple[LightLayer, ...]()
    if lights and wanted is not None:
        above = () if repaintable else nearer(canvas, wanted)
        for layer in above:
            lay(canvas, layer)
        lit = pack(wanted)
    names = tuple(layer.name for layer in lights)
    thing_of = {r.id: run.thing for run in runs for r in run.regions if run.thing}
    off = _off(canvas, lit, sheet.borders) if lights else None
    return Preview(flat, lit, tuple(materials), names, above, off, thing_of)


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
    if GREY_CHECK not in hidden:
        colours = np.asarray(MODES["color"](colours, np.full_like(colours, _MIDDLE)), np.float32)
    return pack(np.asarray(np.clip(colours, 0, 1) * 255 + 0.5).astype(np.uint8))


def _off(canvas: Canvas, lit: Packed, borders: Borders) -> tuple[float, float]:
    """CIEDE2000 of what is painted, on the mean and of 95 of 100 px, beside mixed borders."""
    flat = canvas.reshape(-1, 4)
    asked = flat[:, 3] > 0.5
    asked[borders.place] = False
    some = np.flatnonzero(asked)[:: max(1, len(flat) // _ASKED)]
    if not len(some):
        return 0.0, 0.0
    wanted = unpack(lit).reshape(-1, 3)[some] / 255
    apart = ciede2000(cielab(decode(flat[some, :3])), cielab(decode(wanted)))
    return float(apart.mean()), float(np.percentile(apart, 95))
