"""The stage's own px: what a grid shows of a picture."""

import unittest

import numpy as np

from tests import scenes
from tests.picture.test_kept import SHAPES
from umber_compass.colour.packed import pack, unpack
from umber_compass.picture import indexed
from umber_compass.picture.drawing import draw
from umber_compass.picture.seen import Grid, paint_gathered, see, whole


class SeenPicture(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        rgb = scenes.draw(SHAPES, (320, 240))
        cls.labels = scenes.split(rgb).labels
        cls.indexed = indexed.index_drawing(draw(pack(rgb), cls.labels), {2: (0.0, 0.0, 1.0, 1.0)})
        cls.table = (
            np.random.default_rng(5).integers(0, 256, (cls.indexed.size, 3)).astype(np.uint8)
        )
        cls.table[slice(*cls.indexed.spans[2])] = np.linspace(10, 200, 128)[:, None]
        cls.full = indexed.paint(cls.indexed, cls.table)

    def shown(self, grid):
        label_of = self.indexed.adjacency.label
        seen = see(indexed.gathered(self.indexed), self.labels, label_of, grid)
        return unpack(paint_gathered(seen, pack(self.table))).astype(int)

    def test_at_its_own_size_it_is_the_picture_and_a_part_is_cut_out_of_it(self):
        full = unpack(self.full).astype(int)
        for grid, part in (
            (whole((240, 320), 9999), full),
            (Grid(37, 20, 100, 60, 100, 60), full[20:80, 37:137]),
        ):
            self.assertLess(np.abs(self.shown(grid) - part).max(), 2, grid)

    def test_half_and_a_quarter_of_its_size_are_the_means_of_its_px(self):
        full = unpack(self.full).astype(float)
        for step in (2, 4):
            mean = full.reshape(240 // step, step, 320 // step, step, 3).mean(axis=(1, 3))
            off = np.abs(self.shown(whole((240, 320), 320 // step)) - mean).max(axis=2)
            self.assertLess(off.mean(), 0.8, step)
            self.assertLess(np.percentile(off, 98), 4 if step == 2 else 40, step)

    def test_a_px_that_stands_for_many_is_drawn_from_all_over_them_and_each_in_turn(self):
        count = np.arange(16 * 16).reshape(16, 16)
        labels = np.where(count % 16 % 4 == 3, 1, 2).astype(np.uint16)  # one column of four
        empty = np.zeros(0, np.intp), np.zeros((0, 3), np.intp), np.zeros((0, 3), np.float32)
        rest = indexed.Blends(*empty)

        def seen(code, labels, label_of, across):
            of = indexed.Gathered(
                (16, 16), code.reshape(-1), *[empty[0]] * 3, empty[0].astype(np.uint32), rest
            )
            return see(of, labels, label_of, whole((16, 16), across))

        four = seen(labels.astype(np.intp), labels, np.arange(3), 4)
        self.assertEqual((len(four.place), set(four.part.tolist())), (16, {128}))
        one = np.ones((16, 16), np.uint16)
        dithered = (count % 2 + count // 16 % 2 * 2).astype(np.intp)
        turned = seen(dithered, one, np.ones(4, np.intp), 8)
        self.assertEqual(np.bincount(turned.code).tolist(), [16] * 4)

    def test_between_two_sizes_borders_are_drawn_from_the_four_px_round_them(self):
        shown, columns = self.shown(whole((240, 320), 200)), np.arange(200)
        x = (columns + 0.5) * 1.6 - 0.5
        low, part = np.floor(x).astype(int), (x - np.floor(x))[:, None]
        row = unpack(self.full).astype(float)[:, :, :]
        y = (50 + 0.5) * 1.6 - 0.5
        two = [row[int(y)] * (1 - y % 1) + row[int(y) + 1] * (y % 1)][0]
        line = two[low] * (1 - part) + two[np.minimum(low + 1, 319)] * part
        self.assertLess(np.abs(shown[50] - line).max(), 4)

    def test_where_three_regions_meet_each_has_its_share(self):
        labels = np.uint16([[1, 1, 2, 2]] * 2 + [[1, 1, 3, 3]] * 2)
        gathered = indexed.Gathered(
            (4, 4),
            labels.astype(np.intp).reshape(-1),
            *[np.zeros(0, np.intp)] * 3,
            np.zeros(0, np.uint32),
            indexed.Blends(np.zeros(0, np.intp), np.zeros((0, 3), np.intp), np.zeros((0, 3), "f4")),
        )
        seen = see(gathered, labels, np.arange(4), Grid(1, 1, 2, 2, 1, 1))
        self.assertEqual((len(seen.place), seen.rest.of.tolist()), (0, [[1, 2, 3]]))
        np.testing.assert_allclose(seen.rest.share, [[0.5, 0.25, 0.25]])
        pair = see(gathered, labels, np.arange(4), Grid(1, 0, 2, 2, 1, 1))
        self.assertEqual((pair.own.tolist(), pair.other.tolist()), ([1], [2]))
        self.assertEqual(pair.part.tolist(), [128])
