"""The lit picture: codes held to the exact one, many lamps, the artist's forms and gradients."""

import itertools
import unittest

import numpy as np
from msgspec.structs import replace

from tests import scenes
from tests.picture.test_indexed import none
from tests.scenes import BEHIND, NOTHING, RIGHT, UP_LEFT
from umber_compass import document
from umber_compass.colour import difference, spaces
from umber_compass.colour.packed import pack, unpack
from umber_compass.demo.plans import DEMOS
from umber_compass.picture import buffers, indexed, relit
from umber_compass.picture.building import build_buffers
from umber_compass.picture.drawing import Drawing, boxes
from umber_compass.picture.forms import form_wishes
from umber_compass.picture.light import FLOOR_NORMAL
from umber_compass.plan.light_edits import rig_of, set_lamp, with_rig
from umber_compass.plan.rig import Glow, Lamp
from umber_compass.steps.harmony.edits import make_gradient
from umber_compass.steps.pictures import exact_picture, picture
from umber_compass.steps.pipeline import Pipeline

RIM = Lamp(name="rim", rank=2, hex="#6080ff", strength=70, direction=(0.7, 0.3, 0.65))


def off(one, other):
    """CIEDE2000 of two packed pictures."""
    lab = [spaces.cielab(spaces.decode(unpack(p) / 255)) for p in (one, other)]
    return difference.ciede2000(*lab)


class Demo(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        made = document.open_plan(DEMOS[0].plan)
        dark = replace(rig_of(made.plan), glow=Glow(strength=0))  # tests/steps/test_scene.py has it
        cls.made = made._replace(plan=with_rig(made.plan, dark))
        cls.pipeline = Pipeline(cls.made.pixels.drawings)

    def derive(self, **rig):
        plan = self.made.plan
        return self.pipeline.derive(with_rig(plan, replace(rig_of(plan), shadows=False, **rig)))

    def test_codes_stay_near_the_exact_picture(self):
        # An edge as narrow as a tone's is exact px by px; what lies between both ends of it is not.
        ways = {"soft": 2.5, "painter": 9.0, "two-tones": 5.0, "three-tones": 12.0}
        # Every way with every direction, in turn in a light and in a dark picture.
        every = itertools.product((UP_LEFT, RIGHT, BEHIND), ways)
        for (direction, way), by in zip(every, itertools.cycle((8, -22, -22, 8)), strict=False):
            with self.subTest(direction=direction, by=by, way=way):
                plan = set_lamp("key", NOTHING, direction=direction).apply(self.made.plan)
                plan = with_rig(plan, replace(rig_of(plan), way=way, shadows=False))
                derived = self.pipeline.derive(scenes.all_values(by).apply(plan))
                found = off(picture(derived), exact_picture(derived))
                self.assertLess(found.mean(), 0.7)
                self.assertLess(np.percentile(found, 99.9), ways[way])

    def test_live_shadows_lie_where_exact_ones_do(self):
        """On the mean of where either lies at most a tenth of the light apart."""
        for direction in (UP_LEFT, RIGHT, BEHIND):
            plan = set_lamp("key", NOTHING, direction=direction).apply(self.made.plan)
            derived = self.pipeline.derive(plan)
            for live, exact in zip(derived.shadows, derived.exact_shadows, strict=True):
                fine = exact[::2, ::2].astype(float)
                rough = live[: fine.shape[0], : fine.shape[1]].astype(float)
                there = (fine > 25) | (rough > 25)
                if there.sum() > 50:
                    self.assertLess(np.abs(fine - rough)[there].mean() / 255, 0.1)

    def test_a_second_lamp_is_lit_in_both(self):
        rig = rig_of(self.made.plan)
        both = self.derive(lamps=(*rig.lamps, RIM))
        found = off(picture(both), exact_picture(both))
        self.assertLess(np.percentile(found, 99.9), 4.5)
        one = self.derive()
        self.assertGreater(off(exact_picture(both), exact_picture(one)).mean(), 1)
        self.assertIs(both.buffers, one.buffers)

    def test_a_gradient_on_a_round_form_stays_near_too(self):
        name = next(r for r in self.made.plan.regions if r.name == "coat")
        plan = make_gradient(self.made.plan, name.id, name.name).apply(self.made.plan)
        plan = with_rig(plan, replace(rig_of(plan), shadows=False))
        derived = self.pipeline.derive(plan)
        found = off(picture(derived), exact_picture(derived))
        self.assertLess(np.percentile(found, 99.9), 4.5)
        self.assertGreater(derived.buffers.size, self.pipeline.derive(self.made.plan).buffers.size)

    def test_values_are_those_of_the_encoded_colours(self):
        levels = np.random.default_rng(8).integers(0, 256, (300, 3)).astype(np.uint8)
        wanted = spaces.value(spaces.decode(levels / 255))
        np.testing.assert_allclose(relit.values_of(pack(levels)), wanted, atol=0.01)

    def test_encoding_by_table_is_within_a_level(self):
        linear = np.random.default_rng(1).random((3, 4000)).astype(np.float32) ** 3
        packed = relit._encoded(linear)
        levels = np.stack([packed >> s & 255 for s in (16, 8, 0)]).astype(int)
        away = levels - np.round(spaces.encode(linear) * 255)
        self.assertLessEqual(np.abs(away).max(), 1)

    def test_a_picture_is_painted_over_where_one_is_given(self):
        derived = self.pipeline.derive(self.made.plan)
        fresh = picture(derived)
        over = np.full_like(fresh, 7)
        self.assertIs(picture(derived, over), over)
        np.testing.assert_array_equal(over, fresh)


class SurfaceBuffers(unittest.TestCase):
    """A ball before a wall and beside a floor that is a gradient."""

    @classmethod
    def setUpClass(cls):
        y, x = np.mgrid[:120, :160]
        labels = np.ones((120, 160), np.uint16)
        labels[90:] = 3
        labels[(x - 70) ** 2 + (y - 55) ** 2 < 40**2] = 2
        cls.drawing = Drawing(labels, none(), boxes(labels))
        cls.regions = [
            scenes.region(1, "ground"),
            scenes.region(2, "figure"),
            scenes.region(3, "ground", form="slope"),
        ]
        cls.axes = {3: (0.0, 0.0, 1.0, 0.0)}
        cls.indexed = indexed.index_drawing(cls.drawing, cls.axes)
        cls.built = build_buffers(cls.drawing, form_wishes(cls.regions), cls.axes, cls.indexed)

    def test_every_code_stands_for_what_its_px_are(self):
        made, labels = self.built, self.drawing.labels.reshape(-1)
        np.testing.assert_array_equal(made.adjacency.label[made.code], labels)
        normal = made.normal[:, made.code]
        np.testing.assert_allclose(
            normal[:, labels == 1], np.float32([[0], [0], [1]]) + 0 * labels[labels == 1]
        )
        slope = normal[:, labels == 3]
        np.testing.assert_allclose(
            slope[1:], [[FLOOR_NORMAL[1]] * slope.shape[1], [FLOOR_NORMAL[2]] * slope.shape[1]]
        )
        ball = labels == 2
        exact = np.stack([made.forms.nx.reshape(-1)[ball], made.forms.ny.reshape(-1)[ball]]).astype(
            float
        )
        self.assertLess(np.abs(normal[:2, ball] - exact).mean(), 0.03)
        occlusion = made.forms.occlusion.reshape(-1) / 255
        self.assertLess(np.abs(made.occlusion[made.code] - occlusion).mean(), 0.06)

    def test_a_gradients_codes_take_their_colour_along_its_axis(self):
        begin = self.indexed.spans[3][0]
        local = self.built.local[self.built.code].reshape(120, 160)[100] - begin
        self.assertTrue((np.diff(local) >= -1).all())
        self.assertLess(local[0], 4)
        self.assertGreater(local[-1], indexed.GRADIENT_STEPS - 5)
        flat = (
            np.repeat(self.indexed.run_code, self.indexed.run_length).reshape(120, 160)[100] - begin
        )
        self.assertLess(np.abs(local - flat).max(), 3)

    def test_weights_are_shares_of_each_label_and_codes_stand_in_order(self):
        made = self.built
        summed = np.bincount(made.adjacency.label, made.weight)
        np.testing.assert_allclose(summed[1:], 1, rtol=1e-4)
        self.assertTrue((np.diff(made.adjacency.label) >= 0).all())
        np.testing.assert_array_equal(made.adjacency.label[made.begin], [1, 2, 3])

    def test_fewer_facings_where_the_codes_would_be_too_many(self):
        wanted, buffers.MOST_CODES = buffers.MOST_CODES, 900
        try:
            made = build_buffers(self.drawing, form_wishes(self.regions), self.axes, self.indexed)
        finally:
            buffers.MOST_CODES = wanted
        self.assertLess(made.size, self.built.size)
        np.testing.assert_array_equal(
            made.adjacency.label[made.code], self.drawing.labels.reshape(-1)
        )
