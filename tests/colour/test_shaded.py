"""Local colours through the artist's own shading."""

import unittest

import numpy as np

from umber_compass.colour import shaded
from umber_compass.colour.gradient_map import mapped
from umber_compass.colour.shaded import COOL_DEG, WARM_DEG, TwoLights, values_through
from umber_compass.colour.spaces import decode, encode, hue_distance, oklab, polar, value

LOCAL = np.array([[0.55, 0.30, 0.25], [0.2, 0.45, 0.6], [0.5, 0.5, 0.5], [0.95, 0.9, 0.5]])


def through(off, hue="kept", lights=None):
    return shaded.shaded(LOCAL, np.full(len(LOCAL), float(off)), hue, lights)


class Shaded(unittest.TestCase):
    def test_nothing_off_is_the_very_colour(self):
        np.testing.assert_allclose(through(0), LOCAL, atol=2e-3)

    def test_value_is_exact_between_the_soft_ends(self):
        own = value(decode(LOCAL))
        for off in (-25, -8, 5, 12):
            shown = value(decode(through(off)))
            wished = values_through(own, np.full(4, float(off)))
            np.testing.assert_allclose(shown, wished, atol=0.15)
        np.testing.assert_allclose(values_through(own[:3], np.full(3, 9.0)), own[:3] + 9, atol=1e-6)

    def test_ends_are_soft_and_never_passed(self):
        for local in (2.0, 40.0, 97.0):
            moved = values_through(np.full(401, local), np.linspace(-200, 200, 401))
            self.assertTrue((np.diff(moved) >= -1e-9).all())
            self.assertTrue(moved.min() >= 0 and moved.max() <= 100)

    def test_hue_is_kept_and_saturation_gives_way_to_light(self):
        before, light, dark = (polar(oklab(decode(through(o))))[:2] for o in (0, 20, -20))
        for other in (light, dark):
            turn = (other[:, 2] - before[:, 2] + 180) % 360 - 180
            self.assertLess(np.abs(turn).max(), 2.5)
        self.assertTrue((light[:, 1] / light[:, 0] < before[:, 1] / before[:, 0]).all())
        self.assertTrue((dark[:, 1] / dark[:, 0] > before[:, 1] / before[:, 0]).all())

    def test_shade_cools_and_light_warms_by_at_most_a_little(self):
        hue = polar(oklab(decode(LOCAL)))[:2, 2]
        for off, pole in ((-30, COOL_DEG), (30, WARM_DEG)):
            there = polar(oklab(decode(through(off, "cool-warm"))))[:2, 2]
            before, after = (np.abs((h - pole + 180) % 360 - 180) for h in (hue, there))
            self.assertTrue((after < before).all())
            self.assertLess(np.abs((there - hue + 180) % 360 - 180).max(), 16)
        np.testing.assert_allclose(np.ptp(through(-30, "cool-warm")[2]), 0, atol=2e-3)

    def test_shade_takes_the_ambient_hue_and_light_the_keys(self):
        lights = TwoLights(np.array([0.1, 0.2, 0.6]), np.array([1.2, 0.9, 0.3]))
        dark, light = (through(o, "rig", lights)[2] for o in (-25, 25))
        self.assertGreater(dark[2], dark[0])
        self.assertGreater(light[0], light[2])
        np.testing.assert_allclose(
            value(decode(through(-25, "rig", lights))), value(decode(through(-25))), atol=0.3
        )

    def test_what_is_shown_is_a_colour(self):
        rng = np.random.default_rng(3)
        shown = shaded.shaded(rng.random((500, 3)), rng.uniform(-150, 150, 500), "cool-warm")
        self.assertTrue(np.isfinite(shown).all() and shown.min() >= 0 and shown.max() <= 1)
        self.assertTrue(np.isfinite(encode(decode(shown))).all())


class GradientMap(unittest.TestCase):
    STOPS = np.array([[0.98, 0.93, 0.8], [0.1, 0.06, 0.2], [0.8, 0.4, 0.2]])

    def test_every_value_stays_and_every_stop_is_met(self):
        values = np.linspace(1, 99, 99)
        found = mapped(values, self.STOPS)
        np.testing.assert_allclose(value(decode(found)), values, atol=0.1)
        own = value(decode(self.STOPS))
        np.testing.assert_allclose(mapped(own, self.STOPS), self.STOPS, atol=0.012)

    def test_hue_goes_from_stop_to_stop_and_one_stop_gives_its_own_to_all(self):
        dark, middle = (mapped(np.array([v]), self.STOPS)[0] for v in (12.0, 55.0))
        self.assertGreater(dark[2], dark[0])
        self.assertGreater(middle[0], middle[2])
        one = polar(oklab(decode(mapped(np.array([20.0, 50.0, 80.0]), self.STOPS[2:]))))
        np.testing.assert_allclose(one[:, 2], one[1, 2], atol=1)
        np.testing.assert_allclose(
            mapped(np.array([0.0, 100.0]), self.STOPS[2:]), [[0] * 3, [1] * 3], atol=1e-3
        )

    def test_shade_and_light_lean_to_poles_of_ones_own(self):
        local = np.array([[0.55, 0.3, 0.25]])
        green, rose = 150.0, 350.0
        for off, pole in ((-25.0, green), (25.0, rose)):
            found = shaded.shaded(local, np.array([off]), "cool-warm", poles=(green, rose))
            usual = shaded.shaded(local, np.array([off]), "kept")
            near, far = (
                abs(hue_distance(float(polar(oklab(decode(c)))[0, 2]), pole))
                for c in (found, usual)
            )
            self.assertLess(near, far - 5)
