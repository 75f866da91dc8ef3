"""Differences, gamut, wheels and layer modes."""

import unittest

import numpy as np
from coloraide import Color
from scipy.interpolate import PchipInterpolator

from umber_compass.colour import blending, difference, gamut, measured, spaces, temperature, wheels

# Sharma, Wu & Dalal 2005, table 1: L a b, L a b, CIEDE2000.
SHARMA = np.array(
    """50 2.6772 -79.7751 50 0 -82.7485 2.0425  50 3.1571 -77.2803 50 0 -82.7485 2.8615
    50 2.8361 -74.02 50 0 -82.7485 3.4412  50 -1.3802 -84.2814 50 0 -82.7485 1
    50 -1.1848 -84.8006 50 0 -82.7485 1  50 -.9009 -85.5211 50 0 -82.7485 1
    50 0 0 50 -1 2 2.3669  50 -1 2 50 0 0 2.3669  50 2.49 -.001 50 -2.49 .0009 7.1792
    50 2.49 -.001 50 -2.49 .001 7.1792  50 2.49 -.001 50 -2.49 .0011 7.2195
    50 2.49 -.001 50 -2.49 .0012 7.2195  50 -.001 2.49 50 .0009 -2.49 4.8045
    50 -.001 2.49 50 .001 -2.49 4.8045  50 -.001 2.49 50 .0011 -2.49 4.7461
    50 2.5 0 50 0 -2.5 4.3065  50 2.5 0 73 25 -18 27.1492  50 2.5 0 61 -5 29 22.8977
    50 2.5 0 56 -27 -3 31.903  50 2.5 0 58 24 15 19.4535  50 2.5 0 50 3.1736 .5854 1
    50 2.5 0 50 3.2972 0 1  50 2.5 0 50 1.8634 .5757 1  50 2.5 0 50 3.2592 .335 1
    60.2574 -34.0099 36.2677 60.4626 -34.1751 39.4387 1.2644
    63.0109 -31.0961 -5.8663 62.8187 -29.7946 -4.0864 1.263
    61.2901 3.7196 -5.3901 61.4292 2.248 -4.962 1.8731
    35.0831 -44.1164 3.7933 35.0232 -40.0716 1.5901 1.8645
    22.7233 20.0904 -46.694 23.0331 14.973 -42.5619 2.0373
    36.4612 47.858 18.3852 36.2715 50.5065 21.2231 1.4146
    90.8027 -2.0831 1.441 91.1528 -1.6435 .0447 1.4441
    90.9257 -.5406 -.9208 88.6381 -.8985 -.7239 1.5381
    6.7747 -.2908 -2.4247 5.8714 -.0985 -2.2286 .6377
    2.0776 .0795 -1.135 .9033 -.0636 -.5514 .9082""".split(),
    float,
).reshape(-1, 7)


class Difference(unittest.TestCase):
    def test_the_published_pairs_both_ways(self):
        first, second, wanted = SHARMA[:, :3], SHARMA[:, 3:6], SHARMA[:, 6]
        np.testing.assert_allclose(difference.ciede2000(first, second), wanted, atol=1e-4)
        np.testing.assert_allclose(difference.ciede2000(second, first), wanted, atol=1e-4)


class Gamut(unittest.TestCase):
    def setUp(self):
        rng = np.random.default_rng(7)
        self.value, self.hue = rng.uniform(2, 98, 600), rng.uniform(0, 360, 600)

    def test_value_and_hue_stay_exact_whatever_the_chroma(self):
        for chroma in (0.01, 0.08, 0.4):
            light = gamut.fit(self.value, chroma, self.hue)
            lch = spaces.polar(spaces.oklab(light))
            self.assertTrue(((light >= 0) & (light <= 1)).all())
            np.testing.assert_allclose(spaces.value(light), self.value, atol=1e-3)
            hued = lch[:, 1] > 0.005
            off = spaces.hue_distance(lch[hued, 2], self.hue[hued])
            self.assertLess(np.abs(off).max(), 0.05)
            self.assertLessEqual(lch[:, 1].max(), chroma + 1e-6)

    def test_only_as_much_chroma_is_lost_as_must_be(self):
        light = gamut.fit(self.value, 0.4, self.hue)
        edge = np.minimum(light.min(axis=1), 1 - light.max(axis=1))
        self.assertLess(edge.max(), 1e-5)

    def test_every_screen_colour_comes_back(self):
        rgb = np.random.default_rng(3).integers(0, 256, (4000, 3))
        light = spaces.decode(rgb / 255)
        lch = spaces.polar(spaces.oklab(light))
        back = gamut.fit(spaces.value(light), lch[:, 1], lch[:, 2])
        np.testing.assert_array_equal(spaces.to_bytes(spaces.encode(back)), rgb)

    def test_the_ends(self):
        np.testing.assert_allclose(
            gamut.fit([0, 100, 150], 0.2, 40), [[0] * 3, [1] * 3, [1] * 3], atol=1e-6
        )


class Wheels(unittest.TestCase):
    def test_painters_wheel_is_the_monotone_cubic_through_its_anchors(self):
        anchors = wheels.PAINTER_ANCHORS
        turns = np.concatenate([anchors - 360, anchors, anchors + 360])
        cubic = PchipInterpolator(np.arange(-12, 24) * 30, turns)
        angle = np.arange(0, 360, 0.7)
        off = spaces.hue_distance(cubic(angle), wheels.hue_at("painter", angle))
        self.assertLess(np.abs(off).max(), 0.02)

    def test_there_and_back_on_every_wheel(self):
        angle = np.arange(0, 360, 0.5)
        for wheel in wheels.WHEELS:
            back = wheels.angle_of(wheel, wheels.hue_at(wheel, angle))
            self.assertLess(np.abs(spaces.hue_distance(angle, back)).max(), 0.1, wheel)

    def test_opposites(self):
        pairs = {"painter": ((0, 146), (60, 256), (120, 318)), "light": ((0, 194.8),)}
        for wheel, rows in pairs.items():
            for angle, hue in rows:
                self.assertAlmostEqual(float(wheels.hue_at(wheel, angle + 180)), hue, delta=0.5)


# That library weighs luminosity by .299 .587 .114, the W3C text by .3 .59 .11.
_LEVELS = {"hue": 3, "saturation": 3, "color": 3, "luminosity": 3}


class Blending(unittest.TestCase):
    def test_modes_agree_with_an_independent_library(self):
        levels = np.random.default_rng(5).integers(0, 256, (60, 2, 3)) / 255
        levels[:4] = [
            [[0] * 3, [1] * 3],
            [[1] * 3, [0] * 3],
            [[0.5] * 3, [1, 0, 0.2]],
            [[1, 0, 0], [0.3] * 3],
        ]
        for mode in blending.MODE_NAMES:
            for base, top in levels:
                for opacity in (1.0, 0.4):
                    ours = blending.blend(mode, base, top, opacity)
                    if mode == "add":
                        wanted = np.minimum(1, base + opacity * top)
                    else:
                        over = Color("srgb", top.tolist(), opacity)
                        wanted = Color.layer(
                            [over, Color("srgb", base.tolist())],
                            space="srgb",
                            blend=mode,
                        ).coords(nans=False)
                    np.testing.assert_allclose(
                        ours,
                        wanted,
                        atol=_LEVELS.get(mode, 1) / 255,
                        err_msg=f"{mode} {base} {top}",
                    )


class Grey(unittest.TestCase):
    def test_what_is_called_grey(self):
        for text, grey in (
            ("#ffffe8", True),  # nearly white, though tinted
            ("#fff8d8", False),
            ("#00001c", True),  # nearly black
            ("#202040", False),
            ("#808080", True),
            ("#80807a", True),  # chroma under .02
            ("#808070", False),
        ):
            self.assertEqual(measured.measure_hex(text).is_grey, grey, text)


class Temperatures(unittest.TestCase):
    def test_the_locus_passes_through_published_points(self):
        # Illuminant A, 2856 K: CIE x .4476, y .4074; 6500 K on the locus: x .3135, y .3237.
        u, v = temperature.locus(np.array([2856.0, 6500.0]))
        x, y = 3 * u / (2 * u - 8 * v + 4), 2 * v / (2 * u - 8 * v + 4)
        np.testing.assert_allclose(x, (0.4476, 0.3135), atol=4e-4)
        np.testing.assert_allclose(y, (0.4074, 0.3237), atol=4e-4)

    def test_a_lamp_has_its_temperature_again_and_a_green_has_none(self):
        for kelvin in (1800, 2856, 4000, 6500, 9000, 14000):
            found = temperature.kelvin_of(temperature.hex_of_kelvin(kelvin))
            self.assertLess(abs(1e6 / found - 1e6 / kelvin), 8)  # mired
        for other in ("#00ff00", "#b040ff", "#000000"):
            self.assertIsNone(temperature.kelvin_of(other))
        warm, cool = (temperature.hex_of_kelvin(k) for k in (2000, 12000))
        self.assertGreater(int(warm[1:3], 16), int(warm[5:7], 16) + 100)
        self.assertGreater(int(cool[5:7], 16), int(cool[1:3], 16) + 20)
        self.assertEqual(temperature.hex_of_kelvin(9), temperature.hex_of_kelvin(temperature.LEAST))
