"""The flat picture as codes: borders, gradients, what touches what."""

import unittest
from unittest import mock

import numpy as np

from tests import scenes
from umber_compass.colour.packed import pack, unpack
from umber_compass.picture import adjacency, borders, drawing, indexed, layout, mixes
from umber_compass.plan.model import Gradient

AXIS = (0.25, 0.0, 0.75, 0.0)


NO_BLENDS = mixes.Blends(
    np.zeros(0, np.intp), np.zeros((0, 3), np.intp), np.zeros((0, 3), np.float32)
)


def boat():
    """The boat's drawing."""
    return drawing.draw(pack(scenes.draw()), scenes.split(scenes.draw()).labels)


def halves(width=20, height=4):
    labels = np.ones((height, width), np.uint16)
    labels[:, width // 2 :] = 2
    return labels


class Painting(unittest.TestCase):
    def setUp(self):
        self.drawing = boat()
        self.indexed = indexed.index_drawing(self.drawing, {})
        self.table = drawing.main_levels(pack(scenes.draw()), self.drawing.labels).astype(np.uint8)

    def test_the_sketch_comes_back_smooth_borders_included(self):
        off = np.abs(unpack(indexed.paint(self.indexed, self.table)).astype(int) - scenes.draw())
        self.assertGreater((off.max(axis=2) == 0).mean(), 0.97)
        self.assertLessEqual(np.percentile(off, 99.9), 4)

    def test_quick_mixing_is_exact_mixing_rounded(self):
        rng = np.random.default_rng(2)
        top, under = rng.integers(0, 256, (2, 500, 3)).astype(np.uint8)
        cover = rng.random(500).astype(np.float32)
        parts = indexed.parts_of(cover)
        self.assertLessEqual(np.abs(parts / 256 - cover).max(), 0.5 / 256 + 1e-6)
        mixed = unpack(indexed.mixed_quickly(pack(top), pack(under), parts))
        exact = under + (top.astype(float) - under) * (parts / 256)[:, None]
        self.assertLessEqual(np.abs(mixed - exact).max(), 0.51)

    def test_shares_and_holding(self):
        regions = [scenes.region(i, "figure") for i in range(1, 7)]
        shares = indexed.region_shares(self.indexed, regions)
        self.assertAlmostEqual(sum(shares.values()), 1)
        self.assertEqual(shares["r6"], 0)
        self.assertEqual([self.indexed.holds(i) for i in (1, 6)], [True, False])
        areas = np.bincount(self.drawing.labels.reshape(-1), minlength=7)
        np.testing.assert_array_equal(self.indexed.areas(6), areas)


class Gradients(unittest.TestCase):
    def test_axes_are_those_of_the_regions_that_are_gradients(self):
        gradient = Gradient(first=scenes.planned(), second=scenes.planned(), axis=AXIS)
        regions = [scenes.region(3, "figure"), scenes.region(7, "figure")]
        axes = indexed.gradient_axes(regions, {"r3": scenes.planned(), "r7": gradient})
        self.assertEqual(axes, {7: AXIS})

    def test_a_step_lies_where_the_middle_of_its_px_lies(self):
        """Four px along an axis of the whole width: their middles at 1/8, 3/8, 5/8, 7/8."""
        place = np.arange(4)
        steps = indexed.steps_along((0, 0, 1, 0), (1, 4), place, steps=801)
        np.testing.assert_array_equal(steps, [100, 300, 500, 700])
        down = indexed.steps_along((0, 0, 0, 1), (4, 1), place, steps=801)
        np.testing.assert_array_equal(down, [100, 300, 500, 700])

    def test_it_is_one_colour_beyond_its_ends_and_climbs_between(self):
        labels = np.ones((2, 40), np.uint16)
        made = indexed.index_drawing(drawing.Drawing(labels, none(), {}), {1: AXIS})
        code = np.repeat(made.run_code, made.run_length).reshape(2, 40)[0] - made.spans[1][0]
        np.testing.assert_array_equal(code[:10], 0)
        np.testing.assert_array_equal(code[30:], indexed.GRADIENT_STEPS - 1)
        self.assertTrue((np.diff(code[10:30]) > 0).all())
        self.assertEqual(made.size, 1 + indexed.GRADIENT_STEPS)
        self.assertEqual(code[20] + code[19], indexed.GRADIENT_STEPS - 1)

    def test_the_other_side_of_a_border_has_the_step_of_its_own_place(self):
        labels = halves(40)
        mixed = borders.Borders(
            np.array([19, 59]),
            np.uint16([1, 1]),
            np.uint16([2, 2]),
            np.float32([0.75, 0.75]),
            NO_BLENDS,
        )
        made = indexed.index_drawing(drawing.Drawing(labels, mixed, {}), {2: (0, 0, 1, 0)})
        np.testing.assert_array_equal(made.own, made.spans[1][0])
        step = indexed.steps_along((0, 0, 1, 0), (4, 40), np.array([19]))[0]
        np.testing.assert_array_equal(made.other, made.spans[2][0] + step)


def none():
    """No border pixels."""
    return borders.Borders(
        np.zeros(0, np.intp),
        np.zeros(0, np.uint16),
        np.zeros(0, np.uint16),
        np.zeros(0, np.float32),
        NO_BLENDS,
    )


class Adjacency(unittest.TestCase):
    def test_borders_are_counted_by_pairs_of_labels(self):
        made = indexed.index_drawing(drawing.Drawing(halves(), none(), {}), {})
        np.testing.assert_array_equal(made.adjacency.pair_labels, [[1, 2]])
        np.testing.assert_array_equal(made.adjacency.pair_px, [4])
        np.testing.assert_array_equal(made.adjacency.touching, [[1, 2]])
        np.testing.assert_array_equal(made.adjacency.pixels, [0, 40, 40])
        upright = indexed.index_drawing(drawing.Drawing(halves().T.copy(), none(), {}), {})
        np.testing.assert_array_equal(upright.adjacency.pair_px, [4])

    def test_what_touches_is_looked_at_inside_each_region(self):
        """With a code of its own for each column, columns 9 and 10 meet; 4 px inward 5 and 14."""
        code = np.tile(np.arange(20), (4, 1))
        label_of = np.repeat([1, 2], 10)
        for inward, pair in ((0, [9, 10]), (4, [5, 14]), (14, [0, 19])):
            made = adjacency.adjacency_of(code, halves(), label_of, inward)
            np.testing.assert_array_equal(made.touching, [pair], str(inward))
            np.testing.assert_array_equal(made.touch_px, [4])
            np.testing.assert_array_equal(made.pair, [0])

    def test_arrays_are_read_only(self):
        made = indexed.index_drawing(drawing.Drawing(halves(), none(), {}), {})
        self.assertFalse(any(a.flags.writeable for a in made.adjacency))


class Borders(unittest.TestCase):
    def test_a_mixed_px_is_said_as_its_two_colours_and_their_shares(self):
        colours = np.array([[0, 0, 0], [200, 40, 40], [20, 60, 220], [90, 200, 90]], np.float32)
        for first, second, share in ((1, 2, 0.7), (2, 3, 0.6), (3, 1, 0.9), (1, 3, 1.1)):
            px = colours[first] * share + colours[second] * (1 - share)
            labels = np.uint16([[first, 0, second], [0, 0, 0], [0, 0, 3]])
            shown = np.full((3, 3), pack(np.uint8(np.round(np.clip(px, 0, 255))))[0])
            found = mixes.explain(shown, mixes.framed(labels), np.array([1]), colours)
            self.assertEqual((int(found.own[0]), int(found.other[0])), (first, second))
            self.assertAlmostEqual(float(found.cover[0]), share, delta=0.02)
            self.assertLess(float(found.residual[0]), 1.5)

    def test_what_lies_around_is_the_first_label_in_each_direction(self):
        pure = np.zeros((11, 11), np.uint16)
        pure[5, 8], pure[5, 2], pure[1, 5], pure[9, 9], pure[5, 10] = 7, 8, 9, 6, 5
        near = mixes.around(mixes.framed(pure), np.array([5 * 11 + 5]))
        np.testing.assert_array_equal(near, [[7, 8, 0, 9, 6, 0, 0, 0]])
        np.testing.assert_array_equal(mixes.few(near), [[7, 8, 9, 6]])

    def test_px_of_three_colours_and_of_ink_are_blends(self):
        colours = np.float32([[0, 0, 0], [220, 40, 40], [20, 60, 220], [90, 220, 90], [9, 9, 9]])
        labels = np.uint16([[1] * 9] * 4 + [[2] * 4 + [3] * 5] * 5)
        labels[8, :] = 4  # a thin line of ink, far from where it is mixed in
        shown = pack(np.uint8(colours[labels]))
        wanted = {
            (4, 4): {1: 0.3, 2: 0.3, 3: 0.4},
            (1, 4): {1: 0.4, 4: 0.6},
            (3, 7): {1: 1.1, 3: -0.1},
        }
        for (y, x), shares in wanted.items():
            mixed = sum(colours[k] * v for k, v in shares.items())
            shown[y, x] = pack(np.uint8(np.clip(np.round(mixed), 0, 255))[None])[0]
        with mock.patch("umber_compass.picture.borders.thin_labels", return_value=[4]):
            rest = borders.find(shown, labels, colours).rest
        for place, of, share in zip(rest.place, rest.of, rest.share, strict=True):
            held = {}
            for label, part in zip(of.tolist(), share.tolist(), strict=True):
                held[label] = held.get(label, 0) + part
            for label, part in wanted[tuple(divmod(int(place), 9))].items():
                self.assertAlmostEqual(held[label], part, delta=0.05)
        self.assertEqual(len(rest.place), 3)

    def test_the_shares_of_a_drawing_lie_on_the_side_of_their_label(self):
        made = boat()
        own = made.labels.reshape(-1)[made.borders.place]
        np.testing.assert_array_equal(own, made.borders.own)
        self.assertTrue((made.borders.own != made.borders.other).all())
        self.assertGreaterEqual(float(made.borders.cover.min()), 0.49)

    def test_tolerance_widens_for_what_was_stored_with_loss(self):
        self.assertEqual(borders.tolerance(np.uint8([0, 1, 2, 9])), 2)
        self.assertEqual(borders.tolerance(np.uint8([0, 2, 5, 9])), 12)

    def test_boxes_and_main_levels(self):
        made = boat()
        self.assertEqual(made.box[2], (0, 100, 240, 60))
        levels = drawing.main_levels(pack(scenes.draw()), made.labels)
        self.assertEqual({tuple(c) for c in levels[1:]}, {tuple(c) for c in scenes.FLATS})


class Layout(unittest.TestCase):
    def test_numbers_and_places_are_each_others_way_back(self):
        rng = np.random.default_rng(4)
        labels = rng.integers(0, 3, 300)
        sizes = {"step": np.array([1, 4, 1]), "facing": np.array([1, 9, 1]), "open": np.full(3, 5)}
        dimensions, wanted = [], {}
        for name, size in sizes.items():
            standing = rng.integers(0, 1000, 300) % size[labels]
            wanted[name] = standing
            place = np.flatnonzero(size[labels] > 1) if name == "step" else None
            kept = standing if place is None else standing[place]
            dimensions.append(layout.Dimension(name, size, place, kept))
        room = layout.lay_out(dimensions)
        self.assertEqual(room.first.tolist(), [0, 5, 185, 190])
        wide = layout.numbers(labels, dimensions, room)
        label, standing = layout.places(wide, room)
        np.testing.assert_array_equal(label, labels)
        for name in sizes:
            np.testing.assert_array_equal(standing[name], wanted[name])
