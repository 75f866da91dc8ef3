"""Line art, grey thumbnails, paintings and layers become regions; what is guessed, and refused."""

import unittest

import numpy as np
from PIL import Image, ImageDraw

from bench import drawings
from umber_compass.colour.packed import CLEAR, pack
from umber_compass.steps.sketch import kinds
from umber_compass.steps.sketch.kinds import grey, lines, many, painting
from umber_compass.steps.sketch.kinds.layers import split_layers
from umber_compass.steps.sketch.lines import ink, necks, paper
from umber_compass.steps.sketch.lines.tips import gap_at
from umber_compass.steps.sketch.tones.areas import without_bands
from umber_compass.steps.sketch.tones.groups import find_groups
from umber_compass.words import Refusal
from umber_compass.work import idle

SIZE = (480, 360)


def ring(start=0, end=360, size=(300, 240)):
    """An oval line on paper, open from end to start, (h, w, 3)."""
    image = Image.new("RGB", size, "white")
    ImageDraw.Draw(image).arc([60, 50, 240, 190], start, end, fill="black", width=4)
    return np.array(image)


def found(kind, rgb, **told):
    return kind.split(pack(rgb), "x", told, idle)


class Ink(unittest.TestCase):
    def test_distances_are_exact_up_to_their_cap_and_the_frame_is_ink(self):
        rng = np.random.default_rng(1)
        where = rng.random((50, 70)) < 0.004
        y, x = np.nonzero(np.pad(where, 1, constant_values=True))
        rows, columns = np.indices(where.shape)
        far = ((rows[..., None] + 1 - y) ** 2 + (columns[..., None] + 1 - x) ** 2).min(axis=2)
        np.testing.assert_array_equal(ink.distance_to(where), np.minimum(far, ink.CAPPED))

    def test_ink_is_what_is_clearly_darker_than_most(self):
        self.assertIsNone(ink.ink_of(np.full((40, 40), 240, np.uint8)))
        grey_ = paper.grey_of(pack(ring()))
        where = ink.ink_of(grey_)
        self.assertTrue(where[120, 61:64].any() and not where[120, 150])
        clear = pack(ring())
        clear[:] = CLEAR
        self.assertEqual(int(paper.grey_of(clear).min()), 255)


class Lines(unittest.TestCase):
    def test_a_closed_line_makes_two_regions_and_a_region_of_lines(self):
        split = found(lines, ring())
        self.assertEqual(len(split.colours), 3)
        roles = [r for r in split.roles if r]
        self.assertEqual((roles, split.is_planned, split.shaded), (["line"], False, False))
        inside, outside = split.labels[120, 150], split.labels[8, 8]
        self.assertEqual(len({int(inside), int(outside), int(split.labels[120, 62])}), 3)

    def test_one_small_thing_on_a_large_paper_is_a_region(self):
        image = Image.new("RGB", (600, 480), "white")
        ImageDraw.Draw(image).ellipse([280, 220, 330, 270], outline="black", width=4)
        self.assertEqual(len(found(lines, np.array(image)).colours), 3)

    def test_a_gap_is_closed_up_to_the_setting_and_noted(self):
        for start, width in ((8, 13), (4, 8)):
            rgb = ring(start, 360)
            split = found(lines, rgb)
            with self.subTest(start):
                self.assertEqual(len(split.colours), 3)
                closed = [n for n in split.necks if n.closed]
                self.assertEqual(len(closed), 1)
                one = closed[0]
                self.assertAlmostEqual(np.hypot(one.x1 - one.x0, one.y1 - one.y0), width, delta=5)
                self.assertLess(abs(one.x0 - 240) + abs(one.y0 - 125), 25)
        with self.assertRaisesRegex(Refusal, "close no area"):
            found(lines, ring(8, 360), gap=4)

    def test_a_narrow_place_where_no_line_ends_parts_nothing(self):
        image = Image.new("RGB", (360, 200), "white")
        pen = ImageDraw.Draw(image)
        # A dumbbell: two rooms joined by a passage 10 px wide, closed all round.
        pen.line(
            [30, 30, 150, 30, 150, 92, 210, 92, 210, 30, 330, 30, 330, 170, 210, 170, 210, 105,
             150, 105, 150, 170, 30, 170, 30, 30],
            fill="black", width=4,
        )  # fmt: skip
        split = found(lines, np.array(image))
        self.assertEqual(split.labels[60, 90], split.labels[60, 270])

    def test_a_line_that_ends_in_a_passage_as_narrow_as_itself_parts_nothing(self):
        image = Image.new("RGB", (300, 120), "white")
        pen = ImageDraw.Draw(image)
        pen.rectangle([20, 48, 280, 68], outline="black", width=2)
        pen.line([150, 48, 150, 52], fill="black", width=3)
        split = found(lines, np.array(image))
        self.assertEqual(split.labels[58, 60], split.labels[58, 240])

    def test_lines_can_go_to_their_neighbours_and_solid_blacks_stand_apart(self):
        self.assertEqual(len(found(lines, ring(), **{"own-lines": 0}).colours), 2)
        rgb = ring()
        rgb[80:130, 120:180] = 10
        split = found(lines, rgb)
        self.assertIn("solid black", split.names)
        self.assertNotEqual(split.labels[100, 150], split.labels[120, 62])

    def test_areas_beside_each_other_get_greys_that_differ(self):
        known = drawings.line_art(3, "clean", (640, 480), 14)
        split = found(lines, known.rgb)
        grid = split.labels[::3, ::3]
        colour = np.vstack([[[0, 0, 0]], split.colours])[..., 0]
        held = np.where(np.isin(grid, [i + 1 for i, r in enumerate(split.roles) if r]), 0, grid)
        for a, b in ((held[:, 4:], held[:, :-4]), (held[4:], held[:-4])):
            both = (a != b) & (a > 0) & (b > 0)
            self.assertLess(float((colour[a[both]] == colour[b[both]]).mean()), 0.02)

    def test_drawings_whose_areas_are_known(self):
        for way in drawings.LINE_WAYS:
            known = drawings.line_art(120, way, (800, 600), 16)
            split = found(lines, known.rgb)
            truth = np.where(split.labels > 0, known.truth, 0)
            got = drawings.score(split.labels, truth)
            with self.subTest(way):
                self.assertGreater(got.right, 0.99)
                self.assertLessEqual(got.lost, max(1, 0.05 * got.true))

    def test_what_has_no_lines_or_closes_nothing_is_refused_with_the_place(self):
        with self.assertRaisesRegex(Refusal, "no lines"):
            found(lines, np.full((60, 60, 3), 255, np.uint8))
        with self.assertRaisesRegex(Refusal, r"leaks together, as at \d+, \d+, through \d+ px"):
            found(lines, ring(20, 340, (600, 480)))

    def test_a_gap_is_measured_from_ink_to_ink(self):
        where = np.zeros((60, 60), bool)
        where[30, :24] = where[30, 36:] = True
        gap = gap_at(where, (30, 30), 20)
        self.assertEqual((gap.width, gap.is_tip), (13.0, True))
        self.assertIsNone(gap_at(where, (30, 30), 11))
        self.assertIsNone(gap_at(np.zeros((60, 60), bool), (30, 30), 20))

    def test_areas_too_small_are_none(self):
        where = np.zeros((80, 80), bool)
        where[20:28, 20] = where[20:28, 27] = where[20, 20:28] = where[27, 20:28] = True
        got = necks.find_areas(where, ink.distance_to(where), 17)
        self.assertEqual((int(got.areas.max()), int(got.areas[24, 24])), (1, 0))


class Greys(unittest.TestCase):
    def test_values_are_found_and_areas_with_them(self):
        for levels in (2, 4, 6):
            known = drawings.grey_thumbnail(130, levels, (640, 480), 12)
            split = found(grey, known.rgb)
            got = drawings.score(split.labels, known.truth)
            with self.subTest(levels):
                self.assertTrue(split.shaded)
                self.assertGreater(got.right, 0.985)
                self.assertLessEqual(got.found, 1.3 * got.true + 2)
            whole = drawings.grey_thumbnail(1, levels, (800, 600))
            small = np.ascontiguousarray(whole.rgb[..., 0])
            self.assertEqual(len(find_groups(small, None).means), levels)

    def test_the_band_of_a_soft_edge_is_given_to_both_sides(self):
        group = np.zeros((60, 80), np.uint8)
        group[:, 38:42], group[:, 42:] = 1, 2
        self.assertEqual(set(np.unique(without_bands(group))), {0, 2})
        group[:, 42:] = 0  # a stroke on one ground is no edge
        self.assertEqual(set(np.unique(without_bands(group))), {0, 1})

    def test_the_number_of_values_can_be_told(self):
        known = drawings.grey_thumbnail(131, 5, (640, 480), 12)
        few = found(grey, known.rgb, groups=2)
        self.assertLess(len(few.colours), len(found(grey, known.rgb, groups=5).colours))

    def test_one_value_is_refused(self):
        with self.assertRaisesRegex(Refusal, "one value"):
            found(grey, np.full((90, 90, 3), 120, np.uint8))


class Paintings(unittest.TestCase):
    def test_regions_are_found_and_as_many_as_told(self):
        known = drawings.painting(140, (800, 600), 10)
        many_ = int(known.truth.max())
        split = found(painting, known.rgb, regions=round(1.5 * many_))
        self.assertEqual(len(split.colours), round(1.5 * many_))
        self.assertGreater(drawings.score(split.labels, known.truth).right, 0.97)

    def test_one_colour_is_refused(self):
        with self.assertRaisesRegex(Refusal, "one colour"):
            found(painting, np.full((90, 90, 3), 120, np.uint8))


class Many(unittest.TestCase):
    def test_too_many_are_refused_with_an_offer_and_joined_when_it_is_taken(self):
        parts = np.arange(60 * 60, dtype=np.int32).reshape(60, 60)
        rgb = np.random.default_rng(0).integers(0, 255, (60, 60, 3)).astype(np.uint8)
        with self.assertRaisesRegex(Refusal, "3,600 areas.*at most"):
            many.within_bounds(parts, rgb, {}, "x")
        got = many.within_bounds(parts, rgb, {"at-most": 40}, "x")
        self.assertEqual(len(np.unique(got)), 40)

    def test_islands_that_touch_nothing_are_kept_within_the_number(self):
        parts = np.full((40, 40), -1, np.int32)
        for i in range(12):
            parts[3 * (i // 4) * 4 + 1, (i % 4) * 9 + 2] = i
        got = many.joined_to(parts, np.zeros((40, 40, 3), np.uint8), 5)
        self.assertEqual(len(np.unique(got[got >= 0])), 5)
        self.assertTrue((got[parts < 0] == -1).all())


class Layers(unittest.TestCase):
    def test_names_order_and_colours_come_from_the_layers(self):
        owner = np.zeros((20, 30), np.int32)
        owner[5:15, 5:25], owner[8:12, 8:12], owner[0, 0] = 1, 3, -1
        rgb = np.full((20, 30, 3), 200, np.uint8)
        rgb[owner == 1] = (40, 80, 120)
        split = split_layers(
            owner, ["paper", "coat", "hidden", "pin"], [None] * 4, pack(rgb), {}, "x"
        )
        self.assertEqual(split.names, ("paper", "coat", "pin"))
        self.assertEqual(split.fronts, (0, 1, 2))
        self.assertEqual(tuple(split.colours[1]), (40, 80, 120))
        self.assertEqual((int(split.labels[0, 0]), split.shaded), (0, False))
        with self.assertRaisesRegex(Refusal, "none of its layers"):
            split_layers(np.full((4, 4), -1, np.int32), ["a"], [None], pack(rgb[:4, :4]), {}, "x")


class Guessing(unittest.TestCase):
    def test_the_likeliest_kind_is_guessed(self):
        for name, rgb in (
            ("lines", drawings.line_art(7, "gaps", SIZE, 9).rgb),
            ("lines", ring(20, 340)),
            ("painting", drawings.painting(7, SIZE, 8).rgb),
        ):
            got = kinds.guess_kind(pack(rgb))
            self.assertIn(name, (got.kind, got.otherwise))
        guess = kinds.guess_kind(pack(drawings.grey_thumbnail(7, 4, SIZE, 8).rgb))
        self.assertIn("grey", (guess.kind, guess.otherwise))
        shapes = np.full((300, 400, 3), 250, np.uint8)
        shapes[60:160, 80:240] = shapes[180:260, 250:350] = 15
        self.assertNotEqual(kinds.guess_kind(pack(shapes)).kind, "lines")
        sprite = np.full((24, 20, 3), 255, np.uint8)  # a dark outline on white round two reds
        sprite[4:20, 4:16], sprite[5:19, 5:15], sprite[8:12, 7:12] = (
            30,
            (190, 60, 50),
            (230, 150, 90),
        )
        self.assertEqual(kinds.guess_kind(pack(sprite)).kind, "flats")
        self.assertNotEqual(kinds.guess_kind(pack(ring(8, 100))).kind, "flats")
        flat = np.zeros((80, 90, 3), np.uint8)
        flat[:40], flat[40:] = (200, 30, 30), (30, 60, 200)
        self.assertEqual(kinds.guess_kind(pack(flat)).kind, "flats")

    def test_every_kind_has_settings_in_their_range(self):
        for kind in kinds.KINDS.values():
            for setting in kind.settings:
                usual = setting.low if setting.usual is None else setting.usual
                self.assertTrue(setting.low <= usual <= setting.high and setting.title)
                self.assertEqual(kinds.setting_of({setting.key: 1e9}, setting), setting.high)
            self.assertEqual(kinds.known_settings(kind, {"nonsense": 3.0}), {})
