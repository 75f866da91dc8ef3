"""What is written, to the letter, and what is said of what cannot be read."""

import io
import unittest
import zipfile

import numpy as np
from PIL import Image

from tests import kept, scenes
from umber_compass.formats import atomic, gpl, openraster, palettes, picture, plan_file
from umber_compass.formats.openraster_flat import flat, layers_seen
from umber_compass.plan.model import Gradient, Pinned
from umber_compass.plan.rig import Rig
from umber_compass.words import Refusal


def palette():
    rows = [
        gpl.Row("#7a4fa0", "sea\tdark", "−1"),
        gpl.Row("#000000", "x" * 300, "base"),
        gpl.Row("#ffffff", "", ""),
        gpl.Row("#010203", "é" * 60, "core shadow"),
    ]
    return gpl.text("A\nname", rows, ["Source: own", "é" * 70])


def plan():
    two = Gradient(first=scenes.planned(), second=Pinned(hex="#102030"))
    return plan_file.json_of(scenes.plan_of([scenes.planned(), two], rig=Rig())).decode()


def refusals():
    found = []
    for data in (b"", b"PK", b"GIF89a", b"PK\x03\x04" + bytes(60)):
        for read in (lambda d: plan_file.parse(d, "x"), lambda d: picture.decode(d, "x")):
            try:
                read(data)
            except Refusal as said:
                found.append(str(said))
    return found, str(atomic._cannot(scenes.Path("x"), OSError(28, "No space left on device")))


def bounds():
    return (
        plan_file._MOST,
        plan_file._MOST_ENTRIES,
        picture.MOST_BYTES,
        picture.MOST_PIXELS,
        picture.MOST_SIDE,
    )


def decoded():
    """What becomes of every mode a picture file may have, px by px."""
    wide = np.random.default_rng(3).integers(0, 256, (4, 5, 4)).astype(np.uint8)
    wide[0, 0, 3], wide[1, 1, 3] = 0, 128
    image, found = Image.fromarray(wide), {}
    for mode in ("RGBA", "RGB", "L", "LA", "P", "1", "CMYK", "I;16", "F", "LAB"):
        kind = "TIFF" if mode in ("CMYK", "F", "LAB") else "PNG"
        made = {
            "I;16": lambda: Image.fromarray(wide[..., 0].astype(np.uint16) * 257),
            "F": lambda: Image.fromarray(wide[..., 0].astype(np.float32) / 255),
            "LAB": lambda: Image.merge("LAB", image.convert("RGB").split()),
        }.get(mode, lambda m=mode: image.convert("RGB" if m == "CMYK" else m).convert(m))()
        out = io.BytesIO()
        made.save(out, kind)
        try:
            shown = picture.decode(out.getvalue(), "x")
            found[mode] = (
                shown.packed,
                picture.alpha_of(shown.data, "x"),
                len(picture.png_bytes(wide[..., :3])),
            )
        except Refusal as refusal:
            found[mode] = str(refusal)
    own = picture.image_of(picture.decode(scenes.encoded(wide), "x").packed, wide[..., 3])
    return found, np.asarray(own)


def layers():
    """Layers as they lie on each other, opacity in groups within groups."""
    size, marks = (12, 9), (("#d04040", 0.5), ("#3050a0", 1.0), ("#e0d8c8", 0.25))
    parts = {}
    for name, (colour, opacity) in zip("abc", marks, strict=True):
        image = Image.new("RGBA", (7, 6), colour)
        image.putalpha(round(opacity * 255))
        out = io.BytesIO()
        image.save(out, "PNG")
        parts[f"{name}.png"] = out.getvalue()
    xml = (
        '<image w="12" h="9"><stack><layer src="a.png" x="-2" y="-1" name="a b" opacity="0.5"/>'
        '<stack name="one" opacity="0.8"><stack name="two" opacity="0.5"><layer src="b.png" x="3" '
        'y="2"/></stack><layer src="c.png" x="7" y="5"/></stack><layer src="b.png" x="20" y="0"/>'
        '<layer src="c.png" visibility="hidden"/><layer src="b.png" opacity="nan" y="6"/>'
        '<layer src="a.png" x="9" opacity="7"/></stack>'
        "</image>"
    )
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        archive.writestr("mimetype", openraster.MIME)
        for name, data in {**parts, "stack.xml": xml.encode()}.items():
            archive.writestr(name, data)
    data = out.getvalue()
    read = openraster.read(data, "x")
    seen = [(a.name, a.x, a.y, round(a.opacity, 4)) for a in reversed([*layers_seen(read.root)])]
    pictures = openraster.Pictures(read)
    boxes = [pictures.box_of(a, size) for a in reversed([*layers_seen(read.root)])]
    return seen, boxes, np.asarray(flat(data, "x")).reshape(-1, 4)


def palettes_read():
    """Palettes of both kinds, with all that their files may say."""
    texts = (
        "GIMP Palette\nName: Sea\nColumns: 4\n# Source: own\n# Tags: cool, , calm\n1 2 3 deep\n\n"
        "255 128 0\tsun\x1b[31m\n",
        "#abc\n112233 ; c\nDDEEFF80 // d\n\n",
        "GIMP Palette\n1 2 300\n",
        "GIMP Palette\n",
        "zz",
    )
    found = []
    for text in texts:
        try:
            found.append(list(palettes.parse(text.encode(), "x.gpl", "stem")))
        except Refusal as refusal:
            found.append(str(refusal))
    whole = palettes.parse(texts[0].encode(), "x")
    return found, [palettes.content(whole, kind).decode() for kind in ("gpl", "hex")]


RESULTS = {f.__name__: f for f in (palette, plan, refusals, bounds, decoded, layers, palettes_read)}


class Kept(unittest.TestCase):
    def test_results(self):
        kept.check(self, "formats", RESULTS)
