"""What hands do to regions' px, and which regions of a changed sketch are which."""

import unittest

import numpy as np

from bench import drawings
from tests import scenes
from umber_compass.steps.sketch import label_edits
from umber_compass.steps.sketch.joining import connected_parts
from umber_compass.steps.sketch.matching import match_regions
from umber_compass.steps.sketch.order import moved_to, next_unnamed
from umber_compass.words import Refusal


def two_squares():
    """Label 1 all round, label 2 in two squares."""
    labels = np.ones((40, 60), np.uint16)
    labels[5:15, 5:15] = labels[5:25, 30:50] = 2
    return labels


class Hands(unittest.TestCase):
    def test_merging_gives_all_px_to_the_first(self):
        labels = two_squares()
        got = label_edits.merged(labels, 1, [2])
        self.assertEqual(set(np.unique(got)), {1})
        self.assertEqual(set(np.unique(labels)), {1, 2})

    def test_parts_are_split_the_largest_keeps_the_label(self):
        labels = two_squares()
        labels[30, 10] = 2  # a speck stays with the nearest large part
        got = label_edits.split_parts(labels, 2)
        self.assertEqual(got.fresh, (3,))
        self.assertEqual((int(got.labels[10, 40]), int(got.labels[10, 10])), (2, 3))
        self.assertIn(int(got.labels[30, 10]), (2, 3))
        with self.assertRaisesRegex(Refusal, "hangs together"):
            label_edits.split_parts(labels, 1)

    def test_a_line_splits_what_it_goes_through_and_nothing_else(self):
        labels = two_squares()
        got = label_edits.split_by_line(labels, 2, [(40, 8), (40, 20)])
        self.assertEqual(len(got.fresh), 1)
        sides = int(got.labels[10, 33]), int(got.labels[10, 47])
        self.assertEqual(set(sides), {2, got.fresh[0]})
        beside = [int(got.labels[10, x]) for x in (31, 38, 42, 48)]  # the cut is where it was drawn
        self.assertEqual(beside, [sides[0], sides[0], sides[1], sides[1]])
        across = label_edits.split_by_line(labels, 2, [(33, 14), (47, 14)]).labels
        self.assertEqual(int(across[6, 40]), int(across[12, 40]))
        self.assertEqual(int(across[17, 40]), int(across[23, 40]))
        self.assertNotEqual(int(across[12, 40]), int(across[17, 40]))
        self.assertEqual(int(got.labels[10, 10]), 2)
        self.assertTrue((got.labels[labels == 1] == 1).all())
        self.assertTrue((got.labels[labels == 2] != 1).all())
        for line in ([(33, 8), (33, 9)], [(10, 30), (20, 35)]):
            with self.assertRaises(Refusal):
                label_edits.split_by_line(labels, 2, line)

    def test_specks_go_to_the_neighbour_they_touch_most(self):
        labels = two_squares()
        labels[10, 40] = 1  # inside the large square
        labels[2, 55] = 3  # a region that is nothing but a speck stays
        got, count = label_edits.without_specks(labels)
        self.assertEqual((count, int(got[10, 40]), int(got[2, 55])), (1, 2, 3))
        self.assertEqual(label_edits.without_specks(labels, [2])[1], 0)
        edge = np.ones((20, 20), np.uint16)
        edge[:, 10:] = 2
        edge[8:11, 10:14] = 3  # beside the first on one side, in the second on three
        edge[0:10, 0:5] = 3
        got, count = label_edits.without_specks(edge)
        self.assertEqual((count, int(got[9, 12])), (1, 2))

    def test_a_part_is_given_away(self):
        labels = two_squares()
        got = label_edits.reassigned(labels, (10, 10), 1)
        self.assertEqual((int(got[10, 10]), int(got[10, 40])), (1, 2))
        for place, to in (((3, 30), 1), ((900, 3), 1), ((10, 10), 2)):
            with self.assertRaises(Refusal):
                label_edits.reassigned(labels, place, to)
        with self.assertRaisesRegex(Refusal, "all of its region"):
            label_edits.reassigned(labels, (3, 30), 2)

    def test_parts_that_hang_together(self):
        grid = np.array([[1, 1, 2], [2, 1, 2], [1, 2, 1], [1, 1, 1]])
        part, count = connected_parts(grid)
        self.assertEqual(count, 5)
        self.assertEqual(part[2, 0], part[2, 2])
        self.assertNotEqual(part[0, 0], part[2, 0])

    def test_the_sides_of_a_gap(self):
        labels = np.ones((40, 40), np.uint16)
        labels[:, 20:] = 2
        self.assertEqual(label_edits.sides_of(labels, (20, 10), (20, 22)), {1, 2})
        self.assertEqual(label_edits.label_between(labels, (4, 4), (6, 6)), 1)


class Standing(unittest.TestCase):
    def setUp(self):
        roles = ("ground", "ground", "figure", "figure")
        self.regions = [scenes.region(i + 1, r) for i, r in enumerate(roles)]

    def test_names_are_put_before_another_or_in_front_of_their_role(self):
        self.assertEqual(moved_to(self.regions, ["r4"], "figure", "r3"), ["r1", "r2", "r4", "r3"])
        self.assertEqual(moved_to(self.regions, ["r1"], "ground", ""), ["r2", "r1", "r3", "r4"])
        self.assertEqual(moved_to(self.regions, ["r1"], "focus", ""), ["r2", "r3", "r4", "r1"])

    def test_the_next_region_without_a_name(self):
        named = [*self.regions[:2], scenes.region(3, "figure", named=True), self.regions[3]]
        order = [r.id for r in named]
        self.assertEqual(next_unnamed(named, order, "r2"), "r4")
        self.assertEqual(next_unnamed(named, order, "r4"), "r1")
        self.assertEqual(next_unnamed(named[2:3], order, ""), "")


class Matching(unittest.TestCase):
    def setUp(self):
        scene = drawings.parts(drawings.scene(5, (400, 300), 14), 60)
        self.old = np.where(scene == 0, 1, scene).astype(np.uint16)
        self.count = int(self.old.max())
        rng = np.random.default_rng(2)
        self.colours = rng.integers(20, 235, (self.count, 3)).astype(np.uint8)
        self.order = rng.permutation(self.count) + 1  # the new numbers

    def changed(self, labels, colours=None):
        """The new sketch with its regions numbered otherwise, matched to the old."""
        number = np.concatenate([[0], self.order, np.arange(self.count + 1, self.count + 5)])
        new = number.astype(np.uint16)[labels]
        own = self.colours if colours is None else colours
        table = np.zeros((int(new.max()), 3), np.uint8)
        for old in np.unique(labels):
            if old:
                table[number[old] - 1] = own[old - 1]
        return match_regions(self.old, self.colours, new, table)

    def right(self, match):
        return sum(self.order[p.old - 1] == p.new for p in match.pairs)

    def test_the_same_sketch_is_matched_whole(self):
        match = self.changed(self.old)
        self.assertEqual((self.right(match), match.gone, match.fresh), (self.count, (), ()))
        self.assertFalse(any(p.doubtful or p.recoloured for p in match.pairs))

    def test_a_shift_and_another_size_change_nothing(self):
        for labels in (np.roll(self.old, (60, -110), (0, 1)), self.old[::2, ::2]):
            self.assertGreaterEqual(self.right(self.changed(labels)), 0.8 * self.count)

    def test_another_colour_is_said_and_not_doubted(self):
        colours = self.colours.copy()
        colours[3] = 255 - colours[3]
        match = self.changed(self.old, colours)
        self.assertEqual([p.old for p in match.pairs if p.recoloured], [4])
        self.assertEqual(self.right(match), self.count)

    def test_what_is_new_and_what_is_gone_is_told(self):
        labels = self.old.copy()
        labels[labels == self.count] = 1
        labels[40:90, 300:360] = self.count + 1
        colours = np.vstack([self.colours, [[250, 5, 250]]])
        match = self.changed(labels, colours)
        self.assertIn(self.count, match.gone)
        self.assertIn(self.count + 1, match.fresh)
