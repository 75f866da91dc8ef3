"""The print proof: what a press shows, and which files are no press's profile."""

import os
import random
import tempfile
import unittest
from pathlib import Path
from unittest import mock

import numpy as np
from PIL import ImageCms

from tests import scenes
from umber_compass.colour.press import MOST_BYTES, SHIPPED, press_of, printed
from umber_compass.document.own_press import forget_press, keep_press, own_press
from umber_compass.document.seeing import about
from umber_compass.steps.pipeline import Pipeline
from umber_compass.views import VIEWS
from umber_compass.words import Refusal

COLOURS = np.array([[0, 32, 255], [255, 255, 255], [0, 0, 0], [128, 128, 128]], np.uint8)


class Press(unittest.TestCase):
    def test_offset_print_has_a_paper_a_weaker_blue_and_a_lighter_black_and_keeps_greys(self):
        blue, paper, black, grey = printed(COLOURS).astype(int)
        self.assertLess(blue[2], 170)
        self.assertTrue(230 < paper.min() <= paper.max() < 250, paper)
        self.assertTrue(15 < black.min() <= black.max() < 45, black)
        self.assertLess(np.ptp(grey), 6)

    def test_an_own_profile_is_used_and_named(self):
        own = press_of(scenes.wide_press(), "own.icc")
        self.assertEqual(own.title, "sRGB built-in")
        np.testing.assert_allclose(printed(COLOURS, own).astype(int), COLOURS, atol=1)

    def test_what_is_no_press_is_said_in_a_line(self):
        screen = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
        lab = ImageCms.ImageCmsProfile(ImageCms.createProfile("LAB")).tobytes()
        whole = SHIPPED.read_bytes()
        for data, said in (
            (screen, "a screen"), (lab, "choose that of a press"), (b"", "is no ICC profile"),
            (b"%PDF-1.7", "is no ICC profile"), (whole[:100], "is no ICC profile"),
            (whole[:40_000], "damaged"), (bytes(MOST_BYTES + 1), "larger"),
        ):  # fmt: skip
            with self.subTest(said), self.assertRaises(Refusal) as caught:
                press_of(data, "f.icc")
            self.assertIn(said, str(caught.exception))
            self.assertNotIn("\n", str(caught.exception))

    def test_damaged_profiles_are_refused_or_print_but_never_break(self):
        whole, dice, refused = SHIPPED.read_bytes(), random.Random(5), 0
        for _ in range(100):
            data = bytearray(whole[: dice.choice((len(whole), dice.randrange(len(whole))))])
            for _ in range(dice.randrange(12)):
                data[dice.randrange(min(len(data), dice.choice((128, 600, len(whole)))))] ^= 0xA5
            try:
                printed(COLOURS, press_of(bytes(data), "f.icc"))
            except Refusal:
                refused += 1
        self.assertTrue(20 < refused < 100, refused)


class OwnPress(scenes.InFolder):
    def setUp(self):
        super().setUp()
        held = mock.patch.dict(os.environ, {"XDG_DATA_HOME": tempfile.mkdtemp(dir=self.folder)})
        held.start()
        self.addCleanup(held.stop)
        self.file = self.folder / "shop.icc"
        self.file.write_bytes(scenes.wide_press())

    def test_the_chosen_press_is_what_the_view_shows_until_it_is_given_back(self):
        made, pipeline = self.bring_in()
        derived: Pipeline = pipeline.derive(made.plan)
        blue = np.full((8, 8, 3), (0, 32, 255), np.uint8)

        def seen():
            return int(VIEWS["print"].see(blue, about(derived, blue.shape))[4, 4, 2])

        offset = seen()
        keep_press(self.file)
        self.file.unlink()  # it was copied
        self.assertGreater(seen(), 250)
        forget_press()
        self.assertEqual(seen(), offset)
        self.assertIsNone(own_press())

    def test_a_refused_profile_leaves_the_one_before_and_a_damaged_one_the_shipped(self):
        keep_press(self.file)
        bad = self.folder / "bad.icc"
        bad.write_bytes(b"acsp" * 100)
        with self.assertRaises(Refusal) as caught:
            keep_press(bad)
        self.assertIn(str(bad), str(caught.exception))
        self.assertEqual(own_press().title, "sRGB built-in")
        kept = Path(os.environ["XDG_DATA_HOME"]) / "umber-compass" / "press.icc"
        kept.write_bytes(b"something else")
        self.assertIsNone(own_press())
