"""The layered starter file: every material a group of its own with the light clipped to it, a check
in grey and the palette hidden on top."""

from collections.abc import Iterable, Mapping
from concurrent.futures import Executor, ThreadPoolExecutor
from typing import IO

import numpy as np
import numpy.typing as npt

from umber_compass.formats import swatches
from umber_compass.formats.gpl import Row
from umber_compass.formats.openraster import OVER
from umber_compass.formats.openraster_out import OutGroup, OutLayer, write
from umber_compass.formats.png_quick import png_of
from umber_compass.steps.handoff.light_layers import (
    LightLayer,
    Picture8,
    clear_outside,
    idle_px,
    light_layers,
    painted,
)
from umber_compass.steps.handoff.material_layers import sheet_of
from umber_compass.steps.handoff.palette import GREY_CHECK, palette_rows
from umber_compass.steps.handoff.stack import (
    OPAQUE,
    Canvas,
    MaterialGroup,
    groups,
    lay,
    lay_group,
    nearer,
)
from umber_compass.steps.handoff.thing_groups import Run, runs_of
from umber_compass.steps.pipeline import Derived
from umber_compass.work import Tick, idle

PAINT, BASE, EDGE, PALETTE = "paint here", "base", "edge", "palette"
_CLIP, _CUT, _COLOUR = "svg:src-atop", "svg:dst-in", "svg:color"
_MIDDLE = 128  # a level
_STRIP = 256  # rows
_MOST_CLIPPED = 1500  # layers, beyond which the light stands once above all
_WORKERS = 2  # threads that pack pictures


def fill_starter(derived: Derived, stream: IO[bytes], mark: str, tick: Tick = idle) -> None:
    """Write the starter file of a plan, lit where its light is on."""
    height, width = derived.drawing.labels.shape
    wish = derived.plan.layers
    repaintable = wish.light == "repaintable"
    exact = derived.exact_light
    lit = None if exact is None else painted(derived, derived.table, exact, tick)
    lights = list(light_layers(derived, repaintable, tick, lit=lit))
    clipped = wish.clipped and len(derived.regions) * (len(lights) + 3) <= _MOST_CLIPPED
    canvas = np.zeros((height, width, 4), np.float32)
    with ThreadPoolExecutor(_WORKERS) as pool:
        sheet = sheet_of(derived)
        runs = runs_of(derived, sheet, wish.grown)
        found = groups(derived, sheet, runs, lights if clipped else (), wish.grown)
        made = {one.region.id: _group(one, canvas, pool, tick) for one in found}
        above: list[LightLayer] = [] if clipped else lights
        for one in above:
            lay(canvas, one)
        near: tuple[LightLayer, ...] = ()
        if lights and lit is not None and not repaintable:
            near = nearer(canvas, lit)
        for one in near:
            lay(canvas, one)
        opaque = canvas[..., 3] >= OPAQUE
        over_all = list(pool.map(lambda one: _above(one, opaque), (*above, *near)))
    grey = np.full((height, width), _MIDDLE, np.uint8)
    top: list[OutGroup | OutLayer] = [
        OutLayer(GREY_CHECK, png_of(grey), mode=_COLOUR, visible=False),
        OutLayer(PALETTE, png_of(_strip(derived)), visible=False),
    ]
    # The light is no group: a group by itself would be multiplied with nothing.
    root = OutGroup(
        derived.plan.title, (*top, *reversed(over_all), *reversed(_by_thing(runs, made)))
    )
    write(stream, root, _shown(canvas), mark)


def _by_thing(runs: Iterable[Run], made: Mapping[str, OutGroup]) -> list[OutGroup]:
    """The groups of materials, the lowest first, those of a thing in a group of it. Laid plainly,
    a group of opaque groups is the same as these one by one."""
    out = []
    for run in runs:
        own = [made[r.id] for r in run.regions if r.id in made]
        out += [OutGroup(run.thing, tuple(reversed(own)))] if run.thing else own
    return out


def _group(one: MaterialGroup, canvas: Canvas, pool: Executor, tick: Tick) -> OutGroup:
    """A material's group with its pictures packed, laid on the picture so far."""
    tick(-1.0)
    wanted = [(BASE, OVER, one.base)]
    wanted += [(p.name, f"svg:{p.mode}", p.pixels) for p in one.light]
    if one.edge is not None:
        wanted.append((EDGE, _CUT, _white(one.edge)))
    packed = [pool.submit(png_of, pixels) for _, _, pixels in wanted]
    lay_group(canvas, one)
    layers = [
        OutLayer(name, png.result(), one.x, one.y, mode)
        for (name, mode, _), png in zip(wanted, packed, strict=True)
    ]
    layers.insert(1, OutLayer(PAINT, png_of(np.zeros((1, 1, 4), np.uint8)), one.x, one.y, _CLIP))
    return OutGroup(one.region.name, tuple(reversed(layers)))


def _above(one: LightLayer, opaque: npt.NDArray[np.bool_]) -> OutLayer:
    """A layer of the light that lies on all materials, clear where it does nothing."""
    pixels = one.pixels(np.s_[:, :], opaque)
    clear_outside(pixels, ~idle_px(pixels, one.mode))
    return OutLayer(one.name, png_of(pixels), mode=f"svg:{one.mode}")


def _white(cover: Picture8) -> Picture8:
    """White of so much alpha, (h, w) of 255."""
    pixels = np.full((*cover.shape, 4), 255, np.uint8)
    pixels[..., 3] = cover
    return pixels


def _shown(canvas: Canvas) -> Picture8:
    levels = np.empty(canvas.shape, np.uint8)
    for begin in range(0, len(canvas), _STRIP):
        rows = slice(begin, begin + _STRIP)
        levels[rows] = np.asarray(canvas[rows] * 255 + 0.5).astype(np.uint8)
    return levels


def _strip(derived: Derived) -> Picture8:
    """The palette’s swatches as a small picture."""
    return np.asarray(swatches.picture(map(Row._make, palette_rows(derived))))
