"""NumPy pictures as Qt images."""

import numpy as np
import numpy.typing as npt
from PySide6.QtCore import QBuffer, QIODevice
from PySide6.QtGui import QImage

from umber_compass.colour.packed import Packed


class Bitmap:
    """A picture on screen. The image only borrows the array's memory, so both live together."""

    def __init__(self, packed: Packed) -> None:
        height, width = packed.shape[:2]
        self.packed = packed
        self.image = QImage(packed.data, width, height, width * 4, QImage.Format.Format_RGB32)


def overlay(
    inside: npt.NDArray[np.bool_], light: int, dark: int, cover: int | None = None
) -> QImage:
    """A see-through image, (h, w), with a light line just inside a shape's border and a dark one
    just outside, each some px wide; what lies around is nearly hidden by a colour, 0xRRGGBB, where
    that is given."""
    near, far = grown(inside, dark), _shrunk(inside, light)
    argb = np.zeros(inside.shape, np.uint32)
    if cover is not None:
        argb[~inside] = 0xE8000000 | cover
    argb[near & ~inside] = 0xE0000000
    argb[inside & ~far] = 0xFFFFFFFF
    height, width = inside.shape[:2]
    return QImage(argb.data, width, height, width * 4, QImage.Format.Format_ARGB32).copy()


def grown(inside: npt.NDArray[np.bool_], px: int) -> npt.NDArray[np.bool_]:
    """A mask, (h, w), with so many px round it."""
    for _ in range(px):
        wide = np.pad(inside, 1)
        inside = (
            wide[1:-1, 1:-1] | wide[:-2, 1:-1] | wide[2:, 1:-1] | wide[1:-1, :-2] | wide[1:-1, 2:]
        )
    return inside


def _shrunk(inside: npt.NDArray[np.bool_], px: int) -> npt.NDArray[np.bool_]:
    return ~grown(~np.pad(inside, px), px)[px:-px, px:-px]


def png_of(image: QImage) -> bytes:
    """An image as PNG."""
    held = QBuffer()
    held.open(QIODevice.OpenModeFlag.WriteOnly)
    image.save(held, "PNG")  # type: ignore[call-overload]  # its stub knows bytes only
    return bytes(held.data().data())
