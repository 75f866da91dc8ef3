"""The demo's plan at the sizes that are measured."""

import io

import numpy as np
from PIL import Image

from umber_compass.colour.packed import pack
from umber_compass.demo.plans import DEMOS
from umber_compass.document import Opened, Pixels
from umber_compass.formats import picture, plan_file
from umber_compass.picture.drawing import Drawing, draw
from umber_compass.plan.model import Plan, Sketch
from umber_compass.plan.settings import change_setting
from umber_compass.steps.pipeline import Derived, Pipeline
from umber_compass.steps.sketch.kinds import flats
from umber_compass.steps.sketch.start import start_plan

SIZES = ((1280, 960), (640, 480))


def demo_at(width: int, height: int) -> tuple[Plan, Drawing]:
    """The demo's plan and its drawing at a size."""
    held = plan_file.read(DEMOS[0].plan)
    sketch = held.plan.sketch
    data, labels = held.sketches[sketch.hash], held.arrays[sketch.labels]
    packed = picture.decode(data, "demo").packed
    if packed.shape == (height, width):
        return held.plan, draw(packed, labels)
    sized = np.asarray(Image.open(io.BytesIO(data)).convert("RGB").resize((width, height), 1))
    rows = (np.arange(height) * packed.shape[0] // height)[:, None]
    there = labels[rows, np.arange(width) * packed.shape[1] // width]
    return held.plan, draw(pack(sized), np.ascontiguousarray(there))


def demo_sized(width: int, height: int) -> Opened:
    """The demo as it would be opened at a working size."""
    plan, drawing = demo_at(width, height)
    pixels = Pixels.of_file(plan_file.read(DEMOS[0].plan))
    pixels.drawings[plan.sketch.labels] = drawing
    return Opened(plan, pixels)


def mosaic(count: int, size: tuple[int, int] = (1280, 960)) -> Opened:
    """A new plan of a picture of so many flat cells, lit."""
    rng = np.random.default_rng(count)
    middles = rng.random((count, 2)) * size
    y, x = np.mgrid[: size[1], : size[0]]
    nearest, labels = np.full(y.shape, np.inf), np.zeros(y.shape, np.uint16)
    for i, (across, down) in enumerate(middles):
        far = (x - across) ** 2 + (y - down) ** 2
        labels[far < nearest] = i + 1
        np.minimum(nearest, far, out=nearest)
    # Steps of 26 levels in every channel, so that each cell has a colour of its own.
    steps = rng.permutation(1000)[:count]
    colours = np.stack([steps // 100, steps // 10 % 10, steps % 10], axis=1) * 26 + 10
    rgb = np.vstack([[[0, 0, 0]], colours]).astype(np.uint8)[labels]
    found = flats.split(pack(rgb), "mosaic")
    pixels = Pixels()
    height, width = found.labels.shape
    key = pixels.add_labels(found.labels)
    sketch = Sketch(
        file_name="mosaic.png",
        hash=pixels.add_sketch(picture.png_bytes(rgb)),
        labels=key,
        size=(width, height),
        kind="flats",
    )
    pixels.drawings[key] = draw(pack(rgb), found.labels)
    return Opened(change_setting("light.on", True).apply(start_plan(found, sketch, None)), pixels)


def pipeline_of(plan: Plan, drawing: Drawing) -> Pipeline:
    """A pipeline of one drawing."""
    return Pipeline({plan.sketch.labels: drawing})


def worked_out(derived: Derived) -> Derived:
    """A plan's results up to the colours of its picture, as a frame needs them."""
    assert derived.shares and derived.rules and derived.table is not None
    assert derived.lit is not None or not derived.rig.on
    return derived
