"""Views: plain pictures in, plain pictures out."""

import unittest

import numpy as np

from tests import scenes
from umber_compass.colour import spaces
from umber_compass.views import VIEWS


class Every(unittest.TestCase):
    def test_each_keeps_the_size_and_leaves_what_it_was_given(self):
        for name, view in VIEWS.items():
            for shape in ((160, 240, 3), (1, 1, 3), (3, 50, 3)):
                given = np.random.default_rng(1).integers(0, 256, shape).astype(np.uint8)
                before = given.copy()
                seen = view.see(given)
                with self.subTest(view=name, shape=shape):
                    self.assertEqual((seen.shape, seen.dtype), (shape, np.uint8))
                    np.testing.assert_array_equal(given, before)
            self.assertEqual(name, view.name)
            self.assertTrue(view.title and view.says)

    def test_grey_keeps_every_px_value(self):
        given = scenes.draw()
        grey = VIEWS["grey"].see(given)
        self.assertEqual(int(np.ptp(grey.astype(int), axis=2).max()), 0)
        values = [spaces.value(spaces.decode(p / 255)) for p in (given, grey)]
        self.assertLess(np.abs(values[0] - values[1]).max(), 0.4)

    def test_mirrored_is_left_for_right_and_twice_is_nothing(self):
        given = scenes.draw()
        mirrored = VIEWS["mirrored"].see(given)
        np.testing.assert_array_equal(mirrored[:, 0], given[:, -1])
        np.testing.assert_array_equal(VIEWS["mirrored"].see(mirrored), given)

    def test_small_is_three_tenths_in_the_middle_of_a_wall(self):
        given = np.full((100, 200, 3), 10, np.uint8)
        seen = VIEWS["small"].see(given)
        self.assertEqual(int((seen == 10).all(axis=2).sum()), 30 * 60)
        self.assertEqual(seen[50, 100].tolist(), [10, 10, 10])
        self.assertEqual(len({*seen[0].reshape(-1).tolist()}), 1)

    def test_beyond_the_frame_a_squint_sees_what_lies_at_it(self):
        for turned in (False, True):
            given = np.zeros((100, 200, 3), np.uint8)
            given[:, 0] = given[:, -1] = 255
            seen = VIEWS["squint"].see(given.swapaxes(0, 1) if turned else given)
            edge = seen[0] if turned else seen[:, 0]
            self.assertGreater(int(edge.min()), 188)  # half of the light and more

    def test_a_squint_blurs_light_and_takes_none_away(self):
        given = np.zeros((60, 400, 3), np.uint8)
        given[:, 200:] = 255
        seen = VIEWS["squint"].see(given)
        self.assertEqual((int(seen[30, 10, 0]), int(seen[30, 390, 0])), (0, 255))
        row = spaces.decode(seen[30, :, 0] / 255)
        self.assertAlmostEqual(float(row.mean()), 0.5, delta=0.01)
        slope = np.diff(row)
        self.assertAlmostEqual(
            float(slope.max()), 1 / (np.sqrt(2 * np.pi) * 0.015 * 400), delta=0.01
        )
