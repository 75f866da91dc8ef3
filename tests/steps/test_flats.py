"""A flats picture becomes regions, and gives itself back."""

import unittest

import numpy as np
from PIL import Image

from tests import scenes
from umber_compass.steps.sketch.kinds import flats
from umber_compass.words import Refusal


class Flats(unittest.TestCase):
    def test_regions_are_the_colours_largest_first(self):
        found = flats.split(scenes.draw(), None, "boat.png")
        order = [0, 1, 3, 2, 4]
        np.testing.assert_array_equal(np.sort(found.colours, 0), np.sort(scenes.FLATS[order], 0))
        areas = np.bincount(found.labels.reshape(-1))[1:]
        self.assertEqual(sorted(areas, reverse=True), list(areas))
        self.assertEqual(found.labels.min(), 1)

    def test_pixels_go_to_the_colour_they_hold_most_of(self):
        found = flats.split(scenes.draw(), None, "boat.png")
        big = tuple((k, tuple(p * 4 for p in pts), c) for k, pts, c in scenes.BOAT)
        fine = scenes.draw(big, (960, 640), 1).reshape(160, 4, 240, 4, 3)
        same = (fine[:, :, :, :, None] == found.colours).all(axis=-1).mean(axis=(1, 3))
        most = same.argmax(axis=-1) + 1
        clear = np.sort(same, axis=-1)[..., -1] > 0.55
        self.assertGreater((most == found.labels)[clear].mean(), 0.998)

    def test_lossy_flats_are_taken(self):
        import io

        for quality in (95, 85):
            data = io.BytesIO(
                scenes.encoded(
                    scenes.draw(
                        tuple((k, tuple(p * 2 for p in pts), c) for k, pts, c in scenes.BOAT),
                        (480, 320),
                    ),
                    "JPEG",
                    quality=quality,
                )
            )
            found = flats.split(np.array(Image.open(data)), None, "boat.jpg")
            self.assertEqual(len(found.colours), 5)

    def test_a_thin_line_is_a_region(self):
        shapes = (*scenes.BOAT, ("rectangle", (20, 10, 21, 90), "#101010"))
        found = flats.split(scenes.draw(shapes, smooth=1), None, "x")
        self.assertEqual(len(found.colours), 6)

    def test_a_thin_line_must_be_frequent_and_no_mix_of_what_lies_beside_it(self):
        """From 24 px, and more than 12 levels off every mix of its neighbours."""
        for length, colour, count in (
            (11, "#101010", 5),
            (12, "#101010", 6),
            (90, "#849785", 5),
            (90, "#9fb08a", 6),
        ):
            shapes = (*scenes.BOAT, ("rectangle", (20, 95, 21, 94 + length), colour))
            if length == 90:  # along the horizon, where sea and sand are its neighbours
                shapes = (*scenes.BOAT, ("rectangle", (20, 99, 199, 100), colour))
            with self.subTest(length=length, colour=colour):
                found = flats.split(scenes.draw(shapes, smooth=1), None, "x")
                self.assertEqual(len(found.colours), count)

    def test_an_upscaled_blurred_border_makes_no_region(self):
        soft = np.array(Image.fromarray(scenes.draw()).resize((600, 400), Image.Resampling.BICUBIC))
        self.assertEqual(len(flats.split(soft, None, "x").colours), 5)

    def test_sharply_resized_flats_leave_no_specks_and_keep_their_colours(self):
        from scipy.ndimage import label

        large = Image.fromarray(scenes.draw(size=(240, 160), smooth=1)).resize((960, 640), 0)
        for how in (Image.Resampling.LANCZOS, Image.Resampling.BICUBIC):
            small = np.asarray(large.resize((400, 267), how))
            found = flats.split(small, None, "x")
            self.assertEqual(len(found.colours), 5)
            for colour in found.colours.astype(int):
                self.assertLessEqual(np.abs(scenes.FLATS - colour).max(axis=1).min(), 2)
            parts = [label(found.labels == i + 1)[1] for i in range(5)]
            self.assertLessEqual(max(parts), 2)

    def test_a_photograph_is_refused_with_its_count_and_what_to_do(self):
        rng = np.random.default_rng(1)
        y, x = np.mgrid[:120, :160]
        smooth = np.stack([x, y, x + y], axis=-1) * 0.8
        noisy = np.clip(smooth + rng.normal(0, 9, smooth.shape), 0, 255).astype(np.uint8)
        for name, rgb in (
            ("noisy", noisy),
            ("gradient", smooth.astype(np.uint8)),
            ("noise", rng.integers(0, 256, (90, 90, 3)).astype(np.uint8)),
        ):
            count = len(np.unique(rgb.reshape(-1, 3), axis=0))
            with (
                self.subTest(name),
                self.assertRaisesRegex(Refusal, f"{count:,} colours found.*one flat colour"),
            ):
                flats.split(rgb, None, "photo.jpg")

    def test_one_pixel_one_colour_and_clear_parts(self):
        one = np.full((1, 1, 3), 90, np.uint8)
        self.assertEqual(flats.split(one, None, "x").labels.tolist(), [[1]])
        self.assertEqual(len(flats.split(np.full((40, 8, 3), 9, np.uint8), None, "x").colours), 1)
        clear = np.zeros((160, 240), bool)
        clear[:30] = True
        found = flats.split(scenes.draw(), clear, "x")
        self.assertTrue((found.labels[:30] == 0).all() and (found.labels[30:] > 0).all())
