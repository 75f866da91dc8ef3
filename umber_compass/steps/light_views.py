"""Views of the picture in part of its light: all lamps off, ambient only, key only. The exposure
stays, so that each shows what it adds."""

from collections.abc import Callable
from typing import NamedTuple

import numpy as np

from umber_compass.colour.blending import blend
from umber_compass.colour.packed import Packed
from umber_compass.colour.spaces import to_bytes
from umber_compass.picture.buffers import SurfaceBuffers
from umber_compass.picture.indexed import paint
from umber_compass.picture.light import Lights
from umber_compass.picture.relit import arriving, light_up, local_light, paint_exact
from umber_compass.picture.seen import paint_gathered
from umber_compass.steps.harmony.colours import code_table
from umber_compass.steps.pipeline import Derived
from umber_compass.work import Tick, idle

# With every lamp off nothing would be seen. What is shown is what an eye used to the dark makes
# out: local colours in a little neutral light (studio rule, docs/light.md).
_NIGHT = 0.06


class LightView(NamedTuple):
    """The picture in a part of its light."""

    name: str
    title: str
    says: str
    part: Callable[[Lights], Lights] | None  # None: no light at all, the flat picture
    layer: str = ""  # a layer's mode over the sketch's own grey, instead of light


def _lights_off(lights: Lights) -> Lights:
    night = np.full(3, _NIGHT / max(lights.exposure, 1e-6))
    return lights.only()._replace(ambient=night)


LIGHT_VIEWS = {
    v.name: v
    for v in (
        LightView("flat", "Flat", "local colours without light", None),
        LightView("lights-off", "Lights off", "local colours, every lamp off", _lights_off),
        LightView(
            "ambient-only",
            "Ambient only",
            "the ambient light alone",
            lambda lights: lights.only(ambient=True),
        ),
        LightView(
            "key-only", "Key only", "the key light alone", lambda lights: lights.only(key=True)
        ),
        LightView("layer-colour", "Colour layer", "colour over your grey", None, "color"),
        LightView("layer-multiply", "Multiply", "your grey times colour", None, "multiply"),
        LightView("layer-overlay", "Overlay", "colour laid over your grey", None, "overlay"),
    )
}


def in_part(derived: Derived, name: str) -> Packed:
    """The coded picture, (h, w), in a part of the light; flat where the plan has no light on."""
    lit = _lit_in_part(derived, name)
    if lit is None:
        return _unlit(derived, name)
    buffers, lights = lit
    light = arriving(buffers, lights._replace(exposure=1.0))
    packed = light_up(buffers, local_light(derived.table), light, lights)
    return paint_gathered(buffers, packed)


def _lit_in_part(derived: Derived, name: str) -> tuple[SurfaceBuffers, Lights] | None:
    """What is lit and by which lights; None where the plan has no light on, or the view none."""
    part = LIGHT_VIEWS[name].part
    if derived.buffers is None or derived.lit is None or part is None:
        return None
    return derived.buffers, part(derived.lit.lights)


def _unlit(derived: Derived, name: str) -> Packed:
    layer = LIGHT_VIEWS[name].layer
    return over_grey(derived, layer) if layer else paint(derived.indexed, derived.table)


def over_grey(derived: Derived, mode: str) -> Packed:
    """The picture, (h, w), as local colours in a layer over the sketch's own grey; flat where the
    sketch has no shading of its own. `mode` is a layer's."""
    local = code_table(derived.indexed, derived.regions, derived.levels, stops=derived.stops)
    if derived.indexed.off is None:
        return paint(derived.indexed, local)
    grey = np.repeat((derived.indexed.key % 256)[:, None] / 255, 3, axis=1)
    shown = to_bytes(blend(mode, grey, local / 255))
    shown[0] = local[0]
    return paint(derived.indexed, shown)


def exactly_in_part(derived: Derived, name: str, tick: Tick = idle) -> Packed:
    """The exact picture, (h, w), in a part of the light."""
    lit = _lit_in_part(derived, name)
    if lit is None:
        return _unlit(derived, name)
    buffers, lights = lit
    return paint_exact(buffers, derived.indexed, derived.table, lights, tick)
