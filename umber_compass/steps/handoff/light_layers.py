"""A plan's light as layers of a painting program: pictures that are multiplied, dodged and
screened over flat colours, whatever those are.

With `g` a middle grey in linear light, each picture is what the light makes of it: encoded, the
quotient of two of them holds for any local colour nearly as well, for encoding is nearly a power.
What hangs on the local colour itself, as the tint of a terminator and what the screen cannot show,
is left out.
"""

from collections.abc import Iterator
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import Levels, Packed, unpack
from umber_compass.picture.exact import Exact, paint_exact
from umber_compass.steps.pipeline import Derived
from umber_compass.work import Tick, idle

_GREY = 149  # the level of .3 in linear light
MULTIPLY, DODGE, SCREEN = "multiply", "color-dodge", "screen"
Picture8 = npt.NDArray[np.uint8]


class LightLayer(NamedTuple):
    """One layer: what it is called, its mode, and its picture, (h, w, 3)."""

    name: str
    mode: str
    picture: Picture8


def light_layers(derived: Derived, tick: Tick = idle) -> Iterator[LightLayer]:
    """The layers of a plan's light, the lowest first; none where it is off."""
    exact = derived.exact_light
    if derived.buffers is None or exact is None:
        return
    table = np.full_like(derived.table, _GREY)
    parts = list(_parts(exact))
    before = _painted(derived, table, parts[0][1], tick).astype(np.float32)
    shade = np.minimum(before / _GREY, 1)
    yield LightLayer("shade", MULTIPLY, levels_of_share(shade))
    before = np.asarray(np.round(shade * 255) * np.float32(_GREY / 255), np.float32)
    for name, part in parts[1:]:
        after = _painted(derived, table, part, tick).astype(np.float32)
        share = 1 - np.minimum(before / np.maximum(after, 1e-3), 1)
        layer = levels_of_share(share)
        if layer.any():
            yield LightLayer(name, DODGE, layer)
            left = 1 - layer.astype(np.float32) / 255
            before = np.minimum(before / np.maximum(left, 1 / 255), 255)
    if exact.lights.highlights and exact.finishes:
        yield from _highlights(derived, exact, tick)


def _parts(exact: Exact) -> Iterator[tuple[str, Exact]]:
    """The light, gathered lamp by lamp: from everywhere alone, then with the key, with each other
    lamp, with what falls on parts of the picture."""
    plain = exact._replace(pools=(), lights=exact.lights._replace(highlights=False, tint_share=0.0))
    lights = plain.lights
    dark = lights.key._replace(light=np.zeros(3))
    yield "shade", plain._replace(lights=lights._replace(key=dark, others=()))
    yield lights.key.name, plain._replace(lights=lights._replace(others=()))
    for i in range(len(lights.others)):
        some = lights._replace(others=lights.others[: i + 1])
        yield lights.others[i].name, plain._replace(lights=some)
    for i, (pool, _) in enumerate(exact.pools):
        name = "glow" if pool.lamp is None else pool.lamp.name
        yield name, plain._replace(pools=exact.pools[: i + 1])


def _highlights(derived: Derived, exact: Exact, tick: Tick) -> Iterator[LightLayer]:
    """What highlights add to the plan's own colours, screened."""
    own = exact._replace(lights=exact.lights._replace(highlights=False))
    pair = [_painted(derived, derived.table, e, tick).astype(np.float32) for e in (own, exact)]
    share = 1 - (255 - pair[1]) / np.maximum(255 - pair[0], 1)
    layer = levels_of_share(np.where(pair[1] > pair[0], share, 0))
    if layer.any():
        yield LightLayer("highlights", SCREEN, layer)


def _painted(derived: Derived, table: Levels, exact: Exact, tick: Tick) -> Picture8:
    assert derived.buffers is not None
    tick(-1.0)
    labels = derived.drawing.labels
    found: Packed = paint_exact(derived.buffers, derived.indexed, table, labels, exact)
    return unpack(found)


def levels_of_share(share: npt.NDArray[np.floating]) -> Picture8:
    """Shares, kept within 0-1, as levels of 255."""
    return np.asarray(np.clip(share, 0, 1) * 255 + 0.5).astype(np.uint8)
