"""The demo's plan at the sizes that are measured."""

import io

import numpy as np
from PIL import Image

from umber_compass.demo.plans import DEMOS
from umber_compass.formats import picture, plan_file
from umber_compass.plan.model import Plan
from umber_compass.steps import sketch

SIZES = ((1280, 960), (640, 480))


def demo_at(width: int, height: int) -> tuple[Plan, sketch.Drawing]:
    """The demo's plan and its drawing at a size."""
    held = plan_file.read(DEMOS[0].plan)
    rgb = picture.decode(held.sketch, "demo").rgb
    if rgb.shape[:2] == (height, width):
        return held.plan, sketch.draw(rgb, held.labels)
    small = np.asarray(Image.open(io.BytesIO(held.sketch)).resize((width, height), 4))
    step = rgb.shape[1] // width
    return held.plan, sketch.draw(small, np.ascontiguousarray(held.labels[::step, ::step]))
