"""The picture in part of its light: all lamps off, ambient only, key only. The exposure stays, so
that each shows what it adds."""

from collections.abc import Callable
from typing import NamedTuple

import numpy as np

from umber_compass.steps import lit as lighting
from umber_compass.steps.codes import Packed, paint
from umber_compass.steps.forms import Tick, idle
from umber_compass.steps.light import Lights
from umber_compass.steps.pipeline import Derived

# With every lamp off nothing would be seen. What is shown is what an eye used to the dark makes
# out: local colours in a little neutral light (studio rule, docs/light.md).
_NIGHT = 0.06


class Showing(NamedTuple):
    """A part of the light."""

    name: str
    title: str
    says: str
    part: Callable[[Lights], Lights] | None  # None: no light at all, the flat picture


def _lights_off(lights: Lights) -> Lights:
    night = np.full(3, _NIGHT / max(lights.exposure, 1e-6))
    return lights._replace(ambient=night, key=np.zeros(3), tint_share=0.0)


SHOWINGS = {
    s.name: s
    for s in (
        Showing("flat", "Flat", "local colours without light", None),
        Showing("lights-off", "Lights off", "local colours, every lamp off", _lights_off),
        Showing(
            "ambient-only",
            "Ambient only",
            "the ambient light alone",
            lambda lights: lights._replace(key=np.zeros(3), tint_share=0.0),
        ),
        Showing(
            "key-only",
            "Key only",
            "the key light alone",
            lambda lights: lights._replace(ambient=np.zeros(3)),
        ),
    )
}


def shown_in(derived: Derived, name: str) -> Packed:
    """The coded picture, (h, w), in a part of the light; flat where the plan has no light on."""
    part = SHOWINGS[name].part
    if derived.relief is None or derived.lit is None or part is None:
        return paint(derived.codes, derived.table)
    lights = part(derived.lit.lights)
    light = lighting.arriving(derived.relief, lights._replace(exposure=1.0)).light
    local = lighting.local_light(derived.table)
    packed = lighting.light_up(derived.relief, local, light, lights.exposure)
    return lighting.paint_lit(derived.relief, packed)


def exact_in(derived: Derived, name: str, tick: Tick = idle) -> Packed:
    """The exact picture, (h, w), in a part of the light."""
    part = SHOWINGS[name].part
    if derived.relief is None or derived.lit is None or part is None:
        return paint(derived.codes, derived.table)
    lights = part(derived.lit.lights)
    return lighting.paint_exact(derived.relief, derived.codes, derived.table, lights, tick)
