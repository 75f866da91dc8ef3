"""Practices and what a plan overrides."""

import unittest

from tests import scenes
from umber_compass.plan import practice_edits
from umber_compass.plan.model import Brief
from umber_compass.plan.practices import PRACTICES, numbers_of
from umber_compass.plan.practices.practice import COLOUR_FIRST
from umber_compass.plan.uses import blur_share, seen_as, seen_share
from umber_compass.steps.checks.rule_steps import step_of_rule
from umber_compass.words import Refusal

PLAN = scenes.plan_of([scenes.planned()])


class Practices(unittest.TestCase):
    def test_every_rule_is_within_its_bounds_and_says_why(self):
        for name, practice in PRACTICES.items():
            self.assertEqual(name, practice.name)
            keys = [r.key for r in practice.rules]
            self.assertEqual(len(keys), len(set(keys)))
            for rule in practice.rules:
                self.assertTrue(rule.low <= rule.number <= rule.high and rule.source and rule.unit)

    def test_the_first_thresholds_are_those_the_definitions_give(self):
        numbers = numbers_of("general", {})
        for key, number in {
            "extremes.dark": 20,
            "extremes.light": 80,
            "extremes.note": 20,
            "extremes.warning": 25,
            "figure-merges.note": 15,
            "figure-merges.warning": 12,
            "hue-off-scheme.arc": 18,
            "hue-off-scheme.note": 0,
            "hue-off-scheme.warning": 12,
            "hue-off-scheme.share": 0.5,
            "hue-off-scheme.chroma": 0.03,
            "ramp.spacing": 9,
            "ramp.degrees": 8,
            "ramp.hsb": 25,
            "fix.value": 0.5,
            "fix.hue": 1,
            "fix.lead": 1.02,
        }.items():
            self.assertEqual(numbers[key], number, key)

    def test_every_practice_differs_orders_every_step_and_says_what_it_is(self):
        general = {r.key: r.number for r in PRACTICES["general"].rules}
        for name, practice in PRACTICES.items():
            with self.subTest(name):
                own = {r.key: r.number for r in practice.rules}
                self.assertEqual(set(own), set(general))
                self.assertTrue(practice.says)
                self.assertEqual(sorted(practice.route), sorted(COLOUR_FIRST))
                self.assertEqual(own == general, name == "general")
        route = PRACTICES["grey-first"].route
        self.assertLess(route.index("values"), route.index("harmony"))
        self.assertEqual(numbers_of("sprite", {})["picture.smooth"], 0)
        with self.assertRaises(KeyError):
            PRACTICES["general"].told("x", "X", "x", nonsense=1)

    def test_every_rule_belongs_to_a_step(self):
        for rule in PRACTICES["general"].rules:
            self.assertIn(step_of_rule(rule.key), COLOUR_FIRST)

    def test_how_large_and_sharp_a_piece_is_seen(self):
        poster, card = seen_as(Brief(use="poster")), seen_as(Brief(use="card"))
        self.assertEqual((poster, seen_as(Brief())), ((60, 400), (30, 60)))
        self.assertEqual(seen_as(Brief(use="poster", width_cm=90)), (90, 400))
        self.assertEqual(seen_as(Brief(use="poster", distance_cm=99)), (60, 99))
        self.assertLess(seen_share(*poster), seen_share(*card))
        self.assertGreater(blur_share(*poster), blur_share(*card))

    def test_a_plan_stores_only_what_differs(self):
        changed = practice_edits.set_rule("extremes.note", 30, "x").apply(PLAN)
        self.assertEqual(changed.overrides, {"extremes.note": 30})
        self.assertEqual(numbers_of(changed.practice, changed.overrides)["extremes.note"], 30)
        self.assertEqual(practice_edits.drop_rules().apply(changed), PLAN)
        again = practice_edits.set_practice("general").apply(changed)
        self.assertEqual(again.overrides, {})

    def test_a_rule_keeps_its_bounds_and_unknown_ones_are_refused(self):
        for number, kept in ((900, 50), (-4, 0), (12, 12)):
            changed = practice_edits.set_rule("extremes.dark", number, "x").apply(PLAN)
            self.assertEqual(changed.overrides["extremes.dark"], kept)
        with self.assertRaisesRegex(Refusal, "no rule"):
            practice_edits.set_rule("extremes.purple", 1, "x").apply(PLAN)
        with self.assertRaisesRegex(Refusal, "general"):
            practice_edits.set_practice("nobody's")
