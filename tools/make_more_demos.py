"""Draws the demos that begin from other kinds of sketch, and makes their plans: line art, a shaded
grey thumbnail, a sprite. python -m tools.make_more_demos [NAME]"""

import os
import sys
from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import numpy as np
import numpy.typing as npt
from msgspec.structs import replace
from PIL import Image
from PySide6.QtGui import QGuiApplication
from scipy.ndimage import gaussian_filter

from tools.make_demo import FOLDER, draw
from umber_compass import document
from umber_compass.colour.measured import measure_hex
from umber_compass.colour.packed import unpack
from umber_compass.document.reworking import merge
from umber_compass.plan.edits import study, with_colours, with_scheme
from umber_compass.plan.light_edits import with_rig
from umber_compass.plan.model import Colour, Plan
from umber_compass.plan.practice_edits import set_practice
from umber_compass.plan.rig import Ambient, Lamp, Rig
from umber_compass.plan.settings import change_setting
from umber_compass.plan.terms import Material, Role, Use
from umber_compass.steps.harmony.scheme import planned_as
from umber_compass.steps.pictures import exact_picture
from umber_compass.steps.pipeline import Pipeline

Levels = npt.NDArray[np.uint8]


class Part(NamedTuple):
    """What lies at places of the picture, shares of width and height: several are one region."""

    name: str
    role: Role
    hex: str
    places: tuple[tuple[float, float], ...]
    material: Material = "matte"


class Made(NamedTuple):
    """A demo: how its sketch is drawn and read, and what was decided for it."""

    name: str
    title: str
    purpose: str
    use: Use
    practice: str
    kind: str
    settings: dict[str, float]
    scheme: tuple[str, float, float]
    parts: tuple[Part, ...]
    draw: Callable[[], Levels]
    rig: Rig | None = None


def _bench() -> Levels:
    import io

    with Image.open(io.BytesIO(draw("potting-bench"))) as image:
        return np.asarray(image.convert("RGB"))


def _squall() -> Levels:
    """The greys of the flats, each form lit by our own engine, then brushed and softened."""
    import io

    flat = FOLDER / "squall-flats.png"
    try:
        Image.open(io.BytesIO(draw("squall"))).save(flat)
        made = document.bring_in(flat, kind="flats")
    finally:
        flat.unlink(missing_ok=True)
    regions = tuple(
        replace(r, role="figure", form="round") if 0.002 < share < 0.2 else replace(r, form="flat")
        for r, share in zip(made.plan.regions, _shares(made), strict=True)
    )
    rig = Rig(
        way="soft",
        shadows=False,
        reaches_far=True,
        ambient=Ambient(hex="#ffffff", strength=62, bounce=0),
        lamps=(Lamp(hex="#ffffff", strength=64, direction=(-0.55, -0.6, 0.58), softness=0.7),),
        anchor="mean",
        crevice=40,
    )
    plan = with_rig(replace(made.plan, regions=regions), rig)
    lit = unpack(exact_picture(Pipeline(made.pixels.drawings).derive(plan)))[..., 0].astype(float)
    rng = np.random.default_rng(11)
    height, width = lit.shape
    slope = np.linspace(5, -5, height)[:, None] + np.linspace(-3, 3, width)
    strokes = gaussian_filter(rng.standard_normal(lit.shape), (1.4, 9))
    adjacency = gaussian_filter(rng.standard_normal(lit.shape), 0.8)
    grey = gaussian_filter(lit, 0.8) + slope + strokes / strokes.std() * 2.2
    grey += adjacency / adjacency.std() * 1.0
    return np.repeat(np.clip(grey, 0, 255)[..., None], 3, axis=2).astype(np.uint8)


def _shares(made: document.Opened) -> list[float]:
    derived = Pipeline(made.pixels.drawings).derive(made.plan)
    return [derived.shares[r.id] for r in made.plan.regions]


_INKS = {
    ".": "#1f2a44", ",": "#2b3a58", "m": "#ece6c4", "g": "#2f5b46", "G": "#5f8f52",
    "s": "#3d2a22", "S": "#7d5a3a", "l": "#a9814f", "f": "#dcb48a", "k": "#15121a",
    "o": "#f2a33c", "y": "#ffe08a", "i": "#4d4a58", "r": "#c4483a", "w": "#f6efe2",
}  # fmt: skip


def sprite_rows() -> list[str]:
    """A hedgehog with a lantern on a moonlit bank, 32 by 32, a letter a px."""
    grid = [["." for _ in range(32)] for _ in range(32)]

    def put(x: int, y: int, ink: str) -> None:
        if 0 <= x < 32 and 0 <= y < 32:
            grid[y][x] = ink

    def disc(cx: float, cy: float, rx: float, ry: float, ink: str) -> None:
        for y in range(32):
            for x in range(32):
                if ((x - cx) / rx) ** 2 + ((y - cy) / ry) ** 2 <= 1:
                    put(x, y, ink)

    disc(6, 6, 3.4, 3.4, "m")
    disc(7.6, 5, 2.6, 2.6, ".")
    for x, y in ((14, 3), (20, 6), (27, 2), (29, 10), (11, 9), (24, 12)):
        put(x, y, "m")
    for x in range(32):
        top = 25 + (1 if 6 < x < 20 else 0)
        for y in range(top, 32):
            put(x, y, "G" if y == top else "g")
    for x in range(0, 32, 5):
        put(x, 24, "G")
    for x, y in ((3, 28), (9, 30), (16, 29), (23, 28), (28, 30), (13, 28), (20, 31)):
        put(x, y, "G")
    disc(13, 20, 9.4, 6.6, "s")
    for y in range(13, 26):
        for x in range(4, 23):
            if grid[y][x] == "s" and (x * 2 + y * 3) % 5 in (0, 1):
                put(x, y, "S")
            if grid[y][x] == "S" and x + y < 29:
                put(x, y, "l")
    for x, y in ((4, 15), (7, 13), (11, 12), (15, 12), (19, 14), (3, 19), (22, 17)):
        put(x, y, "s")
    disc(20.5, 22, 4.2, 3.6, "f")
    disc(24.2, 23.2, 1.6, 1.4, "f")
    put(26, 23, "k")
    put(21, 21, "k")
    put(21, 20, "w")
    disc(17.6, 19.4, 1.4, 1.6, "l")
    put(22, 24, "r")
    for x in (8, 9, 18, 19):
        put(x, 26, "f")
        put(x, 27, "k")
    for y in range(15, 20):
        put(28, y, "i")
    for x in (27, 28, 29):
        put(x, 20, "i")
        put(x, 25, "i")
    for y in range(21, 25):
        put(26, y, "i" if y != 23 else grid[y][26])
        put(30, y, "i")
        for x in (27, 28, 29):
            put(x, y, "y" if (x, y) in ((28, 22), (28, 23)) else "o")
    put(26, 23, "k")
    for x, y in ((25, 19), (31, 18), (24, 27), (31, 26)):
        put(x, y, ",")
    return ["".join(row) for row in grid]


_SPRITE_PARTS: tuple[tuple[str, str, Role, Material], ...] = (
    (".", "night", "ground", "matte"),
    (",", "light at night", "ground", "matte"),
    ("m", "moon and stars", "middle ground", "matte"),
    ("g", "bank", "ground", "matte"),
    ("G", "grass", "ground", "matte"),
    ("s", "dark spines", "figure", "matte"),
    ("S", "spines", "figure", "matte"),
    ("l", "light spines", "figure", "matte"),
    ("f", "face", "figure", "skin"),
    ("k", "eye and feet", "line", "matte"),
    ("r", "tongue", "figure", "matte"),
    ("w", "glint", "figure", "matte"),
    ("i", "lantern iron", "middle ground", "metal"),
    ("o", "lantern light", "focus", "glow"),
    ("y", "flame", "focus", "glow"),
)


def _sprite_parts() -> tuple[Part, ...]:
    """The sprite's regions, each found at the first px of its letter."""
    rows, found = sprite_rows(), []
    for letter, name, role, material in _SPRITE_PARTS:
        y, x = next((y, row.index(letter)) for y, row in enumerate(rows) if letter in row)
        place = ((x + 0.5) / 32, (y + 0.5) / 32)
        found.append(Part(name, role, _INKS[letter], (place,), material))
    return tuple(found)


def _sprite() -> Levels:
    rows = sprite_rows()
    table = {k: [int(h[i : i + 2], 16) for i in (1, 3, 5)] for k, h in _INKS.items()}
    return np.array([[table[c] for c in row] for row in rows], np.uint8)


BENCH = Made(
    "potting-bench",
    "Potting bench",
    "leaf of a seed calendar, rain outside",
    "card",
    "ink-and-colour",
    "lines",
    {},
    ("neighbours-opposite", 52.0, 36.0),
    (
        Part(
            "wall",
            "ground",
            "#e9dcc3",
            (
                (0.858, 0.151),
                (0.503, 0.620),
                (0.333, 0.587),
                (0.331, 0.700),
                (0.641, 0.539),
                (0.720, 0.643),
                (0.733, 0.706),
                (0.735, 0.670),
                (0.749, 0.178),
                (0.304, 0.656),
                (0.320, 0.637),
                (0.297, 0.682),
            ),
        ),
        Part("sky", "ground", "#a9bccb", ((0.355, 0.167), (0.636, 0.191))),
        Part(
            "rain",
            "ground",
            "#8fa6b8",
            (
                (0.348, 0.351),
                (0.446, 0.339),
                (0.480, 0.351),
                (0.526, 0.327),
                (0.550, 0.336),
                (0.658, 0.354),
            ),
        ),
        Part("clouds", "ground", "#dfe3e6", ((0.457, 0.217), (0.549, 0.217))),
        Part("near hill", "ground", "#7f9b73", ((0.396, 0.434),)),
        Part("far hill", "ground", "#93ab8e", ((0.573, 0.429),)),
        Part(
            "window frame",
            "middle ground",
            "#fbf4e2",
            ((0.691, 0.108), (0.508, 0.139), (0.509, 0.402), (0.627, 0.304), (0.522, 0.506)),
        ),
        Part("sill", "middle ground", "#d9c6a2", ((0.534, 0.536), (0.580, 0.535), (0.701, 0.530))),
        Part("shelf", "middle ground", "#b98a5a", ((0.112, 0.324),)),
        Part("jar", "middle ground", "#9fb9ad", ((0.073, 0.254),), "satin"),
        Part("jar lid", "middle ground", "#7d9a93", ((0.073, 0.206),), "satin"),
        Part("cactus", "middle ground", "#4f7c52", ((0.141, 0.233),)),
        Part("cactus pot", "middle ground", "#cd7a52", ((0.141, 0.277),)),
        Part("bottle", "middle ground", "#c8b27a", ((0.204, 0.274),), "satin"),
        Part("cork", "middle ground", "#a5713f", ((0.204, 0.215),)),
        Part("saw blade", "middle ground", "#a9adb0", ((0.801, 0.215),), "metal"),
        Part("wooden grips", "middle ground", "#a8683c", ((0.740, 0.212), (0.839, 0.334)), "satin"),
        Part("trowel", "middle ground", "#8f979c", ((0.840, 0.473), (0.840, 0.410)), "metal"),
        Part("bench top", "middle ground", "#c39a66", ((0.302, 0.771), (0.723, 0.745))),
        Part(
            "bench front",
            "middle ground",
            "#8d6a48",
            ((0.985, 0.93), (0.068, 0.903), (0.678, 0.964), (0.248, 0.903)),
        ),
        Part("bench legs", "middle ground", "#6f5138", ((0.159, 0.967), (0.854, 0.945))),
        Part("drawer", "middle ground", "#a37d54", ((0.417, 0.899),)),
        Part("knob", "middle ground", "#d8b36a", ((0.498, 0.879),), "metal"),
        Part(
            "leaves",
            "figure",
            "#5d9352",
            (
                (0.190, 0.532),
                (0.199, 0.513),
                (0.187, 0.587),
                (0.229, 0.547),
                (0.242, 0.509),
                (0.234, 0.474),
                (0.281, 0.532),
                (0.288, 0.553),
                (0.313, 0.509),
                (0.282, 0.602),
                (0.295, 0.619),
                (0.218, 0.622),
                (0.181, 0.666),
            ),
        ),
        Part("flowerpot", "figure", "#c8653f", ((0.246, 0.712),)),
        Part("pot rim", "figure", "#d98256", ((0.274, 0.655),)),
        Part("mouse", "figure", "#8a7d78", ((0.383, 0.646), (0.382, 0.559), (0.438, 0.694))),
        Part("mouse belly", "figure", "#b9aaa0", ((0.396, 0.697),)),
        Part("inner ear", "focus", "#e39a94", ((0.385, 0.584),), "skin"),
        Part(
            "tail and paws",
            "focus",
            "#dba69c",
            ((0.539, 0.679), (0.369, 0.735), (0.438, 0.735)),
            "skin",
        ),
        Part(
            "watering can",
            "focus",
            "#d9a83a",
            ((0.636, 0.666), (0.537, 0.494), (0.500, 0.465), (0.735, 0.608)),
            "metal",
        ),
        Part("can lid", "focus", "#e8c56a", ((0.632, 0.563),), "metal"),
        Part("can handle", "focus", "#b98a2c", ((0.666, 0.533),), "metal"),
        Part("seed packet", "figure", "#f0e6cf", ((0.785, 0.705),)),
        Part("packet flap", "figure", "#7fa05d", ((0.803, 0.625),)),
        Part("heart", "figure", "#c9473d", ((0.786, 0.681),)),
        Part("bulbs", "figure", "#9c6a86", ((0.890, 0.693), (0.944, 0.700))),
    ),
    _bench,
)
SQUALL = Made(
    "squall",
    "Squall",
    "cover sketch, a boat before the weather",
    "cover",
    "grey-first",
    "grey",
    {"groups": 6},
    ("split-opposite", 214.0, 34.0),
    (
        Part("storm cloud", "ground", "#4a4763", ((0.335, 0.02),)),
        Part(
            "sky",
            "ground",
            "#c39a86",
            (
                (0.01, 0.257),
                (0.432, 0.249),
                (0.99, 0.221),
                (0.828, 0.231),
                (0.01, 0.312),
                (0.99, 0.307),
            ),
        ),
        Part(
            "light under the cloud",
            "ground",
            "#e8c49a",
            ((0.324, 0.329), (0.194, 0.4), (0.784, 0.333), (0.833, 0.337)),
        ),
        Part("headland", "ground", "#3f4d63", ((0.926, 0.391),)),
        Part(
            "sea",
            "ground",
            "#4f7078",
            ((0.304, 0.537), (0.98, 0.944), (0.073, 0.727), (0.647, 0.546)),
            "wet",
        ),
        Part("foam", "middle ground", "#e2ece8", ((0.122, 0.606), (0.074, 0.626)), "wet"),
        Part("quay", "ground", "#4b4440", ((0.041, 0.98),)),
        Part("hull", "figure", "#1f3a44", ((0.618, 0.651),)),
        Part(
            "strake",
            "figure",
            "#e0c8a4",
            ((0.467, 0.599), (0.543, 0.597), (0.583, 0.593), (0.662, 0.571), (0.43, 0.604)),
        ),
        Part("cabin", "figure", "#b5623f", ((0.593, 0.543), (0.504, 0.548))),
        Part("cabin windows", "focus", "#ffdf9a", ((0.519, 0.508), (0.564, 0.502)), "glow"),
        Part("roof", "figure", "#33272a", ((0.547, 0.452),)),
        Part("mast", "figure", "#2b2224", ((0.627, 0.491),)),
        Part("sail", "figure", "#f1e3cf", ((0.674, 0.353), (0.736, 0.408))),
        Part("skipper", "focus", "#6a3d3a", ((0.696, 0.519),)),
        Part("skipper’s hat", "focus", "#e0a93c", ((0.692, 0.43), (0.71, 0.46))),
        Part("creel", "middle ground", "#2c2624", ((0.184, 0.83),)),
        Part("creel’s mouth", "middle ground", "#6c5d50", ((0.191, 0.764),)),
        Part("buoy", "middle ground", "#efe4d2", ((0.318, 0.777), (0.323, 0.819))),
        Part("buoy’s band", "middle ground", "#b0452f", ((0.336, 0.798),)),
        Part("rope", "middle ground", "#b89a6c", ((0.406, 0.847),)),
    ),
    _squall,
)
HEDGEHOG = Made(
    "lantern-hedgehog",
    "Lantern hedgehog",
    "sprite of a night game, 32 × 32 px",
    "sprite",
    "sprite",
    "flats",
    {},
    ("opposites", 222.0, 30.0),
    _sprite_parts(),
    _sprite,
)


def decided(made: Made, opened: document.Opened) -> Plan:
    """The plan with what an artist would decide for this picture."""
    plan = opened.plan
    for part in made.parts:
        plan = _named(plan, opened, part)
    plan = replace(change_setting("title", made.title).apply(plan), purpose=made.purpose)
    plan = set_practice(made.practice).apply(change_setting("brief.use", made.use).apply(plan))
    name, lead, spread = made.scheme
    plan = with_scheme(plan, name=name, wheel="painter", lead_deg=lead, spread_deg=spread)
    scheme = study(plan).scheme
    by_name = {p.name: p for p in made.parts}
    colours: dict[str, Colour] = {}
    for r in plan.regions:
        if r.name in by_name:
            m = measure_hex(by_name[r.name].hex)
            colours[r.id] = planned_as(scheme, m.value, m.chroma, m.hue)
    plan = with_colours(plan, colours)
    return plan if made.rig is None else with_rig(plan, made.rig)


def _named(plan: Plan, opened: document.Opened, part: Part) -> Plan:
    labels = opened.pixels.labels(plan.sketch)
    height, width = labels.shape
    found = list(
        dict.fromkeys(int(labels[int(y * height), int(x * width)]) for x, y in part.places)
    )
    ids = [r.id for label in found for r in plan.regions if r.label == label]
    if len(ids) > 1:
        done = merge(plan, opened.pixels, ids)
        done.take(opened.pixels)
        plan = done.edit.apply(plan)
    regions = tuple(
        replace(r, name=part.name, role=part.role, material=part.material, named=True)
        if ids and r.id == ids[0]
        else r
        for r in plan.regions
    )
    return replace(plan, regions=regions)


DEMOS = (BENCH, SQUALL, HEDGEHOG)


def main() -> int:
    """Write the sketches and the plans beside their sources."""
    QGuiApplication(sys.argv)
    for made in DEMOS:
        if sys.argv[1:] and made.name not in sys.argv[1:]:
            continue
        sketch: Path = FOLDER / f"{made.name}.png"
        Image.fromarray(made.draw()).save(sketch, optimize=True)
        opened = document.bring_in(sketch, kind=made.kind, settings=made.settings)
        plan = decided(made, opened)
        document.save(plan, opened.pixels, FOLDER / f"{made.name}.umber")
        print(made.name, len(plan.regions), [r.name for r in plan.regions if not r.named])
    return 0


if __name__ == "__main__":
    sys.exit(main())
