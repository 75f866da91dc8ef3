"""Palettes in: from a palette file, or from the colours of a picture, told apart by content."""

from pathlib import Path

from umber_compass.colour.packed import Packed
from umber_compass.formats import palettes, picture
from umber_compass.formats.palettes import Palette
from umber_compass.steps.harmony.palette_source import colours_of
from umber_compass.words import Refusal, plain


def read_palette(path: Path) -> Palette:
    """The palette a file holds, or that of a picture. Raises Refusal, with one line, for a file
    that is neither."""
    try:
        return palettes.read(path)
    except Refusal as refusal:
        if not path.is_file():
            raise
        try:
            packed = picture.read(path).packed
        except Refusal:
            raise refusal from None
    return picture_palette(packed, plain(path.stem))


def picture_palette(packed: Packed, title: str) -> Palette:
    """The colours of a picture, (h, w) 0x00RRGGBB, as a palette."""
    colours, exact = colours_of(packed)
    how = "swatches, read exactly" if exact else "the colours that hold most of a picture"
    return Palette("picture", title, tuple((c, "") for c in colours), how)
