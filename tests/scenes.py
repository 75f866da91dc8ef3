"""Small pictures and plans of our own for the tests."""

import io
import tempfile
import unittest
from pathlib import Path

import numpy as np
from PIL import Image, ImageDraw

from umber_compass import document
from umber_compass.plan import edits
from umber_compass.plan.model import Region
from umber_compass.steps.harmony.edits import shift_values
from umber_compass.steps.pipeline import Pipeline
from umber_compass.words import words

SEA, SAND, HULL, SAIL, SUN = "#2f7580", "#d9b98a", "#7c3f51", "#f4e8d2", "#ffd88c"
BOAT = (
    ("rectangle", (0, 0, 240, 100), SEA),
    ("rectangle", (0, 100, 240, 160), SAND),
    ("polygon", (70, 70, 150, 70, 135, 92, 85, 92), HULL),
    ("polygon", (110, 16, 112, 66, 150, 66), SAIL),
    ("ellipse", (180, 14, 214, 48), SUN),
)
FLATS = np.array([[int(c[i : i + 2], 16) for i in (1, 3, 5)] for c in (SEA, SAND, HULL, SAIL, SUN)])


def draw(shapes=BOAT, size=(240, 160), smooth=4):
    """A flats picture, (h, w, 3); `smooth` is how many times finer it is drawn before shrinking."""
    image = Image.new("RGB", (size[0] * smooth, size[1] * smooth))
    pen = ImageDraw.Draw(image)
    for kind, points, colour in shapes:
        getattr(pen, kind)([p * smooth for p in points], fill=colour)
    return np.array(image.resize(size, Image.Resampling.BOX))


def encoded(rgb, kind="PNG", **options):
    """A picture file's bytes."""
    out = io.BytesIO()
    Image.fromarray(rgb).save(out, kind, **options)
    return out.getvalue()


def region(label, role, **more):
    """A region with this label and role."""
    return Region(id=f"r{label}", label=label, name=f"region {label}", role=role, **more)


def all_values(by):
    """An edit that moves every planned value by some L*."""

    def apply(plan):
        return shift_values({r.id: by for r in plan.regions})(plan)

    return edits.Edit(words("move every value"), apply)


class InFolder(unittest.TestCase):
    """A test with a folder of its own and a boat in it."""

    def setUp(self):
        held = tempfile.TemporaryDirectory()
        self.addCleanup(held.cleanup)
        self.folder = Path(held.name)
        self.sketch = self.folder / "boat.png"
        self.sketch.write_bytes(encoded(draw()))

    def bring_in(self, focus=None):
        made = document.bring_in(self.sketch, focus)
        return made, Pipeline(made.pixels.drawings)
