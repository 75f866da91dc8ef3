"""Codes held to the exact picture."""

import itertools
import unittest

import numpy as np
from msgspec.structs import replace

from tests import scenes
from umber_compass import document
from umber_compass.colour import difference, spaces
from umber_compass.colour.packed import unpack
from umber_compass.demo.plans import DEMOS
from umber_compass.picture import light
from umber_compass.picture import relit as lighting
from umber_compass.picture.building import form_key
from umber_compass.plan import edits
from umber_compass.plan.light_edits import light_on, rig_of, set_ambient, set_lamp, with_rig
from umber_compass.plan.model import Terminator
from umber_compass.plan.sketch_edits import set_form
from umber_compass.steps.checks import judging
from umber_compass.steps.harmony.edits import make_gradient
from umber_compass.steps.light import chart
from umber_compass.steps.light import parts_of_light as showing
from umber_compass.steps.pipeline import Pipeline, exact_picture, picture
from umber_compass.steps.ramps import ramps
from umber_compass.words import words

UP_LEFT, RIGHT, BEHIND = (-0.66, -0.42, 0.62), (0.9, 0.1, 0.42), (0.3, 0.5, -0.8)


NOTHING = words("")


class Picture(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.made = document.open_plan(DEMOS[0].plan)
        cls.pipeline = Pipeline(cls.made.pixels.drawings)

    def derive(self, *changes):
        plan = self.made.plan
        for change in changes:
            plan = change.apply(plan)
        return self.pipeline.derive(plan)

    def test_codes_stay_near_the_exact_picture(self):
        for direction, by in itertools.product((UP_LEFT, RIGHT, BEHIND), (8, -22)):
            with self.subTest(direction=direction, by=by):
                moved = scenes.all_values(by)
                derived = self.derive(set_lamp("key", NOTHING, direction=direction), moved)
                pair = [unpack(p) for p in (picture(derived), exact_picture(derived))]
                lab = [spaces.cielab(spaces.decode(p / 255)) for p in pair]
                off = difference.ciede2000(*lab)
                self.assertLess(off.mean(), 0.5)
                self.assertLess(np.percentile(off, 99.9), 2.5)
                self.assertLess(off.max(), 5)

    def test_chart_and_picture_agree(self):
        derived = self.derive()
        rows = {r.region: r for r in chart.chart(derived)}
        label = {r.id: r.label for r in derived.plan.regions}
        turn = light.facing(derived.relief.normal, derived.lit.lights.direction)
        for region_id, row in rows.items():
            if "sky" in row.name:
                continue
            own = derived.relief.grain.label == label[region_id]
            for place in chart.PLACES:
                near = own & (np.abs(turn - place.turn) < 0.01)
                near &= np.abs(derived.relief.openness - place.openness) < 0.01
                for code in np.flatnonzero(near)[:3]:
                    shown = derived.lit.packed[code] >> np.array([16, 8, 0]) & 255
                    wished = np.round(spaces.parse_hex(row.lit[place.name].hex) * 255)
                    self.assertLess(
                        np.abs(shown.astype(int) - wished).max(), 6, (row.name, place.name)
                    )

    def test_each_anchor_brings_its_side_to_the_planned_value(self):
        for anchor in ("lit", "halftone"):
            rig = replace(rig_of(self.made.plan), anchor=anchor)
            derived = self.pipeline.derive(with_rig(self.made.plan, rig))
            for row in chart.chart(derived):
                if row.name.startswith("sky"):
                    continue
                there = row.lit[anchor].value - row.local.value
                self.assertAlmostEqual(there, row.rest, delta=0.8)
            worst = max(abs(x) for x in derived.lit.rest.values())
            self.assertLess(worst, 6)

    def test_parts_of_the_light_add_up_and_off_is_darkest(self):
        rig = replace(rig_of(self.made.plan), terminator=Terminator(strength=0))
        derived = self.pipeline.derive(with_rig(scenes.all_values(-20).apply(self.made.plan), rig))
        linear = {
            n: spaces.decode(unpack(showing.exact_in(derived, n)) / 255)
            for n in ("ambient-only", "key-only", "lights-off")
        }
        whole = spaces.decode(unpack(exact_picture(derived)) / 255)
        added = linear["ambient-only"] + linear["key-only"]
        inside = ~np.isin(np.arange(whole.shape[0] * whole.shape[1]), derived.relief.place)
        off = np.abs(added - whole).reshape(-1, 3)[inside]
        self.assertLess(np.percentile(off, 99), 0.012)
        self.assertLess(linear["lights-off"].mean(), linear["ambient-only"].mean())

    def test_strange_lights_give_pictures(self):
        for changes in (
            {"strength": 0.0},
            {"strength": 1000.0},
            {"direction": (0.0, 0.0, -1.0)},
            {"direction": (0.0, 1.0, 0.0)},
            {"direction": (0.0, 0.0, 0.0)},
            {"softness": 1.0},
            {"on": False},
        ):
            with self.subTest(changes):
                derived = self.derive(set_lamp("key", NOTHING, **changes))
                self.assertTrue(np.isfinite(derived.values.by_code).all())
                self.assertTrue(0 < derived.values.by_code.max() <= 100)
        dark = self.derive(set_lamp("key", NOTHING, on=False), set_ambient(NOTHING, on=False))
        self.assertEqual(int(picture(dark).max()), 0)
        titles = [str(r.title) for r in judging.measure_all(dark) if r.level == "warning"]
        self.assertIn("All lamps are off", titles)

    def test_a_lamp_changes_the_light_alone_and_a_form_the_relief(self):
        first = self.derive()
        moved = self.derive(set_lamp("key", NOTHING, direction=RIGHT))
        for part in ("codes", "colours", "table", "relief", "shares"):
            self.assertIs(getattr(moved, part), getattr(first, part))
        pipeline = Pipeline(self.made.pixels.drawing(self.made.plan.sketch), builds=False)
        self.assertIsNone(pipeline.derive(self.made.plan).lit)
        pipeline.take(first.relief, form_key(self.made.plan))
        self.assertIsNotNone(pipeline.derive(self.made.plan).lit)
        sea = next(r for r in self.made.plan.regions if r.name == "sea")
        other = make_gradient(self.made.plan, sea.id, "sea").apply(self.made.plan)
        self.assertIsNone(pipeline.derive(other).lit)  # its codes stand for other colours
        roof = next(r for r in self.made.plan.regions if r.name == "roof")
        self.assertIsNot(self.derive(set_form(roof.id, "round", "roof")).relief, first.relief)

    def test_lamp_checks_are_mended(self):
        for edit, check in (
            (set_lamp("key", NOTHING, strength=20.0), "lamp-rank"),
            (set_lamp("key", NOTHING, on=False), "lamp-rank"),
            (set_ambient(NOTHING, hex="#ffe0b0"), "warm-with-cool"),
            (set_ambient(NOTHING, hex="#d0d0d0"), "warm-with-cool"),
        ):
            with self.subTest(check):
                derived = self.derive(edit)
                results = judging.measure_all(derived)
                bad = next(r for r in results if r.check == check)
                self.assertEqual(bad.level, "warning")
                mended = judging.with_fixes(bad, results, derived, self.pipeline)
                self.assertTrue(mended.fixes)
                after = self.pipeline.derive(mended.fixes[0].edit.apply(derived.plan))
                levels = {r.level for r in judging.measure_all(after) if r.check == check}
                self.assertEqual(levels, {"fine"})

    def test_steps_from_the_rig_keep_base_and_values_and_turn_cool_in_shade(self):
        rig = rig_of(self.made.plan)
        from umber_compass.plan.practices import rules

        numbers = rules(self.made.plan)
        for base in ("#da8590", "#8c8169", "#808080", "#f4e8d2", "#1c2a30"):
            made = ramps.make_steps(base, ramps.Ramp(recipe="rig"), numbers, rig)
            even = ramps.make_steps(base, ramps.Ramp(recipe="straight"), numbers)
            self.assertEqual(made.steps[made.base].hex, base)
            for one, two in zip(made.steps, even.steps, strict=True):
                self.assertAlmostEqual(one.value, two.value, delta=0.6)
        coat = ramps.make_steps("#8c8169", ramps.Ramp(recipe="rig"), numbers, rig)
        warmth = [np.cos(np.radians(s.hue - 45)) * s.chroma for s in coat.steps]
        self.assertLess(warmth[0], warmth[-1])

    def test_a_flat_plan_begins_with_a_light_when_asked(self):
        plan = edits.with_study(self.made.plan, replace(edits.study(self.made.plan), rig=None))
        self.assertIsNone(self.pipeline.derive(plan).lit)
        self.assertIsNotNone(self.pipeline.derive(light_on(plan)).lit)
        rows = chart.chart(self.pipeline.derive(plan))
        self.assertEqual({r.rest for r in rows}, {None})
        self.assertLess(rows[3].lit["core-shadow"].value, rows[3].lit["lit"].value)

    def test_encoding_by_table_is_within_a_level(self):
        linear = np.random.default_rng(1).random((3, 4000)).astype(np.float32) ** 3
        packed = lighting._encoded(linear)
        levels = np.stack([packed >> s & 255 for s in (16, 8, 0)]).astype(int)
        off = levels - np.round(spaces.encode(linear) * 255)
        self.assertLessEqual(np.abs(off).max(), 1)
