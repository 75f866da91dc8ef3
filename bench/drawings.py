"""Drawings made by chance whose areas are known: line art, grey thumbnails, paintings.

Every scene is a label map drawn finer and reduced; the areas of the truth are its connected parts
of one label. Seeds under 100 were looked at while the methods were made, those from 100 on were
held out.
"""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageDraw, ImageFilter
from scipy.ndimage import gaussian_filter, label

Grid = npt.NDArray[np.int32]


class Known(NamedTuple):
    """A drawing, (h, w, 3) levels, and whose each px truly is, (h, w), 0 where nothing is asked."""

    rgb: npt.NDArray[np.uint8]
    truth: Grid


def scene(seed: int, size: tuple[int, int], count: int) -> Grid:
    """Shapes laid over each other, (h, w), their numbers 0 to count - 1."""
    rng = np.random.default_rng(seed)
    width, height = size
    image = Image.new("I", size, 0)
    pen = ImageDraw.Draw(image)
    horizon = rng.uniform(0.4, 0.7) * height
    pen.polygon(_hills(rng, width, height, horizon), fill=1)
    for i in range(2, count):
        r = width * rng.uniform(0.035, 0.13)
        x, y = rng.uniform(0.05, 0.95) * width, rng.uniform(0.08, 0.95) * height
        pen.polygon(_shape(rng, x, y, r, i % 3), fill=i)
    return np.array(image, np.int32)


def _hills(
    rng: np.random.Generator, width: int, height: int, at: float
) -> list[tuple[float, float]]:
    x = np.linspace(0, width, 60)
    y = at + 0.05 * height * np.sin(x / width * rng.uniform(3, 9) + rng.uniform(0, 6))
    return [*zip(x.tolist(), y.tolist(), strict=True), (width, height), (0, height)]


def _shape(
    rng: np.random.Generator, x: float, y: float, r: float, kind: int
) -> list[tuple[float, float]]:
    """A blob, an ellipse or a box."""
    turn = rng.uniform(0, 6.3)
    if kind == 2:
        a, b = r, r * rng.uniform(0.5, 1)
        corners = [(-a, -b), (a, -b), (a, b), (-a, b)]
        return [
            (x + np.cos(turn) * u - np.sin(turn) * v, y + np.sin(turn) * u + np.cos(turn) * v)
            for u, v in corners
        ]
    t = np.linspace(0, 2 * np.pi, 80, endpoint=False)
    out = np.ones_like(t)
    if kind == 0:
        for k in (2, 3, 4):
            out += rng.uniform(-0.16, 0.16) * np.cos(k * t + rng.uniform(0, 6.3))
    px = x + r * out * np.cos(t + turn)
    py = y + r * rng.uniform(0.6, 1) * out * np.sin(t + turn)
    return list(zip(px.tolist(), py.tolist(), strict=True))


def parts(labels: Grid, least_px: int) -> Grid:
    """The connected areas of a label map, numbered from 1; 0 where an area is smaller."""
    found = np.zeros(labels.shape, np.int32)
    count = 0
    for one in np.unique(labels):
        part, many = label(labels == one)
        found[part > 0] = part[part > 0] + count
        count += many
    big = np.bincount(found.reshape(-1)) >= least_px
    big[0] = False
    number = np.where(big, np.cumsum(big), 0)
    return np.asarray(number[found], np.int32)


LINE_WAYS = ("clean", "gaps", "hatched", "tapered", "rough", "double")


def line_art(seed: int, way: str, size: tuple[int, int] = (1600, 1200), count: int = 26) -> Known:
    """Line art of a scene drawn in some way; the truth is asked off the lines alone."""
    rng = np.random.default_rng(seed + 1000)
    labels = scene(seed, size, count)
    edge = np.zeros(labels.shape, bool)
    edge[:, 1:] |= labels[:, 1:] != labels[:, :-1]
    edge[1:] |= labels[1:] != labels[:-1]
    width = float(rng.uniform(3, 5))
    line = _thick(edge, width)
    if way == "rough":
        shake = [gaussian_filter(rng.standard_normal(labels.shape), 7) * 30 for _ in "xy"]
        line = np.maximum(line, _moved(line, shake))
    if way == "double":
        line = np.maximum(line, np.roll(line, (4, 3), (0, 1)))
    if way == "tapered":
        thin = gaussian_filter(rng.standard_normal(labels.shape), 30) * 30
        line = np.where(thin > 0.4, _thick(edge, 2.0), line)
    if way != "clean":
        line = _with_gaps(rng, line, edge, 14 if way == "gaps" else 6, width)
    if way == "hatched":
        line = _hatched(rng, line)
    grey = 250 - 225 * np.clip(line, 0, 1)
    grey = np.clip(grey + rng.normal(0, 1.0, grey.shape), 0, 255)
    rgb = np.repeat(grey[..., None], 3, axis=2).astype(np.uint8)
    truth = parts(labels, 600)
    truth[line > 0.3] = 0
    return Known(rgb, truth)


def _thick(edge: npt.NDArray[np.bool_], width: float) -> npt.NDArray[np.float32]:
    from scipy.ndimage import distance_transform_edt

    far = distance_transform_edt(~edge)
    return np.asarray(np.clip(width / 2 + 0.5 - far, 0, 1), np.float32)


def _moved(
    line: npt.NDArray[np.float32], by: list[npt.NDArray[np.float64]]
) -> npt.NDArray[np.float32]:
    y, x = np.indices(line.shape)
    rows = np.clip(np.round(y + by[1]), 0, line.shape[0] - 1).astype(int)
    columns = np.clip(np.round(x + by[0]), 0, line.shape[1] - 1).astype(int)
    return np.asarray(line[rows, columns])


def _with_gaps(
    rng: np.random.Generator,
    line: npt.NDArray[np.float32],
    edge: npt.NDArray[np.bool_],
    many: int,
    width: float,
) -> npt.NDArray[np.float32]:
    """Gaps of 3 to 12 px clear in the lines, apart from each other, from the frame and from where
    lines meet."""
    y, x = np.nonzero(edge)
    h, w = edge.shape
    cut: list[npt.NDArray[np.intp]] = []
    out = line.copy()
    junction = gaussian_filter(edge.astype(np.float32), 14)
    usual = np.median(junction[y, x])
    for i in rng.permutation(len(y)):
        at = np.array([x[i], y[i]])
        if len(cut) >= many:
            break
        off_frame = 40 < at[0] < w - 40 and 40 < at[1] < h - 40
        if not off_frame or any(np.hypot(*(at - c)) < 70 for c in cut):
            continue
        if junction[y[i], x[i]] > 1.15 * usual:
            continue
        cut.append(at)
        r = rng.uniform(3, 12) / 2 + width * 0.15
        ys, xs = np.mgrid[: 2 * 16 + 1, : 2 * 16 + 1] - 16
        keep = np.clip(np.hypot(ys, xs) - r, 0, 1)
        box = slice(at[1] - 16, at[1] + 17), slice(at[0] - 16, at[0] + 17)
        out[box] *= keep
    return out


def _hatched(rng: np.random.Generator, line: npt.NDArray[np.float32]) -> npt.NDArray[np.float32]:
    """Some patches of strokes that enclose nothing."""
    h, w = line.shape
    image = Image.new("L", (w, h), 0)
    pen = ImageDraw.Draw(image)
    for _ in range(9):
        x, y = rng.uniform(0.1, 0.9) * w, rng.uniform(0.1, 0.9) * h
        turn, step = rng.uniform(0, np.pi), rng.uniform(11, 16)
        for k in range(-4, 5):
            ox, oy = -np.sin(turn) * k * step, np.cos(turn) * k * step
            length = rng.uniform(20, 45)
            dx, dy = np.cos(turn) * length, np.sin(turn) * length
            pen.line([x + ox - dx, y + oy - dy, x + ox + dx, y + oy + dy], fill=255, width=2)
    soft = np.asarray(image.filter(ImageFilter.GaussianBlur(0.6)), np.float32) / 255
    return np.maximum(line, soft)


def grey_thumbnail(
    seed: int, levels: int, size: tuple[int, int] = (1600, 1200), count: int = 22
) -> Known:
    """A scene in a few greys with soft shading, brush grain and edges soft in places."""
    rng = np.random.default_rng(seed + 2000)
    labels = scene(seed, size, count)
    values = np.linspace(rng.uniform(20, 50), rng.uniform(200, 235), levels)
    group = _without_slivers(_grouped(rng, labels, levels))
    base = values[group]
    gap = float(values[1] - values[0]) if levels > 1 else 120.0
    shade = gaussian_filter(rng.standard_normal(labels.shape), 60)
    shade *= 0.16 * gap / shade.std() * 0.5
    adjacency = gaussian_filter(rng.standard_normal(labels.shape), 1.2) * 3
    crisp, soft = gaussian_filter(base, 0.7), gaussian_filter(base, 3.0)
    where = gaussian_filter(rng.standard_normal(labels.shape), 80)
    grey = np.where(where > where.std(), soft, crisp) + shade + adjacency
    rgb = np.repeat(np.clip(grey, 0, 255)[..., None], 3, axis=2).astype(np.uint8)
    return Known(rgb, parts(group, round(5e-4 * group.size)))


def _without_slivers(group: Grid, radius: int = 4) -> Grid:
    """Groups without what is narrower than twice a radius, px: nobody draws it, and under a soft
    edge it is not there."""
    from scipy.ndimage import binary_opening, distance_transform_edt

    disc = np.hypot(*np.indices((2 * radius + 1, 2 * radius + 1)) - radius) <= radius
    kept = np.zeros(group.shape, bool)
    for g in np.unique(group):
        kept |= binary_opening(group == g, disc)
    near = distance_transform_edt(~kept, return_distances=False, return_indices=True)
    return np.asarray(group[near[0], near[1]])


def _grouped(rng: np.random.Generator, labels: Grid, levels: int) -> Grid:
    """A group for every shape, no neighbours alike where it can be."""
    count = int(labels.max()) + 1
    pairs = np.zeros((count, count), int)
    for a, b in ((labels[:, 1:], labels[:, :-1]), (labels[1:], labels[:-1])):
        at = a != b
        np.add.at(pairs, (a[at], b[at]), 1)
        np.add.at(pairs, (b[at], a[at]), 1)
    group = np.zeros(count, int)
    for i in range(count):
        taken = [group[j] for j in range(i) if pairs[i, j] > 0]
        free = [g for g in range(levels) if g not in taken] or list(range(levels))
        group[i] = rng.choice(free)
    return np.asarray(group[labels], np.int32)


def painting(seed: int, size: tuple[int, int] = (1600, 1200), count: int = 18) -> Known:
    """A scene in colours, shaded from side to side, with brush strokes and grain."""
    rng = np.random.default_rng(seed + 3000)
    labels = scene(seed, size, count)
    colours: list[npt.NDArray[np.float64]] = []
    while len(colours) < count:
        fresh = rng.uniform(25, 230, 3)
        if not colours or min(np.abs(fresh - c).max() for c in colours) >= 34:
            colours.append(fresh)
    base = np.array(colours)[labels]
    height, width = labels.shape
    y, x = np.mgrid[:height, :width]
    slope = rng.uniform(-1, 1, (count, 2))
    shade = (slope[labels, 0] * (x / width - 0.5) + slope[labels, 1] * (y / height - 0.5)) * 70
    strokes = gaussian_filter(rng.standard_normal(labels.shape), (2, 14))
    strokes *= 5 / strokes.std()
    fine = gaussian_filter(rng.standard_normal((*labels.shape, 3)), (1, 1, 0)) * 6
    shown = gaussian_filter(base, (0.9, 0.9, 0)) + (shade + strokes)[..., None] + fine
    return Known(np.clip(shown, 0, 255).astype(np.uint8), parts(labels, 1500))


class Score(NamedTuple):
    """How well areas were found."""

    right: float  # share of px whose area is the one that most of its found area is
    true: int  # areas there are
    lost: int  # of them, that no found area stands for
    found: int  # areas found


def score(found: npt.NDArray[np.integer], truth: Grid) -> Score:
    """How well found areas, (h, w), stand for the true ones; several may stand for one, as after
    joining them."""
    asked = truth > 0
    a, b = found[asked].astype(np.intp), truth[asked]
    many, true = int(a.max(initial=0)) + 1, int(truth.max())
    table = np.bincount(a * (true + 1) + b, minlength=many * (true + 1)).reshape(many, true + 1)
    owner = table.argmax(axis=1)
    right = int(table[np.arange(many), owner].sum())
    held = np.zeros(true + 1, np.int64)
    np.add.at(held, owner, table[np.arange(many), owner])
    area = np.bincount(b, minlength=true + 1)
    lost = int((held[1:] < 0.5 * area[1:]).sum())
    return Score(right / max(len(a), 1), true, lost, int((table.sum(axis=1) > 0).sum()))


class GreyLayers(NamedTuple):
    """What a grey thumbnail was made of, (h, w) each."""

    group: Grid
    base: npt.NDArray[np.float64]  # levels, edges and all, before shading and grain
    soft: npt.NDArray[np.bool_]  # where edges are soft
    near: npt.NDArray[np.bool_]  # within some px of an edge
    values: npt.NDArray[np.float64]  # levels of the groups


def grey_layers(
    seed: int, levels: int, size: tuple[int, int] = (1600, 1200), count: int = 22
) -> GreyLayers:
    """The layers of `grey_thumbnail` with the same arguments."""
    from scipy.ndimage import distance_transform_edt

    rng = np.random.default_rng(seed + 2000)
    labels = scene(seed, size, count)
    values = np.linspace(rng.uniform(20, 50), rng.uniform(200, 235), levels)
    group = _without_slivers(_grouped(rng, labels, levels))
    base = values[group]
    for sigma in (60, 1.2):
        gaussian_filter(rng.standard_normal(labels.shape), sigma)
    where = gaussian_filter(rng.standard_normal(labels.shape), 80)
    is_soft = where > where.std()
    crisp, soft = gaussian_filter(base, 0.7), gaussian_filter(base, 3.0)
    edge = np.zeros(group.shape, bool)
    edge[:, 1:] |= group[:, 1:] != group[:, :-1]
    edge[1:] |= group[1:] != group[:-1]
    far = distance_transform_edt(~edge)
    return GreyLayers(group, np.where(is_soft, soft, crisp), is_soft, far < 8, values)


def foliage(seed: int, size: tuple[int, int] = (1600, 1200)) -> Known:
    """Line art of plants with many leaves over each other, a figure of many parts, and hair:
    strokes that enclose nothing."""
    rng = np.random.default_rng(seed + 4000)
    width, height = size
    image = Image.new("I", size, 0)
    pen = ImageDraw.Draw(image)
    pen.polygon(_hills(rng, width, height, 0.75 * height), fill=1)
    number = 2
    for _ in range(4):  # plants
        x, y = rng.uniform(0.1, 0.6) * width, rng.uniform(0.5, 0.85) * height
        for _ in range(14):
            turn, long = rng.uniform(-np.pi, 0), rng.uniform(0.06, 0.12) * width
            t = np.linspace(0, np.pi, 24)
            along, across = long * np.sin(t / 2) ** 1.3, 0.19 * long * np.sin(t)
            side = np.concatenate([across, -across[::-1]])
            far = np.concatenate([along, along[::-1]])
            px = x + far * np.cos(turn) - side * np.sin(turn)
            py = y + far * np.sin(turn) + side * np.cos(turn)
            pen.polygon(list(zip(px.tolist(), py.tolist(), strict=True)), fill=number)
            number += 1
    cx, top = 0.8 * width, 0.25 * height
    for part in ((0, 0.42, 0.10), (0, 0.22, 0.07), (-0.09, 0.4, 0.03), (0.09, 0.4, 0.03),
                 (-0.04, 0.62, 0.04), (0.04, 0.62, 0.04), (-0.04, 0.2, 0.012), (0.04, 0.2, 0.012),
                 (0, 0.27, 0.02)):  # fmt: skip
        x, y, r = cx + part[0] * width, top + part[1] * height, part[2] * width
        pen.polygon(_shape(rng, x, y, r, 1), fill=number)
        number += 1
    labels = np.array(image, np.int32)
    edge = np.zeros(labels.shape, bool)
    edge[:, 1:] |= labels[:, 1:] != labels[:, :-1]
    edge[1:] |= labels[1:] != labels[:-1]
    line = _thick(edge, 4.0)
    hair = Image.new("L", size, 0)
    stroke = ImageDraw.Draw(hair)
    for _ in range(40):
        turn = rng.uniform(np.pi * 0.9, np.pi * 2.1)
        x, y = cx + 0.05 * width * np.cos(turn), top + 0.2 * height + 0.05 * width * np.sin(turn)
        bend, long = turn + rng.uniform(-0.5, 0.5), rng.uniform(0.03, 0.07) * width
        stroke.line([x, y, x + long * np.cos(bend), y + long * np.sin(bend)], fill=255, width=3)
    line = np.maximum(line, np.asarray(hair, np.float32) / 255)
    rgb = np.repeat((250 - 225 * np.clip(line, 0, 1))[..., None], 3, axis=2).astype(np.uint8)
    truth = parts(labels, 600)
    truth[line > 0.3] = 0
    return Known(rgb, truth)
