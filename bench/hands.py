"""Drawings as many hands make them, with their areas known: one scene, by line, grey or paint, on
paper or scanned. Made unlike bench/drawings.py, so that what is fitted to those proves nothing
here. Sizes px; seeds from 100 on are held out."""

import io
from collections.abc import Callable, Iterator
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageDraw
from scipy.ndimage import distance_transform_edt, gaussian_filter, label, map_coordinates

from umber_compass.colour.packed import CLEAR, Packed, pack
from umber_compass.colour.spaces import Floats

SIZE = (960, 720)
Ints: TypeAlias = npt.NDArray[np.int32]
Rng: TypeAlias = np.random.Generator


class Drawn(NamedTuple):
    """A drawing, (h, w) 0x00RRGGBB or CLEAR, its areas, (h, w) from 0, and the kinds that suit."""

    packed: Packed
    truth: Ints
    kinds: tuple[str, ...]


def noise(rng: Rng, size: tuple[int, int], sigma: float) -> Floats:
    """Even noise of mean 0 and spread 1, as wide as `sigma` px."""
    small = max(sigma / 4, 1.0)
    height, width = (max(int(n / small) + 8, 8) for n in size[::-1])
    found = gaussian_filter(rng.standard_normal((height, width)), sigma / small)
    if small > 1:
        image = Image.fromarray(found.astype(np.float32)).resize(size, Image.Resampling.BICUBIC)
        found = np.asarray(image, float)
    else:
        found = found[: size[1], : size[0]]
    return np.asarray((found - found.mean()) / max(found.std(), 1e-9))


def scene(seed: int, size: tuple[int, int] = SIZE) -> tuple[Ints, Floats]:
    """Which material each px is, (h, w) from 0, and their colours, (n, 3) levels: a head before a
    view, or a shore with houses, a boat and a bird."""
    rng = np.random.default_rng(seed)
    image = Image.new("I", size, 0)
    pen, number = ImageDraw.Draw(image), iter(range(1, 99))
    _portrait(pen, number, rng, size) if seed % 2 else _shore(pen, number, rng, size)
    found = np.asarray(image, np.int32)
    dx, dy = noise(rng, size, 60) * 4, noise(rng, size, 60) * 4
    y, x = np.indices(found.shape)
    at = [np.clip(y + dy, 0, size[1] - 1).round().astype(int)]
    at.append(np.clip(x + dx, 0, size[0] - 1).round().astype(int))
    found = found[at[0], at[1]]
    kinds, numbers = np.unique(found, return_inverse=True)
    return numbers.reshape(size[::-1]).astype(np.int32), _apart(rng, len(kinds))


def _apart(rng: Rng, count: int) -> Floats:
    """Colours that are told apart at a glance."""
    found: list[Floats] = []
    while len(found) < count:
        tried = rng.uniform(24, 238, 3)
        if all(np.abs(tried - f).max() > 26 for f in found):
            found.append(tried)
    return np.array(found)


def _round(pen: ImageDraw.ImageDraw, n: int, x: float, y: float, rx: float, ry: float) -> None:
    pen.ellipse((x - rx, y - ry, x + rx, y + ry), fill=n)


def _portrait(pen: ImageDraw.ImageDraw, n: Iterator[int], rng: Rng, size: tuple[int, int]) -> None:
    w, h = size
    x, y, r = w * rng.uniform(0.42, 0.58), h * rng.uniform(0.36, 0.44), h * rng.uniform(0.2, 0.25)
    hill = h * rng.uniform(0.5, 0.7)
    pen.polygon([(0, hill), (w * 0.4, hill - h * 0.1), (w, hill), (w, h), (0, h)], fill=next(n))
    _round(pen, next(n), w * 0.84, h * 0.2, r * 0.4, r * 0.4)
    hair = next(n)
    _round(pen, hair, x, y - r * 0.1, r * 1.25, r * 1.35)
    pen.rectangle((x - r * 1.2, y, x + r * 1.2, y + r * 1.4), fill=hair)
    coat = next(n)
    pen.polygon(
        [(x - r * 2.2, h), (x - r * 1.7, y + r * 1.7), (x, y + r * 1.2), (x + r * 1.7, y + r * 1.7),
         (x + r * 2.2, h)], fill=coat)  # fmt: skip
    skin = next(n)
    pen.rectangle((x - r * 0.35, y, x + r * 0.35, y + r * 1.5), fill=skin)
    _round(pen, next(n), x, y + r * 0.1, r * 0.95, r * 1.1)
    white, iris, mouth, collar = (next(n) for _ in range(4))
    for side in (-1, 1):
        _round(pen, white, x + side * r * 0.4, y, r * 0.22, r * 0.13)
        _round(pen, iris, x + side * r * 0.4, y, r * 0.1, r * 0.1)
        pen.polygon([(x + side * r * 0.1, y + r * 1.3), (x + side * r * 0.9, y + r * 1.5),
                     (x + side * r * 0.5, y + r * 2.1)], fill=collar)  # fmt: skip
    _round(pen, mouth, x, y + r * 0.66, r * 0.28, r * 0.1)
    _round(pen, next(n), x - r * 0.9, y + r * 0.7, r * 0.13, r * 0.2)


def _shore(pen: ImageDraw.ImageDraw, n: Iterator[int], rng: Rng, size: tuple[int, int]) -> None:
    w, h = size
    sea = h * rng.uniform(0.42, 0.52)
    _round(pen, next(n), w * rng.uniform(0.1, 0.9), h * 0.17, h * 0.07, h * 0.07)
    far = [(w * i / 6, sea - h * rng.uniform(0.02, 0.2)) for i in range(7)]
    pen.polygon([(0, sea), *far, (w, sea)], fill=next(n))
    pen.rectangle((0, sea, w, h), fill=next(n))
    shore = h * rng.uniform(0.74, 0.84)
    pen.polygon([(0, shore), (w * 0.5, shore + h * 0.06), (w, shore - h * 0.02), (w, h), (0, h)],
                fill=next(n))  # fmt: skip
    wall, roof, door, pane = (next(n) for _ in range(4))
    for i in range(3):
        x, b = w * (0.06 + 0.14 * i), sea + h * (0.12 + 0.02 * i)
        top = b - h * rng.uniform(0.16, 0.26)
        pen.rectangle((x, top, x + w * 0.11, b), fill=wall)
        pen.polygon([(x - 6, top), (x + w * 0.055, top - h * 0.1), (x + w * 0.11 + 6, top)],
                    fill=roof)  # fmt: skip
        pen.rectangle((x + w * 0.02, b - h * 0.09, x + w * 0.05, b), fill=door)
        pen.rectangle((x + w * 0.065, top + h * 0.04, x + w * 0.095, top + h * 0.09), fill=pane)
    x, y = w * rng.uniform(0.6, 0.8), h * rng.uniform(0.6, 0.68)
    pen.polygon([(x - 120, y), (x + 110, y), (x + 80, y + 46), (x - 90, y + 46)], fill=next(n))
    pen.polygon([(x - 8, y - 8), (x - 8, y - 180), (x + 96, y - 14)], fill=next(n))
    pen.polygon([(x - 16, y - 8), (x - 16, y - 150), (x - 84, y - 14)], fill=next(n))
    x, y = w * rng.uniform(0.4, 0.52), shore - 26
    body, head, beak = next(n), next(n), next(n)
    _round(pen, body, x, y, 54, 32)
    pen.polygon([(x - 36, y), (x - 104, y - 18), (x - 90, y + 18)], fill=body)
    _round(pen, head, x + 50, y - 44, 24, 22)
    pen.polygon([(x + 70, y - 50), (x + 112, y - 40), (x + 70, y - 36)], fill=beak)


def edges_of(found: Ints) -> npt.NDArray[np.bool_]:
    """Px along which two materials meet."""
    at = np.zeros(found.shape, bool)
    at[:, 1:] |= found[:, 1:] != found[:, :-1]
    at[1:] |= found[1:] != found[:-1]
    return at


def areas_of(found: Ints, edge_px: float = 0.0) -> Ints:
    """The connected areas of materials, numbered from 0; those too small to be seen, and what a
    line of that width covers, are -1."""
    out, count = np.full(found.shape, -1, np.int32), 0
    open_ = distance_transform_edt(~edges_of(found)) > edge_px
    for material in range(int(found.max()) + 1):
        part, many = label((found == material) & open_)
        size = np.bincount(part.reshape(-1))
        for i in range(1, many + 1):
            if size[i] >= 150:
                out[part == i] = count
                count += 1
    return out


def materials_of(found: Ints) -> Ints:
    """Materials as they are, those too small to be seen -1."""
    held = np.bincount(found.reshape(-1)) >= 150
    return np.where(held, np.cumsum(held) - 1, -1).astype(np.int32)[found]


def strokes(rng: Rng, found: Ints, low: float, high: float, gap: float = 0.0) -> Floats:
    """How much ink each px has, 0-1, of lines along the materials' edges, as wide as told, px;
    `gap` is how much of them is left open."""
    size = found.shape[::-1]
    far = distance_transform_edt(~edges_of(found))
    width = np.clip((low + high) / 2 + noise(rng, size, 40) * (high - low) / 3, low, high)
    ink = np.clip(width / 2 - far + 0.5, 0, 1)
    if gap:
        ink = ink * (noise(rng, size, 5) < 2.6 - gap)
    return np.asarray(ink)


def _paper(rng: Rng, size: tuple[int, int], tone: Floats, dim: float, grain: float) -> Floats:
    """Paper, (h, w, 3) levels: warm or white, darker toward a corner, with a grain."""
    y, x = np.indices(size[::-1])
    cx, cy = rng.uniform(0.3, 0.7, 2)
    far = np.hypot(x / size[0] - cx, y / size[1] - cy)
    light = 1 - dim * far**1.5
    return np.asarray(tone * light[..., None] + (noise(rng, size, 1) * grain)[..., None])


def _on(paper: Floats, ink: Floats, colour: Floats) -> Floats:
    return np.asarray(paper * (1 - ink[..., None]) + colour * ink[..., None])


def _levels(picture: Floats) -> npt.NDArray[np.uint8]:
    return np.asarray(np.clip(picture + 0.5, 0, 255), np.uint8)


def _stored(picture: npt.NDArray[np.uint8], quality: int) -> npt.NDArray[np.uint8]:
    held = io.BytesIO()
    Image.fromarray(picture).save(held, "JPEG", quality=quality)
    return np.asarray(Image.open(held).convert("RGB"), np.uint8)


WHITE, INK = np.array([255.0] * 3), np.array([18.0, 16.0, 20.0])


def _lines(
    seed: int,
    width: tuple[float, float],
    paper: tuple[Floats, float, float] = (WHITE, 0.0, 0.0),
    ink: tuple[Floats, float] = (INK, 1.0),
    gap: float = 0.0,
    dry: float = 0.0,
    quality: int = 0,
    hatch: bool = False,
) -> Drawn:
    rng = np.random.default_rng(seed + 5000)
    found, _ = scene(seed)
    size = found.shape[::-1]
    amount = strokes(rng, found, *width, gap) * ink[1]
    if dry:
        amount = amount * np.clip(1.15 + dry * np.minimum(noise(rng, size, 1.2), 0.6), 0, 1)
    if hatch:
        y, x = np.indices(found.shape)
        chosen = np.isin(found, rng.permutation(int(found.max()) + 1)[:3])
        stripe = np.abs((x + y * 0.8) % 11 - 5.5) < 0.9
        amount = np.maximum(amount, stripe * chosen * 0.9)
    picture = _on(_paper(rng, size, *paper), amount, ink[0])
    shown = _levels(picture)
    return Drawn(
        pack(_stored(shown, quality) if quality else shown), areas_of(found, width[1]), ("lines",)
    )


def _clear(seed: int) -> Drawn:
    found, _ = scene(seed)
    amount = strokes(np.random.default_rng(seed), found, 3, 6)
    packed = np.where(amount > 0.5, np.uint32(0xF4F2EC), CLEAR).astype(np.uint32)
    return Drawn(packed, areas_of(found, 6), ("lines",))


def _shaded(rng: Rng, found: Ints, colours: Floats, deep: float) -> Floats:
    """Colours with light from one side in each area and from side to side."""
    size = found.shape[::-1]
    y, x = np.indices(found.shape)
    far = np.sqrt(distance_transform_edt(~edges_of(found)))
    turn = np.clip(far / 9, 0, 1) * 0.6 + (x / size[0] - y / size[1]) * 0.5
    light = 1 + deep * (turn - 0.5 + noise(rng, size, 40) * 0.12)
    return np.asarray(colours[found] * light[..., None])


def _painted(seed: int, how: str) -> Drawn:
    rng = np.random.default_rng(seed + 7000)
    found, colours = scene(seed)
    size = found.shape[::-1]
    if how == "airbrush":
        picture = gaussian_filter(_shaded(rng, found, colours, 0.5), (2.5, 2.5, 0))
    elif how == "watercolour":
        far = distance_transform_edt(~edges_of(found))
        wash = 1 + 0.1 * noise(rng, size, 30) - 0.22 * np.exp(-far / 3)
        wet = gaussian_filter(colours[found], (2, 2, 0)) * wash[..., None]
        picture = 255 - (255 - wet) * 0.8 + (noise(rng, size, 1.5) * 3)[..., None]
    elif how == "oil":
        picture = _shaded(rng, found, colours, 0.5)
        along = np.stack([noise(rng, size, 3), noise(rng, size, 3)])
        y, x = np.indices(found.shape)
        picture = np.stack([map_coordinates(picture[..., i], [y + along[0] * 3, x + along[1] * 5],
                            order=1, mode="nearest") for i in range(3)], axis=-1)  # fmt: skip
        picture = picture + (noise(rng, size, 2) * 7)[..., None]
    else:
        picture = _shaded(rng, found, colours, 0.6) + rng.normal(0, 5, (*found.shape, 3))
    return Drawn(pack(_levels(picture)), areas_of(found), ("painting",))


def _grey(seed: int, how: str) -> Drawn:
    rng = np.random.default_rng(seed + 8000)
    found, _ = scene(seed)
    size = found.shape[::-1]
    steps = np.linspace(35, 225, 5)[rng.integers(0, 5, int(found.max()) + 1)]
    tones = np.round((steps[found] - 35) / 47.5).astype(np.int32)
    grey = gaussian_filter(steps[found] + noise(rng, size, 50) * 5, 1.2)
    if how == "soft":
        grey = gaussian_filter(_shaded(rng, found, steps[:, None], 0.4)[..., 0], 2)
    tone = WHITE / 255
    if how == "charcoal":
        grey = grey + noise(rng, size, 1) * 9
    elif how == "sepia":
        tone = np.array([1.0, 0.9, 0.74])
        grey = grey + noise(rng, size, 1.4) * 4
    elif how == "toned":
        tone = np.array([0.86, 0.9, 1.0])
    return Drawn(pack(_levels(grey[..., None] * tone)), areas_of(tones), ("grey",))


def _flats(seed: int, how: str) -> Drawn:
    rng = np.random.default_rng(seed + 9000)
    found, colours = scene(seed)
    size = found.shape[::-1]
    picture = colours[found]
    kinds: tuple[str, ...] = ("flats",)
    if how.startswith("brushed"):
        tones = int(how.removeprefix("brushed"))
        grain = np.clip(np.round(noise(rng, size, 5) * tones / 4), -(tones // 2), tones // 2)
        picture, kinds = picture + (grain * 24 / tones)[..., None], ("flats", "painting")
    elif how == "gradient":
        y = np.indices(found.shape)[0] / size[1]
        picture = np.where((found == 0)[..., None], picture * (0.75 + 0.4 * y[..., None]), picture)
    elif how == "grain":
        picture = picture + rng.normal(0, 3, found.shape)[..., None]
    elif how == "noise":
        picture = picture + rng.integers(-1, 2, (*found.shape, 3))
    elif how == "inked":
        picture = _on(picture, strokes(rng, found, 3, 7), INK)
    shown = _levels(picture)
    if how == "jpeg":
        shown = _stored(shown, 85)
    elif how == "reduced":
        inked = _levels(_on(picture, strokes(rng, found, 3, 7), INK))
        small = Image.fromarray(inked).resize((size[0] * 2 // 3, size[1] * 2 // 3),
                                              Image.Resampling.LANCZOS)  # fmt: skip
        found = np.asarray(Image.fromarray(found).resize(small.size, Image.Resampling.NEAREST))
        shown = np.asarray(small)
    return Drawn(pack(shown), materials_of(found), kinds)


_WARM, _PHOTO = np.array([246.0, 236.0, 214.0]), np.array([206.0, 200.0, 190.0])
_BLUE, _DARK = np.array([40.0, 60.0, 120.0]), np.array([24.0, 26.0, 32.0])
_GREY = np.array([70.0, 70.0, 74.0])
SORTS: dict[str, Callable[[int], Drawn]] = {
    "wobbling line": lambda s: _lines(s, (3, 4)),
    "brush line": lambda s: _lines(s, (3, 12)),
    "dry brush": lambda s: _lines(s, (5, 12), dry=0.5),
    "open line": lambda s: _lines(s, (3, 5), gap=0.15),
    "pencil": lambda s: _lines(s, (2, 3.5), (_WARM, 0.05, 2), (_GREY, 0.75), dry=0.35),
    "hairline": lambda s: _lines(s, (0.8, 2)),
    "scan, dark corner": lambda s: _lines(s, (3, 6), (_WARM, 0.55, 1.5)),
    "photograph": lambda s: _lines(s, (3, 6), (_PHOTO, 0.75, 3), quality=85),
    "blue ballpoint": lambda s: _lines(s, (2, 4), (_WARM, 0.2, 2), (_BLUE, 0.9)),
    "light on dark": lambda s: _lines(s, (3, 6), (_DARK, 0.0, 1), (WHITE, 0.95)),
    "chalk": lambda s: _lines(s, (4, 8), (_DARK * 2, 0.2, 3), (WHITE, 0.9), dry=0.4),
    "white on clear": _clear,
    "hatched": lambda s: _lines(s, (3, 5), hatch=True),
    "airbrush": lambda s: _painted(s, "airbrush"),
    "watercolour": lambda s: _painted(s, "watercolour"),
    "oil": lambda s: _painted(s, "oil"),
    "noisy painting": lambda s: _painted(s, "noisy"),
    "grey": lambda s: _grey(s, "plain"),
    "soft grey": lambda s: _grey(s, "soft"),
    "charcoal": lambda s: _grey(s, "charcoal"),
    "sepia": lambda s: _grey(s, "sepia"),
    "toned": lambda s: _grey(s, "toned"),
    "brushed flats, 5": lambda s: _flats(s, "brushed5"),
    "brushed flats, 16": lambda s: _flats(s, "brushed16"),
    "gradient sky": lambda s: _flats(s, "gradient"),
    "flats, grain": lambda s: _flats(s, "grain"),
    "flats, noise": lambda s: _flats(s, "noise"),
    "flats, stored 85": lambda s: _flats(s, "jpeg"),
    "inked flats": lambda s: _flats(s, "inked"),
    "inked, reduced": lambda s: _flats(s, "reduced"),
}


class Score(NamedTuple):
    """How a drawing was read: areas known, found and lost."""

    true: int
    found: int
    lost: int


def score(labels: npt.NDArray[np.integer], truth: Ints) -> Score:
    """An area is lost where the region that holds most of it is not half its own material's."""
    there = truth >= 0
    count, most = int(truth.max()) + 1, int(labels.max()) + 1
    pairs = np.bincount(truth[there] * most + labels[there], minlength=count * most)
    shared = pairs.reshape(count, most)
    held = shared.sum(axis=0)
    best = shared.argmax(axis=1)
    lost = (shared[np.arange(count), best] < 0.5 * held[best]) | (best == 0)
    return Score(count, len(np.unique(labels[labels > 0])), int(lost.sum()))
