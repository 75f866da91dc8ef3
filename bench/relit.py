"""The lit picture: drags from codes against the exact path, forms, value map, memory."""

import itertools
import math
import subprocess
import sys
import tempfile
from collections.abc import Iterator

import numpy as np
from msgspec.structs import replace

from bench.rows import Row, cold, times_ms, yardstick_ms
from bench.scenes import SIZES, demo_at, mosaic, pipeline_of
from umber_compass.colour.difference import ciede2000
from umber_compass.colour.packed import unpack
from umber_compass.colour.spaces import Floats, cielab, decode
from umber_compass.picture import poisson, solids
from umber_compass.picture import relit as lit
from umber_compass.picture.building import build_buffers
from umber_compass.picture.cards import Placed, Stage, standee_of
from umber_compass.picture.casting import DEPTH, cast
from umber_compass.picture.drawing import Drawing
from umber_compass.picture.light import unit
from umber_compass.picture.pieces import pieces_of
from umber_compass.picture.seen import whole
from umber_compass.plan.harmony_edits import turn_lead
from umber_compass.plan.light_edits import rig_of, set_lamp, with_rig
from umber_compass.plan.model import Plan
from umber_compass.steps.harmony.shifts import shift_values
from umber_compass.steps.pictures import exact_picture, picture, seen_on, seen_picture
from umber_compass.steps.pipeline import Derived, Pipeline
from umber_compass.steps.values import measured as values
from umber_compass.words import words

_DIRECTIONS = {
    "upper left": (-0.66, -0.42, 0.62),
    "low right": (0.9, 0.1, 0.42),
    "behind": (0.3, 0.5, -0.8),
}
_LAMPS = {
    "40 degrees up": (-0.3, -0.64, 0.7),
    "12 degrees up": (-0.6, -0.21, 0.77),
    "from the side": (-0.9, -0.42, 0.1),
    "behind": (0.4, -0.5, -0.77),
    "overhead": (-0.2, -0.95, 0.2),
}
_STAGE = 640
# M: colour drag, lamp drag, the same with six lamps
_TARGETS = {SIZES[0]: (3.0, 3.8, 4.5), SIZES[1]: (4.8, 6.5, 6.5)}


def rows() -> Iterator[Row]:
    """Speed at both sizes, quality over lamps and palettes, forms, values, memory."""
    for size in SIZES:
        plan, drawing = demo_at(*size)
        pipeline, at = pipeline_of(plan, drawing), f"{size[0]}x{size[1]}"
        yield from _drags(size)
        yield from _quality(plan, pipeline, at)
        yield from _forms(plan, drawing, pipeline.derive(plan), at)
        yield from _values(pipeline.derive(plan), size)
    yield from _many()
    yield from _normals()
    yield from _shadows()
    yield from _memory()


def _median(work: object, count: int = 41) -> float:
    return float(np.median(times_ms(work, count, cold)))  # type: ignore[arg-type]  # a callable


def _drags(size: tuple[int, int]) -> Iterator[Row]:
    """What a drag must compute of a plan of so many px, on a stage of 640 px: light, shadows,
    every code's colour, every px laid between light and shade."""
    m = yardstick_ms(size[1], size[0])
    plan, drawing = demo_at(*size)
    pipeline = pipeline_of(plan, drawing)
    derived = pipeline.derive(plan)
    assert derived.buffers is not None
    stage = seen_on(derived, whole(drawing.labels.shape, _STAGE))
    hues = [turn_lead(float(d)).apply(plan) for d in range(0, 80, 2)]
    turned = [_turned(plan, d) for d in range(40)]
    six = [_with_more(p) for p in turned]

    def drag(plans: list[Plan]) -> float:
        ring = itertools.cycle(plans)
        return _median(lambda: seen_picture(pipeline.derive(next(ring)), stage))

    at = f"{size[0]}x{size[1]}"
    exact = _median(lambda: exact_picture(derived), 7)
    yield Row(f"M, {at}; codes", f"{m:.2f} ms; {derived.buffers.size}", "", None)
    yield Row(f"exact relit picture, {at}", f"{exact:.0f} ms = {exact / m:.0f} M", "", None)
    for name, plans, most in zip(
        ("colour drag", "lamp drag", "six lamps"), (hues, turned, six), _TARGETS[size], strict=True
    ):
        took = drag(plans)
        said = f"{took:.2f} ms = {took / m:.2f} M"
        yield Row(f"relit, {name}, {at}", said, f"{most} M", took <= most * m)
        if size == SIZES[0]:
            line = f"{name}: times faster than exact"
            yield Row(line, f"{exact / took:.0f}", "30", exact >= 30 * took)


def _turned(plan: Plan, step: int) -> Plan:
    """The key a little further round."""
    away = step * 0.05
    to = (0.66 * math.cos(away), -0.42, 0.3 + 0.66 * abs(math.sin(away)))
    return set_lamp("key", words(""), direction=to).apply(plan)


def _with_more(plan: Plan) -> Plan:
    """The same with five more lamps, round the picture."""
    rig = rig_of(plan)
    more = tuple(
        replace(
            rig.key,
            name=f"more-{i}",
            rank=2 + i,
            direction=(0.7 * math.cos(i * 1.26), 0.7 * math.sin(i * 1.26), 0.14),
        )
        for i in range(5)
    )
    return with_rig(plan, replace(rig, lamps=(rig.key, *more)))


def _quality(plan: Plan, pipeline: Pipeline, at: str) -> Iterator[Row]:
    for palette, by in (("light", 8.0), ("dark", -22.0)):
        for name, direction in _DIRECTIONS.items():
            turned = set_lamp("key", words(""), direction=direction).apply(plan)
            turned = shift_values({r.id: by for r in plan.regions})(turned)
            derived = pipeline.derive(turned)
            lab = [
                cielab(decode(unpack(p) / 255)) for p in (picture(derived), exact_picture(derived))
            ]
            off = ciede2000(lab[0], lab[1])
            mean, high, most = off.mean(), np.percentile(off, 99.9), off.max()
            yield Row(
                f"coded, {palette}, {name}, {at}",
                f"{mean:.2f} / {high:.2f} / {most:.2f}",
                "mean 0.5, p99.9 2.5, max 5",
                bool(mean <= 0.5 and high <= 2.5 and most <= 5),
            )


def _forms(plan: Plan, drawing: Drawing, derived: Derived, at: str) -> Iterator[Row]:
    exact = _median(lambda: exact_picture(derived), 7)
    took = _median(
        lambda: build_buffers(drawing, derived.form_wishes, derived.axes, derived.indexed), 5
    )
    yield Row(
        f"forms and codes of a sketch, {at}",
        f"{took:.0f} ms = {took / exact:.1f} exact relights",
        "3.5 exact relights",
        took <= 3.5 * exact,
    )


def _many() -> Iterator[Row]:
    """The forms of 300 regions."""
    opened = mosaic(300)
    drawing = opened.pixels.drawings[opened.plan.sketch.labels]
    derived = Pipeline(opened.pixels.drawings).derive(opened.plan)
    took = _median(
        lambda: build_buffers(drawing, derived.form_wishes, derived.axes, derived.indexed), 3
    )
    yield Row("forms and codes of 300 regions", f"{took / 1000:.1f} s", "2 s", took <= 2000)


def _normals() -> Iterator[Row]:
    """A ball of 150 px against its formula."""
    disc = _disc(160)
    inside = (disc == poisson.INSIDE)[1:-1, 1:-1]
    right, down = (n.astype(float) for n in solids.normals_of("round", disc, inside, "medium"))
    y, x = np.mgrid[: disc.shape[0] - 2, : disc.shape[1] - 2] - 160.0
    toward = np.sqrt(np.maximum(1 - right**2 - down**2, 0))
    true = np.stack([x, y, np.sqrt(np.maximum(150.5**2 - x * x - y * y, 0))]) / 150.5
    cosine = (np.stack([right, down, toward]) * true).sum(axis=0)
    off = np.degrees(np.arccos(np.clip(cosine[inside], -1, 1))).mean()
    yield Row("normals of a ball against its formula", f"{off:.2f}°", "mean 1.5°", bool(off <= 1.5))
    n = np.stack([right, down, toward])
    step = np.degrees(np.arccos(np.clip((n[:, :, 1:] * n[:, :, :-1]).sum(axis=0), -1, 1)))
    both = inside[:, 1:] & inside[:, :-1]
    high = np.percentile(step[both], 99.9)
    yield Row("neighbouring normals, p99.9", f"{high:.1f}°", "6°", bool(high <= 6))


def _shadows() -> Iterator[Row]:
    """The shadow of a ball on the floor against the true one, by lamps at several heights."""
    radius, (height, width) = 30, (480, 640)
    foot = 240
    y, x = np.mgrid[:height, :width] + 0.5
    labels = np.ones((height, width), np.uint16)
    labels[(x - width / 2) ** 2 + (y - (foot - radius)) ** 2 < radius**2] = 2
    pieces = pieces_of(labels, frozenset())
    ball = standee_of(pieces, [int(np.flatnonzero(pieces.label == 2)[0])])
    assert ball is not None
    stage, placed = Stage(0.0, (1,), ()), Placed("floor", foot / height, 0)
    for name, direction in _LAMPS.items():
        to = unit(direction)
        true = _under_ball(radius, x - width / 2, (y - foot) / DEPTH, to)
        found = []
        for step, exact in ((2, False), (1, True)):
            given = ([(ball, placed)], stage, None, to, 0.0, (height, width), step, exact)
            dark, there = cast(*given).floor > 127, true[::step, ::step]
            found.append(float((dark & there).sum() / (dark | there).sum()))
        said = f"{found[0]:.2f}, {found[1]:.2f}"
        yield Row(f"shadow of a ball, {name}: live, exact", said, "0.9", min(found) >= 0.9)


def _under_ball(
    radius: float, x: Floats, depth: Floats, to: tuple[float, float, float]
) -> "np.ndarray[tuple[int, ...], np.dtype[np.bool_]]":
    """Where the floor lies in the shadow of a ball that stands on it."""
    lamp = np.array([to[0], -to[1], to[2]])[:, None, None]
    place = np.stack([x, np.full_like(x, -radius), depth])
    along = (place * lamp).sum(axis=0)
    return np.asarray(((place * place).sum(axis=0) - along * along < radius**2) & (along < 0))


def _disc(half: int) -> "np.ndarray[tuple[int, int], np.dtype[np.uint8]]":
    y, x = np.mgrid[: 2 * half + 1, : 2 * half + 1] - half
    inside: np.ndarray[tuple[int, int], np.dtype[np.uint8]] = (x * x + y * y < 150.5**2).astype(
        np.uint8
    )
    return inside


def _values(derived: Derived, size: tuple[int, int]) -> Iterator[Row]:
    m = yardstick_ms(size[1], size[0])
    assert derived.buffers is not None and derived.lit is not None
    adjacency, packed = derived.buffers.adjacency, derived.lit.packed
    weights = values.code_weights(adjacency)
    took = _median(lambda: values.measure_values(lit.values_of(packed), weights, 20, 80))
    yield Row(
        f"value map through the codes, {size[0]}x{size[1]}",
        f"{took:.2f} ms = {took / m:.2f} M",
        "6 M",
        took <= 6 * m,
    )


_PEAK = """
import os, sys
os.environ["OPENBLAS_NUM_THREADS"] = "1"
def peak():
    lines = open("/proc/self/status").read().splitlines()
    return int(next(x for x in lines if x.startswith("VmHWM")).split()[1]) // 1024
import numpy as np
from PIL import Image
from umber_compass import document
from umber_compass.demo.plans import DEMOS
from umber_compass.colour.packed import pack
from umber_compass.formats import picture, plan_file
from umber_compass.picture.drawing import draw
from umber_compass.steps.pipeline import Pipeline
from umber_compass.steps.pictures import exact_picture, picture as painted
begin = peak()
held = plan_file.read(DEMOS[0].plan)
size = int(sys.argv[1]), int(sys.argv[2])
sketch = held.plan.sketch
rgb = np.asarray(Image.fromarray(picture.decode(held.sketches[sketch.hash], "x").rgb).resize(size))
whole = held.arrays[sketch.labels]
rows = (np.arange(size[1]) * whole.shape[0] // size[1])[:, None]
columns = np.arange(size[0]) * whole.shape[1] // size[0]
labels = np.ascontiguousarray(whole[rows, columns])
derived = Pipeline({sketch.labels: draw(pack(rgb), labels)}).derive(held.plan)
painted(derived), exact_picture(derived)
print(begin, peak())
"""


_LARGE = """
import sys, time
import numpy as np
from PIL import Image
from umber_compass import document
from umber_compass.demo.plans import DEMOS
Image.MAX_IMAGE_PIXELS = None
path = sys.argv[1]
if len(sys.argv) > 2:
    Image.open(DEMOS[0].sketch).convert("RGB").resize((8000, 6000), 1).save(path, compress_level=1)
    raise SystemExit
begin = time.perf_counter()
np.asarray(Image.open(path))
decode = time.perf_counter() - begin
begin = time.perf_counter()
from pathlib import Path
document.bring_in(Path(path))
lines = open("/proc/self/status").read().splitlines()
peak = int(next(x for x in lines if x.startswith("VmHWM")).split()[1]) // 1024
print(decode, time.perf_counter() - begin, peak)
"""


def _python(code: str, *given: str) -> str:
    """What a fresh process prints."""
    run = [sys.executable, "-c", code, *given]
    return subprocess.run(run, capture_output=True, text=True, check=True).stdout


def _memory() -> Iterator[Row]:
    """Peak of a fresh process that brings a plan to its exact picture, beside what its imports
    need; and one that brings in 48 megapixels."""
    for size in ((1600, 1200), (640, 480)):
        begin, peak = (int(x) for x in _python(_PEAK, *map(str, size)).split())
        name = f"peak memory, plan at {size[0]}x{size[1]}"
        yield Row(name, f"{peak} MB ({begin} before)", "", None)
    with tempfile.TemporaryDirectory() as folder:
        path = f"{folder}/large.png"
        _python(_LARGE, path, "make")
        decode, took, most = (float(x) for x in _python(_LARGE, path).split())
    said = f"{took:.1f} s (decode {decode:.1f}), {most:.0f} MB"
    yield Row("48 megapixels brought in", said, "8 s, 1.2 GB", took <= 8 and most <= 1200)
