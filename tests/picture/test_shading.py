"""The artist's own light and dark: what of a picture it is, along borders too, and in the codes."""

import unittest

import numpy as np
from scipy.ndimage import gaussian_filter

from tests import scenes
from umber_compass.colour.packed import pack, unpack
from umber_compass.colour.spaces import decode, value
from umber_compass.picture.drawing import draw
from umber_compass.picture.indexed import index_drawing, nearest_codes, paint
from umber_compass.picture.shading import (
    VALUE_OF_LEVEL,
    grey_levels,
    means_by_label,
    shades_of,
)
from umber_compass.plan.model import Shading
from umber_compass.plan.rig import Rig
from umber_compass.steps.harmony.colours import code_table
from umber_compass.steps.harmony.planned_levels import planned_levels
from umber_compass.steps.light_views import over_grey
from umber_compass.steps.pipeline import Pipeline

SHAPE = (120, 180)


def picture(soft):
    """Two greys side by side, shaded from top to bottom, their border soft over some px."""
    labels = np.ones(SHAPE, np.uint16)
    labels[:, 90:] = 2
    flat = np.where(labels == 1, 80.0, 180.0)
    grey = gaussian_filter(flat, soft) + np.linspace(-12, 12, SHAPE[0])[:, None]
    return pack(np.repeat(grey[..., None].astype(np.uint8), 3, axis=2)), labels


class OwnShading(unittest.TestCase):
    def test_grey_is_that_of_the_luminance(self):
        rgb = np.array([[[10, 10, 10], [200, 60, 40], [255, 255, 255]]], np.uint8)
        level = grey_levels(pack(rgb))
        np.testing.assert_array_equal(level[0, [0, 2]], [10, 255])
        self.assertAlmostEqual(
            float(VALUE_OF_LEVEL[level[0, 1]]), float(value(decode(rgb[0, 1] / 255))), delta=0.3
        )

    def test_means_are_those_of_each_label(self):
        labels = np.array([[1, 1, 2], [1, 2, 0]], np.uint16)
        grey = np.array([[100, 120, 30], [110, 50, 9]], np.uint8)
        mean = means_by_label(grey, labels)
        self.assertAlmostEqual(float(mean[1]), float(VALUE_OF_LEVEL[[100, 120, 110]].mean()), 3)

    def test_a_border_does_not_shade_its_own_px(self):
        for soft in (0.7, 2.5):
            packed, labels = picture(soft)
            borders, shades = shades_of(packed, labels)
            own = grey_levels(packed)
            plain = gaussian_filter(np.where(labels == 1, 80.0, 180.0), 0)
            plain = plain + np.linspace(-12, 12, SHAPE[0])[:, None]
            near = np.abs(np.arange(SHAPE[1]) - 89.5) < 8
            off = np.abs(shades.grey[10:-10, near] - plain[10:-10, near])
            with self.subTest(soft):
                self.assertLess(np.percentile(off, 95), 7)
                self.assertGreater(np.abs(own[10:-10, near] - plain[10:-10, near]).max(), 20)
                self.assertTrue(((borders.cover >= 0) & (borders.cover <= 1)).all())
                self.assertGreater(len(borders.place), SHAPE[0])

    def test_the_picture_comes_back_when_nothing_is_planned_otherwise(self):
        for soft in (0.7, 2.5):
            packed, labels = picture(soft)
            drawing = draw(packed, labels, True)
            indexed = index_drawing(drawing, {})
            means = drawing.shades.mean
            plan = scenes.plan_of([scenes.planned(value=float(v), chroma=0) for v in means[1:]])
            colours = planned_levels(scenes.scheme(), plan.studies[0].colours)
            table = code_table(indexed, plan.regions, colours, Shading())
            off = np.abs(unpack(paint(indexed, table)).astype(int) - unpack(packed))
            self.assertLess(off.mean(), 1.5)

    def test_off_softer_and_stronger(self):
        packed, labels = picture(0.7)
        indexed = index_drawing(draw(packed, labels, True), {})
        plan = scenes.plan_of([scenes.planned(value=50), scenes.planned(value=50)])
        colours = planned_levels(scenes.scheme(), plan.studies[0].colours)

        def spread(**told):
            table = code_table(indexed, plan.regions, colours, Shading(**told), Rig())
            begin, end = indexed.spans[1]
            return float(np.ptp(value(decode(table[begin:end] / 255))))

        self.assertEqual(spread(on=False), 0)
        self.assertLess(spread(strength=40), spread())
        self.assertGreater(spread(strength=180), spread())

    def test_a_code_is_found_by_its_grey_within_its_own_label(self):
        packed, labels = picture(0.7)
        indexed = index_drawing(draw(packed, labels, True), {2: (0, 0, 1, 0)})
        for label, level in ((1, 0), (1, 255), (2, 0), (2, 255)):
            at = int(nearest_codes(indexed, np.array([label]), np.array([0]), np.array([level]))[0])
            begin, end = indexed.spans[label]
            self.assertTrue(begin <= at < end)
            self.assertEqual(int(indexed.adjacency.label[at]), label)
        self.assertEqual(float(indexed.along[indexed.spans[1][0]]), 0.0)
        self.assertGreater(float(indexed.along[slice(*indexed.spans[2])].max()), 0.9)


class OldLayers(unittest.TestCase):
    def test_the_usual_layers_over_grey(self):
        packed, labels = picture(0.7)
        sketch = scenes.plan_of([scenes.planned(value=50), scenes.planned("B", value=70)])
        drawings = {sketch.sketch.labels: draw(packed, labels, True)}
        derived = Pipeline(drawings).derive(sketch)
        local = unpack(over_grey(derived, "normal")).astype(int)
        times = unpack(over_grey(derived, "multiply")).astype(int)
        grey = unpack(packed).astype(int)
        inside = (slice(30, 90), slice(20, 60))
        np.testing.assert_allclose(times[inside], local[inside] * grey[inside] / 255, atol=2)
        colour = value(decode(unpack(over_grey(derived, "color"))[inside] / 255))
        self.assertLess(np.abs(colour - value(decode(grey[inside] / 255))).mean(), 12)
        flat = Pipeline({sketch.sketch.labels: draw(packed, labels)}).derive(sketch)
        self.assertEqual(len(np.unique(over_grey(flat, "multiply")[inside])), 1)
