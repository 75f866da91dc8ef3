"""Pictures to pick from and to paint by: the plan's picture flat, lit, in grey, in plaster, or
beside its palette, at a chosen width, as PNG or JPEG, tagged sRGB."""

from collections.abc import Sequence
from functools import partial
from pathlib import Path
from typing import IO, NamedTuple

import numpy as np
from PIL import Image, ImageCms, ImageDraw

from umber_compass.colour.packed import Packed, pack, unpack
from umber_compass.document.handing_off import OURS, full_picture, is_ours
from umber_compass.document.pixels import Pixels
from umber_compass.formats import atomic, picture
from umber_compass.plan.light_edits import light_off, rig_of
from umber_compass.plan.model import Plan
from umber_compass.steps.handoff.palette import palette_rows, stem
from umber_compass.steps.pipeline import Derived, Pipeline
from umber_compass.views import PLAIN, VIEWS
from umber_compass.words import Refusal, words
from umber_compass.work import Tick, idle

# What may be written, and how it is called.
REFERENCES = {
    "flat": "flat colours",
    "lit": "in its light",
    "grey": "in grey",
    "plaster": "light on white plaster",
    "palette": "beside its palette",
}
LEAST_PX, MOST_PX = 64, 8192  # of a width
_NEEDS_LIGHT = ("lit", "plaster")
_QUALITY = 92  # of a JPEG
_COLUMN, _GAP = 0.24, 0.012  # of a picture's width, that its palette has, and the room between
_GROUND = (119, 119, 119)


class Wish(NamedTuple):
    """Which pictures, how wide in px (None: as the sketch is), and whether as JPEG."""

    kinds: tuple[str, ...]
    width: int | None = None
    jpeg: bool = False


def reference_paths(plan: Plan, folder: Path, wish: Wish) -> dict[str, Path]:
    """The files that are written, by kind."""
    ending = "jpg" if wish.jpeg else "png"
    size = "" if wish.width is None else f"-{wish.width}"
    name = stem(plan.title)
    return {k: folder / f"{name}-reference-{k}{size}.{ending}" for k in wish.kinds}


def others_references(plan: Plan, folder: Path, wish: Wish) -> list[Path]:
    """Those of the files that are there already and not ours."""
    paths = reference_paths(plan, folder, wish).values()
    return [p for p in paths if p.exists() and not is_ours(p)]


def write_references(
    plan: Plan,
    pixels: Pixels,
    folder: Path,
    wish: Wish,
    force: bool = False,
    tick: Tick = idle,
) -> list[Path]:
    """Write reference pictures. Raises Refusal, before anything is written, for a kind that needs a
    light that is off, for a width that is out of range, and if a file is there that is not ours and
    `force` is not said."""
    _check(plan, wish)
    atomic.make_folder(folder)
    paths = reference_paths(plan, folder, wish)
    foreign = [] if force else others_references(plan, folder, wish)
    if foreign:
        line = words("already exists and was not written by this program; move it away")
        raise Refusal(str(foreign[0]), line)
    known = Pipeline({plan.sketch.labels: pixels.drawing(plan.sketch)})
    made = {k: _made(plan, pixels, k, wish.width, known, tick) for k in wish.kinds}
    fills = {paths[k]: partial(_fill, image, wish.jpeg) for k, image in made.items()}
    atomic.write_all(fills)
    return list(paths.values())


def _check(plan: Plan, wish: Wish) -> None:
    if not wish.kinds:
        raise Refusal(str(words("no picture")), words("is chosen; choose one at least"))
    for kind in wish.kinds:
        if kind not in REFERENCES:
            known = ", ".join(REFERENCES)
            raise Refusal(kind[:40], words("is no reference; take {known}", known=known))
        if kind in _NEEDS_LIGHT and not rig_of(plan).on:
            raise Refusal(kind, words("needs the light, which is off; switch it on under Light"))
    if wish.width is not None and not LEAST_PX <= wish.width <= MOST_PX:
        line = words("is no width; take {low} to {high} px", low=LEAST_PX, high=MOST_PX)
        raise Refusal(f"{wish.width} px", line)


def _made(
    plan: Plan, pixels: Pixels, kind: str, width: int | None, known: Pipeline, tick: Tick
) -> Image.Image:
    view = kind if kind in ("flat", "lit", "plaster") else ""
    shown = full_picture(plan, pixels, view, tick, known)
    if kind == "grey":
        shown = pack(VIEWS["grey"].see(np.ascontiguousarray(unpack(shown)), PLAIN))
    image = picture.image_of(shown)
    if width is not None and width != image.width:
        size = width, max(1, round(image.height * width / image.width))
        smaller = width < image.width
        how = Image.Resampling.LANCZOS if smaller else _enlarging(shown)
        image = image.resize(size, how)
    if kind == "palette":
        derived = known.derive(light_off(plan))
        derived.take(Derived.ramps, derived.worked(Derived.ramps))
        image = _beside(image, palette_rows(derived))
    return image


def _enlarging(shown: Packed) -> Image.Resampling:
    """A sprite's px stay whole."""
    return Image.Resampling.NEAREST if max(shown.shape) < 128 else Image.Resampling.BICUBIC


def _beside(image: Image.Image, rows: Sequence[tuple[str, str, str]]) -> Image.Image:
    """A picture with its palette at its right: a row for each region, dark to light."""
    gap, column = max(4, round(image.width * _GAP)), max(48, round(image.width * _COLUMN))
    made = Image.new("RGB", (image.width + column + 3 * gap, image.height + 2 * gap), _GROUND)
    made.paste(image, (gap, gap))
    lines: dict[str, list[str]] = {}
    for hex_, name, _ in rows:
        lines.setdefault(name, []).append(hex_)
    draw, left = ImageDraw.Draw(made), image.width + 2 * gap
    most = max((len(c) for c in lines.values()), default=1)
    height = image.height / max(len(lines), 1)
    for i, colours in enumerate(lines.values()):
        top, bottom = gap + i * height, gap + (i + 1) * height
        for j, hex_ in enumerate(colours):
            x, right = round(left + j * column / most), round(left + (j + 1) * column / most) - 1
            draw.rectangle((x, round(top), right, max(round(bottom) - 2, round(top))), fill=hex_)
    return made


def _fill(image: Image.Image, jpeg: bool, stream: IO[bytes]) -> None:
    if not jpeg:
        picture.fill_png(image, stream, OURS)
        return
    profile = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    image.save(
        stream,
        "JPEG",
        quality=_QUALITY,
        subsampling=0,
        icc_profile=profile,
        comment=f"Written by {OURS}",
    )
