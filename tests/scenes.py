"""Small pictures and plans of our own for the tests."""

import io
import os
import tempfile
import unittest
from pathlib import Path

import numpy as np
from msgspec.structs import replace
from PIL import Image, ImageCms, ImageDraw

from umber_compass import document
from umber_compass.colour.packed import CLEAR, pack, unpack
from umber_compass.picture.drawing import draw as draw_pixels
from umber_compass.plan import edits
from umber_compass.plan.model import Plan, Planned, Region, Scheme, Sketch, Study
from umber_compass.plan.rig import Ambient, Lamp, Rig
from umber_compass.steps.harmony.shifts import shift_values
from umber_compass.steps.pictures import picture
from umber_compass.steps.pipeline import Pipeline
from umber_compass.steps.sketch.kinds import flats
from umber_compass.steps.sketch.start import start_plan
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
UP_LEFT, RIGHT, BEHIND = (-0.66, -0.42, 0.62), (0.9, 0.1, 0.42), (0.3, 0.5, -0.8)
NOTHING = words("")
_FOLDER = tempfile.TemporaryDirectory()


def draw(shapes=BOAT, size=(240, 160), smooth=4):
    """A flats picture, (h, w, 3); `smooth` is how many times finer it is drawn before shrinking."""
    image = Image.new("RGB", (size[0] * smooth, size[1] * smooth))
    pen = ImageDraw.Draw(image)
    for kind, points, colour in shapes:
        getattr(pen, kind)([p * smooth for p in points], fill=colour)
    return np.array(image.resize(size, Image.Resampling.BOX))


def split(rgb, clear=None):
    """A flats picture, (h, w, 3), with the px that are clear, as regions."""
    packed = pack(rgb)
    if clear is not None:
        packed[clear] = CLEAR
    return flats.split(packed, "x")


def shown_again(rgb, found):
    """The flat picture, (h, w, 3), of the unchanged plan of a sketch and its regions."""
    height, width = rgb.shape[:2]
    kept = Sketch(file_name="x.png", hash="0" * 64, labels="1" * 64, size=(width, height), kind="x")
    drawings = {kept.labels: draw_pixels(pack(rgb), found.labels)}
    return unpack(picture(Pipeline(drawings).derive(start_plan(found, kept))))


def encoded(rgb, kind="PNG", **options):
    """A picture file's bytes."""
    out = io.BytesIO()
    Image.fromarray(rgb).save(out, kind, **options)
    return out.getvalue()


def region(label, role, **more):
    """A region with this label and role."""
    told = {"name": f"region {label}", **more}
    return Region(id=f"r{label}", label=label, role=role, **told)


def planned(slot="A", value=50.0, chroma=0.1, turn=0.0):
    """A colour that follows the scheme."""
    return Planned(slot=slot, value=value, chroma=chroma, hue_offset_deg=turn)


def scheme(name="opposites", wheel="painter", lead=200.0, spread=30.0):
    """A scheme."""
    return Scheme(wheel=wheel, name=name, lead_deg=lead, spread_deg=spread)


def plan_of(colours, now=None, rig=None):
    """A plan of regions r1, r2, ... with these colours, and no pixels."""
    made = {f"r{i + 1}": c for i, c in enumerate(colours)}
    regions = tuple(Region(id=r, label=i + 1, name=r, role="figure") for i, r in enumerate(made))
    kept = Sketch(file_name="x.png", hash="0" * 64, labels="1" * 64, size=(8, 8), kind="flats")
    study = Study(id="s1", title="x", scheme=now or scheme(), colours=made, rig=rig)
    return Plan(title="x", current_study="s1", sketch=kept, regions=regions, studies=(study,))


def plain_rig(**changes):
    """A rig without tint, softness, shadows or bounce, so that formulas can be written out."""
    key = Lamp(hex="#ffffff", strength=50, direction=UP_LEFT, softness=0)
    ambient = Ambient(hex="#ffffff", strength=25, bounce=0)
    plain = {"way": "soft", "shadows": False, "highlights": False, "reaches_far": True}
    return Rig(**{**plain, "ambient": ambient, "lamps": (key,), "crevice": 100, **changes})


def all_values(by):
    """An edit that moves every planned value by some L*."""

    def change(plan):
        return shift_values({r.id: by for r in plan.regions})(plan)

    return edits.Edit(words("move every value"), change)


def small(path, by=2):
    """A plan's file with its sketch so many times smaller, its regions and decisions the same: made
    once for a whole run."""
    folder = Path(os.environ.get("UMBER_TEST_CACHE", _FOLDER.name))
    made = folder / f"{path.stem}-{by}.umber"
    if not made.exists():
        held = document.open_plan(path)
        sketch, pixels = held.plan.sketch, document.Pixels()
        whole = Image.fromarray(np.ascontiguousarray(unpack(held.pixels.picture(sketch))))
        size = sketch.size[0] // by, sketch.size[1] // by
        shown = np.array(whole.resize(size, Image.Resampling.BOX))
        labels = np.ascontiguousarray(held.pixels.labels(sketch)[by // 2 :: by, by // 2 :: by])
        keys = {"hash": pixels.add_sketch(encoded(shown)), "labels": pixels.add_labels(labels)}
        plan = replace(held.plan, sketch=replace(sketch, size=size, **keys))
        pixels.drawing(plan.sketch)
        part = made.with_suffix(f".{os.getpid()}")
        document.save(plan, pixels, part)
        part.replace(made)
    return made


def wide_press():
    """The profile of a printer that shows all that a screen does, as bytes."""
    data = bytearray(ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes())
    data[12:16] = b"prtr"
    return bytes(data)


class InFolder(unittest.TestCase):
    """A test with a folder of its own and a boat in it."""

    def setUp(self):
        held = tempfile.TemporaryDirectory()
        self.addCleanup(held.cleanup)
        self.folder = Path(held.name)
        self.sketch = self.folder / "boat.png"
        self.sketch.write_bytes(encoded(draw()))

    def bring_in(self, focus=None):
        """The boat as a plan with its pixels, and a pipeline of it."""
        made = document.bring_in(self.sketch, focus)
        return made, Pipeline(made.pixels.drawings)

    def region(self, plan, colour):
        """The region of the boat that has this colour."""
        drawn = unpack(self.made.pixels.picture(plan.sketch)).reshape(-1, 3)
        wanted = np.array([int(colour[i : i + 2], 16) for i in (1, 3, 5)])
        at = int(np.flatnonzero((drawn == wanted).all(axis=1))[0])
        labels = self.made.pixels.labels(plan.sketch).reshape(-1)
        return edits.region_of_label(plan, int(labels[at]))
