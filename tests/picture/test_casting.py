"""Shadows that things cast: of a ball against the true one, on a wall, on one another; pieces."""

import unittest

import numpy as np

from umber_compass.picture.cards import Placed, Stage, standee_of
from umber_compass.picture.casting import DEPTH, Parts, cast
from umber_compass.picture.light import unit
from umber_compass.picture.pieces import pieces_of

HEIGHT, WIDTH, RADIUS, FOOT = 480, 640, 30, 240
Y, X = np.mgrid[:HEIGHT, :WIDTH] + 0.5
STAGE = Stage(0.0, (1,), ())


def ball(middle=WIDTH / 2, foot=FOOT):
    labels = np.ones((HEIGHT, WIDTH), np.uint16)
    labels[(X - middle) ** 2 + (Y - (foot - RADIUS)) ** 2 < RADIUS**2] = 2
    pieces = pieces_of(labels, frozenset())
    return standee_of(pieces, [int(np.flatnonzero(pieces.label == 2)[0])])


def true_shadow(to):
    """Where the ray to the lamp meets a ball that stands on the floor."""
    lamp = np.array([to[0], -to[1], to[2]])[:, None, None]
    place = np.stack([X - WIDTH / 2, np.full_like(X, -RADIUS), (Y - FOOT) / DEPTH])
    along = (place * lamp).sum(axis=0)
    return ((place * place).sum(axis=0) - along**2 < RADIUS**2) & (along < 0)


def shadows(things, to, softness=0.0, step=2, exact=False, parts=None, stage=STAGE):
    return cast(things, stage, parts, unit(to), softness, (HEIGHT, WIDTH), step, exact)


class Floor(unittest.TestCase):
    placed = Placed("floor", FOOT / HEIGHT, 0)

    def test_a_balls_shadow_lies_where_the_true_one_does(self):
        for to in ((-0.3, -0.64, 0.7), (-0.6, -0.21, 0.77), (-0.9, -0.42, 0.1), (0.4, -0.5, -0.77)):
            for step, exact in ((2, False), (1, True)):
                with self.subTest(to=to, exact=exact):
                    dark = shadows([(ball(), self.placed)], to, 0.0, step, exact).floor > 127
                    true = true_shadow(unit(to))[::step, ::step]
                    self.assertGreater((dark & true).sum() / (dark | true).sum(), 0.9)

    def test_a_softer_lamp_has_wider_edges_and_the_same_place(self):
        hard, soft = (
            shadows([(ball(), self.placed)], (-0.6, -0.4, 0.7), s, 1, True).floor
            for s in (0.0, 1.0)
        )
        between = [((p > 20) & (p < 235)).sum() for p in (hard, soft)]
        self.assertGreater(between[1], 2 * between[0])
        middles = [np.average(X, weights=p.astype(float)) for p in (hard, soft)]
        self.assertAlmostEqual(*middles, delta=8)

    def test_what_hangs_in_the_air_casts_none(self):
        found = shadows([(ball(), Placed("air", FOOT / HEIGHT, 0))], (-0.6, -0.4, 0.7))
        self.assertFalse(any(p.any() for p in found))


class Elsewhere(unittest.TestCase):
    def test_on_a_wall_it_is_moved_away_from_the_lamp_by_the_gap(self):
        found = []
        for gap in (0.02, 0.08):
            plane = shadows([(ball(), Placed("wall", 0, gap))], (-0.6, -0.4, 0.69)).wall
            at = np.argwhere(plane > 127).mean(axis=0) * 2
            found.append(at - (FOOT - RADIUS, WIDTH / 2))
        self.assertTrue((found[1] > found[0]).all() and (found[0] > 0).all(), found)
        np.testing.assert_allclose(found[1], found[0] * 4, atol=8)

    def test_a_lamp_from_behind_the_wall_throws_nothing_on_it(self):
        found = shadows([(ball(), Placed("wall", 0, 0.05))], (0.3, -0.4, -0.8))
        self.assertFalse(found.wall.any())

    def test_what_stands_before_another_shades_it(self):
        stage = Stage(0.2, (1,), ())
        near = ball(WIDTH / 2 + 40, 300), Placed("floor", 300 / HEIGHT, 0)
        far = ball(WIDTH / 2, 250), Placed("floor", 250 / HEIGHT, 0)
        with_light = shadows([near, far], (0.45, -0.3, 0.84), stage=stage).things
        away = shadows([near, far], (-0.9, -0.3, 0.3), stage=stage).things
        self.assertGreater((with_light > 127).sum(), 40)
        rows, columns = np.nonzero(with_light > 127)
        on_far = np.hypot(columns * 2 - WIDTH / 2, rows * 2 - (250 - RADIUS)) < RADIUS + 3
        self.assertGreater(on_far.mean(), 0.95)
        self.assertEqual((away > 127).sum(), 0)

    def test_a_part_in_front_shades_what_lies_just_behind_it(self):
        rank = np.zeros((HEIGHT, WIDTH), np.int16)
        rank[100:300, 200:400], rank[150:250, 250:350] = 1, 2
        parts = Parts(rank, np.array([0, 10, 10], np.float32))
        plane = shadows([], (-0.7, 0.0, 0.7), step=1, parts=parts).things
        self.assertTrue((plane[160:240, 352:356] > 200).all())  # away from the lamp
        self.assertFalse(plane[160:240, 240:248].any())  # toward it
        self.assertFalse(plane[160:240, 260:340].any() or plane[:, 405:].any())


class Pieces(unittest.TestCase):
    def test_a_label_in_two_places_is_two_pieces_and_lines_are_looked_through(self):
        labels = np.ones((60, 90), np.uint16)
        labels[10:30, 10:30], labels[10:30, 50:70], labels[18:22, 10:30] = 2, 2, 3
        pieces = pieces_of(labels, frozenset({3}))
        self.assertEqual((pieces.label == 2).sum(), 2)
        self.assertEqual((pieces_of(labels, frozenset()).label == 2).sum(), 3)

    def test_what_is_enclosed_knows_by_what(self):
        labels = np.ones((80, 80), np.uint16)
        labels[20:60, 20:60], labels[30:50, 30:50] = 2, 3
        pieces = pieces_of(labels, frozenset())
        of = {int(n): i for i, n in enumerate(pieces.label)}
        self.assertEqual(pieces.inside[of[3]], of[2])
        self.assertEqual(pieces.inside[of[2]], of[1])


if __name__ == "__main__":
    unittest.main()
