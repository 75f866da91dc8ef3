"""Practices and what a plan overrides."""

import unittest

from tests import scenes
from umber_compass.plan import practice_edits
from umber_compass.plan.practices import PRACTICES, rules


class Practices(unittest.TestCase):
    def test_every_rule_is_within_its_bounds_and_says_why(self):
        for practice in PRACTICES.values():
            for rule in practice.rules:
                self.assertTrue(rule.low <= rule.number <= rule.high and rule.source and rule.unit)

    def test_a_plan_stores_only_what_differs(self):
        plan = scenes.document.open_plan(_demo()).plan
        self.assertEqual(plan.overrides, {})
        changed = practice_edits.set_rule("extremes.note", 30, "x").apply(plan)
        self.assertEqual(rules(changed)["extremes.note"], 30)
        self.assertEqual(practice_edits.drop_rules().apply(changed), plan)


def _demo():
    from umber_compass.demo.plans import DEMOS

    return DEMOS[0].plan
