"""Practices and what a plan overrides."""

import unittest

from tests import scenes
from umber_compass.plan import practice_edits
from umber_compass.plan.practices import PRACTICES, numbers_of
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
