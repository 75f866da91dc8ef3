"""Drawings as many hands make them come in as what they are; roles, twins, and what is drawn by
hand."""

import unittest

import numpy as np
from PIL import Image, ImageDraw

from bench.casts import portrait, scene, thing
from bench.hands import SORTS, score
from tests import scenes
from umber_compass.colour.measured import measure
from umber_compass.colour.packed import CLEAR, pack
from umber_compass.document.splitting import split_picture
from umber_compass.formats.picture import Picture
from umber_compass.picture.drawing import boxes
from umber_compass.steps.sketch import alike, drawing_edits
from umber_compass.steps.sketch.flats.uniting import united
from umber_compass.steps.sketch.kinds import KINDS, grey, guess_kind, lines, painting
from umber_compass.steps.sketch.kinds.calm import calm_of, is_grey
from umber_compass.steps.sketch.lines.paper import cleaned, drawn_dark, paper_of
from umber_compass.steps.sketch.roles import guess_roles
from umber_compass.words import Refusal
from umber_compass.work import idle


def ball(tint=(190, 70, 60), size=(360, 270)):
    """A shaded ball on a textured ground with its shadow, (h, w, 3)."""
    rng, (w, h) = np.random.default_rng(3), size
    y, x = np.indices((h, w)).astype(float)
    u, v = (x - w / 2) / (h * 0.3), (y - h * 0.46) / (h * 0.3)
    z = np.sqrt(np.maximum(1 - u * u - v * v, 0))
    light = 0.25 + 0.75 * np.clip(-0.5 * u - 0.6 * v + 0.62 * z, 0, 1)
    ground = (y > h * 0.62)[..., None]
    rgb = np.where(ground, np.mean(tint) * np.array([0.9, 0.8, 0.6]), np.mean(tint) + 60)
    rgb = rgb * np.where(ground, 1 + 0.06 * rng.standard_normal((h, w, 1)), 1)
    rgb = np.where((u * u + v * v < 1)[..., None], np.array(tint) * light[..., None], rgb)
    return np.clip(rgb + rng.normal(0, 1.5, (h, w, 1)), 0, 255).astype(np.uint8)


class Guessing(unittest.TestCase):
    def test_each_sort_comes_in_as_what_it_is_and_whole(self):
        sorts = ("brush line", "photograph", "chalk", "white on clear", "hatched", "oil", "sepia",
                 "gradient sky", "brushed flats, 5", "flats, grain")  # fmt: skip
        for name in sorts:
            drawn = SORTS[name](31)
            found = split_picture(Picture(drawn.packed, b""), name)
            got = score(found.split.labels, drawn.truth)
            with self.subTest(name):
                self.assertIn(found.kind, drawn.kinds)
                self.assertLessEqual(got.found, 3 * got.true + 8)
                self.assertLessEqual(got.lost, 0.25 * got.true)

    def test_a_softly_shaded_grey_is_read_by_surface_and_a_thumbnail_by_tone(self):
        head = np.repeat(ball((150, 150, 150)).mean(axis=2, keepdims=True), 3, axis=2)
        guess = guess_kind(pack(head.astype(np.uint8)))
        self.assertEqual((guess.kind, dict(guess.told)), ("grey", {"surfaces": 1.0}))
        self.assertEqual(dict(guess_kind(SORTS["grey"](1).packed).told), {})

    def test_flats_that_were_enlarged_softly_are_flats(self):
        large = Image.fromarray(scenes.draw()).resize((2640, 1760), Image.Resampling.BICUBIC)
        self.assertEqual(guess_kind(pack(np.asarray(large))).kind, "flats")

    def test_drift_and_tint_are_seen(self):
        flat = np.full((200, 200, 3), 120, np.uint8)
        self.assertGreater(calm_of(pack(flat)).still, 0.99)
        drift = flat + np.arange(200, dtype=np.uint8)[None, :, None] // 48
        self.assertLess(calm_of(pack(drift)).still, 0.8)
        warm = (flat * np.array([1, 0.9, 0.8])).astype(np.uint8)
        self.assertTrue(is_grey(pack(warm)))
        warm[:, 100:] = (40, 90, 160)
        self.assertFalse(is_grey(pack(warm)))


class Paper(unittest.TestCase):
    def test_an_uneven_light_is_found_and_taken_away(self):
        x = np.indices((240, 320))[1]
        light = 230 - 0.35 * x
        grey_ = np.where(np.abs(x - 160) < 3, light * 0.2, light).astype(np.uint8)
        grey_[150:, 230:] = 30  # a solid black is no paper
        paper = paper_of(grey_)
        np.testing.assert_allclose(paper[:, 20:300:40], light[:, 20:300:40], rtol=0.06)
        clean = cleaned(pack(np.repeat(grey_[..., None], 3, axis=2)))
        self.assertEqual({int(clean[120, 20]), int(clean[120, 300])}, {0xFFFFFF})
        self.assertEqual(int(clean[200, 300]), 0)
        self.assertEqual(int(clean[120, 160]), 0)

    def test_light_lines_are_turned_round(self):
        dark = np.full((100, 120, 3), 30, np.uint8)
        dark[50:53] = 240
        self.assertGreater(drawn_dark(pack(dark))[10, 10], 200)
        packed = np.full((100, 120), CLEAR, np.uint32)
        packed[50:53] = 0xF0F0F0
        self.assertLess(drawn_dark(packed)[51, 60], 60)


class Surfaces(unittest.TestCase):
    def test_a_shaded_ball_and_a_textured_ground_are_one_region_each(self):
        for rgb, kind in ((ball(), painting), (ball((150, 150, 150)), grey)):
            split = kind.split(pack(rgb), "x", {"surfaces": 1.0}, idle)
            self.assertLessEqual(len(split.colours), 6)
            ball_px = split.labels[90:160, 145:215]
            self.assertGreater((ball_px == ball_px[35, 35]).mean(), 0.95)
        one = KINDS["painting"].split(pack(ball()), "x", {"regions": 1.0}, idle)
        self.assertEqual((len(one.colours), one.shaded), (1, True))

    def test_tones_that_interleave_are_joined_and_close_areas_are_not(self):
        rng = np.random.default_rng(0)
        labels = rng.integers(1, 6, (60, 60)).astype(np.uint16)
        labels[:, 30:] = 6
        colours = np.array([[90 + 4 * i] * 3 for i in range(5)] + [[30, 60, 90]], np.uint8)
        self.assertEqual(len(np.unique(united(labels, colours, 1).labels)), 2)
        areas = np.repeat(np.arange(1, 7), 10)[None].repeat(60, axis=0).astype(np.uint16)
        self.assertEqual(united(areas, colours, 1).joined, 0)

    def test_hatching_is_one_tone_unless_it_is_told_otherwise(self):
        image = Image.new("L", (320, 240), 255)
        pen = ImageDraw.Draw(image)
        pen.rectangle((60, 40, 260, 200), outline=0, width=3)
        for x in range(70, 260, 10):
            pen.line((x, 40, x, 200), fill=0, width=2)
        packed = pack(np.repeat(np.asarray(image)[..., None], 3, axis=2))
        whole = lines.split(packed, "x", {"hatching": 1.0}, idle)
        each = lines.split(packed, "x", {"hatching": 0.0}, idle)
        self.assertEqual(len(whole.colours), 3)
        self.assertGreater(len(each.colours), 15)


class Roles(unittest.TestCase):
    def test_casts_get_the_roles_an_artist_would_agree_to(self):
        right = many = 0
        for make in (portrait, scene, thing):
            for seed in range(300, 306):
                cast = make(seed)
                found = guess_roles(cast.labels, cast.colours)
                right += sum(r in told for r, told in zip(found, cast.roles, strict=True))
                many += len(found)
        self.assertGreaterEqual(right, 0.95 * many)
        for seed in (2, 5, 11):  # shoulders that the sides cut too
            cast = portrait(seed)
            found = guess_roles(cast.labels, cast.colours)
            wrong = [r for r, told in zip(found, cast.roles, strict=True) if r not in told]
            self.assertEqual(wrong, [])

    def test_ink_over_flats_is_one_line(self):
        for name in ("inked flats", "inked, reduced"):
            split = split_picture(Picture(SORTS[name](31).packed, b""), name).split
            made = [measure(c / 255) for c in split.colours]
            found = [i for i, r in enumerate(guess_roles(split.labels, made)) if r == "line"]
            self.assertEqual([tuple(split.colours[i]) for i in found], [(18, 16, 20)])


class Twins(unittest.TestCase):
    def test_mirrored_repeated_and_parted_ones_are_alike(self):
        labels = np.ones((120, 160), np.uint16)
        labels[:, 60:100] = 2  # a figure parts the ground
        labels[:, 100:] = 3
        for label, x in ((4, 65), (5, 85)):
            for row in range(10):
                a, b = (x, x + row) if label == 4 else (x + 9 - row, x + 9)
                labels[30 + row, a : b + 1] = label
        roles = ("ground", "figure", "ground", "figure", "figure")
        regions = [scenes.region(i + 1, r) for i, r in enumerate(roles)]
        shapes = alike.shapes_of(labels, boxes(labels))
        groups = alike.alike(regions, shapes, None, labels.shape)
        self.assertEqual([[r.label for r in g] for g in groups], [[1, 3], [4, 5]])
        apart = {i: np.array([0.2 * i, 0, 0]) for i in range(1, 6)}
        self.assertEqual(alike.alike(regions, shapes, apart, labels.shape), [])
        named = [scenes.region(1, "figure", name="left eye", named=True), regions[1]]
        self.assertEqual(alike.name_of_all(named), ("eyes", True))


class Drawn(unittest.TestCase):
    def setUp(self):
        self.labels = np.ones((80, 100), np.uint16)
        self.labels[70:] = 2
        self.grey = np.full((80, 100), 200, np.uint8)
        self.grey[20:50, 30:60] = 40
        self.shown = pack(np.repeat(self.grey[..., None], 3, axis=2))

    def test_an_outline_goes_along_an_edge_near_by_and_stands_elsewhere(self):
        rough = [(26, 17), (63, 16), (64, 53), (27, 54)]
        found = drawing_edits.outlined(self.labels, self.shown, rough, ())
        inside = found.labels == found.label
        self.assertEqual((found.label, self.labels.max()), (3, 2))
        self.assertLess(np.count_nonzero(inside ^ (self.grey < 100)), 130)  # rough: 390
        plain = drawing_edits.outlined(self.labels, np.full_like(self.shown, 9), rough, ())
        self.assertGreater(np.count_nonzero(plain.labels == 3), 1250)
        low = [(5, 60), (90, 60), (90, 79), (5, 79)]
        kept = drawing_edits.outlined(self.labels, self.shown, low, {2})
        self.assertFalse((kept.labels[71:] == 3).any())

    def test_a_brush_widens_and_narrows_and_says_what_it_cannot(self):
        flat = np.full_like(self.shown, 9)
        wide = drawing_edits.widened(self.labels, flat, [(20, 66), (60, 66)], 10, 2, ())
        self.assertGreater(np.count_nonzero(wide == 2), np.count_nonzero(self.labels == 2) + 200)
        less = drawing_edits.narrowed(self.labels, flat, [(20, 74), (60, 74)], 6, 2, ())
        self.assertEqual(int(less[74, 40]), 1)
        for edit, stroke in (
            (drawing_edits.widened, [(40, 76), (60, 76)]),
            (drawing_edits.narrowed, [(10, 10), (30, 10)]),
            (drawing_edits.narrowed, [(-20, 75), (120, 75)]),
        ):
            with self.assertRaises(Refusal):
                edit(self.labels, flat, stroke, 200 if stroke[0][0] < 0 else 4, 2, ())
        with self.assertRaisesRegex(Refusal, "hardly a px"):
            drawing_edits.outlined(self.labels, flat, [(5, 5), (6, 5), (6, 6)], ())


if __name__ == "__main__":
    unittest.main()
