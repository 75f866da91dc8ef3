"""Flats of portraits, scenes, sprites and objects whose roles are known: each part with the roles
an artist would agree to. Seeds from 100 on are held out."""

from collections.abc import Iterator
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageDraw

from umber_compass.colour.measured import Measured, measure

Roles: TypeAlias = tuple[str, ...]
GROUND, BEHIND, FIGURE, EITHER = (
    ("ground",),
    ("ground", "middle ground"),
    ("figure", "focus"),
    ("figure", "focus", "middle ground"),
)
MIDDLE, LINE = ("middle ground",), ("line",)


class Cast(NamedTuple):
    """Labels, (h, w) from 0, 0 where clear; colours and the roles that suit, label 1 first."""

    labels: npt.NDArray[np.uint16]
    colours: list[Measured]
    roles: list[Roles]


class _Drawing:
    """Shapes laid over each other, each a part with its roles."""

    def __init__(self, seed: int, size: tuple[int, int], clear: bool = False) -> None:
        self.rng, self.size = np.random.default_rng(seed), size
        self.image = Image.new("I", size, 0)
        self.pen = ImageDraw.Draw(self.image)
        self.roles: list[Roles] = []
        self.tones: list[float] = []
        if not clear:
            self.part(GROUND)
            self.pen.rectangle((0, 0, *size), fill=1)

    def part(self, roles: Roles, low: float = 40, high: float = 235) -> int:
        self.roles.append(roles)
        self.tones.append(float(self.rng.uniform(low, high)))
        return len(self.roles)

    def oval(self, n: int, x: float, y: float, rx: float, ry: float) -> None:
        self.pen.ellipse((x - rx, y - ry, x + rx, y + ry), fill=n)

    def shape(self, n: int, *points: tuple[float, float]) -> None:
        self.pen.polygon(list(points), fill=n)

    def done(self) -> Cast:
        labels = np.asarray(self.image, np.uint16)
        held = np.bincount(labels.reshape(-1), minlength=len(self.roles) + 1)[1:] >= 12
        number = np.concatenate([[0], np.where(held, np.cumsum(held), 0)]).astype(np.uint16)
        colours, roles = [], []
        for i in np.flatnonzero(held).tolist():
            spread = self.rng.uniform(-40, 40, 3) * (self.roles[i] != LINE)
            colours.append(measure(np.clip(self.tones[i] + spread, 0, 255) / 255))
            roles.append(self.roles[i])
        return Cast(number[labels], colours, roles)


def portrait(seed: int) -> Cast:
    """A head and shoulders before a wall, a view or nothing."""
    rng = np.random.default_rng(seed)
    d = _Drawing(seed, (600, 760) if seed % 3 else (900, 640))
    w, h = d.size
    x, y, r = w * rng.uniform(0.44, 0.56), h * rng.uniform(0.36, 0.44), h * rng.uniform(0.17, 0.23)
    if seed % 2:
        d.shape(d.part(BEHIND), (0, h * 0.62), (w, h * 0.55), (w, h), (0, h))
    if seed % 4 == 1:
        d.oval(d.part(BEHIND), w * 0.14, h * 0.14, h * 0.07, h * 0.07)
    hair = d.part(FIGURE)
    d.oval(hair, x, y - r * 0.15, r * 1.25, r * 1.4)
    if seed % 5 < 3:
        d.pen.rectangle((x - r * 1.2, y, x + r * 1.2, y + r * rng.uniform(1.2, 2.4)), fill=hair)
    d.shape(d.part(FIGURE), (x - r * 2.3, h), (x - r * 1.8, y + r * 1.8), (x, y + r * 1.2),
            (x + r * 1.8, y + r * 1.8), (x + r * 2.3, h))  # fmt: skip
    neck = d.part(FIGURE)
    d.pen.rectangle((x - r * 0.38, y, x + r * 0.38, y + r * 1.6), fill=neck)
    d.oval(d.part(FIGURE), x, y + r * 0.1, r * 0.95, r * 1.12)
    white, iris, brow, mouth, collar = (d.part(FIGURE) for _ in range(5))
    for side in (-1, 1):
        d.oval(white, x + side * r * 0.4, y, r * 0.22, r * 0.13)
        d.oval(iris, x + side * r * 0.4, y, r * 0.1, r * 0.1)
        d.pen.rectangle((x + side * r * 0.4 - r * 0.22, y - r * 0.3, x + side * r * 0.4 + r * 0.22,
                         y - r * 0.24), fill=brow)  # fmt: skip
        d.shape(collar, (x + side * r * 0.1, y + r * 1.3), (x + side * r * 0.95, y + r * 1.6),
                (x + side * r * 0.4, y + r * 2.2))  # fmt: skip
    d.oval(mouth, x, y + r * 0.66, r * 0.28, r * 0.09)
    if seed % 3 == 0:
        hat = d.part(FIGURE)
        d.oval(hat, x, y - r * 0.75, r * 1.7, r * 0.3)
        d.pen.rectangle((x - r, y - r * 1.8, x + r, y - r * 0.75), fill=hat)
        d.pen.rectangle((x - r, y - r * 1.05, x + r, y - r * 0.85), fill=d.part(FIGURE))
    return d.done()


def scene(seed: int) -> Cast:
    """A shore, a wood or a room with somebody in it."""
    d = _Drawing(seed, (960, 640) if seed % 2 else (1280, 540))
    (_shore, _wood, _room)[seed % 3](d)
    return d.done()


def _person(d: _Drawing, x: float, foot: float, tall: float) -> None:
    legs, coat, skin, hair, scarf = (d.part(FIGURE) for _ in range(5))
    d.pen.rectangle((x - tall * 0.1, foot - tall * 0.4, x + tall * 0.1, foot), fill=legs)
    d.shape(coat, (x - tall * 0.17, foot - tall * 0.34), (x - tall * 0.12, foot - tall * 0.8),
            (x + tall * 0.12, foot - tall * 0.8),
            (x + tall * 0.17, foot - tall * 0.34))  # fmt: skip
    d.oval(hair, x, foot - tall * 0.91, tall * 0.09, tall * 0.1)
    d.oval(skin, x + tall * 0.01, foot - tall * 0.89, tall * 0.065, tall * 0.08)
    d.pen.rectangle((x - tall * 0.09, foot - tall * 0.81, x + tall * 0.09, foot - tall * 0.76),
                    fill=scarf)  # fmt: skip


def _shore(d: _Drawing) -> None:
    (w, h), rng = d.size, d.rng
    sea = h * rng.uniform(0.42, 0.52)
    d.oval(d.part(BEHIND, 200, 250), w * rng.uniform(0.2, 0.8), h * 0.16, h * 0.06, h * 0.06)
    far = [(w * i / 6, sea - h * rng.uniform(0.03, 0.2)) for i in range(7)]
    d.shape(d.part(BEHIND), (0, sea), *far, (w, sea))
    d.pen.rectangle((0, sea, w, h), fill=d.part(GROUND))
    shore = h * rng.uniform(0.74, 0.82)
    d.shape(d.part(BEHIND), (0, shore), (w * 0.5, shore + h * 0.05), (w, shore), (w, h), (0, h))
    x, y, s = w * rng.uniform(0.6, 0.8), h * rng.uniform(0.6, 0.66), h / 640
    d.shape(d.part(EITHER), (x - 120 * s, y), (x + 110 * s, y), (x + 80 * s, y + 46 * s),
            (x - 90 * s, y + 46 * s))  # fmt: skip
    d.shape(d.part(EITHER), (x, y - 8 * s), (x, y - 180 * s), (x + 96 * s, y - 14 * s))
    _person(d, w * rng.uniform(0.25, 0.4), h * 0.9, h * 0.36)


def _wood(d: _Drawing) -> None:
    (w, h), rng = d.size, d.rng
    d.shape(d.part(BEHIND), (0, h * 0.5), (w * 0.3, h * 0.34), (w * 0.7, h * 0.44), (w, h * 0.3),
            (w, h), (0, h))  # fmt: skip
    d.pen.rectangle((0, h * 0.66, w, h), fill=d.part(GROUND))
    trunk, crown = d.part(BEHIND), d.part(BEHIND)
    for x in (0.04, 0.16, 0.82, 0.95):
        d.pen.rectangle((w * x - 14, 0, w * x + 14, h * rng.uniform(0.7, 0.8)), fill=trunk)
    d.pen.rectangle((0, 0, w, h * 0.12), fill=crown)
    x, y, s = w * 0.5, h * 0.72, h / 640
    body, head, eye = (d.part(FIGURE) for _ in range(3))
    d.oval(body, x, y - 70 * s, 110 * s, 52 * s)
    for leg in (-80, -50, 50, 80):
        d.pen.rectangle((x + leg * s - 8, y - 60 * s, x + leg * s + 8, y + 40 * s), fill=body)
    d.shape(d.part(FIGURE), (x + 90 * s, y - 90 * s), (x + 130 * s, y - 190 * s),
            (x + 160 * s, y - 170 * s), (x + 100 * s, y - 50 * s))  # fmt: skip
    d.oval(head, x + 150 * s, y - 190 * s, 40 * s, 26 * s)
    d.oval(eye, x + 156 * s, y - 196 * s, 5 * s, 5 * s)


def _room(d: _Drawing) -> None:
    (w, h), rng = d.size, d.rng
    d.pen.rectangle((0, h * 0.74, w, h), fill=d.part(GROUND))
    frame, pane = d.part(MIDDLE), d.part(MIDDLE, 200, 250)
    x = w * rng.uniform(0.08, 0.16)
    d.pen.rectangle((x, h * 0.12, x + w * 0.22, h * 0.5), fill=frame)
    for i in (0, 1):
        d.pen.rectangle((x + 12 + i * w * 0.11, h * 0.15, x + w * 0.1 + i * w * 0.11, h * 0.47),
                        fill=pane)  # fmt: skip
    d.pen.rectangle((w * 0.62, h * 0.6, w * 0.9, h * 0.64), fill=d.part(EITHER))
    d.oval(d.part(EITHER), w * 0.72, h * 0.56, h * 0.04, h * 0.045)
    _person(d, w * rng.uniform(0.42, 0.52), h * 0.92, h * 0.62)


def thing(seed: int) -> Cast:
    """A sprite or an object on clear or plain ground, outlined or not."""
    side = (32, 48, 64, 320)[seed % 4]
    d = _Drawing(seed, (side, side), clear=seed % 3 != 0)
    s = side / 32
    line = d.part(LINE, 10, 24) if seed % 2 else 0
    kind = seed % 5
    big = d.part(FIGURE)
    if kind == 0:  # a creature
        _lined(d, line, big, 16 * s, 18 * s, 10 * s, 9 * s, s)
        for n, y, r in ((d.part(FIGURE), 16, 2.6), (d.part(FIGURE), 16, 1.2)):
            for x in (12, 20):
                d.oval(n, x * s, y * s, r * s, r * s)
        d.pen.rectangle((12 * s, 22 * s, 20 * s, 24 * s), fill=d.part(FIGURE))
    elif kind == 1:  # a flask
        _lined(d, line, big, 16 * s, 20 * s, 9 * s, 8 * s, s)
        d.pen.rectangle((13 * s, 5 * s, 19 * s, 13 * s), fill=big)
        d.oval(d.part(FIGURE), 16 * s, 22 * s, 7 * s, 5 * s)
        d.pen.rectangle((13 * s, 3 * s, 19 * s, 5 * s), fill=d.part(FIGURE))
    elif kind == 2:  # a sword
        d.shape(big, (24 * s, 3 * s), (28 * s, 7 * s), (12 * s, 23 * s), (9 * s, 20 * s))
        d.shape(
            d.part(FIGURE), (7 * s, 17 * s), (15 * s, 25 * s), (12 * s, 27 * s), (5 * s, 20 * s)
        )
        d.oval(d.part(FIGURE), 6 * s, 26 * s, 3 * s, 3 * s)
    elif kind == 3:  # a mushroom
        d.pen.rectangle((12 * s, 15 * s, 20 * s, 28 * s), fill=d.part(FIGURE))
        _lined(d, line, big, 16 * s, 12 * s, 12 * s, 8 * s, s)
        spot = d.part(FIGURE)
        for x, y in ((10, 10), (17, 8), (22, 13)):
            d.oval(spot, x * s, y * s, 2 * s, 2 * s)
    else:  # a lantern, as large as its picture
        d.pen.rectangle((3 * s, 2 * s, 29 * s, 31 * s), fill=big)
        d.pen.rectangle((7 * s, 7 * s, 25 * s, 27 * s), fill=d.part(FIGURE))
        d.oval(d.part(FIGURE), 16 * s, 17 * s, 4 * s, 6 * s)
    return d.done()


def _lined(
    d: _Drawing, line: int, n: int, x: float, y: float, rx: float, ry: float, s: float
) -> None:
    if line:
        d.oval(line, x, y, rx + s, ry + s)
    d.oval(n, x, y, rx, ry)


def casts(begin: int) -> Iterator[tuple[str, Cast]]:
    """Twenty of each sort."""
    for make in (portrait, scene, thing):
        for seed in range(begin, begin + 20):
            yield make.__name__, make(seed)
