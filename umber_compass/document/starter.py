"""The layered starter file: every material a group of its own, the light above them as pictures,
a check in grey and the palette hidden on top."""

from typing import IO

import numpy as np
import numpy.typing as npt
from PIL import Image

from umber_compass.colour.blending import MODES
from umber_compass.colour.packed import unpack
from umber_compass.formats import swatches
from umber_compass.formats.gpl import Row
from umber_compass.formats.openraster_out import OutGroup, OutLayer, write
from umber_compass.picture.indexed import codes_by_px
from umber_compass.steps.handoff.light_layers import (
    MULTIPLY,
    SCREEN,
    LightLayer,
    levels_of_share,
    light_layers,
)
from umber_compass.steps.handoff.material_layers import material_layers
from umber_compass.steps.handoff.palette import palette_rows
from umber_compass.steps.pictures import exact_picture
from umber_compass.steps.pipeline import Derived
from umber_compass.work import Tick, idle

_MIDDLE = (128, 128, 128)
_FIT = "as the screen shows these colours"
_STRIP = 256  # rows
_LEAST = 1.5 / 255  # by which layers must miss the picture before they are brought nearer
Canvas = npt.NDArray[np.float32]  # (h, w, 4) encoded, 0-1


def fill_starter(derived: Derived, stream: IO[bytes], mark: str, tick: Tick = idle) -> None:
    """Write the starter file of a plan, lit where its light is on."""
    height, width = derived.drawing.labels.shape
    groups, canvas = _materials(derived)
    light: list[OutLayer] = []
    for one in light_layers(derived, tick):
        light.append(_layer(one.name, one.picture, one.mode))
        lay(canvas, one.picture, one.mode)
    for one in fitted(canvas, derived, tick) if light else ():
        light.append(_layer(one.name, one.picture, one.mode))
        lay(canvas, one.picture, one.mode)
    grey = Image.new("RGB", (width, height), _MIDDLE)
    top: list[OutGroup | OutLayer] = [
        OutLayer("grey check", grey, mode="svg:color", visible=False),
        OutLayer("palette", _strip(derived), visible=False),
    ]
    # The light is no group: a group by itself would be multiplied with nothing.
    root = OutGroup(derived.plan.title, (*top, *reversed(light), *reversed(groups)))
    merged = _shown(canvas)
    write(stream, (width, height), root, merged, mark)


def _layer(name: str, picture: npt.NDArray[np.uint8], mode: str) -> OutLayer:
    return OutLayer(name, Image.fromarray(picture), mode=f"svg:{mode}")


def _materials(derived: Derived) -> tuple[list[OutGroup], Canvas]:
    """A group for each material, the lowest first, and all of them composed."""
    height, width = derived.drawing.labels.shape
    colours = derived.table[codes_by_px(derived.indexed)].reshape(height, width, 3)
    canvas = np.zeros((height, width, 4), np.float32)
    groups = []
    for layer in material_layers(derived, np.ascontiguousarray(colours, np.uint8)):
        image = Image.fromarray(layer.pixels)
        part = canvas[layer.y : layer.y + image.height, layer.x : layer.x + image.width]
        for rows in _rows(part):
            part[rows] = over(part[rows], layer.pixels[rows].astype(np.float32) / np.float32(255))
        paint = Image.new("RGBA", (1, 1))
        children = (
            OutLayer("paint here", paint, layer.x, layer.y, "svg:src-atop"),
            OutLayer("base", image, layer.x, layer.y),
        )
        groups.append(OutGroup(layer.region.name, children))
    return groups, canvas


def over(under: Canvas, top: Canvas) -> Canvas:
    """One picture laid plainly over another (W3C Compositing: source over)."""
    alpha, below = top[..., 3:], under[..., 3:]
    whole = alpha + below * (1 - alpha)
    colour = top[..., :3] * alpha + under[..., :3] * (below * (1 - alpha))
    shown = colour / np.maximum(whole, np.float32(1e-6))
    return np.asarray(np.concatenate([shown, whole], axis=2), np.float32)


def lay(canvas: Canvas, layer: npt.NDArray[np.uint8], mode: str) -> None:
    """An opaque layer laid on a picture as its mode says; where nothing is painted the layer itself
    shows, as the standard has it. In place, some rows at a time, so that it takes little room."""
    for rows in _rows(canvas):
        under = canvas[rows]
        alpha, base = under[..., 3:], under[..., :3]
        top = layer[rows].astype(np.float32) / np.float32(255)
        under[..., :3] = MODES[mode](base, top) * alpha + top * (1 - alpha)
        under[..., 3] = 1


def _rows(canvas: Canvas) -> list[slice]:
    return [slice(i, i + _STRIP) for i in range(0, len(canvas), _STRIP)]


def fitted(canvas: Canvas, derived: Derived, tick: Tick = idle) -> tuple[LightLayer, LightLayer]:
    """What brings layers to the exact picture where light is more than the screen shows, screened
    and multiplied; it belongs to these colours alone. Where nothing is painted it does nothing."""
    exact = unpack(exact_picture(derived, tick))
    lighter, darker = np.zeros_like(exact), np.full_like(exact, 255)
    for rows in _rows(canvas):
        wanted = exact[rows].astype(np.float32) / np.float32(255)
        painted, base = canvas[rows][..., 3:] > 0, canvas[rows][..., :3]
        share = (wanted - base) / np.maximum(1 - base, np.float32(1e-3))
        lighter[rows] = levels_of_share(np.where(painted & (wanted > base + _LEAST), share, 0))
        base = MODES[SCREEN](base, lighter[rows].astype(np.float32) / np.float32(255))
        share = wanted / np.maximum(base, np.float32(1e-3))
        darker[rows] = levels_of_share(np.where(painted & (wanted < base - _LEAST), share, 1))
    return (
        LightLayer(f"{_FIT}, lighter", SCREEN, lighter),
        LightLayer(f"{_FIT}, darker", MULTIPLY, darker),
    )


def _shown(canvas: Canvas) -> Image.Image:
    levels = np.empty(canvas.shape, np.uint8)
    for rows in _rows(canvas):
        levels[rows] = np.asarray(canvas[rows] * 255 + 0.5).astype(np.uint8)
    return Image.fromarray(levels)


def _strip(derived: Derived) -> Image.Image:
    """The palette’s swatches as a small picture."""
    return swatches.picture(map(Row._make, palette_rows(derived)))
