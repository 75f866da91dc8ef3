"""A plan's light as layers of a painting program, laid over flat colours, whatever those are:
multiplied, dodged and screened. Either pictures, or one colour with a mask for each.

With `g` a middle grey in linear light, each picture is what the light makes of it: encoded, the
quotient of two of them holds for any local colour nearly as well, for encoding is nearly a power.
What hangs on the local colour itself, as the tint of a terminator and what the screen cannot show,
is left out.
"""

from collections.abc import Callable, Iterator
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.blending import MODES
from umber_compass.colour.packed import Levels, Packed, unpack
from umber_compass.picture.exact import Exact, paint_exact, shaded_at
from umber_compass.steps.handoff.one_colour import one_colour
from umber_compass.steps.pipeline import Derived
from umber_compass.work import Tick, by_rows, idle

_GREY = 149  # the level of .3 in linear light
MULTIPLY, DODGE, SCREEN = "multiply", "color-dodge", "screen"
IDLE = {MULTIPLY: 255, DODGE: 0, SCREEN: 0}  # the level at which a mode changes nothing
_WORKERS = 2  # threads that light a picture
_ROWS = 128  # looked through at a time
Picture8 = npt.NDArray[np.uint8]
Floats32 = npt.NDArray[np.float32]


class LightLayer(NamedTuple):
    """One layer: what it is called, its mode, its picture, (h, w, 3) or one colour (1, 1, 3), and
    its mask, (h, w) of 255; none where it covers all. With a mask goes what the plan's own colours
    look like with this layer and all below it, (h, w, 3)."""

    name: str
    mode: str
    picture: Picture8
    mask: Picture8 | None = None
    own: Picture8 | None = None

    def pixels(self, part: tuple[slice, slice], within: npt.NDArray[np.bool_]) -> Picture8:
        """A part of it as RGBA, (h, w, 4), clear outside a mask, (h, w)."""
        out = np.empty((*within.shape, 4), np.uint8)
        colours = self.picture if self.mask is not None else self.picture[part]
        for channel in range(3):  # one after the other: short rows of three are slow to copy
            out[..., channel] = colours[..., channel]
        out[..., 3] = 255 if self.mask is None else self.mask[part]
        clear_outside(out, within)
        return out

    def does_nothing(self, pixels: Picture8) -> bool:
        """Whether a part of it, as `pixels` gives it, changes nothing."""
        return all(
            bool(idle_px(pixels[top : top + _ROWS], self.mode).all())
            for top in range(0, len(pixels), _ROWS)
        )

    def on(self, colours: Floats32, rows: slice) -> Floats32:
        """What it makes of colours, encoded (h, w, 3), that lie in some rows of the picture."""
        part = self.picture if self.mask is not None else self.picture[rows]
        top = part.astype(np.float32) / np.float32(255)
        laid = np.asarray(MODES[self.mode](colours, top), np.float32)
        if self.mask is None:
            return laid
        share = self.mask[rows][..., None].astype(np.float32) / np.float32(255)
        return np.asarray(colours + (laid - colours) * share, np.float32)


def clear_outside(pixels: Picture8, within: npt.NDArray[np.bool_]) -> None:
    """Take what lies outside a mask, (h, w), out of RGBA px, (h, w, 4), in place."""
    whole = pixels.view(np.uint32)[..., 0]
    np.multiply(whole, within, out=whole)


def idle_px(pixels: Picture8, mode: str) -> npt.NDArray[np.bool_]:
    """Which of RGBA px, (h, w, 4), change nothing in a mode: clear ones, and those of its idle
    level."""
    whole = pixels.view("<u4")[..., 0]
    return np.asarray(((whole & 0xFFFFFF) == IDLE[mode] * 0x010101) | (whole < 1 << 24))


Made = Callable[[str, str, Floats32], LightLayer]  # from what it does to each channel of each px


def light_layers(
    derived: Derived,
    repaintable: bool,
    tick: Tick = idle,
    step: int = 1,
    lit: Picture8 | None = None,
) -> Iterator[LightLayer]:
    """The layers of a plan's light, the lowest first, of every so many-th px; none where it is
    off. `lit` is the exact picture, (h, w, 3), where it is known."""
    exact = derived.exact_light
    if derived.buffers is None or exact is None:
        return
    made: Made = one_colour_layer if repaintable else picture_layer
    table = np.full_like(derived.table, _GREY)
    parts = list(_parts(exact))

    def with_own(layer: LightLayer, part: Exact) -> LightLayer:
        own = painted(derived, derived.table, part, tick, step) if repaintable else None
        return layer._replace(own=own)

    bare = painted(derived, table, parts[0][1], tick, step)
    share = _in_rows(bare.shape, lambda r: np.minimum(bare[r] / np.float32(_GREY), 1))
    shade = made("shade", MULTIPLY, share)
    yield with_own(shade, parts[0][1])
    grey = np.full((1, 1, 3), _GREY / 255, np.float32)
    before = _in_rows(bare.shape, lambda r: shade.on(grey, r))
    for name, part in parts[1:]:
        layer = made(name, DODGE, _added(before, painted(derived, table, part, tick, step)))
        if layer.mask is not None or layer.picture.any():
            yield with_own(layer, part)
            before = _in_rows(bare.shape, _laid_on(layer, before))
    if exact.lights.highlights and exact.finishes:
        whole = painted(derived, derived.table, exact, tick, step) if lit is None else lit
        yield from _highlights(derived, exact, whole, made, tick, step)


def picture_layer(name: str, mode: str, share: Floats32) -> LightLayer:
    """A layer that does exactly so much to every px, (h, w, 3) 0-1."""
    return LightLayer(name, mode, levels_of_share(share))


def one_colour_layer(name: str, mode: str, share: Floats32) -> LightLayer:
    """The nearest layer of one colour and a mask."""
    colour, mask = one_colour(share, mode)
    return LightLayer(name, mode, colour, mask)


def _in_rows(shape: tuple[int, ...], made: Callable[[slice], Floats32]) -> Floats32:
    """A picture, (h, w, 3), made some rows at a time."""
    out = np.empty(shape, np.float32)

    def make(rows: slice) -> None:
        out[rows] = made(rows)

    by_rows(len(out), make)
    return out


def _added(before: Floats32, after: Picture8) -> Floats32:
    """The picture whose dodge makes the second, levels, of the first."""
    part = np.float32(255)

    def share(rows: slice) -> Floats32:
        then = np.maximum(after[rows] / part, np.float32(1e-5))
        return np.asarray(1 - np.minimum(before[rows] / then, 1), np.float32)

    return _in_rows(before.shape, share)


def _laid_on(layer: LightLayer, before: Floats32) -> Callable[[slice], Floats32]:
    return lambda rows: layer.on(before[rows], rows)


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


def _highlights(
    derived: Derived, exact: Exact, lit: Picture8, made: Made, tick: Tick, step: int
) -> Iterator[LightLayer]:
    """What highlights add to the plan's own colours, screened."""
    own = exact._replace(lights=exact.lights._replace(highlights=False))
    pair = painted(derived, derived.table, own, tick, step), lit
    if (pair[1] <= pair[0]).all():
        return

    def share(rows: slice) -> Floats32:
        below, above = (p[rows].astype(np.float32) for p in pair)
        added = 1 - (255 - above) / np.maximum(255 - below, 1)
        return np.where(above > below, added, np.float32(0))

    layer = made("highlights", SCREEN, _in_rows(pair[0].shape, share))
    yield layer._replace(own=None if layer.mask is None else pair[1])


def painted(
    derived: Derived, table: Levels, exact: Exact, tick: Tick = idle, step: int = 1
) -> Picture8:
    """The exact picture, (h, w, 3), of a table of colours by code; of every so many-th px, where it
    is not all, without the mixing of borders."""
    assert derived.buffers is not None
    tick(-1.0)
    labels = derived.drawing.labels
    given = derived.buffers, derived.indexed, table, labels, exact
    if step == 1:
        found: Packed = paint_exact(*given, workers=_WORKERS)
        return unpack(found)
    place = np.arange(labels.size).reshape(labels.shape)[::step, ::step]
    row = shaded_at(*given, place.reshape(-1))
    return np.ascontiguousarray(unpack(row.reshape(place.shape)))


def levels_of_share(share: npt.NDArray[np.floating]) -> Picture8:
    """Shares, (h, w, c), kept within 0-1, as levels of 255."""
    out = np.empty(share.shape, np.uint8)

    def make(rows: slice) -> None:
        out[rows] = np.clip(share[rows], 0, 1) * np.float32(255) + np.float32(0.5)

    by_rows(len(out), make)
    return out
