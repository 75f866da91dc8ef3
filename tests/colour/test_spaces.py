"""Spaces against two independent libraries, shapes and round trips."""

import unittest

import numpy as np
from coloraide import Color

from umber_compass.colour import spaces
from umber_compass.words import Refusal

EVERY = np.array(
    [[r, g, b] for r in range(0, 256, 51) for g in range(0, 256, 51) for b in range(0, 256, 51)]
)
HEXES = ["#" + bytes(c.tolist()).hex() for c in EVERY.astype(np.uint8)]


class AgainstLibraries(unittest.TestCase):
    def test_measures_agree_with_coloraide(self):
        light = spaces.decode(EVERY / 255)
        lab, ok, bright = spaces.cielab(light), spaces.oklab(light), spaces.hsb(EVERY / 255)
        for i, text in enumerate(HEXES):
            other = Color(text)
            with self.subTest(colour=text):
                np.testing.assert_allclose(ok[i], other.convert("oklab").coords(), atol=2e-6)
                np.testing.assert_allclose(lab[i], other.convert("lab-d65").coords(), atol=0.005)
                h, s, v = other.convert("hsv").coords(nans=False)
                np.testing.assert_allclose(bright[i, 1:], [s * 100, v * 100], atol=1e-6)
                if s > 0:
                    self.assertAlmostEqual(float(bright[i, 0]), h % 360, places=6)

    def test_value_and_oklab_agree_with_colour_science(self):
        import colour as science

        xyz = science.sRGB_to_XYZ(EVERY / 255)
        white = science.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]["D65"]
        ours = spaces.decode(EVERY / 255)
        np.testing.assert_allclose(
            spaces.value(ours), science.XYZ_to_Lab(xyz, white)[:, 0], atol=0.02
        )
        np.testing.assert_allclose(spaces.oklab(ours), science.XYZ_to_Oklab(xyz), atol=2e-4)


class Shapes(unittest.TestCase):
    def test_one_colour_a_row_and_a_picture_agree(self):
        picture = EVERY[:216].reshape(12, 18, 3) / 255
        for work in (spaces.decode, spaces.hsb, lambda c: spaces.oklab(spaces.decode(c))):
            whole = work(picture)
            np.testing.assert_allclose(whole.reshape(-1, 3), work(picture.reshape(-1, 3)))
            np.testing.assert_allclose(whole[3, 4], work(picture[3, 4]))

    def test_float32_stays_float32(self):
        light = (EVERY / 255).astype(np.float32)
        for work in (spaces.oklab, spaces.cielab, spaces.value):
            self.assertEqual(work(light).dtype, np.float32)


class RoundTrips(unittest.TestCase):
    def test_there_and_back(self):
        colours = EVERY / 255
        light = spaces.decode(colours)
        for name, back in {
            "encoded": spaces.encode(light),
            "hsb": spaces.hsb_to_encoded(spaces.hsb(colours)),
        }.items():
            with self.subTest(name):
                np.testing.assert_allclose(back, colours, atol=1e-6)
        values = np.linspace(0, 100, 41)
        lum = spaces.luminance_of_value(values)
        np.testing.assert_allclose(spaces.value(lum[:, None] * np.ones(3)), values, atol=1e-6)

    def test_black_white_and_grey(self):
        light = spaces.decode(np.array([[0, 0, 0], [1, 1, 1], [0.5, 0.5, 0.5]]))
        np.testing.assert_allclose(spaces.value(light), [0, 100, 53.389], atol=0.001)
        self.assertLess(spaces.polar(spaces.oklab(light))[:, 1].max(), spaces.NO_HUE_CHROMA)


class Hexes(unittest.TestCase):
    def test_written_and_read(self):
        for text, kept in (("#7a4fa0", "#7a4fa0"), ("7A4FA0", "#7a4fa0"), (" #abc ", "#aabbcc")):
            self.assertEqual(spaces.to_hex(spaces.parse_hex(text)), kept)

    def test_anything_else_is_refused_in_one_line(self):
        for text in ("", "#12", "#12345", "red", "#gggggg", "#１２３４５６", "#1234567", "1" * 500):
            with self.subTest(text[:12]), self.assertRaisesRegex(Refusal, "six hex digits"):
                spaces.parse_hex(text)
