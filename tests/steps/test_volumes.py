"""Volumes: the light alone on plain things, by the same code as the picture."""

import unittest

import numpy as np

from umber_compass.colour import spaces
from umber_compass.picture import light
from umber_compass.plan.model import Ambient, Lamp, Rig
from umber_compass.steps.light import volumes


def drawn(direction, size=(244, 75), softness=0.1, **rig):
    lamp = Lamp(direction=direction, softness=softness, strength=100, hex="#ffffff")
    lights = light.lights_of(Rig(lamps=(lamp,), **rig))
    return spaces.value(spaces.decode(volumes.draw(volumes.scene(*size), lights) / 255))


class Volumes(unittest.TestCase):
    def setUp(self):
        scene = volumes.scene(244, 75)
        red = scene.local[0] / np.maximum(scene.local[2], 1e-6)
        self.loaf = ((red > 4).reshape(75, 244)) & (np.arange(244) < 110)
        self.columns = np.flatnonzero(self.loaf.any(axis=0))

    def test_the_side_toward_the_lamp_is_lighter(self):
        middle = int(self.columns.mean())
        left, right = self.loaf.copy(), self.loaf.copy()
        left[:, middle:], right[:, :middle] = False, False
        for x, lighter, darker in ((-0.8, left, right), (0.8, right, left)):
            shown = drawn((x, -0.4, 0.45))
            self.assertGreater(shown[lighter].mean(), shown[darker].mean() + 4)

    def test_a_shadow_falls_away_from_the_lamp(self):
        row = int(np.flatnonzero(self.loaf.any(axis=1)).max())
        band = slice(row - 8, row + 1)
        left, right = self.columns.min() - 4, self.columns.max() + 5
        from_left, from_right = (drawn((x, -0.35, 0.5))[band] for x in (-0.8, 0.8))
        self.assertLess(from_left[:, right].mean(), from_right[:, right].mean() - 5)
        self.assertLess(from_right[:, left].mean(), from_left[:, left].mean() - 5)

    def test_soft_lamps_throw_soft_shadows_and_strange_ones_are_drawn(self):
        row = int(np.flatnonzero(self.loaf.any(axis=1)).max()) - 3
        steps = []
        for softness in (0.0, 1.0):
            floor = drawn((-0.8, -0.35, 0.5), softness=softness)[row, self.columns.max() + 3 : 115]
            steps.append(np.abs(np.diff(floor)).max())
        self.assertLess(steps[1], steps[0])
        for direction in ((0.0, 1.0, 0.0), (0.0, 0.0, -1.0), (1.0, 0.0, 0.0), (0.0, -1.0, 0.0)):
            self.assertTrue(np.isfinite(drawn(direction)).all())

    def test_only_the_ambient_lights_evenly_but_where_things_stand(self):
        shown = drawn((0, 0, 1), ambient=Ambient(hex="#808080"), crevice=0)
        lit = drawn((0, 0, 1), ambient=Ambient(hex="#808080"))
        self.assertGreater(shown.mean(), lit.mean())

    def test_the_same_light_at_another_size(self):
        whole, half = drawn((-0.6, -0.5, 0.62), (488, 150)), drawn((-0.6, -0.5, 0.62))
        self.assertAlmostEqual(whole.mean(), half.mean(), delta=1)
        self.assertEqual(volumes.draw(volumes.scene(8, 8), light.lights_of(Rig())).shape, (8, 8, 3))
