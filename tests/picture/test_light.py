"""What light does to a colour: formulas written out by hand."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.scenes import BEHIND, RIGHT, UP_LEFT, plain_rig
from umber_compass.colour import gamut, spaces
from umber_compass.picture import light, screen, tint, ways
from umber_compass.picture.shade import shade as shading
from umber_compass.plan.rig import Lamp, Rig, Terminator


def shade(local, turn, occlusion, rig, other=None):
    """One colour shaded, (3,), at N.L of the key and of a further lamp."""
    lights = light.lights_of(rig)
    local = np.array(local, np.float32).reshape(3, 1)
    key = np.array(lights.key.direction)
    normal = light.normal_at(turn, lights.key.direction)
    if other is not None:  # the normal that has both cosines
        two = np.array([key, lights.others[0].direction])
        flat = np.linalg.lstsq(two, np.array([turn, other]), rcond=None)[0]
        across = np.cross(*two) / np.linalg.norm(np.cross(*two))
        normal = flat + across * np.sqrt(1 - flat @ flat)
    surface = light.Surface.round_of(np.float32(normal).reshape(3, 1), np.float32([occlusion]))
    return shading(local, surface, lights)[:, 0]


class Formula(unittest.TestCase):
    def test_ambient_times_openness_plus_key_times_cosine(self):
        for turn, occlusion, there in (
            (1, 1, 0.75),
            (0.5, 1, 0.5),
            (0, 1, 0.25),
            (-1, 0.25, 0.0625),
        ):
            out = shade([0.4, 0.2, 0.1], turn, occlusion, plain_rig())
            np.testing.assert_allclose(out, np.array([0.4, 0.2, 0.1]) * there, rtol=1e-5)

    def test_crevices_take_what_they_are_told_of_the_ambient(self):
        for crevice, there in ((100, 0.25 * 0.4), (50, 0.25 * 0.7), (0, 0.25)):
            out = shade([0.5] * 3, -1, 0.4, plain_rig(crevice=crevice))
            np.testing.assert_allclose(out, 0.5 * there, rtol=1e-5)

    def test_every_lamp_adds_its_own_colour_and_side(self):
        red = Lamp(name="rim", rank=2, hex="#ff0000", strength=30, direction=RIGHT, softness=0)
        rig = plain_rig(lamps=(red, *plain_rig().lamps))
        self.assertEqual([x.name for x in light.lights_of(rig).lamps], ["key", "rim"])
        out = shade([0.5] * 3, 0.2, 1, rig, 0.4)
        both = 0.25 + 0.5 * 0.2
        np.testing.assert_allclose(out, [0.5 * (both + 0.3 * 0.4), 0.5 * both, 0.5 * both], 1e-5)
        off = plain_rig(lamps=(replace(red, on=False), *plain_rig().lamps))
        np.testing.assert_allclose(shade([0.5] * 3, 0.2, 1, off), 0.5 * both, rtol=1e-5)

    def test_only_parts_of_the_lights(self):
        rig = plain_rig(
            lamps=(*plain_rig().lamps, Lamp(name="rim", rank=2)), terminator=Terminator(strength=50)
        )
        lights = light.lights_of(rig)._replace(exposure=1.7)
        for name, told in (("ambient", {"ambient": True}), ("key", {"lamp": "key"})):
            part = lights.only(**told)
            self.assertEqual((part.exposure, part.others), (1.7, ()))
            self.assertEqual(part.ambient.any(), name == "ambient")
            self.assertEqual(part.key.light.any(), name == "key")
            self.assertEqual(part.tint_share > 0, name == "key")
        self.assertEqual([x.name for x in lights.only(lamp="rim").others], ["rim"])
        self.assertTrue(lights.only().is_dark)
        self.assertFalse(lights.is_dark)

    def test_facing_is_the_cosine_and_normals_have_the_turn_they_are_made_for(self):
        normals = np.float32([[0, 1], [0, 0], [1, 0]])
        np.testing.assert_allclose(light.facing(normals, (0.6, 0.0, 0.8)), [0.8, 0.6], rtol=1e-6)
        for direction in (UP_LEFT, RIGHT, BEHIND, (0.0, 0.0, 1.0), (0.0, 0.0, -1.0)):
            lamp = light.unit(direction)
            for turn in (1.0, 0.5, 0.0, -0.5, -1.0):
                normal = light.normal_at(turn, lamp)
                self.assertAlmostEqual(float(normal @ lamp), turn, places=6)
                self.assertAlmostEqual(float(np.linalg.norm(normal)), 1, places=6)
            turned = light.normal_at(0.0, lamp)
            self.assertGreaterEqual(turned[2], -1e-9)
        self.assertEqual(light.unit((0.0, 0.0, 0.0)), (0.0, 0.0, 1.0))

    def test_softness_reaches_round_and_meets_the_cosine(self):
        turn = np.linspace(-1, 1, 2001).astype(np.float32)
        soft = ways.reached(turn, 0.4)
        self.assertGreater(soft[turn > -0.39].min(), 0)
        self.assertEqual(float(soft[turn < -0.41].max()), 0)
        np.testing.assert_allclose(soft[turn > 0.41], turn[turn > 0.41])
        self.assertLess(np.abs(np.diff(soft, 2)).max(), 1e-5)
        np.testing.assert_allclose(ways.reached(turn, 0.0), np.maximum(turn, 0))
        wrap = light.lights_of(plain_rig(lamps=(Lamp(softness=0.6),))).key.wrap
        self.assertAlmostEqual(wrap, 0.3)


class Tint(unittest.TestCase):
    def test_it_keeps_the_luminance_of_grey_and_needs_a_key(self):
        rig = plain_rig(terminator=Terminator(hex="#c8505a", strength=60))
        grey = shade([0.3] * 3, 0, 1, rig)
        self.assertGreater(grey[0], grey[2] * 1.3)
        self.assertAlmostEqual(float(spaces.luminance(grey)), 0.3 * 0.25, places=4)
        off = replace(rig, lamps=(replace(rig.key, on=False),))
        self.assertEqual(np.ptp(shade([0.3] * 3, 0, 1, off)), 0)

    def test_it_is_as_wide_as_the_key_is_soft(self):
        """At N.L of one width the tint has fallen to 1/e: .18 for a hard lamp, .42 for a soft."""
        for softness, width in ((0.0, 0.18), (0.5, 0.30), (1.0, 0.42)):
            key = replace(plain_rig().key, softness=softness, strength=1)
            rig = plain_rig(lamps=(key,), terminator=Terminator(hex="#c8505a", strength=100))
            lights = light.lights_of(rig)
            self.assertAlmostEqual(lights.band, width)
            found = tint.tinting(np.float32([0, width, -width, 1]), lights)
            np.testing.assert_array_equal(found.at, [0, 1, 2])
            added = found.factor[0] - 1
            np.testing.assert_allclose(added[1:] / added[0], np.exp(-1), rtol=1e-3)

    def test_it_keeps_the_luminance_of_what_it_tints(self):
        """Of every local and tint colour, pure ones too: no grey moves, nothing outshines the
        halftone."""
        rng = np.random.default_rng(3)
        local = np.float32(rng.random((3, 200)) ** 3)
        local[:, :3], local[:, 3:9] = np.eye(3), 0.4
        turn = np.zeros(200, np.float32)
        for hex_ in ("#c8505a", "#ff0000", "#0000ff", "#00ff00"):
            rig = plain_rig(terminator=Terminator(hex=hex_, strength=100))
            lights = light.lights_of(rig)
            there = tint.tinted(local.copy(), tint.tinting(turn, lights))
            before, after = (spaces.luminance(c.T) for c in (local, there))
            np.testing.assert_allclose(after, before, atol=1e-5)
            self.assertGreater(np.abs(there[:, 3] - local[:, 3]).max(), 0.05)
            kept = tint.tinted(local.copy(), None)
            np.testing.assert_array_equal(kept, local)


class Fitting(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(st.lists(st.floats(0, 30), min_size=3, max_size=3))
    def test_nothing_is_clipped_and_value_is_kept_below_the_shoulder(self, colour):
        out = screen.fitted(np.array(colour, np.float32).reshape(3, 1))[:, 0]
        self.assertTrue((out >= -1e-6).all() and (out <= 1 + 1e-5).all())
        lum = float(spaces.luminance(np.array(colour)))
        wished = lum if lum <= screen.SHOULDER else float(screen.shouldered(np.array([lum]))[0])
        self.assertAlmostEqual(float(spaces.luminance(out)), min(wished, 1), places=3)

    def test_beyond_the_screen_value_is_exact_and_the_hue_stays(self):
        """Of 3,000 colours, up to four times as strong as the screen, the OKLCh hue turns by at
        most 3 degrees for 95 in 100."""
        rng = np.random.default_rng(1)
        colour = np.float32(rng.random((3, 3000)) ** 2 * rng.uniform(0.5, 4, 3000))
        for i, hex_ in enumerate(("#ff8000", "#0000ff")):
            colour[:, i] = spaces.decode(spaces.parse_hex(hex_)) * (2, 4)[i]
        out = screen.fitted(colour.copy())
        lum = spaces.luminance(colour.T)
        np.testing.assert_allclose(spaces.luminance(out.T), screen.shouldered(lum), atol=2e-3)
        was, now = (spaces.polar(spaces.oklab(c.T)) for c in (colour, out))
        turn = np.abs(spaces.hue_distance(was[:, 2], now[:, 2]))
        seen = now[:, 1] > 0.02
        self.assertLess(np.percentile(turn[seen], 95), 3)
        self.assertLess(turn[:2].max(), 3)
        most = spaces.polar(spaces.oklab(gamut.fit(spaces.value(out.T), 0.5, was[:, 2])))[:, 1]
        lost = np.maximum(np.minimum(was[:, 1], most) - now[:, 1], 0)[most > 0.05]
        self.assertLess(np.percentile(lost, 95), 0.012)  # no more chroma goes than the screen asks

    def test_the_shoulder_climbs_without_a_step(self):
        lum = np.linspace(0, 6, 4001)
        soft = screen.shouldered(lum)
        np.testing.assert_array_equal(soft[lum <= 0.8], lum[lum <= 0.8])
        slope = np.diff(soft) / np.diff(lum)
        self.assertTrue((slope >= 0).all() and (np.diff(slope) < 1e-6).all())
        self.assertLess(float(soft.max()), 1)

    def test_a_colour_within_the_screen_is_left_alone(self):
        colour = np.float32([[0.79], [0.1], [0.3]])
        np.testing.assert_array_equal(screen.fitted(colour.copy()), colour)
        self.assertEqual(light.lights_of(Rig()).exposure, 1)
