"""Eight finished pictures as an artist might bring them in, and the same ones spoiled: each a
little scene with something that should be met first, whose faults are known."""

from collections.abc import Callable
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageDraw, ImageFilter

from umber_compass.colour.gamut import fit
from umber_compass.colour.measured import measure_hex
from umber_compass.colour.spaces import encode, to_hex

Shape: TypeAlias = tuple[str, str, tuple[float, ...]]  # what it is part of, how drawn, x, y, ...
Rgb: TypeAlias = npt.NDArray[np.uint8]
_FINE = 3  # times finer before it is made smaller


class Scene(NamedTuple):
    """A picture: its size in px, the colours of its parts, and shapes from back to front in shares
    of a hundred of width and height. `figure` are the parts of the figure, the first of which lies
    `at` a place, `behind` what it stands before; `mood` is one it is far from."""

    name: str
    size: tuple[int, int]
    colours: dict[str, str]
    shapes: tuple[Shape, ...]
    figure: tuple[str, ...]
    behind: str
    at: tuple[float, float]
    mood: str
    brush: float = 0.0  # levels of a painted surface; 0: flat

    @property
    def is_coloured(self) -> bool:
        """Whether it has colour at all."""
        return any(measure_hex(c).chroma > 0.02 for c in self.colours.values())

    def drawn(self) -> Rgb:
        """The picture, (h, w, 3)."""
        w, h = self.size
        image = Image.new("RGB", (w * _FINE, h * _FINE), self.colours[self.shapes[0][0]])
        pen = ImageDraw.Draw(image)
        for part, how, numbers in self.shapes:
            scale = [w * _FINE / 100, h * _FINE / 100] * (len(numbers) // 2)
            getattr(pen, how)(
                [n * s for n, s in zip(numbers, scale, strict=True)], fill=self.colours[part]
            )
        small = image.resize(self.size, Image.Resampling.BOX)
        return self._painted(small) if self.brush else np.array(small)

    def _painted(self, image: Image.Image) -> Rgb:
        """With soft edges and strokes, as by a wide brush."""
        rng = np.random.default_rng(len(self.name))
        w, h = self.size
        soft = np.array(image.filter(ImageFilter.GaussianBlur(1.2)), float)
        grain = Image.fromarray(rng.normal(128, 40, (h // 3, w // 14)).clip(0, 255).astype("u1"))
        strokes = np.array(grain.resize(self.size, Image.Resampling.BICUBIC), float) - 128
        return np.clip(soft + self.brush * strokes[..., None] / 40, 0, 255).astype(np.uint8)

    def changed(self, change: Callable[[str, str], str]) -> "Scene":
        """The same shapes in other colours, by part and hex."""
        return self._replace(colours={k: change(k, v) for k, v in self.colours.items()})


def _moved(text: str, value: Callable[[float], float], chroma: float = 1.0) -> str:
    m = measure_hex(text)
    return to_hex(encode(fit(np.array(value(m.value)), m.chroma * chroma, m.hue or 0.0)))


def darkened(scene: Scene) -> Scene:
    """Everything drifted down until dark shapes merge."""
    return scene.changed(lambda _, c: _moved(c, lambda v: 2 + 0.24 * v))


def merged(scene: Scene) -> Scene:
    """The figure at the value of what it stands before."""
    ground = measure_hex(scene.colours[scene.behind]).value
    return scene.changed(
        lambda k, c: _moved(c, lambda v: ground + 0.06 * (v - ground)) if k in scene.figure else c
    )


def outshone(scene: Scene) -> Scene:
    """The figure grey and hardly parted, so that it is not what is met first."""
    ground = measure_hex(scene.colours[scene.behind]).value
    side = 17 if ground < 60 else -17
    return scene.changed(
        lambda k, c: (
            _moved(c, lambda v: ground + side + 0.05 * (v - ground), 0.1)
            if k in scene.figure
            else c
        )
    )


LANTERN = Scene(
    "lantern",
    (1000, 720),
    {
        "sky": "#31456b",
        "moon": "#dfe3ea",
        "far": "#43597f",
        "houses": "#2b3654",
        "windows": "#d79a4e",
        "snow": "#8fa3c4",
        "path": "#a9b9d3",
        "coat": "#8e3a3c",
        "face": "#e9b58c",
        "cap": "#5a2430",
        "lamp": "#ffdf8a",
        "boots": "#3a2a2e",
    },
    (
        ("sky", "rectangle", (0, 0, 100, 100)),
        ("moon", "ellipse", (76, 8, 84, 19)),
        ("far", "polygon", (0, 52, 20, 38, 40, 48, 62, 34, 100, 50, 100, 70, 0, 70)),
        ("houses", "polygon", (0, 44, 8, 30, 18, 42, 18, 70, 0, 70)),
        ("houses", "polygon", (24, 50, 31, 40, 38, 50, 38, 70, 24, 70)),
        ("windows", "rectangle", (6, 48, 9, 55)),
        ("windows", "rectangle", (29, 55, 32, 61)),
        ("snow", "rectangle", (0, 66, 100, 100)),
        ("path", "polygon", (46, 66, 54, 66, 78, 100, 30, 100)),
        ("coat", "polygon", (52, 50, 60, 50, 65, 82, 48, 82)),
        ("boots", "rectangle", (51, 82, 55, 88)),
        ("boots", "rectangle", (58, 82, 62, 88)),
        ("face", "ellipse", (52.5, 38, 59.5, 50)),
        ("cap", "polygon", (51.5, 42, 56, 31, 60.5, 42)),
        ("lamp", "ellipse", (67, 58, 72, 66)),
    ),
    ("coat", "face", "cap", "boots"),
    "sky",
    (56, 65),
    "bright",
)
DIVER = Scene(
    "diver",
    (1100, 700),
    {
        "water": "#2c7f90",
        "deep": "#1f5d70",
        "shine": "#7ec3c2",
        "sand": "#b9b38c",
        "weed": "#3f7d5a",
        "suit": "#f0883a",
        "mask": "#f6e9cf",
        "tank": "#c4472f",
        "fish": "#8fd0cf",
    },
    (
        ("water", "rectangle", (0, 0, 100, 100)),
        ("shine", "polygon", (0, 0, 100, 0, 100, 9, 60, 15, 30, 8, 0, 14)),
        ("deep", "polygon", (0, 58, 25, 64, 52, 55, 78, 66, 100, 58, 100, 100, 0, 100)),
        ("sand", "polygon", (0, 86, 30, 80, 70, 88, 100, 82, 100, 100, 0, 100)),
        ("weed", "polygon", (8, 88, 10, 60, 13, 74, 16, 56, 19, 88)),
        ("weed", "polygon", (84, 90, 87, 66, 90, 90)),
        ("fish", "ellipse", (18, 34, 25, 39)),
        ("fish", "ellipse", (26, 42, 31, 46)),
        ("suit", "polygon", (44, 36, 62, 44, 76, 56, 78, 62, 68, 60, 58, 56, 46, 50)),
        ("tank", "polygon", (49, 32, 61, 38, 59, 43, 47, 37)),
        ("mask", "ellipse", (38, 33, 47, 47)),
    ),
    ("suit", "mask", "tank"),
    "water",
    (56, 46),
    "tender",
    5.0,
)
FOX = Scene(
    "fox",
    (900, 900),
    {
        "sky": "#b7c2c8",
        "wood": "#7c8a8c",
        "trunks": "#4c5356",
        "snow": "#e4e6e2",
        "shade": "#bcc8d0",
        "fox": "#c2622b",
        "chest": "#f3e6d2",
        "legs": "#40302c",
        "berries": "#a5302f",
    },
    (
        ("sky", "rectangle", (0, 0, 100, 100)),
        ("wood", "polygon", (0, 30, 18, 22, 38, 28, 60, 18, 82, 26, 100, 20, 100, 62, 0, 62)),
        ("trunks", "rectangle", (12, 0, 17, 66)),
        ("trunks", "rectangle", (78, 0, 85, 68)),
        ("snow", "polygon", (0, 60, 40, 64, 100, 58, 100, 100, 0, 100)),
        ("shade", "polygon", (28, 84, 66, 80, 84, 86, 50, 90)),
        ("berries", "ellipse", (14, 70, 17, 73)),
        ("berries", "ellipse", (18, 73, 20.5, 75.5)),
        ("legs", "rectangle", (40, 70, 44, 84)),
        ("legs", "rectangle", (57, 70, 61, 84)),
        ("fox", "ellipse", (34, 52, 66, 74)),
        ("fox", "polygon", (62, 62, 84, 54, 80, 68, 64, 70)),
        ("fox", "polygon", (26, 38, 30, 46, 38, 46, 42, 38, 45, 58, 34, 66, 23, 56)),
        ("chest", "polygon", (29, 56, 41, 56, 40, 68, 34, 70)),
    ),
    ("fox", "chest", "legs"),
    "wood",
    (50, 60),
    "threatening",
)
ROCKET = Scene(
    "rocket",
    (1200, 640),
    {
        "space": "#0c0d14",
        "planet": "#3c5a8c",
        "clouds": "#7f9cc4",
        "ring": "#a98b6a",
        "stars": "#c9ccd8",
        "hull": "#e6e2d8",
        "fins": "#c23b33",
        "window": "#4fb0c6",
        "flame": "#f6b24a",
    },
    (
        ("space", "rectangle", (0, 0, 100, 100)),
        ("planet", "ellipse", (-14, 48, 40, 150)),
        ("clouds", "polygon", (4, 60, 22, 56, 30, 66, 12, 70)),
        ("ring", "polygon", (0, 92, 46, 70, 48, 73, 0, 98)),
        ("stars", "ellipse", (20, 12, 21, 14)),
        ("stars", "ellipse", (82, 70, 83, 72)),
        ("stars", "ellipse", (90, 22, 91, 24)),
        ("stars", "ellipse", (42, 26, 43, 28)),
        ("flame", "polygon", (50, 64, 55, 58, 57, 66, 46, 76)),
        ("hull", "polygon", (54, 58, 66, 30, 76, 18, 76, 34, 64, 62, 57, 66)),
        ("fins", "polygon", (55, 54, 52, 44, 60, 42)),
        ("fins", "polygon", (61, 64, 68, 68, 68, 54)),
        ("window", "ellipse", (66.5, 34, 70, 41)),
    ),
    ("hull", "fins", "window"),
    "space",
    (67, 50),
    "tender",
)
COOK = Scene(
    "cook",
    (720, 940),
    {
        "wall": "#8f9c86",
        "tiles": "#a8b39c",
        "shelf": "#6b5a48",
        "jars": "#b98f52",
        "coat": "#eee7da",
        "face": "#c98d68",
        "hair": "#33241f",
        "hat": "#f4efe4",
        "scarf": "#b23b35",
        "eyes": "#241a1a",
    },
    (
        ("wall", "rectangle", (0, 0, 100, 100)),
        ("tiles", "rectangle", (0, 44, 100, 100)),
        ("shelf", "rectangle", (0, 24, 30, 27)),
        ("jars", "rectangle", (5, 15, 12, 24)),
        ("jars", "rectangle", (16, 17, 22, 24)),
        ("coat", "polygon", (26, 66, 42, 60, 64, 60, 80, 66, 92, 100, 14, 100)),
        ("scarf", "polygon", (40, 58, 64, 58, 58, 70, 46, 70)),
        ("hair", "ellipse", (35, 24, 70, 56)),
        ("face", "ellipse", (38, 26, 67, 60)),
        ("eyes", "ellipse", (44.5, 39.5, 48, 42.5)),
        ("eyes", "ellipse", (57, 39.5, 60.5, 42.5)),
        ("hat", "polygon", (34, 30, 30, 12, 42, 5, 60, 4, 74, 12, 70, 30)),
    ),
    ("coat", "face", "hair", "hat"),
    "wall",
    (50, 85),
    "uncanny",
)
KITE = Scene(
    "kite",
    (1280, 560),
    {
        "sky": "#a9c9d9",
        "clouds": "#dce6e6",
        "hills": "#7f9f83",
        "meadow": "#a3ab5f",
        "near": "#7f8a4a",
        "kite": "#d13f36",
        "tail": "#f0c95a",
        "shirt": "#33466e",
        "legs": "#54423a",
        "face": "#d9a27c",
        "hair": "#4a2f22",
    },
    (
        ("sky", "rectangle", (0, 0, 100, 100)),
        ("clouds", "ellipse", (8, 16, 32, 30)),
        ("clouds", "ellipse", (18, 10, 40, 28)),
        ("hills", "polygon", (0, 62, 26, 50, 50, 60, 76, 48, 100, 58, 100, 78, 0, 78)),
        ("meadow", "polygon", (0, 68, 50, 72, 100, 66, 100, 100, 0, 100)),
        ("near", "polygon", (0, 90, 40, 86, 100, 94, 100, 100, 0, 100)),
        ("kite", "polygon", (66, 12, 73, 26, 66, 42, 60, 26)),
        ("tail", "polygon", (65, 42, 67, 42, 64, 56, 61, 55)),
        ("legs", "polygon", (34, 78, 38, 78, 40, 92, 37, 92, 36, 84, 34, 92, 31, 92)),
        ("shirt", "polygon", (33, 62, 39, 62, 40, 79, 32, 79)),
        ("face", "ellipse", (34, 50, 38.6, 62)),
        ("hair", "polygon", (33.4, 56, 34, 48, 38.6, 48, 39.2, 54, 36, 52)),
    ),
    ("shirt", "legs", "face", "hair"),
    "meadow",
    (36, 70),
    "threatening",
    4.0,
)
TEAPOT = Scene(
    "teapot",
    (960, 800),
    {
        "wall": "#6f6a66",
        "cloth": "#b9b2a6",
        "fold": "#958e84",
        "pot": "#2f5f9a",
        "lid": "#274d7e",
        "shine": "#cfe0ee",
        "lemon": "#ecc63f",
        "cut": "#f4e6a6",
        "cup": "#ece8e0",
        "tea": "#9a5a2c",
    },
    (
        ("wall", "rectangle", (0, 0, 100, 100)),
        ("cloth", "polygon", (0, 58, 100, 54, 100, 100, 0, 100)),
        ("fold", "polygon", (12, 70, 30, 78, 26, 100, 6, 100)),
        ("pot", "ellipse", (28, 30, 62, 72)),
        ("pot", "polygon", (58, 46, 74, 34, 77, 38, 62, 60)),
        ("lid", "polygon", (38, 31, 52, 31, 48, 25, 42, 25)),
        ("shine", "ellipse", (35, 38, 40, 46)),
        ("cup", "polygon", (66, 66, 84, 66, 81, 82, 69, 82)),
        ("tea", "ellipse", (66.5, 63.5, 83.5, 68.5)),
        ("lemon", "ellipse", (44, 74, 57, 86)),
        ("cut", "ellipse", (58, 80, 66, 88)),
    ),
    ("pot", "lid"),
    "wall",
    (45, 50),
    "tender",
)
RIDER = Scene(
    "rider in grey",
    (1000, 760),
    {
        "sky": "#c9c9c9",
        "sun": "#efefef",
        "far": "#a6a6a6",
        "plain": "#8a8a8a",
        "near": "#6e6e6e",
        "horse": "#2e2e2e",
        "cloak": "#454545",
        "face": "#bdbdbd",
        "flag": "#1f1f1f",
    },
    (
        ("sky", "rectangle", (0, 0, 100, 100)),
        ("sun", "ellipse", (58, 10, 74, 31)),
        ("far", "polygon", (0, 48, 24, 36, 46, 46, 74, 34, 100, 46, 100, 66, 0, 66)),
        ("plain", "polygon", (0, 60, 60, 64, 100, 58, 100, 100, 0, 100)),
        ("near", "polygon", (0, 88, 50, 84, 100, 90, 100, 100, 0, 100)),
        ("horse", "polygon", (30, 56, 52, 54, 58, 40, 66, 42, 64, 50, 58, 60, 57, 82, 54, 82)),
        ("horse", "polygon", (30, 56, 54, 56, 55, 70, 36, 70, 34, 84, 31, 84, 29, 66)),
        ("cloak", "polygon", (36, 58, 42, 32, 48, 32, 52, 58)),
        ("face", "ellipse", (42.5, 22, 48.5, 32)),
        ("flag", "polygon", (53, 12, 54, 12, 54, 50, 53, 50)),
        ("flag", "polygon", (54, 12, 66, 16, 54, 24)),
    ),
    ("horse", "cloak", "face"),
    "sky",
    (45, 63),
    "festive",
)
SCENES = (LANTERN, DIVER, FOX, ROCKET, COOK, KITE, TEAPOT, RIDER)
