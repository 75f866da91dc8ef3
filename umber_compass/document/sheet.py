"""A sheet of variants as one picture, on neutral grey, captions below: for whoever decides."""

from collections.abc import Sequence
from pathlib import Path

import numpy as np
from PIL import Image, ImageDraw, ImageFont

from umber_compass.colour.packed import unpack
from umber_compass.document.pixels import Pixels
from umber_compass.picture.seen import whole
from umber_compass.plan.model import Plan
from umber_compass.steps.pictures import seen_on, seen_picture
from umber_compass.steps.pipeline import Pipeline
from umber_compass.steps.studies.client import Variant
from umber_compass.work import Tick, idle

_FONT = Path(__file__).parents[1] / "assets" / "fonts" / "SourceSans3_400Regular.ttf"
_GROUND, _INK = (180, 180, 180), (20, 20, 20)  # the gallery's
_PX, _GAP, _EDGE, _CAPTION, _HEAD = 640, 28, 48, 44, 72
_MOST_CHARS = 60


def client_sheet(
    plan: Plan,
    pixels: Pixels,
    made: Sequence[Variant],
    tick: Tick = idle,
    known: Pipeline | None = None,
) -> Image.Image:
    """The sheet of a plan's variants, three in a row. `known` is a pipeline of the plan's drawing,
    whose forms serve again."""
    pipeline = known or Pipeline({plan.sketch.labels: pixels.drawing(plan.sketch)})
    pictures = []
    for i, variant in enumerate(made):
        tick(i / len(made))
        derived = pipeline.derive(variant.plan, works=True)
        grid = whole(derived.drawing.labels.shape, _PX)
        packed = seen_picture(derived, seen_on(derived, grid))
        pictures.append(Image.fromarray(np.ascontiguousarray(unpack(packed))))
    return _laid(plan.title, [v.caption for v in made], pictures)


def _laid(title: str, captions: Sequence[str], pictures: Sequence[Image.Image]) -> Image.Image:
    width = max(p.width for p in pictures)
    height = max(p.height for p in pictures)
    across = min(3 if width >= height else 4, len(pictures))
    rows = -(-len(pictures) // across)
    size = (
        2 * _EDGE + across * width + (across - 1) * _GAP,
        2 * _EDGE + _HEAD + rows * (height + _CAPTION) + (rows - 1) * _GAP,
    )
    sheet = Image.new("RGB", size, _GROUND)
    draw = ImageDraw.Draw(sheet)
    draw.text((_EDGE, _EDGE), title[:_MOST_CHARS], _INK, ImageFont.truetype(_FONT, 36))
    small = ImageFont.truetype(_FONT, 24)
    for i, (picture, caption) in enumerate(zip(pictures, captions, strict=True)):
        x = _EDGE + (i % across) * (width + _GAP)
        y = _EDGE + _HEAD + (i // across) * (height + _CAPTION + _GAP)
        sheet.paste(picture, (x, y))
        draw.text((x, y + height + 8), f"{i + 1}  {caption[:_MOST_CHARS]}", _INK, small)
    return sheet
