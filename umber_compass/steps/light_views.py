"""Views of the picture in part of its light: all lamps off, the ambient light or one lamp alone, as
if of plaster, the two families of light and shade. The exposure stays, so that each shows what it
adds."""

from collections.abc import Callable
from typing import NamedTuple

import numpy as np

from umber_compass.colour.blending import blend
from umber_compass.colour.packed import Levels, Packed
from umber_compass.colour.spaces import to_bytes
from umber_compass.picture.buffers import SurfaceBuffers
from umber_compass.picture.exact import paint_exact
from umber_compass.picture.finish import Finish
from umber_compass.picture.indexed import paint
from umber_compass.picture.light import Lights
from umber_compass.picture.pools import PoolLight
from umber_compass.picture.reach import Ends
from umber_compass.picture.relit import arriving, light_up, local_light
from umber_compass.picture.seen import Seen, paint_gathered
from umber_compass.plan.rigs import KINDS
from umber_compass.steps.harmony.colours import code_table
from umber_compass.steps.pictures import SeenForms, in_ends
from umber_compass.steps.pipeline import Derived
from umber_compass.work import Tick, idle

# With every lamp off nothing would be seen. What is shown is what an eye used to the dark makes
# out: local colours in a little neutral light (studio rule, docs/light.md).
_NIGHT = 0.06
_PLASTER = 208  # level of grey; of no sketch's own colours
_IN_LIGHT, _IN_SHADE = 0xD8D8D8, 0x5A5A5A
LAMP = "lamp-"  # and a lamp's name: that lamp alone


class LightView(NamedTuple):
    """The picture in a part of its light."""

    name: str
    title: str
    says: str
    part: Callable[[Lights], Lights] | None  # None: no light at all, the flat picture
    shows: tuple[str, ...] = ("glow", "sky")  # of what no lamp reaches, what is seen all the same
    layer: str = ""  # a layer's mode over the sketch's own grey, instead of light
    plaster: bool = False  # as if everything were of one white
    families: bool = False  # what is in the light and what in shade, in two greys


def _lights_off(lights: Lights) -> Lights:
    night = np.full(3, _NIGHT / max(lights.exposure, 1e-6))
    return lights.only()._replace(ambient=night, ground=None)


def _as_it_is(lights: Lights) -> Lights:
    return lights


LIGHT_VIEWS = {
    v.name: v
    for v in (
        LightView("flat", "Flat", "local colours without light", None),
        LightView(
            "lights-off", "Lights off", "local colours, every lamp off", _lights_off, shows=()
        ),
        LightView(
            "ambient-only",
            "Ambient only",
            "the ambient light alone",
            lambda lights: lights.only(ambient=True),
        ),
        LightView(
            "key-only",
            "Key only",
            "the key light alone",
            lambda lights: lights.only(lamp=lights.key.name),
            ("glow",),
        ),
        LightView(
            "plaster", "Plaster", "light alone, as on white plaster", _as_it_is, plaster=True
        ),
        LightView(
            "families",
            "Light and shade",
            "what the key reaches, in two greys",
            _as_it_is,
            families=True,
        ),
        LightView("layer-colour", "Colour layer", "colour over your grey", None, layer="color"),
        LightView("layer-multiply", "Multiply", "your grey times colour", None, layer="multiply"),
        LightView("layer-overlay", "Overlay", "colour laid over your grey", None, layer="overlay"),
    )
}


LAMP_VIEWS = tuple(f"{LAMP}{n}" for n in ("key", *KINDS))  # of the lamps every plan may have


def light_view(name: str) -> LightView | None:
    """The view of this name; a lamp alone is `lamp-` and its name. None for none of them."""
    if name in LIGHT_VIEWS or not name.startswith(LAMP):
        return LIGHT_VIEWS.get(name)
    lamp = name[len(LAMP) :]
    title = f"{lamp[:1].upper()}{lamp[1:]} only"
    return LightView(
        name, title, "one lamp alone", lambda lights: lights.only(lamp=lamp), ("glow",)
    )


def in_part(derived: Derived, name: str, on: SeenForms | None = None) -> Packed:
    """The coded picture, (h, w), in a part of the light; flat where the plan has no light on. Where
    light is in it, `on` has it painted on a grid, and not whole."""
    view = light_view(name)
    if view is None or derived.buffers is None or derived.lit is None or view.part is None:
        return _unlit(derived, name)
    lights, told = view.part(derived.lit.lights), derived.told
    px: SurfaceBuffers | Seen = derived.buffers if on is None else on.gather
    forms = derived.whole_forms if on is None else on.forms
    assert forms is not None and told is not None
    if view.families:
        count = derived.buffers.size
        bright, dark = (np.full(count, c, np.uint32) for c in (_IN_LIGHT, _IN_SHADE))
        ends = Ends(bright, dark, bright, bright, np.zeros(count, np.uint8), (), bright * 0)
        return in_ends(derived, px, forms, ends, lights, ())
    alone = lights._replace(exposure=1.0)
    told = told._replace(parts={f: at for f, at in told.parts.items() if _is_shown(f, view)})
    keyed = bool(lights.key.light.any())  # without it no px lies between light and shade
    told = told._replace(masked=told.masked and keyed)
    light = arriving(derived.buffers, alone, told, derived.shadow_by_code if keyed else None)
    pools = tuple(p for p in derived.pool_lights if _is_in(p, view, lights))
    local = local_light(_table(derived, view))
    packed, both = light_up(derived.buffers, local, light, lights, pools)
    if both is None:
        return paint_gathered(px, packed)
    spreads = tuple(pool.spread for pool in pools)
    return in_ends(derived, px, forms, both, lights, spreads)


def _is_in(pool: PoolLight, view: LightView, lights: Lights) -> bool:
    """Whether a light on a part of the picture is in the part of the light that a view shows."""
    if pool.lamp is None:
        return view.plaster
    return any(spot.lamp.name == pool.lamp.name for spot in lights.spots)


def _is_shown(finish: Finish, view: LightView) -> bool:
    return finish.lit or finish.name in view.shows


def _table(derived: Derived, view: LightView) -> Levels:
    """The local colours, by flat code."""
    if not view.plaster:
        return derived.table
    table = np.full_like(derived.table, _PLASTER)
    table[0] = derived.table[0]
    return table


def _unlit(derived: Derived, name: str) -> Packed:
    view = light_view(name)
    layer = view.layer if view is not None else ""
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
    view, exact = light_view(name), derived.exact_light
    if view is None or derived.buffers is None or exact is None or view.part is None:
        return _unlit(derived, name)
    if view.families:
        return in_part(derived, name)
    kept = {n: f for n, f in exact.finishes.items() if _is_shown(f, view)}
    lights = view.part(exact.lights)
    pools = tuple(both for both in exact.pools if _is_in(both[0], view, lights))
    own = exact._replace(lights=lights, finishes=kept, pools=pools)
    labels, table = derived.drawing.labels, _table(derived, view)
    return paint_exact(derived.buffers, derived.indexed, table, labels, own, tick)
