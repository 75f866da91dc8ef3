"""Colours as levels, numbers and measures, and the wheels by their landmarks."""

import unittest

import numpy as np

from umber_compass.colour import measured, packed, spaces, wheels


class Packed(unittest.TestCase):
    def test_red_is_high_and_blue_is_low_and_back(self):
        levels = np.uint8([[1, 2, 3], [255, 0, 128]])
        self.assertEqual(packed.pack(levels).tolist(), [0x010203, 0xFF0080])
        np.testing.assert_array_equal(packed.unpack(packed.pack(levels)), levels)
        picture = np.random.default_rng(1).integers(0, 256, (5, 7, 3)).astype(np.uint8)
        self.assertEqual(packed.pack(picture).shape, (5, 7))
        np.testing.assert_array_equal(packed.unpack(packed.pack(picture)[:, ::2]), picture[:, ::2])


class Measures(unittest.TestCase):
    def test_a_colour_is_measured_as_the_file_will_hold_it(self):
        found = measured.measure(np.array([0.4999, 0.25, 0.75]), "B")
        self.assertEqual((found.hex, found.slot), ("#7f40bf", "B"))
        light = spaces.decode(np.array([0x7F, 0x40, 0xBF]) / 255)
        self.assertAlmostEqual(found.value, float(spaces.value(light)))
        _, chroma, hue = spaces.polar(spaces.oklab(light))
        self.assertAlmostEqual(found.chroma, float(chroma))
        self.assertAlmostEqual(found.hue, float(hue))

    def test_grey_is_little_chroma_or_nearly_black_or_white(self):
        for text, grey, hued in (
            ("#808080", True, False),
            ("#84807c", True, True),
            ("#907c68", False, True),
            ("#010000", True, True),
            ("#fffffc", True, True),
            ("#f8f0e0", False, True),
        ):
            found = measured.measure_hex(text)
            self.assertEqual((found.is_grey, found.hue is not None), (grey, hued), text)

    def test_greys_by_value_and_levels_of_a_hex(self):
        self.assertEqual(measured.grey_scale(3)[0::2], ("#000000", "#ffffff"))
        for value, text in zip((10, 50, 90), measured.greys_of([10, 50, 90]), strict=True):
            self.assertAlmostEqual(measured.measure_hex(text).value, value, delta=0.3)
        self.assertEqual(measured.levels_of("#01ff10").tolist(), [1, 255, 16])


class Landmarks(unittest.TestCase):
    def test_the_light_wheel_takes_its_hues_from_full_colours(self):
        """OKLCh hues of #ff0000, #ffff00, #00ff00, #00ffff, #0000ff, #ff00ff (CSS Color 4)."""
        full = {0: 29.23, 60: 109.77, 120: 142.5, 180: 194.77, 240: 264.05, 300: 328.36}
        for angle, hue in full.items():
            self.assertAlmostEqual(float(wheels.hue_at("light", angle)), hue, delta=0.35)
            if angle == 240:
                continue  # OKLCh stands still before full blue
            off = spaces.hue_distance(float(wheels.angle_of("light", hue)), angle)
            self.assertLess(abs(float(off)), 1.5)

    def test_the_painters_wheel_has_its_anchors(self):
        anchors = (28, 37, 56, 84, 105, 126, 146, 189, 256, 290, 318, 352)
        for i, hue in enumerate(anchors):
            self.assertAlmostEqual(float(wheels.hue_at("painter", 30 * i)), hue, places=6)
        self.assertEqual(float(wheels.hue_at("perceptual", 123.4)), 123.4)
