"""A flats picture becomes regions, and gives itself back."""

import unittest
from unittest import mock

import numpy as np
from PIL import Image, ImageFilter

from tests import generated, scenes
from umber_compass.colour.packed import pack
from umber_compass.steps.sketch.flats.lossy import is_restless
from umber_compass.steps.sketch.kinds import flats
from umber_compass.words import Refusal


class Flats(unittest.TestCase):
    def test_regions_are_the_colours_largest_first(self):
        found = scenes.split(scenes.draw())
        order = [0, 1, 3, 2, 4]
        np.testing.assert_array_equal(np.sort(found.colours, 0), np.sort(scenes.FLATS[order], 0))
        areas = np.bincount(found.labels.reshape(-1))[1:]
        self.assertEqual(sorted(areas, reverse=True), list(areas))
        self.assertEqual(found.labels.min(), 1)

    def test_pixels_go_to_the_colour_they_hold_most_of(self):
        found = scenes.split(scenes.draw())
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
            found = scenes.split(np.array(Image.open(data)))
            self.assertEqual(len(found.colours), 5)

    def test_a_thin_line_is_a_region(self):
        shapes = (*scenes.BOAT, ("rectangle", (20, 10, 21, 90), "#101010"))
        found = scenes.split(scenes.draw(shapes, smooth=1))
        self.assertEqual(len(found.colours), 6)

    def test_every_colour_of_three_px_counts_where_nothing_is_smoothed(self):
        for px, count in ((2, 5), (3, 6)):
            rgb = scenes.draw(smooth=1)
            rgb[120, 20 : 20 + px] = (16, 16, 16)
            self.assertEqual(len(scenes.split(rgb).colours), count, px)

    def test_an_upscaled_blurred_border_makes_no_region(self):
        soft = np.array(Image.fromarray(scenes.draw()).resize((600, 400), Image.Resampling.BICUBIC))
        self.assertEqual(len(scenes.split(soft).colours), 5)

    def test_sharply_resized_flats_leave_no_specks_and_keep_their_colours(self):
        from scipy.ndimage import label

        large = Image.fromarray(scenes.draw(size=(240, 160), smooth=1)).resize((960, 640), 0)
        for how in (Image.Resampling.LANCZOS, Image.Resampling.BICUBIC):
            small = np.asarray(large.resize((400, 267), how))
            found = scenes.split(small)
            self.assertEqual(len(found.colours), 5)
            for colour in found.colours.astype(int):
                self.assertLessEqual(np.abs(scenes.FLATS - colour).max(axis=1).min(), 2)
            parts = [label(found.labels == i + 1)[1] for i in range(5)]
            self.assertLessEqual(max(parts), 3)

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
                scenes.split(rgb)

    def test_one_pixel_one_colour_and_clear_parts(self):
        one = np.full((1, 1, 3), 90, np.uint8)
        self.assertEqual(scenes.split(one).labels.tolist(), [[1]])
        self.assertEqual(len(scenes.split(np.full((40, 8, 3), 9, np.uint8)).colours), 1)
        clear = np.zeros((160, 240), bool)
        clear[:30] = True
        found = scenes.split(scenes.draw(), clear)
        self.assertTrue((found.labels[:30] == 0).all() and (found.labels[30:] > 0).all())

    def test_a_large_picture_stored_with_loss_is_read_on_a_copy_and_labelled_at_its_own_size(self):
        index, colours = generated.scene(4, 6)
        truth, inside = generated.inner(index, 2)
        stored = generated.jpeg(generated.shrunk(index, colours), 90)
        clear = np.zeros(stored.shape[:2], bool)
        clear[:, :24] = True
        with mock.patch.object(flats, "_MOST_LOSSY_PX", stored[..., 0].size // 9):
            found = scenes.split(stored, clear)
        self.assertEqual(found.labels.shape, stored.shape[:2])
        self.assertTrue((found.labels[:, :24] == 0).all())
        named = np.concatenate([[[0, 0, 0]], found.colours]).astype(int)[found.labels]
        off = np.abs(named - colours[truth].astype(int)).max(axis=2)
        at = inside & ~clear
        self.assertGreater((off[at] <= 4).mean(), 0.995)
        edge = ~inside & ~clear  # each px there is of a colour that it is nearer to than to most
        apart = np.abs(named - stored.astype(int)).max(axis=2)
        self.assertLess(np.median(apart[edge]), 40)

    def test_nothing_painted_is_no_sketch(self):
        with self.assertRaisesRegex(Refusal, "nothing is painted"):
            scenes.split(scenes.draw(), np.ones((160, 240), bool))


class Generated(unittest.TestCase):
    """Pictures whose truth is known: every colour found, none invented, and the flat picture of
    the plan gives the sketch back."""

    def made(self, seed, count=24):
        index, colours = generated.scene(seed, count)
        return index, colours, generated.shrunk(index, colours)

    def hold(self, rgb, index, colours, margin, invented=0):
        found = scenes.split(rgb)
        truth, inside = generated.inner(index, margin)
        if truth.shape != rgb.shape[:2]:
            h, w = rgb.shape[:2]
            rows = ((np.arange(h) + 0.5) * truth.shape[0] / h).astype(int)[:, None]
            columns = ((np.arange(w) + 0.5) * truth.shape[1] / w).astype(int)
            truth, inside = truth[rows, columns], inside[rows, columns]
        near = np.abs(found.colours.astype(int)[:, None] - colours.astype(int)).max(2)
        self.assertLessEqual((near.min(1) > 4).sum(), invented)
        right = near.argmin(1)[found.labels[inside].astype(int) - 1] == truth[inside]
        self.assertGreaterEqual(right.mean(), 0.9999)
        return found

    def comes_back(self, rgb, found, share):
        again = scenes.shown_again(rgb, found)
        off = np.abs(again.astype(int) - rgb.astype(int)).max(2)
        self.assertGreaterEqual((off <= 8).mean(), share)

    def test_clean_pictures(self):
        for seed in range(4):
            index, colours, rgb = self.made(seed, (6, 24)[seed % 2])
            with self.subTest(seed):
                found = self.hold(rgb, index, colours, 1, invented=1)
                self.comes_back(rgb, found, 0.9995)

    def test_shrunk_and_enlarged_with_a_filter_that_rings(self):
        for seed in range(3):
            index, colours, rgb = self.made(seed, 12)
            for scale in (0.6, 1.6):
                with self.subTest(seed=seed, scale=scale):
                    other = generated.resized(rgb, scale)
                    found = self.hold(other, index, colours, 4, invented=1)
                    self.comes_back(other, found, 0.995)

    def test_a_lone_px_that_lies_between_its_two_sides_is_theirs(self):
        """Though some other region has just that colour."""
        rgb = scenes.draw()
        a, b = rgb[30, 20].astype(int), rgb[130, 20].astype(int)
        rgb[:, 20:24], rgb[:, 24:28] = a, b
        rgb[120:140, 200:220] = between = np.uint8((a + b) // 2)
        rgb[60, 24] = between
        found = scenes.split(rgb)
        self.assertNotEqual(found.labels[60, 24], found.labels[130, 210])

    def test_blurred_borders_come_back(self):
        for seed in range(2):
            _, _, rgb = self.made(seed, 12)
            soft = np.asarray(Image.fromarray(rgb).filter(ImageFilter.GaussianBlur(1.6)))
            self.comes_back(soft, scenes.split(soft), 0.99)

    def test_what_is_calm_nowhere_is_told_by_a_few_squares(self):
        rng = np.random.default_rng(1)
        self.assertTrue(is_restless(pack(rng.integers(0, 256, (300, 400, 3)).astype(np.uint8))))
        _, _, rgb = self.made(1)
        self.assertFalse(is_restless(pack(generated.jpeg(rgb, 70))))

    def test_ink_over_flats(self):
        for seed in range(4):
            index, colours, _ = self.made(seed, 12)
            index, colours = generated.inked(index), np.vstack([colours, [generated.INK]])
            rgb = generated.shrunk(index, np.uint8(colours))
            with self.subTest(seed):
                self.comes_back(rgb, self.hold(rgb, index, colours, 1, invented=1), 0.999)

    def test_noise_and_storage_with_loss(self):
        for seed in range(3):
            index, colours, rgb = self.made(seed, 12)
            noise = np.random.default_rng(seed).integers(-1, 2, rgb.shape)
            noisy = np.clip(rgb + noise, 0, 255).astype(np.uint8)
            self.hold(noisy, index, colours, 2)
            for quality in (95, 85, 70):
                with self.subTest(seed=seed, quality=quality):
                    self.hold(generated.jpeg(rgb, quality), index, colours, 6, invented=2)

    def test_two_colours_a_few_levels_apart_stay_two(self):
        rgb = np.full((160, 240, 3), (120, 110, 100), np.uint8)
        rgb[:, 120:] = (124, 114, 103)
        for other in (rgb, generated.resized(np.repeat(np.repeat(rgb, 2, 0), 2, 1), 0.5)):
            self.assertEqual(len(scenes.split(other).colours), 2)
