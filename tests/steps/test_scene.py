"""What stands where and what light does to it: guesses, materials, contrast, what glows, checks."""

import unittest

import numpy as np
from msgspec.structs import replace

from tests import scenes
from umber_compass.colour.packed import unpack
from umber_compass.picture.forms import SLOPE_NORMAL
from umber_compass.picture.reach import is_turned
from umber_compass.picture.relit import values_of
from umber_compass.plan.light_edits import (
    light_on,
    place_spot,
    remove_lamp,
    rig_of,
    set_lamp,
    with_lamp,
    with_rig,
)
from umber_compass.plan.practice_edits import set_rule
from umber_compass.plan.rig import Glow, Lamp, Pool
from umber_compass.plan.scene_edits import place_foot, stand_on, tell_scene
from umber_compass.plan.settings import change_setting
from umber_compass.steps.checks.judging import judge, measure_all
from umber_compass.steps.checks.light.highlight_alike import _nearest
from umber_compass.steps.light.contrast import contrast_of, set_contrast
from umber_compass.steps.light.telling_things import as_told
from umber_compass.steps.light_views import exactly_in_part, in_part
from umber_compass.steps.pictures import exact_picture, picture
from umber_compass.words import Refusal

HUT = (
    ("rectangle", (0, 0, 240, 100), "#9cc3d8"),
    ("rectangle", (0, 100, 240, 160), "#8a7a5c"),
    ("rectangle", (30, 50, 90, 130), "#a8603c"),
    ("rectangle", (50, 80, 70, 100), "#fff0c4"),
    ("ellipse", (140, 80, 190, 130), "#4c6f8c"),
)


class Lit(scenes.InFolder):
    def setUp(self):
        super().setUp()
        self.sketch.write_bytes(scenes.encoded(scenes.draw(HUT)))
        made, self.pipeline = self.bring_in()
        plan = light_on(made.plan)
        for region, name in zip(plan.regions, self.names(plan), strict=True):
            plan = change_setting("region.REGION.name", name, region.id).apply(plan)
        self.plan, self.id = plan, {r.name: r.id for r in plan.regions}

    def names(self, plan):
        by = {"#9cc3d8": "sky", "#8a7a5c": "ground", "#a8603c": "hut", "#fff0c4": "window"}
        colours = self.pipeline.derive(plan).colours
        return [by.get(colours[r.id].ends[0].hex, "stone ball") for r in plan.regions]

    def derive(self, *edits, **rig):
        plan = self.plan
        for edit in edits:
            plan = edit.apply(plan)
        return self.pipeline.derive(with_rig(plan, replace(rig_of(plan), **rig)))

    def material(self, name, material):
        return change_setting("region.REGION.material", material, self.id[name])

    def role(self, name, role):
        return change_setting("region.REGION.role", role, self.id[name])

    def own(self, derived, name):
        label = next(r.label for r in derived.regions if r.id == self.id[name])
        return derived.drawing.labels == label


class Things(Lit):
    def test_what_stands_and_what_it_stands_on_is_guessed(self):
        derived = self.derive(self.role("stone ball", "focus"))
        standing = derived.standing
        things = {t.name: t for t in standing.things}
        self.assertEqual(things["stone ball"].placed.on, "floor")
        self.assertAlmostEqual(things["stone ball"].placed.foot, 130 / 160, delta=0.02)
        self.assertNotIn("sky", things)
        self.assertNotIn("ground", things)
        self.assertGreater((derived.shadows.floor > 127).sum(), 20)

    def test_what_is_told_of_a_thing_moves_its_shadow(self):
        derived = self.derive(self.role("stone ball", "focus"))
        thing = next(t for t in derived.standing.things if t.name == "stone ball")
        told = as_told(derived.pieces, derived.standing)
        plan = place_foot(told, thing.id, 0.95, "ball").apply(derived.plan)
        moved = self.pipeline.derive(plan)
        self.assertTrue((moved.shadows.floor != derived.shadows.floor).any())
        plan = stand_on(told, thing.id, "air", "ball").apply(derived.plan)
        self.assertLess(self.pipeline.derive(plan).shadows.floor.sum(), derived.shadows.floor.sum())
        with self.assertRaises(Refusal):
            place_foot(told, "nothing", 0.5, "x").apply(derived.plan)

    def test_a_ground_that_is_told_the_sky_takes_no_shadow(self):
        told = tell_scene(scenes.NOTHING, grounds={self.id["ground"]: "sky"})
        derived = self.derive(self.role("stone ball", "focus"), told)
        own = self.own(derived, "ground")
        red = unpack(picture(derived))[own][:, 0]
        self.assertLess(np.ptp(np.percentile(red, (2, 98))), 3)


class Light(Lit):
    def test_every_material_shows(self):
        def shown(material):
            derived = self.derive(
                self.role("stone ball", "focus"),
                self.material("stone ball", material),
                highlights=True,
            )
            return unpack(exact_picture(derived))[self.own(derived, "stone ball")].astype(int)

        matte = shown("matte")
        for material in ("satin", "wet", "metal", "skin", "thin", "leather", "glow"):
            with self.subTest(material):
                self.assertGreater(np.abs(shown(material) - matte).max(), 12)

    def test_light_from_behind_comes_through_what_is_thin(self):
        behind = set_lamp("key", scenes.NOTHING, direction=scenes.BEHIND)
        found = []
        for material in ("matte", "thin"):
            derived = self.derive(
                self.role("stone ball", "focus"),
                self.material("stone ball", material),
                behind,
                exposed="off",
                highlights=False,
            )
            found.append(values_of(exact_picture(derived).reshape(-1)).reshape(160, 240)[105, 165])
        self.assertGreater(found[1], found[0] + 5)

    def test_what_faces_the_viewer_is_turned_where_its_form_is_round(self):
        """Or a lamp from behind would light it as it lights no other part of the form."""
        nx = np.array([0, 0, 0.3, 0], np.float16)
        ny = np.array([0, 0, 0, SLOPE_NORMAL[1]], np.float16)
        own = np.array([True, False, False, False])
        self.assertEqual(is_turned(nx, ny, own).tolist(), [True, False, True, False])

    def test_contrast_is_what_it_says(self):
        for drop in (8, 20, 40):
            derived = self.derive(set_contrast(drop))
            self.assertAlmostEqual(contrast_of(derived.rig), drop, delta=0.1)

    def test_a_lamp_spares_what_it_is_told_to(self):
        rim = Lamp(name="rim", rank=2, strength=300, hex="#ff2020", direction=scenes.RIGHT)
        lamps = (*rig_of(self.plan).lamps, rim)
        focus = self.role("stone ball", "focus")
        with_it = self.derive(focus, lamps=lamps, exposed="off")
        spared = (*lamps[:1], replace(rim, spares=(self.id["stone ball"],)))
        without = self.derive(focus, lamps=spared, exposed="off")
        alone = self.derive(focus, lamps=lamps[:1], exposed="off")
        own = self.own(alone, "stone ball")
        pictures = [unpack(exact_picture(d))[own].astype(int) for d in (with_it, without, alone)]
        self.assertGreater(np.abs(pictures[0] - pictures[2]).max(), 30)
        off = np.abs(pictures[1] - pictures[2]).max(axis=1)
        self.assertLess((off > 0).mean(), 0.02)  # but where borders are mixed with what is beyond


class Glows(Lit):
    def test_what_glows_lights_what_is_near_and_counts(self):
        focus = self.material("window", "glow")
        glows = self.derive(focus, glow=Glow(strength=100, reach=0.1), shadows=False)
        dark = self.derive(focus, glow=Glow(strength=0), shadows=False)
        gain = values_of(exact_picture(glows).reshape(-1)) - values_of(
            exact_picture(dark).reshape(-1)
        )
        gain = gain.reshape(glows.drawing.labels.shape)
        self.assertGreater(gain[90, 75], gain[60, 35] + 1)  # beside the window, and farther off
        self.assertGreater(gain[60, 35], 0.5)
        self.assertEqual(np.abs(gain[:, 150:]).max(), 0)
        own = self.own(glows, "window")
        bright = self.derive(focus, exposed="off", fixed=8.0)
        self.assertGreater(bright.lit.ends.half.max(), 0)
        self.assertEqual(bright.lit.ends.half[bright.arriving.unlit].max(), 0)
        self.assertLess(np.abs(gain[own]).mean(), 0.5)
        hut, near = self.own(glows, "hut"), values_of(picture(glows).reshape(-1))
        coded = glows.values.by_code[glows.buffers.code][hut.reshape(-1)].mean()
        self.assertAlmostEqual(coded, near[hut.reshape(-1)].mean(), delta=1.5)


class Checks(Lit):
    def found(self, derived, name):
        return next(r for r in measure_all(derived.think()) if r.check == name)

    def test_light_and_shade_that_nearly_meet_are_said_and_mended(self):
        derived = self.derive(set_contrast(4))
        result = next(r for r in judge(derived) if r.check == "sides-apart")
        self.assertEqual((result.level, round(result.measured)), ("note", 4))
        after = self.pipeline.derive(result.fixes[0].edit.apply(derived.plan))
        self.assertEqual(self.found(after, "sides-apart").level, "fine")

    def test_a_shade_without_light_is_a_hole_until_it_is_raised(self):
        roles = [self.role("hut", "focus"), self.role("stone ball", "figure")]
        ambient = replace(rig_of(self.plan).ambient, strength=3.0)
        derived = self.derive(*roles, ambient=ambient)
        result = next(r for r in judge(derived) if r.check == "deep-shade")
        self.assertNotEqual(result.level, "fine")
        after = self.pipeline.derive(result.fixes[0].edit.apply(derived.plan))
        self.assertEqual(self.found(after, "deep-shade").level, "fine")

    def test_a_strongly_coloured_key_turns_a_blue_ball(self):
        focus = self.role("stone ball", "focus")
        plain = self.derive(focus)
        red = self.derive(focus, set_lamp("key", scenes.NOTHING, hex="#ff2000", strength=400))
        turned = [self.found(d, "local-lost") for d in (plain, red)]
        self.assertLess(turned[0].measured + 30, turned[1].measured)
        self.assertNotEqual(turned[1].level, "fine")

    def test_a_soft_light_splits_the_families_until_they_are_drawn(self):
        soft = self.derive(way="soft", shadows=False)
        result = next(r for r in judge(soft) if r.check == "families-split")
        self.assertEqual(result.level, "note")
        self.assertIn("painter", [fix.id for fix in result.fixes])
        for fix in result.fixes:
            after = self.found(self.pipeline.derive(fix.edit.apply(soft.plan)), "families-split")
            self.assertLessEqual(after.measured, result.wanted)

    def test_a_highlight_in_the_colour_of_another_thing_is_said_and_mended(self):
        derived = self.derive(self.material("stone ball", "satin"))
        sides = {s.name: s for s in derived.two_sides}
        alike = sides["hut"]._replace(lit=sides["stone ball"].highlight)
        near = _nearest([sides["stone ball"], alike])
        self.assertLess(near.apart, 0.01)
        self.assertEqual((near.shiny.name, near.other.name), ("stone ball", "hut"))
        shiny = sides["hut"]._replace(highlight=sides["hut"].shade, lit=alike.lit)
        self.assertEqual(_nearest([sides["stone ball"], shiny]).shiny.name, "stone ball")
        self.assertIsNone(_nearest([sides["hut"], sides["ground"]]))

    def test_a_wide_highlight_is_said_and_a_narrower_material_proposed(self):
        broad = self.derive(self.material("stone ball", "leather"))
        narrow = self.derive(self.material("stone ball", "wet"))
        label = next(r.label for r in broad.regions if r.id == self.id["stone ball"])
        shares = [d.highlight_shares[label] for d in (broad, narrow)]
        self.assertGreater(shares[0], 2 * shares[1])
        strict = set_rule("highlight-wide.note", 100 * shares[1] + 0.5, "strict")
        result = next(
            r for r in judge(self.pipeline.derive(strict.apply(broad.plan)))
            if r.check == "highlight-wide"
        )  # fmt: skip
        self.assertEqual(result.regions, (self.id["stone ball"],))
        for fix in result.fixes:
            after = self.pipeline.derive(fix.edit.apply(strict.apply(broad.plan)))
            self.assertTrue(
                all(r.level == "fine" for r in measure_all(after) if r.check == "highlight-wide")
            )

    def test_a_figure_that_light_carries_out_of_its_band_is_held(self):
        roles = [self.role("hut", "focus"), self.role("stone ball", "figure")]
        plain = self.derive(*roles)
        self.assertEqual(self.found(plain, "lit-bands").level, "fine")
        bright = self.derive(*roles, exposed="off", fixed=4 * plain.lit.lights.exposure)
        result = next(r for r in judge(bright) if r.check == "lit-bands")
        self.assertGreater(result.measured, result.wanted)
        after = self.pipeline.derive(result.fixes[0].edit.apply(bright.plan))
        self.assertLess(self.found(after, "lit-bands").measured, result.wanted)


class Spots(Lit):
    """A pool of light lies where it was put, as far as it reaches, and nowhere else."""

    def spot(self, strength=120.0, spares=(), **pool):
        rig = with_lamp(rig_of(self.plan), "spot")
        own = replace(
            rig.lamp("spot"), strength=strength, spares=spares, pool=Pool(**pool)
        )  # fmt: skip
        lamps = tuple(own if lamp.name == "spot" else lamp for lamp in rig.lamps)
        return self.derive(lamps=lamps, shadows=False)

    def gain(self, derived, paint=exact_picture):
        before = self.spot(strength=0.0)
        gain = values_of(paint(derived).reshape(-1)) - values_of(paint(before).reshape(-1))
        return gain.reshape(derived.drawing.labels.shape)

    def test_it_lights_its_disc_alone_and_fades_over_its_fall_off(self):
        hard = self.spot(x=0.25, y=0.55, radius=0.1, fall=0.1)
        soft = self.spot(x=0.25, y=0.55, radius=0.1, fall=1.0)
        y, x = np.indices(hard.drawing.labels.shape)
        far = np.hypot(x + 0.5 - 60, y + 0.5 - 88) / 24
        for paint in (exact_picture, picture):
            gain = self.gain(hard, paint)
            self.assertLess(np.abs(gain[far > 1.3]).max(), 1.5)
            self.assertGreater(gain[far < 0.7].mean(), 8)
            self.assertLess(
                self.gain(soft, paint)[(far > 0.7) & (far < 0.95)].mean(),
                0.4 * gain[(far > 0.7) & (far < 0.95)].mean(),
            )

    def test_live_it_is_what_it_is_exactly_and_a_drag_of_colours_keeps_it(self):
        derived = self.spot(x=0.66, y=0.6, radius=0.3)
        quick, exact = (unpack(p(derived)).astype(float) for p in (picture, exact_picture))
        self.assertLess(np.abs(quick - exact).mean(), 1.0)
        ball = self.own(derived, "stone ball")
        turned = quick[ball].mean(axis=1)
        self.assertGreater(np.ptp(turned), 40)  # light and shade lie in the pool as well

    def test_it_reaches_a_far_sky_but_not_what_it_spares(self):
        far = self.gain(self.spot(x=0.8, y=0.2, radius=0.1))
        self.assertGreater(far[30, 192], 3)
        spared = self.spot(x=0.25, y=0.55, radius=0.2, spares=(self.id["hut"],))
        gain, hut = self.gain(spared), self.own(spared, "hut")
        inner = np.zeros_like(hut)
        inner[55:125, 35:48] = hut[55:125, 35:48]
        self.assertEqual(np.abs(gain[inner]).max(), 0)
        self.assertGreater(gain[88, 60], 3)  # the window in it

    def test_alone_it_shows_its_disc_in_the_dark(self):
        derived = self.spot(x=0.25, y=0.55, radius=0.1)
        for alone in (in_part(derived, "lamp-spot"), exactly_in_part(derived, "lamp-spot")):
            levels = unpack(alone).max(axis=2)
            self.assertLess(levels[150, 20], 8)
            self.assertGreater(levels[88, 45], 40)
        key = unpack(in_part(derived, "lamp-key")).max(axis=2)
        without = unpack(in_part(self.spot(strength=0.0), "lamp-key")).max(axis=2)
        np.testing.assert_array_equal(key, without)

    def test_a_rig_keeps_a_lamp_that_lights_all(self):
        plan = with_rig(self.plan, with_lamp(rig_of(self.plan), "spot"))
        self.assertEqual(rig_of(plan).key.name, "key")
        first = set_lamp("spot", scenes.NOTHING, rank=1).apply(plan)
        self.assertEqual(
            rig_of(set_lamp("key", scenes.NOTHING, rank=9).apply(first)).key.name, "key"
        )
        with self.assertRaisesRegex(Refusal, "only lamp that lights the whole"):
            remove_lamp("key").apply(plan)
        with self.assertRaisesRegex(Refusal, "no spot"):
            place_spot("key", 0.5, 0.5).apply(plan)
        put = place_spot("spot", 1.7, -0.2).apply(plan)
        self.assertEqual((rig_of(put).lamp("spot").pool.x, rig_of(put).lamp("spot").pool.y), (1, 0))


if __name__ == "__main__":
    unittest.main()
