"""What a composition is made of: shapes laid over each other, each a region with a name, a role and
a first colour."""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageDraw

from umber_compass.colour.gamut import fit
from umber_compass.colour.packed import Levels
from umber_compass.colour.spaces import encode, to_bytes
from umber_compass.picture.mixes import Labels
from umber_compass.plan.terms import Role

_FINE = 3  # times finer than the picture, in which shapes are drawn
_BETWEEN = 14  # points between two corners of a smooth shape

Point = tuple[float, float]


class Shape(NamedTuple):
    """One region: places are shares of the picture's width and height. A smooth one goes through
    its points as a closed curve; two points are an oval: its middle and its half axes."""

    name: str
    role: Role
    colour: tuple[float, float, float]  # value L*, OKLCh chroma, hue in degrees
    points: tuple[Point, ...]
    smooth: bool = True


class Composition(NamedTuple):
    """A picture to begin without a sketch. Shapes come from the farthest to the nearest; several of
    one name are one region."""

    name: str
    title: str
    says: str
    shapes: tuple[Shape, ...]
    size: tuple[int, int] = (1280, 960)


class Drawn(NamedTuple):
    """A composition as a picture."""

    rgb: Levels  # (h, w, 3)
    labels: Labels  # (h, w)
    regions: tuple[Shape, ...]  # one for each label, label 1 first


def drawn(composition: Composition, width: int = 0) -> Drawn:
    """A composition drawn with smooth edges, at its own size or so many px wide."""
    across, down = composition.size
    if width:
        across, down = width, round(width * down / across)
    regions: dict[str, Shape] = {}
    for shape in composition.shapes:
        regions.setdefault(shape.name, shape)
    number = {name: i + 1 for i, name in enumerate(regions)}
    picture = np.zeros((down, across, 3), np.float32)
    labels = np.zeros((down, across), np.uint16)
    for shape in composition.shapes:
        cover = _cover(shape, across, down)
        colour = levels_of(regions[shape.name].colour).astype(np.float32)
        picture += (colour - picture) * cover[..., None]
        labels[cover > 0.5] = number[shape.name]
    return Drawn((picture + 0.5).astype(np.uint8), labels, tuple(regions.values()))


def levels_of(colour: tuple[float, float, float]) -> Levels:
    """A colour of value, chroma and hue as 8-bit levels, (3,)."""
    return to_bytes(encode(fit(*colour)))


def _cover(shape: Shape, across: int, down: int) -> npt.NDArray[np.float32]:
    """How much of each px a shape holds, (h, w)."""
    image = Image.new("L", (across * _FINE, down * _FINE), 0)
    pen = ImageDraw.Draw(image)
    size = np.array(image.size)
    points = np.array(shape.points)
    if len(points) == 2:
        middle, half = points * size
        pen.ellipse([*(middle - half), *(middle + half)], fill=255)
    else:
        outline = _smooth(points) if shape.smooth else points
        pen.polygon([tuple(p) for p in outline * size], fill=255)
    return np.asarray(image.reduce(_FINE), np.float32) / np.float32(255)


def _smooth(points: npt.NDArray[np.float64]) -> npt.NDArray[np.float64]:
    """A closed curve through points (Catmull and Rom 1974)."""
    p0, p1 = np.roll(points, 1, axis=0), points
    p2, p3 = np.roll(points, -1, axis=0), np.roll(points, -2, axis=0)
    t = np.linspace(0, 1, _BETWEEN, endpoint=False)[:, None, None]
    curve = 0.5 * (
        2 * p1
        + (p2 - p0) * t
        + (2 * p0 - 5 * p1 + 4 * p2 - p3) * t**2
        + (3 * p1 - p0 - 3 * p2 + p3) * t**3
    )
    return np.asarray(np.swapaxes(curve, 0, 1).reshape(-1, 2))


def box(left: float, top: float, right: float, bottom: float) -> tuple[Point, ...]:
    """The corners of an upright box."""
    return ((left, top), (right, top), (right, bottom), (left, bottom))


WHOLE = box(-0.01, -0.01, 1.01, 1.01)
