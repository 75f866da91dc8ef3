"""Drawings that have no colour yet, as lines or in greys, whose parts are known: what first colours
are measured on. Those in `TUNED` were looked at while the method was made, the others were not."""

from collections.abc import Callable
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageDraw
from scipy.interpolate import splev, splprep
from scipy.ndimage import distance_transform_edt

from bench.first_pictures import SCENES, Scene
from umber_compass.colour.measured import measure_hex

Rgb: TypeAlias = npt.NDArray[np.uint8]
# What it is part of, how it is drawn (b: a smooth blob, p: a polygon, e: an ellipse, r: a box),
# and x, y, ... in shares of a hundred of width and height.
Shape: TypeAlias = tuple[str, str, tuple[float, ...]]
Fill: TypeAlias = Callable[[str], tuple[int, ...]]
_FINE = 2  # times finer before it is made smaller
_INK = (38, 36, 40)


class Piece(NamedTuple):
    """A drawing: its size, px; its parts with their material and grey, L* in percent; shapes from
    back to front. `focus` is what should be seen first."""

    name: str
    size: tuple[int, int]
    parts: dict[str, tuple[str, float]]
    shapes: tuple[Shape, ...]
    focus: str

    def lines(self) -> Rgb:
        """The drawing in lines on white, (h, w, 3)."""
        wide = max(3, round(max(self.size) * _FINE / 420))
        return self._drawn(lambda _: (255, 255, 255), wide)

    def greys(self) -> Rgb:
        """The drawing in flat greys, (h, w, 3)."""
        return self._drawn(lambda part: (round(self.parts[part][1] * 2.55),) * 3, 0)

    def owners(self) -> npt.NDArray[np.intp]:
        """Which shape each px shows, (h, w), -1 for none."""
        image = Image.new("I", self.size, 0)
        pen = ImageDraw.Draw(image)
        for i, shape in enumerate(self.shapes):
            pen.polygon(self._outline(shape, 1), fill=i + 1)
        return np.asarray(image, np.intp) - 1

    def place_of(self, part: str) -> tuple[int, int]:
        """A px, x and y, well within the first shape of a part that is seen."""
        owners = self.owners()
        mine = [i for i, s in enumerate(self.shapes) if s[0] == part]
        deep = distance_transform_edt(np.isin(owners, mine))
        y, x = np.unravel_index(int(deep.argmax()), deep.shape)
        return int(x), int(y)

    def _drawn(self, fill: Fill, wide: int) -> Rgb:
        w, h = self.size
        image = Image.new("RGB", (w * _FINE, h * _FINE), (255, 255, 255))
        pen = ImageDraw.Draw(image)
        for shape in self.shapes:
            points = self._outline(shape, _FINE)
            pen.polygon(points, fill=fill(shape[0]))
            if wide:
                pen.line([*points, points[0], points[1]], fill=_INK, width=wide, joint="curve")
        return np.array(image.resize(self.size, Image.Resampling.BOX))

    def _outline(self, shape: Shape, fine: int) -> list[tuple[float, float]]:
        _, how, numbers = shape
        w, h = self.size
        at = np.array(numbers, float).reshape(-1, 2) * np.array([w, h]) * fine / 100
        if how == "r":
            (x0, y0), (x1, y1) = at
            at = np.array([(x0, y0), (x1, y0), (x1, y1), (x0, y1)])
        elif how == "e":
            middle, half = at.mean(axis=0), (at[1] - at[0]) / 2
            turn = np.linspace(0, 2 * np.pi, 72, endpoint=False)
            at = middle + np.stack([np.cos(turn), np.sin(turn)], 1) * half
        elif how == "b":
            knots, _ = splprep([*np.vstack([at, at[:1]]).T], s=0, per=True)
            at = np.stack(splev(np.linspace(0, 1, 120), knots), 1)  # type: ignore[call-overload]
        return [(float(x), float(y)) for x, y in at]


def _mirrored(part: str, how: str, middle: float, numbers: tuple[float, ...]) -> tuple[Shape, ...]:
    """A shape and the same on the other side of an upright line."""
    flip = [2 * middle - v if i % 2 == 0 else v for i, v in enumerate(numbers)]
    if how in "er":
        flip[0], flip[2] = flip[2], flip[0]
    return (part, how, numbers), (part, how, tuple(flip))


def _face(x: float, y: float, w: float, h: float) -> tuple[Shape, ...]:
    """Features in a face whose middle and half width and height are given."""
    eyes = _mirrored("eye", "e", x, (x - 0.6 * w, y - 0.16 * h, x - 0.2 * w, y + 0.02 * h))
    irises = _mirrored("iris", "e", x, (x - 0.48 * w, y - 0.15 * h, x - 0.32 * w, y + 0.01 * h))
    lips = (
        "lips",
        "b",
        tuple(
            v
            for dx, dy in (
                (-0.36, 0.48),
                (-0.12, 0.42),
                (0, 0.45),
                (0.12, 0.42),
                (0.36, 0.48),
                (0, 0.6),
            )
            for v in (x + dx * w, y + dy * h)
        ),
    )
    return (*eyes, *irises, lips)


PORTRAIT = Piece(
    "portrait with hat",
    (820, 1040),
    {
        "wall": ("plaster", 55),
        "chair": ("wood", 35),
        "hair": ("hair", 25),
        "neck": ("skin", 66),
        "ears": ("skin", 68),
        "face": ("skin", 72),
        "eye": ("eye", 90),
        "iris": ("iris", 25),
        "lips": ("lips", 48),
        "hat": ("cloth", 40),
        "band": ("cloth", 20),
        "coat": ("cloth", 30),
        "shirt": ("cloth", 82),
        "bird": ("cloth", 60),
        "beak": ("brass", 70),
    },
    (
        ("wall", "r", (0, 0, 100, 100)),
        ("chair", "b", (8, 104, 8, 30, 22, 8, 50, 3, 78, 8, 92, 30, 92, 104)),
        ("hair", "b", (30, 62, 27, 40, 36, 22, 50, 17, 64, 22, 73, 40, 70, 62, 50, 66)),
        ("neck", "b", (42, 56, 58, 56, 59, 68, 66, 74, 50, 84, 34, 74, 41, 68)),
        ("coat", "b", (4, 106, 10, 84, 26, 75, 40, 72, 50, 84, 60, 72, 74, 75, 90, 84, 96, 106)),
        ("shirt", "p", (42, 76, 50, 85, 58, 76, 60, 101, 40, 101)),
        *_mirrored("ears", "e", 50, (31.5, 38, 36, 48)),
        ("face", "b", (34, 38, 36, 28, 50, 23, 64, 28, 66, 38, 63, 54, 50, 64, 37, 54)),
        *_face(50, 44, 15, 20),
        (
            "hat",
            "b",
            (
                20,
                30,
                32,
                26,
                34,
                12,
                44,
                8,
                50,
                10,
                56,
                8,
                66,
                12,
                68,
                26,
                80,
                30,
                66,
                34,
                50,
                35.5,
                34,
                34,
            ),
        ),
        ("band", "p", (33.6, 22, 66.4, 22, 67.2, 26, 50, 29, 32.8, 26)),
        ("bird", "b", (74, 76, 80, 66, 86, 66, 88, 72, 96, 82, 84, 80)),
        ("beak", "p", (87.4, 68, 92, 70, 87.6, 71)),
    ),
    "face",
)
BEARD = Piece(
    "bearded man",
    (900, 900),
    {
        "wall": ("plaster", 70),
        "window": ("sky", 86),
        "frame": ("wood", 40),
        "hair": ("hair", 30),
        "beard": ("hair", 34),
        "neck": ("skin", 58),
        "ears": ("skin", 60),
        "face": ("skin", 64),
        "eye": ("eye", 90),
        "iris": ("iris", 20),
        "lips": ("lips", 45),
        "jumper": ("cloth", 35),
        "collar": ("cloth", 50),
        "shelf": ("wood", 45),
        "book": ("cloth", 30),
        "jar": ("glass", 75),
    },
    (
        ("wall", "r", (0, 0, 100, 100)),
        ("frame", "r", (4, 6, 28, 50)),
        ("window", "r", (6, 8, 26, 48)),
        ("shelf", "r", (74, 40, 100, 43)),
        ("book", "r", (78, 22, 82, 40)),
        ("book", "r", (83, 25, 87, 40)),
        ("jar", "b", (90, 40, 89, 28, 93, 25, 97, 28, 96, 40)),
        ("hair", "b", (32, 44, 32, 24, 42, 12, 58, 12, 68, 24, 68, 44, 50, 50)),
        ("neck", "p", (41, 60, 59, 60, 62, 78, 38, 78)),
        ("jumper", "b", (2, 106, 10, 84, 30, 74, 50, 78, 70, 74, 90, 84, 98, 106)),
        ("collar", "b", (35, 75, 40, 70, 50, 76, 60, 70, 65, 75, 50, 84)),
        *_mirrored("ears", "e", 50, (31, 36, 35.5, 48)),
        ("face", "b", (34, 34, 38, 22, 50, 18, 62, 22, 66, 34, 64, 54, 50, 68, 36, 54)),
        ("beard", "b", (34, 46, 40, 50, 50, 48, 60, 50, 66, 46, 64, 62, 50, 74, 36, 62)),
        *_face(50, 38, 15, 22),
    ),
    "face",
)


def _house(x: float, top: float, wide: float, storeys: int) -> tuple[Shape, ...]:
    found: list[Shape] = [
        ("house", "r", (x, top, x + wide, 70)),
        ("roof", "p", (x - 1, top, x + wide / 2, top - 10, x + wide + 1, top)),
    ]
    for row in range(storeys):
        for n in range(3):
            left = x + wide * (0.14 + 0.28 * n)
            found.append(
                ("pane", "r", (left, top + 4 + 12 * row, left + wide * 0.16, top + 11 + 12 * row))
            )
    return (*found, ("door", "r", (x + wide * 0.4, 60, x + wide * 0.6, 70)))


def _person(x: float, foot: float, tall: float, part: str) -> tuple[Shape, ...]:
    w = tall * 0.16
    return (
        (
            "trousers",
            "p",
            (
                x - w * 0.8,
                foot - tall * 0.5,
                x + w * 0.8,
                foot - tall * 0.5,
                x + w * 0.9,
                foot,
                x + w * 0.2,
                foot,
                x,
                foot - tall * 0.36,
                x - w * 0.2,
                foot,
                x - w * 0.9,
                foot,
            ),
        ),
        (
            part,
            "b",
            (
                x - w * 1.2,
                foot - tall * 0.42,
                x - w,
                foot - tall * 0.78,
                x,
                foot - tall * 0.82,
                x + w,
                foot - tall * 0.78,
                x + w * 1.2,
                foot - tall * 0.42,
            ),
        ),
        ("head", "e", (x - w * 0.62, foot - tall, x + w * 0.62, foot - tall * 0.8)),
        (
            "hair",
            "b",
            (
                x - w * 0.66,
                foot - tall * 0.9,
                x - w * 0.4,
                foot - tall * 1.02,
                x,
                foot - tall * 1.04,
                x + w * 0.5,
                foot - tall * 1.01,
                x + w * 0.66,
                foot - tall * 0.9,
                x,
                foot - tall * 0.95,
            ),
        ),
    )


STREET = Piece(
    "street",
    (1280, 820),
    {
        "sky": ("sky", 82),
        "cloud": ("cloud", 92),
        "hill": ("leaf", 60),
        "house": ("plaster", 70),
        "roof": ("brick", 42),
        "pane": ("glass", 40),
        "door": ("wood", 32),
        "road": ("stone", 58),
        "walk": ("stone", 70),
        "crown": ("leaf", 45),
        "trunk": ("wood", 30),
        "post": ("metal", 28),
        "lamp": ("glow", 88),
        "trousers": ("cloth", 30),
        "coat": ("cloth", 45),
        "head": ("skin", 70),
        "hair": ("hair", 22),
        "umbrella": ("cloth", 62),
        "cart": ("wood", 48),
        "wheel": ("wood", 26),
        "dog": ("fur", 55),
    },
    (
        ("sky", "r", (0, 0, 100, 100)),
        ("cloud", "b", (8, 16, 14, 10, 22, 9, 30, 13, 26, 18, 14, 19)),
        ("cloud", "b", (62, 10, 70, 6, 80, 7, 86, 12, 74, 14)),
        ("hill", "b", (-4, 72, 20, 50, 46, 56, 70, 46, 104, 58, 104, 80, 50, 84)),
        ("walk", "r", (0, 70, 100, 78)),
        ("road", "r", (0, 78, 100, 100)),
        *_house(2, 40, 15, 2),
        *_house(19, 30, 15, 3),
        *_house(36, 42, 14, 2),
        *_house(66, 34, 15, 2),
        *_house(83, 44, 15, 2),
        ("trunk", "r", (56.4, 54, 58.6, 74)),
        ("crown", "b", (50, 46, 49, 32, 57, 24, 66, 32, 65, 46, 57.5, 58)),
        ("post", "r", (62.4, 40, 63.2, 76)),
        ("lamp", "r", (61.6, 34, 64, 40)),
        *_person(26, 88, 26, "coat"),
        *_person(76, 90, 26, "coat"),
        *_person(44, 92, 30, "coat"),
        ("umbrella", "b", (34, 66, 38, 58, 45, 55, 52, 58, 56, 66, 45, 64)),
        ("dog", "b", (32, 90, 33, 84, 38, 84, 41, 81, 43, 84, 40, 87, 39, 92, 34, 92)),
        ("cart", "p", (82, 80, 97, 80, 95, 88, 84, 88)),
        *_mirrored("wheel", "e", 89.5, (83.5, 86, 88, 93)),
    ),
    "umbrella",
)
OWL = Piece(
    "owl at night",
    (1000, 800),
    {
        "sky": ("sky", 25),
        "moon": ("glow", 90),
        "hill": ("leaf", 20),
        "branch": ("wood", 16),
        "leaf": ("leaf", 34),
        "body": ("fur", 48),
        "breast": ("fur", 68),
        "mask": ("fur", 74),
        "eye": ("brass", 84),
        "iris": ("iris", 12),
        "beak": ("metal", 30),
        "feet": ("brass", 60),
    },
    (
        ("sky", "r", (0, 0, 100, 100)),
        ("moon", "e", (60, 8, 84, 38)),
        ("hill", "b", (-6, 106, -4, 76, 24, 70, 50, 78, 76, 68, 104, 78, 106, 106)),
        (
            "body",
            "b",
            (
                34,
                72,
                30,
                44,
                32,
                24,
                36,
                18,
                42,
                24,
                52,
                24,
                58,
                18,
                62,
                24,
                64,
                44,
                60,
                72,
                47,
                82,
            ),
        ),
        ("breast", "b", (39, 70, 38, 54, 47, 48, 56, 54, 55, 70, 47, 76)),
        *_mirrored("mask", "e", 47, (34.5, 26, 47, 44)),
        *_mirrored("eye", "e", 47, (37.5, 30, 44.5, 39.5)),
        *_mirrored("iris", "e", 47, (39.6, 32.6, 42.6, 36.8)),
        ("beak", "p", (45.4, 40, 48.6, 40, 47, 47)),
        ("branch", "b", (-5, 84, 30, 78, 60, 79, 105, 70, 105, 76, 60, 86, 30, 86, -5, 92)),
        *_mirrored("feet", "e", 47, (39, 75, 45, 81)),
        ("leaf", "b", (74, 74, 78, 62, 84, 60, 82, 70)),
        ("leaf", "b", (86, 72, 92, 62, 97, 64, 92, 72)),
        ("leaf", "b", (10, 84, 12, 74, 18, 72, 17, 80)),
    ),
    "body",
)
STILL = Piece(
    "bottle and fruit",
    (1100, 860),
    {
        "wall": ("plaster", 40),
        "cloth": ("cloth", 78),
        "fold": ("cloth", 64),
        "bottle": ("glass", 30),
        "label": ("paper", 86),
        "bowl": ("stone", 70),
        "apple": ("fruit-red", 45),
        "lemon": ("fruit-yellow", 84),
        "leaf": ("leaf", 40),
        "knife": ("metal", 66),
        "grip": ("wood", 25),
        "loaf": ("wood", 60),
    },
    (
        ("wall", "r", (0, 0, 100, 100)),
        ("cloth", "p", (0, 62, 100, 58, 100, 100, 0, 100)),
        ("fold", "b", (8, 70, 26, 80, 20, 98, 4, 96)),
        (
            "bottle",
            "b",
            (20, 74, 18, 40, 23, 30, 23.5, 12, 28.5, 12, 29, 30, 34, 40, 32, 74, 26, 76),
        ),
        ("label", "r", (19.6, 46, 32.6, 60)),
        ("loaf", "b", (66, 70, 68, 56, 80, 52, 93, 58, 94, 70, 80, 74)),
        ("apple", "e", (44, 46, 54, 60)),
        ("lemon", "e", (54, 48, 65, 60)),
        ("apple", "e", (50, 40, 59, 53)),
        ("leaf", "b", (55, 40, 60, 34, 66, 35, 61, 41)),
        ("bowl", "b", (38, 56, 52, 58, 70, 56, 66, 74, 54, 80, 42, 74)),
        ("knife", "p", (60, 90, 82, 82, 84, 85, 62, 93)),
        ("grip", "p", (48, 94, 60, 90, 62, 93, 50, 97)),
        ("lemon", "e", (28, 80, 40, 92)),
    ),
    "apple",
)
SPRITE = Piece(
    "sprite",
    (48, 48),
    {
        "sky": ("sky", 78),
        "grass": ("grass", 56),
        "helm": ("metal", 62),
        "face": ("skin", 74),
        "tunic": ("cloth", 42),
        "legs": ("cloth", 26),
        "shield": ("wood", 50),
        "boss": ("brass", 80),
    },
    (
        ("sky", "r", (0, 0, 100, 100)),
        ("grass", "r", (0, 76, 100, 100)),
        ("legs", "r", (34, 66, 46, 90)),
        ("legs", "r", (52, 66, 64, 90)),
        ("tunic", "r", (30, 42, 68, 70)),
        ("face", "r", (36, 22, 62, 42)),
        ("helm", "p", (32, 28, 32, 14, 49, 6, 66, 14, 66, 28)),
        ("shield", "e", (58, 42, 86, 76)),
        ("boss", "e", (68, 54, 77, 64)),
    ),
    "face",
)
HARBOUR = Piece(
    "harbour",
    (1400, 620),
    {
        "sky": ("sky", 84),
        "sun": ("glow", 92),
        "far": ("stone", 66),
        "sea": ("water", 54),
        "quay": ("stone", 44),
        "hull": ("cloth", 36),
        "stripe": ("cloth", 80),
        "cabin": ("wood", 74),
        "sail": ("cloth", 88),
        "mast": ("wood", 30),
        "crate": ("wood", 52),
        "trousers": ("cloth", 24),
        "coat": ("cloth", 60),
        "head": ("skin", 68),
        "hair": ("hair", 20),
        "buoy": ("cloth", 50),
    },
    (
        ("sky", "r", (0, 0, 100, 100)),
        ("sun", "e", (70, 8, 77, 24)),
        ("far", "b", (-4, 50, 12, 34, 30, 42, 48, 36, 66, 44, 104, 36, 104, 60, -4, 60)),
        ("sea", "r", (0, 52, 100, 100)),
        ("quay", "p", (0, 78, 40, 82, 52, 100, 0, 100)),
        ("mast", "r", (57.6, 8, 58.4, 60)),
        ("sail", "b", (59, 10, 66, 26, 69, 50, 59, 52)),
        ("sail", "b", (57, 14, 50, 34, 47, 50, 57, 50)),
        ("hull", "b", (40, 58, 58, 62, 78, 56, 73, 72, 58, 75, 46, 71)),
        ("stripe", "p", (41.6, 60, 58, 64, 76.6, 59, 76, 62, 58, 67, 42.8, 63)),
        ("cabin", "p", (62, 46, 71, 46, 72, 58, 62, 59)),
        ("buoy", "e", (84, 70, 88, 79)),
        ("crate", "p", (5, 66, 15, 66, 15, 82, 5, 82)),
        ("crate", "p", (9, 54, 17, 54, 17, 66, 9, 66)),
        *_person(28, 92, 38, "coat"),
    ),
    "coat",
)
CAT = Piece(
    "cat on a sill",
    (960, 960),
    {
        "wall": ("plaster", 62),
        "frame": ("wood", 50),
        "sky": ("sky", 88),
        "hill": ("leaf", 58),
        "sill": ("wood", 66),
        "curtain": ("cloth", 44),
        "cat": ("fur", 30),
        "chest": ("fur", 84),
        "eye": ("brass", 80),
        "iris": ("iris", 10),
        "nose": ("lips", 56),
        "pot": ("brick", 48),
        "plant": ("leaf", 42),
        "tail": ("fur", 30),
    },
    (
        ("wall", "r", (0, 0, 100, 100)),
        ("frame", "r", (14, 4, 86, 74)),
        ("sky", "r", (18, 8, 82, 70)),
        ("hill", "p", (18, 56, 40, 44, 60, 52, 82, 42, 82, 70, 18, 70)),
        ("curtain", "b", (6, -6, 26, -4, 28, 30, 20, 60, 22, 80, 6, 82)),
        ("sill", "r", (4, 72, 96, 80)),
        ("tail", "b", (58, 70, 68, 64, 72, 52, 76, 53, 74, 68, 64, 78)),
        (
            "cat",
            "b",
            (
                36,
                78,
                34,
                58,
                40,
                44,
                36,
                36,
                36,
                22,
                42,
                28,
                52,
                28,
                58,
                22,
                58,
                36,
                54,
                44,
                62,
                58,
                62,
                78,
            ),
        ),
        ("chest", "b", (42, 76, 42, 56, 48, 48, 54, 56, 54, 76)),
        *_mirrored("eye", "e", 47, (39.5, 32, 45, 37)),
        *_mirrored("iris", "e", 47, (41.6, 32.6, 43.4, 36.4)),
        ("nose", "p", (45.5, 39, 48.5, 39, 47, 42)),
        ("pot", "p", (70, 62, 84, 62, 82, 76, 72, 76)),
        ("plant", "b", (71, 62, 68, 48, 74, 54, 77, 42, 81, 53, 87, 48, 84, 62)),
    ),
    "cat",
)
READER = Piece(
    "reader by a lamp",
    (1100, 800),
    {
        "wall": ("plaster", 34),
        "floor": ("wood", 26),
        "rug": ("cloth", 44),
        "chair": ("cloth", 36),
        "legs": ("cloth", 30),
        "dress": ("cloth", 58),
        "head": ("skin", 76),
        "hair": ("hair", 22),
        "arm": ("skin", 72),
        "book": ("cloth", 50),
        "page": ("paper", 90),
        "stand": ("brass", 60),
        "shade": ("glow", 88),
        "picture": ("cloth", 48),
        "table": ("wood", 40),
        "cup": ("stone", 82),
    },
    (
        ("wall", "r", (0, 0, 100, 100)),
        ("floor", "r", (0, 74, 100, 100)),
        ("rug", "b", (12, 88, 40, 82, 76, 84, 92, 92, 50, 99, 16, 96)),
        ("picture", "r", (12, 12, 32, 38)),
        ("chair", "b", (36, 90, 34, 50, 40, 30, 56, 28, 62, 44, 72, 58, 73, 90)),
        ("stand", "r", (78.6, 36, 80, 88)),
        ("shade", "p", (74, 20, 84, 20, 88, 36, 70, 36)),
        (
            "table",
            "p",
            (
                8,
                62,
                30,
                62,
                30,
                66,
                27,
                66,
                27,
                88,
                24,
                88,
                24,
                66,
                14,
                66,
                14,
                88,
                11,
                88,
                11,
                66,
                8,
                66,
            ),
        ),
        ("cup", "p", (16, 54, 22, 54, 21, 62, 17, 62)),
        ("legs", "b", (50, 70, 70, 68, 76, 74, 74, 92, 66, 92, 66, 80, 52, 84)),
        ("dress", "b", (42, 78, 43, 56, 48, 46, 56, 46, 62, 56, 66, 72, 56, 82)),
        ("hair", "b", (45, 44, 45, 30, 52, 24, 59, 29, 58, 42, 52, 48)),
        ("head", "b", (49, 32, 55, 29, 59, 33, 60, 40, 55, 45, 50, 41)),
        ("arm", "b", (50, 56, 54, 54, 60, 62, 67, 62, 67, 66, 58, 68)),
        ("book", "p", (64, 52, 74, 54, 73, 68, 64, 66)),
        ("page", "p", (65, 53, 69, 54, 68.6, 66, 65, 65)),
    ),
    "head",
)
DANCERS = Piece(
    "three dancers",
    (1200, 760),
    {
        "wall": ("plaster", 46),
        "floor": ("wood", 62),
        "lantern": ("glow", 86),
        "string": ("metal", 20),
        "window": ("glass", 30),
        "trousers": ("cloth", 28),
        "coat": ("cloth", 52),
        "head": ("skin", 70),
        "hair": ("hair", 24),
        "skirt": ("cloth", 66),
        "drum": ("wood", 44),
        "skin": ("paper", 84),
    },
    (
        ("wall", "r", (0, 0, 100, 100)),
        ("floor", "p", (0, 72, 100, 72, 100, 100, 0, 100)),
        ("window", "b", (8, 62, 8, 28, 15, 18, 22, 28, 22, 62)),
        ("window", "b", (78, 62, 78, 28, 85, 18, 92, 28, 92, 62)),
        ("string", "b", (-2, 6, 50, 16, 102, 6, 102, 7.6, 50, 17.6, -2, 7.6)),
        ("lantern", "e", (26, 12, 31, 24)),
        ("lantern", "e", (48, 16, 53, 28)),
        ("lantern", "e", (70, 12, 75, 24)),
        *_person(32, 90, 52, "coat"),
        *_person(72, 92, 54, "coat"),
        *_person(52, 94, 56, "coat"),
        ("skirt", "b", (44, 66, 50, 62, 54, 62, 60, 66, 64, 84, 52, 88, 40, 84)),
        ("drum", "b", (10, 88, 11, 74, 18, 72, 25, 74, 26, 88, 18, 92)),
        ("skin", "e", (10.6, 71, 25.4, 77)),
    ),
    "skirt",
)
HUT = Piece(
    "hut in the mountains",
    (1600, 600),
    {
        "sky": ("sky", 86),
        "cloud": ("cloud", 94),
        "peak": ("slate", 50),
        "snow": ("cloud", 92),
        "wood": ("leaf", 34),
        "meadow": ("grass", 62),
        "path": ("sand", 76),
        "hut": ("wood", 44),
        "roof": ("slate", 30),
        "pane": ("glow", 84),
        "door": ("wood", 24),
        "cow": ("hair", 36),
        "patch": ("cloud", 86),
        "fence": ("wood", 56),
    },
    (
        ("sky", "r", (0, 0, 100, 100)),
        ("cloud", "b", (64, 20, 72, 12, 84, 13, 90, 20, 76, 24)),
        (
            "peak",
            "p",
            (0, 60, 14, 26, 22, 40, 36, 8, 50, 44, 62, 30, 80, 52, 100, 34, 100, 76, 0, 76),
        ),
        ("snow", "p", (31, 19.5, 36, 8, 41, 21, 38, 25, 36, 21, 33, 25)),
        ("snow", "p", (11, 33, 14, 26, 17, 31.4, 14.5, 36)),
        ("wood", "b", (-4, 72, 10, 56, 26, 62, 44, 54, 60, 64, 80, 56, 104, 66, 104, 84, -4, 84)),
        ("meadow", "b", (-6, 78, 30, 70, 70, 74, 106, 70, 106, 120, -6, 120)),
        ("path", "b", (58, 84, 66, 86, 60, 92, 70, 104, 52, 104, 54, 92)),
        ("hut", "p", (52, 60, 68, 60, 68, 86, 52, 86)),
        ("roof", "p", (50, 62, 60, 44, 70, 62)),
        ("pane", "r", (54, 66, 57.4, 74)),
        ("pane", "r", (63, 66, 66.4, 74)),
        ("door", "r", (58.8, 68, 61.8, 86)),
        (
            "cow",
            "b",
            (
                22,
                92,
                21,
                80,
                24,
                76,
                32,
                77,
                36,
                73,
                38,
                77,
                35,
                82,
                34,
                92,
                32,
                92,
                31,
                85,
                25,
                85,
                24,
                92,
            ),
        ),
        ("patch", "e", (26, 78, 30, 83)),
        *(("fence", "r", (x, 82, x + 0.8, 96)) for x in (78, 84, 90, 96)),
        ("fence", "r", (77, 86, 98, 87.6)),
    ),
    "hut",
)
DRAGON = Piece(
    "dragon and knight",
    (1200, 900),
    {
        "sky": ("sky", 76),
        "cliff": ("stone", 48),
        "cave": ("slate", 14),
        "ground": ("earth", 58),
        "dragon": ("any", 40),
        "belly": ("any", 66),
        "wing": ("any", 30),
        "eye": ("glow", 88),
        "flame": ("glow", 90),
        "trousers": ("cloth", 24),
        "coat": ("metal", 70),
        "head": ("skin", 72),
        "hair": ("hair", 30),
        "shield": ("cloth", 50),
        "tuft": ("grass", 46),
    },
    (
        ("sky", "r", (0, 0, 100, 100)),
        ("cliff", "b", (40, 110, 46, 60, 58, 30, 76, 8, 108, 2, 110, 110)),
        ("cave", "b", (64, 78, 66, 50, 78, 38, 92, 50, 94, 78)),
        ("ground", "b", (-6, 82, 30, 76, 60, 80, 106, 74, 106, 116, -6, 116)),
        ("wing", "b", (58, 50, 50, 22, 62, 30, 68, 14, 74, 34, 84, 26, 74, 56)),
        (
            "dragon",
            "b",
            (
                46,
                46,
                36,
                40,
                34,
                32,
                44,
                28,
                52,
                32,
                56,
                44,
                66,
                52,
                80,
                60,
                92,
                78,
                84,
                84,
                70,
                84,
                68,
                90,
                60,
                90,
                58,
                76,
                52,
                60,
            ),
        ),
        ("belly", "b", (55, 58, 60, 58, 70, 70, 72, 82, 64, 82, 58, 70)),
        ("eye", "e", (42, 33, 45.5, 36.5)),
        ("flame", "b", (34, 38, 24, 40, 14, 50, 22, 50, 18, 58, 30, 48)),
        *_person(12, 92, 32, "coat"),
        ("shield", "b", (14, 70, 22, 70, 21, 80, 18, 85, 15, 80)),
        ("tuft", "b", (34, 92, 36, 82, 39, 88, 42, 82, 44, 92)),
        ("tuft", "b", (86, 96, 88, 88, 91, 92, 94, 87, 96, 96)),
    ),
    "dragon",
)
TUNED = (PORTRAIT, STREET, OWL, STILL, HARBOUR)
HELD = (BEARD, CAT, READER, DANCERS, HUT, DRAGON)


_HOW = {"rectangle": "r", "ellipse": "e", "polygon": "p"}


def piece_of(scene: Scene) -> Piece:
    """A finished picture as the drawing that it may have begun with; its materials are not
    known."""
    return Piece(
        scene.name,
        scene.size,
        {k: ("", measure_hex(c).value) for k, c in scene.colours.items()},
        tuple((part, _HOW[how], numbers) for part, how, numbers in scene.shapes),
        scene.figure[0],
    )


OTHERS = tuple(piece_of(s) for s in SCENES)  # also held out
