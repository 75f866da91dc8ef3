"""A flats picture becomes regions, and gives itself back."""

import unittest

import numpy as np
from PIL import Image

from tests import scenes
from umber_compass import document
from umber_compass.colour.packed import unpack
from umber_compass.plan import edits
from umber_compass.steps.harmony import scheme as harmony
from umber_compass.steps.pipeline import Pipeline, picture
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

    def test_an_upscaled_blurred_border_makes_no_region(self):
        soft = np.array(Image.fromarray(scenes.draw()).resize((600, 400), Image.Resampling.BICUBIC))
        self.assertEqual(len(flats.split(soft, None, "x").colours), 5)

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


class FirstPlan(scenes.InFolder):
    def test_an_unchanged_plan_gives_the_picture_back(self):
        made, pipeline = self.bring_in()
        shown = unpack(picture(pipeline.derive(made.plan))).astype(int)
        off = np.abs(shown - scenes.draw()).max(axis=2)
        self.assertGreater((off == 0).mean(), 0.97)
        self.assertLessEqual(np.percentile(off, 99.9), 4)

    def test_roles_names_and_focus(self):
        made, _ = self.bring_in(focus=(197, 30))
        by_hex = {c: r for r, c in zip(made.plan.regions, self.hexes(made), strict=True)}
        self.assertEqual(by_hex[scenes.SUN].role, "focus")
        self.assertEqual(by_hex[scenes.SEA].role, "ground")
        self.assertEqual(by_hex[scenes.HULL].role, "figure")
        self.assertEqual(len({r.name for r in made.plan.regions}), 5)
        with self.assertRaisesRegex(Refusal, "focus"):
            self.bring_in(focus=(900, 30))

    def hexes(self, made):
        colours = Pipeline(made.pixels.drawings).derive(made.plan).colours
        return [colours[r.id].first.hex for r in made.plan.regions]

    def test_colours_are_said_in_the_schemes_terms(self):
        made, _ = self.bring_in()
        study = edits.study(made.plan)
        hues = harmony.slot_hues(study.scheme)
        for colour in study.colours.values():
            self.assertIn(colour.slot, hues)
        self.assertEqual(
            sorted(self.hexes(made)),
            sorted([scenes.SEA, scenes.SAND, scenes.HULL, scenes.SAIL, scenes.SUN]),
        )

    def test_a_large_sketch_is_worked_on_smaller_and_handed_off_whole(self):
        big = tuple((k, tuple(p * 10 for p in pts), c) for k, pts, c in scenes.BOAT)
        self.sketch.write_bytes(scenes.encoded(scenes.draw(big, (2400, 1600), 2)))
        made, _ = self.bring_in()
        self.assertEqual(made.pixels.drawing(made.plan.sketch).labels.shape, (1066, 1600))
        self.assertEqual(document.full_picture(made.plan, made.pixels).shape, (1600, 2400))
        held = (
            np.bincount(made.pixels.labels(made.plan.sketch).reshape(-1))
            / made.pixels.labels(made.plan.sketch).size
        )
        small = (
            np.bincount(made.pixels.drawing(made.plan.sketch).labels.reshape(-1))
            / made.pixels.drawing(made.plan.sketch).labels.size
        )
        np.testing.assert_allclose(held, small, atol=0.002)
