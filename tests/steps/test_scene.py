"""What stands where and what light does to it: guesses, materials, contrast, what glows, checks."""

import unittest

import numpy as np
from msgspec.structs import replace

from tests import scenes
from umber_compass.colour.packed import unpack
from umber_compass.picture.forms import SLOPE_NORMAL
from umber_compass.picture.reach import is_turned
from umber_compass.picture.relit import values_of
from umber_compass.plan.light_edits import light_on, rig_of, set_lamp, with_rig
from umber_compass.plan.rig import Glow, Lamp
from umber_compass.plan.scene_edits import place_foot, stand_on, tell_scene
from umber_compass.plan.settings import change_setting
from umber_compass.steps.checks.judging import judge, measure_all
from umber_compass.steps.light.contrast import contrast_of, set_contrast
from umber_compass.steps.light.telling_things import as_told
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


if __name__ == "__main__":
    unittest.main()
