"""Views: plain pictures in, plain pictures out."""

import unittest

import numpy as np

from tests import scenes
from umber_compass.colour import spaces
from umber_compass.views import PLAIN, VIEWS, About


class Every(unittest.TestCase):
    def test_each_keeps_the_size_and_leaves_what_it_was_given(self):
        for name, view in VIEWS.items():
            for shape in ((160, 240, 3), (1, 1, 3), (3, 50, 3)):
                given = np.random.default_rng(1).integers(0, 256, shape).astype(np.uint8)
                before = given.copy()
                seen = view.see(given, PLAIN)
                with self.subTest(view=name, shape=shape):
                    self.assertEqual((seen.shape, seen.dtype), (shape, np.uint8))
                    np.testing.assert_array_equal(given, before)
            self.assertEqual(name, view.name)
            self.assertTrue(view.title and view.says)

    def test_grey_keeps_every_px_value(self):
        given = scenes.draw()
        grey = VIEWS["grey"].see(given, PLAIN)
        self.assertEqual(int(np.ptp(grey.astype(int), axis=2).max()), 0)
        values = [spaces.value(spaces.decode(p / 255)) for p in (given, grey)]
        self.assertLess(np.abs(values[0] - values[1]).max(), 0.4)

    def test_mirrored_is_left_for_right_and_twice_is_nothing(self):
        given = scenes.draw()
        mirrored = VIEWS["mirrored"].see(given, PLAIN)
        np.testing.assert_array_equal(mirrored[:, 0], given[:, -1])
        np.testing.assert_array_equal(VIEWS["mirrored"].see(mirrored, PLAIN), given)

    def test_small_is_three_tenths_in_the_middle_of_a_wall(self):
        given = np.full((100, 200, 3), 10, np.uint8)
        seen = VIEWS["small"].see(given, PLAIN)
        self.assertEqual(int((seen == 10).all(axis=2).sum()), 30 * 60)
        self.assertEqual(seen[50, 100].tolist(), [10, 10, 10])
        self.assertEqual(len({*seen[0].reshape(-1).tolist()}), 1)

    def test_beyond_the_frame_a_squint_sees_what_lies_at_it(self):
        for turned in (False, True):
            given = np.zeros((100, 200, 3), np.uint8)
            given[:, 0] = given[:, -1] = 255
            seen = VIEWS["squint"].see(given.swapaxes(0, 1) if turned else given, PLAIN)
            edge = seen[0] if turned else seen[:, 0]
            self.assertGreater(int(edge.min()), 188)  # half of the light and more

    def test_a_squint_blurs_light_and_takes_none_away(self):
        given = np.zeros((60, 400, 3), np.uint8)
        given[:, 200:] = 255
        seen = VIEWS["squint"].see(given, PLAIN)
        self.assertEqual((int(seen[30, 10, 0]), int(seen[30, 390, 0])), (0, 255))
        row = spaces.decode(seen[30, :, 0] / 255)
        self.assertAlmostEqual(float(row.mean()), 0.5, delta=0.01)
        slope = np.diff(row)
        self.assertAlmostEqual(
            float(slope.max()), 1 / (np.sqrt(2 * np.pi) * 0.015 * 400), delta=0.01
        )


class Elsewhere(unittest.TestCase):
    """As other eyes, screens and papers show a picture."""

    def seen(self, name, *hexes):
        levels = [spaces.to_bytes(spaces.parse_hex(h)) for h in hexes]
        given = np.repeat(np.repeat(np.array([levels]), 16, axis=0), 16, axis=1)
        return VIEWS[name].see(np.ascontiguousarray(given), PLAIN)

    def test_red_and_green_of_one_value_are_one_without_a_cone_and_greys_stay(self):
        red, green = "#d0603c", "#8c8a2c"
        for kind in ("deutan", "protan"):
            seen = self.seen(kind, red, green).astype(int)
            plain = self.seen("mirrored", green, red).astype(int)
            apart = [abs(p[8, 4] - p[8, 24]).max() for p in (seen, plain)]
            self.assertLess(apart[0], 0.75 * apart[1], kind)
        for kind in ("deutan", "protan", "tritan"):
            grey = self.seen(kind, "#808080")[8, 8].astype(int)
            self.assertLess(np.abs(grey - 128).max(), 8)

    def test_luma_is_the_sum_of_painting_programs(self):
        self.assertEqual(self.seen("luma", "#3264c8")[3, 3].tolist(), [96] * 3)

    def test_an_e_reader_has_sixteen_greys_and_keeps_the_mean(self):
        ramp = np.linspace(0, 255, 256).astype(np.uint8)
        given = np.repeat(np.repeat(ramp[None, :, None], 64, axis=0), 3, axis=2)
        seen = VIEWS["e-reader"].see(given, PLAIN)
        self.assertEqual(len(np.unique(seen)), 16)
        means = seen.astype(float).mean(axis=0)[:, 0].reshape(16, 16).mean(axis=1)
        self.assertTrue((np.diff(means) > 0).all())

    def test_a_poor_screen_loses_red_and_print_and_newsprint_have_a_lighter_black(self):
        red = self.seen("narrow-gamut", "#ff0000")[3, 3].astype(int)
        self.assertLess(red[0] - red[1], 215)
        white = self.seen("narrow-gamut", "#ffffff")[3, 3]
        self.assertGreater(int(white.min()), 250)
        for name, least in (("newsprint", 60), ("print", 15)):
            black, paper = self.seen(name, "#000000", "#ffffff")[3, ::20]
            self.assertGreater(int(black.min()), least)
            self.assertLess(int(black.max()), 110)
            self.assertGreater(int(paper.max()), 220)
        blue = self.seen("print", "#0020ff")[3, 3].astype(int)
        self.assertLess(blue[2], 200)  # no ink is as blue as a screen

    def test_a_tube_darkens_every_other_line_less_where_it_is_bright(self):
        dark, bright = (self.seen("tube", h).astype(int) for h in ("#404040", "#f0f0f0"))
        for seen in (dark, bright):
            self.assertGreater(seen[2, 8, 0], seen[3, 8, 0])
        ratios = [s[3, 8, 0] / s[2, 8, 0] for s in (dark, bright)]
        self.assertLess(ratios[0], ratios[1])


class Steps(unittest.TestCase):
    def test_only_steps_of_each_regions_ramp_are_left_the_nearest_in_value(self):
        ramp = np.linspace(20, 230, 64).astype(np.uint8)
        given = np.repeat(np.repeat(ramp[None, :, None], 32, axis=0), 3, axis=2)
        labels = np.repeat([[1] * 32 + [2] * 32], 32, axis=0).astype(np.uint16)
        steps = {
            1: np.array([[30, 30, 60], [90, 80, 70]], np.uint8),
            2: np.array([[120, 120, 120], [200, 190, 180], [250, 245, 240]], np.uint8),
        }
        about = About(labels=labels, ramps=steps)
        for name in ("ramp-view", "ramp-dither"):
            seen = VIEWS[name].see(given, about)
            for label, own in steps.items():
                found = {tuple(p) for p in seen[labels == label].tolist()}
                self.assertEqual(found, {tuple(s) for s in own.tolist()}, name)
        hard = VIEWS["ramp-view"].see(given, about)
        self.assertEqual(hard[0, 0].tolist(), [30, 30, 60])
        self.assertEqual(hard[0, 63].tolist(), [250, 245, 240])
        self.assertEqual(len(np.unique(hard[:, 40], axis=0)), 1)
        mixed = VIEWS["ramp-dither"].see(given, about)[:, 32:]
        means = mixed.astype(float).mean(axis=(0, 2)).reshape(4, 8).mean(axis=1)
        self.assertTrue((np.diff(means) > 0).all())
        np.testing.assert_array_equal(VIEWS["ramp-view"].see(given, PLAIN), given)


class Told(unittest.TestCase):
    """Views of what a plan knows of its picture."""

    def setUp(self):
        self.given = scenes.draw(smooth=1)
        kinds = (self.given.reshape(-1, 1, 3) == scenes.FLATS).all(axis=2)
        self.labels = (kinds.argmax(axis=1) + 1).reshape(self.given.shape[:2]).astype(np.uint16)

    def see(self, name, **told):
        return VIEWS[name].see(self.given, About(labels=self.labels, **told))

    def test_groups_are_each_one_grey_the_mean_of_what_they_hold(self):
        for name, told, count in (
            ("groups", {"edges": (50.0,)}, 2),
            ("groups-2", {}, 2),
            ("groups-3", {}, 3),
            ("groups-5", {}, 5),
        ):
            seen = self.see(name, **told)
            self.assertEqual(len(np.unique(seen)), count, name)
        values = spaces.value(spaces.decode(self.given / 255))
        low = spaces.value(spaces.decode(self.see("groups", edges=(50.0,)) / 255))
        self.assertAlmostEqual(low.min(), values[values < 50].mean(), delta=0.4)
        self.assertAlmostEqual(low.max(), values[values >= 50].mean(), delta=0.4)

    def test_only_extremes_stand_out(self):
        seen = self.see("extremes", dark=35, light=85)
        values = spaces.value(spaces.decode(self.given / 255))
        self.assertTrue((seen[values > 85] > 240).all())
        self.assertTrue((seen[values < 35] < 30).all())
        calm = seen[(values > 35) & (values < 85)]
        self.assertTrue(((calm > 90) & (calm < 160)).all())

    def test_pull_shines_where_it_is_and_borders_where_they_part(self):
        pull = np.array([0, 0.1, 0.1, 0.1, 0.1, 2.0])  # the sun
        seen = self.see("heat", pull=pull)[..., 0].astype(int)
        sun = self.labels == 5
        self.assertGreater(seen[sun].mean(), 2 * seen[~sun].mean())
        self.assertLess(VIEWS["heat"].see(self.given, PLAIN).mean(), seen.mean())
        edges = self.see("borders")[..., 0]
        self.assertGreater(int(edges[68:72, 100].max()), 100)  # the hull on the sea
        self.assertEqual(int(edges[5, 5]), 0)
        self.assertEqual(VIEWS["borders"].see(self.given, PLAIN).max(), 0)

    def test_one_thing_at_a_time(self):
        def measured(name):
            light = spaces.decode(self.see(name) / 255)
            return spaces.value(light), spaces.polar(spaces.oklab(light))

        value, lch = measured("colour-only")
        self.assertLess(np.ptp(value), 1.5)
        self.assertGreater(np.ptp(lch[..., 1]), 0.05)
        was = spaces.value(spaces.decode(self.given / 255))
        for name in ("one-hue", "one-chroma"):
            self.assertLess(np.abs(measured(name)[0] - was).max(), 1.5, name)
        hue = measured("one-hue")[1]
        self.assertLess(np.ptp(hue[hue[..., 1] > 0.02][:, 2]), 3)
        chroma = measured("one-chroma")[1][..., 1]
        self.assertLess(np.ptp(chroma[was < 80]), 0.02)
        noisy = self.given.astype(int) + np.random.default_rng(1).integers(-9, 9, self.given.shape)
        self.given = np.clip(noisy, 0, 255).astype(np.uint8)
        for name in ("no-detail", "value-only"):
            self.assertLessEqual(len(np.unique(self.see(name).reshape(-1, 3), axis=0)), 5, name)
