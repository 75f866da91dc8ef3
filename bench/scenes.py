"""The demo's plan at the sizes that are measured."""

import io

import numpy as np
from PIL import Image

from umber_compass.colour.packed import pack
from umber_compass.demo.plans import DEMOS
from umber_compass.formats import picture, plan_file
from umber_compass.picture.drawing import Drawing, draw
from umber_compass.plan.model import Plan
from umber_compass.steps.pipeline import Derived, Pipeline

SIZES = ((1280, 960), (640, 480))


def demo_at(width: int, height: int) -> tuple[Plan, Drawing]:
    """The demo's plan and its drawing at a size."""
    held = plan_file.read(DEMOS[0].plan)
    sketch = held.plan.sketch
    data, labels = held.sketches[sketch.hash], held.arrays[sketch.labels]
    packed = picture.decode(data, "demo").packed
    if packed.shape == (height, width):
        return held.plan, draw(packed, labels)
    small = np.asarray(Image.open(io.BytesIO(data)).resize((width, height), 4))
    step = packed.shape[1] // width
    return held.plan, draw(pack(small), np.ascontiguousarray(labels[::step, ::step]))


def pipeline_of(plan: Plan, drawing: Drawing) -> Pipeline:
    """A pipeline of one drawing."""
    return Pipeline({plan.sketch.labels: drawing})


def worked_out(derived: Derived) -> Derived:
    """A plan's results up to the colours of its picture, as a frame needs them."""
    assert derived.shares and derived.rules and derived.table is not None
    assert derived.lit is not None or not derived.rig.on
    return derived
