"""The layers of the starter file: a group for each material, the light clipped to it, and how they
are laid on each other (W3C Compositing and Blending Level 1)."""

from collections.abc import Container, Iterable, Iterator, Sequence
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.blending import MODES
from umber_compass.plan.model import Region
from umber_compass.steps.handoff.light_layers import (
    DODGE,
    MULTIPLY,
    SCREEN,
    LightLayer,
    Picture8,
    clear_outside,
    levels_of_share,
)
from umber_compass.steps.handoff.material_layers import MaterialLayer, Sheet, material_layers
from umber_compass.steps.handoff.one_colour import fitted_to
from umber_compass.steps.handoff.thing_groups import Run
from umber_compass.steps.pipeline import Derived
from umber_compass.work import by_rows

FIT = "for these colours"
_SAMPLE = 20_000  # px of a material that are asked for a colour
_LEAST = 1.5 / 255  # by which layers must miss the picture before they are brought nearer
OPAQUE = 1 - 1e-4  # alpha from which a px lets nothing through
_BYTE = np.float32(255)
_LEVELS = np.arange(256, dtype=np.float32) / _BYTE
# What a mode multiplies a colour by, by the level of the layer; no more than white comes of it. A
# dodge of the last level makes white of all but black.
_TIMES = {MULTIPLY: _LEVELS, DODGE: 1 / np.maximum(1 - _LEVELS, np.float32(1e-9))}
Canvas = npt.NDArray[np.float32]  # (h, w, 4) encoded, 0-1


class Part(NamedTuple):
    """A layer of the light: its name, its mode, and its px, RGBA (h, w, 4)."""

    name: str
    mode: str
    pixels: Picture8


class MaterialGroup(NamedTuple):
    """A material: its base, RGBA (h, w, 4), the light on it, the lowest first, and the mask, (h, w)
    of 255, that cuts all of them to its smooth border; none where the base has it itself."""

    region: Region
    x: int
    y: int
    base: Picture8
    light: tuple[Part, ...]
    edge: Picture8 | None


def groups(
    derived: Derived,
    sheet: Sheet,
    runs: Iterable[Run],
    lights: Sequence[LightLayer],
    grown: int,
) -> Iterator[MaterialGroup]:
    """Every material's group, the lowest first; the lights are of the same px as the sheet."""
    regions = [region for run in runs for region in run.regions]
    for one in material_layers(derived, sheet, regions, grown):
        within = one.cover > 0
        clipped = bool(lights)
        alpha = within.view(np.uint8) * np.uint8(255) if clipped else one.cover
        base = one.colours.copy()
        base[..., 3] = alpha
        clear_outside(base, within)
        smooth = clipped and bool((one.cover != alpha).any())
        light = tuple(_parts(one, within, lights))
        yield MaterialGroup(one.region, one.x, one.y, base, light, one.cover if smooth else None)


def _parts(
    one: MaterialLayer, within: npt.NDArray[np.bool_], lights: Sequence[LightLayer]
) -> Iterator[Part]:
    """The light on a material; of one colour and a mask, the colour is the material's own."""
    held = np.flatnonzero(one.alone)
    some = held[:: max(1, len(held) // _SAMPLE)]
    look = one.colours.reshape(-1, 4)[some, :3].astype(np.float32) / _BYTE
    for layer in lights:
        pixels = layer.pixels(one.part, within)
        if layer.own is not None and len(some):
            after = layer.own[one.part].reshape(-1, 3)[some].astype(np.float32) / _BYTE
            found = fitted_to(pixels[..., 3].reshape(-1)[some], look, after, layer.mode)
            pixels[..., :3] = found.colour
            pixels[..., 3] = found.levels[pixels[..., 3]]
            clear_outside(pixels, within)
            look = _laid(look, pixels.reshape(-1, 4)[some], layer.mode)
        if not layer.does_nothing(pixels):
            yield Part(layer.name, layer.mode, pixels)


def lay_group(canvas: Canvas, group: MaterialGroup, hidden: Container[str] = ()) -> None:
    """A group laid on a picture, in place, without the layers of the light that are hidden."""
    shown = [part for part in group.light if part.name not in hidden]
    height, width = group.base.shape[:2]
    whole = canvas.reshape(-1, 4)

    def lay_rows(rows: slice) -> None:
        cover = group.base[rows][..., 3] if group.edge is None else group.edge[rows]
        at = np.flatnonzero(cover)
        colours = group.base[rows].reshape(-1, 4)[at, :3].astype(np.float32) / _BYTE
        for part in shown:
            colours = _laid(colours, part.pixels[rows].reshape(-1, 4)[at], part.mode)
        alpha = np.asarray(cover.reshape(-1, 1)[at] / _BYTE, np.float32)
        y, x = np.divmod(at, width)
        place = (group.y + rows.start + y) * canvas.shape[1] + group.x + x
        laid = np.concatenate([colours, alpha], axis=1)
        some = np.flatnonzero(alpha[:, 0] < 1)  # all else hides what is beneath
        laid[some] = over(whole[place[some]], colours[some], alpha[some])
        whole[place] = laid

    by_rows(height, lay_rows)


def _laid(colours: Canvas, pixels: Picture8, mode: str) -> Canvas:
    """Opaque colours, (n, 3), with a layer's px, (n, 4), laid on them."""
    if mode in _TIMES:
        laid = np.minimum(colours * _TIMES[mode][pixels[:, :3]], np.float32(1))
    else:
        laid = MODES[mode](colours, pixels[:, :3].astype(np.float32) / _BYTE)
    if pixels[:, 3].min(initial=255) < 255:
        share = pixels[:, 3:].astype(np.float32) / _BYTE
        laid = colours + (laid - colours) * share
    return np.asarray(laid, np.float32)


def over(under: Canvas, colours: Canvas, alpha: Canvas) -> Canvas:
    """Colours, (n, 3), of some alpha, (n, 1), laid plainly over px, (n, 4): source over."""
    below = under[:, 3:] * (1 - alpha)
    whole = alpha + below
    colour = colours * alpha + under[:, :3] * below
    return np.concatenate([colour / np.maximum(whole, np.float32(1e-6)), whole], axis=1)


def lay(canvas: Canvas, layer: LightLayer) -> None:
    """A layer laid on all that is opaque of a picture, in place: beside what is not, a layer would
    show itself."""

    def lay_rows(rows: slice) -> None:
        colours, opaque = canvas[rows][..., :3], canvas[rows][..., 3:] >= OPAQUE
        canvas[rows][..., :3] = np.where(opaque, layer.on(colours, rows), colours)

    by_rows(len(canvas), lay_rows)


def nearer(canvas: Canvas, exact: Picture8) -> tuple[LightLayer, ...]:
    """What brings layers to the exact picture, (h, w, 3), where light is more than the screen
    shows, screened and multiplied; it belongs to these colours alone. Nothing where they are there
    already."""
    lighter, darker = np.zeros_like(exact), np.full_like(exact, 255)

    def compare(rows: slice) -> None:
        wanted = exact[rows] / _BYTE
        painted, base = canvas[rows][..., 3:] >= OPAQUE, canvas[rows][..., :3]
        share = (wanted - base) / np.maximum(1 - base, np.float32(1e-3))
        lighter[rows] = levels_of_share(np.where(painted & (wanted > base + _LEAST), share, 0))
        base = MODES[SCREEN](base, lighter[rows] / _BYTE)
        share = wanted / np.maximum(base, np.float32(1e-3))
        darker[rows] = levels_of_share(np.where(painted & (wanted < base - _LEAST), share, 1))

    by_rows(len(canvas), compare)
    found = []
    if lighter.any():
        found.append(LightLayer(f"{FIT}, lighter", SCREEN, lighter))
    if (darker < 255).any():
        found.append(LightLayer(f"{FIT}, darker", MULTIPLY, darker))
    return tuple(found)
