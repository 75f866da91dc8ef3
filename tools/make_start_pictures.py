"""Draws the small pictures of the start page, from our own demo and compositions, into
umber_compass/assets/start: python -m tools.make_start_pictures"""

import io
import os
import sys
from functools import cache
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import numpy as np
from PIL import Image
from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QGuiApplication, QImage, QPainter

from umber_compass.colour.packed import Levels, pack
from umber_compass.demo.plans import DEMOS
from umber_compass.formats import thumbnail
from umber_compass.steps.sketch.compositions import COMPOSITIONS, drawn
from umber_compass.steps.sketch.kinds import KINDS

FOLDER = Path(__file__).parent.parent / "umber_compass" / "assets" / "start"
_PX = 264
_BOX = (0.40, 0.46, 0.89, 0.96)  # of the demo: the baker and the window, shares


def kind_picture(kind: str) -> QImage:
    """What a kind of sketch looks like."""
    return {
        "flats": _flats,
        "lines": _lines,
        "grey": _grey,
        "painting": _painting,
        "layers": _layers,
    }[kind]()


def composition_picture(name: str) -> QImage:
    """A composition, small."""
    return _image(drawn(COMPOSITIONS[name], 300).rgb)


def _image(levels: Levels) -> QImage:
    packed = np.ascontiguousarray(pack(np.ascontiguousarray(levels)) | np.uint32(0xFF000000))
    height, width = packed.shape
    return QImage(packed.data, width, height, 4 * width, QImage.Format.Format_RGB32).copy()


def _crop(image: Image.Image) -> Image.Image:
    width, height = image.size
    box = tuple(round(s * n) for s, n in zip(_BOX, (width, height, width, height), strict=True))
    part = image.convert("RGB").crop((box[0], box[1], box[2], box[3]))
    return part.resize((_PX, round(_PX * 0.75)), Image.Resampling.LANCZOS)


@cache
def _sketch() -> Image.Image:
    with Image.open(DEMOS[0].sketch) as image:
        image.load()
        return image.convert("RGB")


def _flats() -> QImage:
    return _image(np.asarray(_crop(_sketch())))


def _lines() -> QImage:
    """The outlines of the flats as ink on paper."""
    flat = np.asarray(_sketch()).astype(np.int16)
    edge = np.zeros(flat.shape[:2], bool)
    edge[:, 2:] |= np.abs(flat[:, 2:] - flat[:, :-2]).max(axis=2) > 24
    edge[2:] |= np.abs(flat[2:] - flat[:-2]).max(axis=2) > 24
    ink = np.where(edge, 30, 244).astype(np.uint8)
    return _image(np.asarray(_crop(Image.fromarray(np.repeat(ink[..., None], 3, axis=2)))))


def _lit() -> Image.Image:
    with Image.open(io.BytesIO(thumbnail.read(DEMOS[0].plan))) as image:
        image.load()
        return _crop(image)


def _grey() -> QImage:
    return _image(np.asarray(_lit().convert("L").convert("RGB")))


def _painting() -> QImage:
    return _image(np.asarray(_lit()))


def _layers() -> QImage:
    """Three sheets behind each other, the flats in front."""
    flats = _flats()
    room = QImage(_PX, round(_PX * 0.75), QImage.Format.Format_ARGB32_Premultiplied)
    room.fill(Qt.GlobalColor.transparent)
    painter = QPainter(room)
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
    wide, high = _PX * 0.74, _PX * 0.75 * 0.74
    for i in range(3):
        box = QRectF(2 + i * _PX * 0.12, room.height() - 2 - high - i * _PX * 0.09, wide, high)
        painter.fillRect(box, QColor("#e2e2e2"))
        if i == 2:
            painter.drawImage(box, flats)
        painter.setPen(QColor("#444444"))
        painter.drawRect(box)
    painter.end()
    return room


def main() -> int:
    """Draw them all."""
    application = QGuiApplication(sys.argv[:1])
    FOLDER.mkdir(exist_ok=True)
    for name in KINDS:
        kind_picture(name).save(str(FOLDER / f"{name}.png"))
    for name in COMPOSITIONS:
        composition_picture(name).save(str(FOLDER / f"{name}.png"))
    del application
    return 0


if __name__ == "__main__":
    sys.exit(main())
