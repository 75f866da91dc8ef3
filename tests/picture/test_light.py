"""What light does to a colour: formulas written out by hand."""

import itertools
import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from umber_compass.colour import spaces
from umber_compass.picture import light
from umber_compass.plan.model import Ambient, Lamp, Rig, Terminator
from umber_compass.steps.light import lamps

UP_LEFT, RIGHT, BEHIND = (-0.66, -0.42, 0.62), (0.9, 0.1, 0.42), (0.3, 0.5, -0.8)


def plain(**changes):
    """A rig without tint or softness, so that formulas can be written out."""
    key = Lamp(hex="#ffffff", strength=50, direction=UP_LEFT, softness=0)
    ambient = Ambient(hex="#ffffff", strength=25)
    return replace(Rig(ambient=ambient, lamps=(key,), crevice=100), **changes)


def shade(local, turn, openness, rig):
    light_ = light.lights_of(rig)
    local = np.array(local, np.float32).reshape(3, 1)
    return light.shade(local, np.float32([turn]), np.float32([openness]), light_)[:, 0]


class Formula(unittest.TestCase):
    def test_ambient_times_openness_plus_key_times_cosine(self):
        for turn, openness, there in (
            (1, 1, 0.75),
            (0.5, 1, 0.5),
            (0, 1, 0.25),
            (-1, 0.25, 0.0625),
        ):
            out = shade([0.4, 0.2, 0.1], turn, openness, plain())
            np.testing.assert_allclose(out, np.array([0.4, 0.2, 0.1]) * there, rtol=1e-5)

    def test_softness_reaches_round_and_meets_the_cosine(self):
        turn = np.linspace(-1, 1, 2001).astype(np.float32)
        soft = light.reached(turn, 0.4)
        self.assertGreater(soft[turn > -0.39].min(), 0)
        self.assertEqual(float(soft[turn < -0.41].max()), 0)
        np.testing.assert_allclose(soft[turn > 0.41], turn[turn > 0.41])
        self.assertLess(np.abs(np.diff(soft, 2)).max(), 1e-5)

    def test_the_terminators_tint_keeps_luminance_of_grey_and_needs_a_key(self):
        rig = plain(terminator=Terminator(hex="#c8505a", strength=60))
        grey = shade([0.3] * 3, 0, 1, rig)
        self.assertGreater(grey[0], grey[2] * 1.3)
        self.assertAlmostEqual(float(spaces.luminance(grey)), 0.3 * 0.25, places=4)
        off = replace(rig, lamps=(replace(rig.lamps[0], on=False),))
        self.assertEqual(np.ptp(shade([0.3] * 3, 0, 1, off)), 0)

    @settings(max_examples=60, deadline=None)
    @given(st.lists(st.floats(0, 30), min_size=3, max_size=3))
    def test_nothing_is_clipped_and_value_is_kept_below_the_shoulder(self, colour):
        out = light.fitted(np.array(colour, np.float32).reshape(3, 1))[:, 0]
        self.assertTrue((out >= -1e-6).all() and (out <= 1 + 1e-5).all())
        lum = float(spaces.luminance(np.array(colour)))
        wished = lum if lum <= light.SHOULDER else float(light.shouldered(np.array([lum]))[0])
        self.assertAlmostEqual(float(spaces.luminance(out)), min(wished, 1), places=3)

    def test_lamps_stand_where_they_are_put(self):
        for place in itertools.product((-0.7, -0.2, 0, 0.4, 0.8), repeat=2):
            there = lamps.place_of(lamps.direction_at(*place))
            np.testing.assert_allclose(there, place, atol=1e-6)
        for place, off in (
            ((0, 0), 0),
            ((1, 0), 90),
            ((0, -0.5), 45),
            ((1.25, 0), 150),
            ((9, 0), 150),
        ):
            self.assertAlmostEqual(
                lamps.stand_of(lamps.direction_at(*place)).off_deg, off, places=3
            )
        np.testing.assert_allclose(lamps.direction_at(1, 0), (1, 0, 0), atol=1e-9)
        np.testing.assert_allclose(lamps.direction_at(0, 1), (0, 1, 0), atol=1e-9)
        self.assertIn("behind", str(lamps.in_words(BEHIND)))
