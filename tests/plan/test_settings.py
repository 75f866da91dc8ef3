"""The table of settings: every row's range, edit and words follow from its record."""

import math
import unittest
from typing import get_args

from tests import scenes
from umber_compass.plan.edits import study
from umber_compass.plan.light_edits import add_lamp
from umber_compass.plan.settings import SETTINGS, change_setting
from umber_compass.plan.study_edits import duplicate_study
from umber_compass.plan.terms import ROLES, Form
from umber_compass.words import Refusal

BARE = scenes.plan_of([scenes.planned(), scenes.planned(value=30.0)])
PLAN = add_lamp("spot").apply(BARE)
OF = {"LAMP": "spot", "REGION": "r1", "SLOT": "B"}


def part_of(row):
    return next((OF[word] for word in row.key.split(".") if word.isupper()), "")


def others(row):
    """Values a row may be set to: the ends of its range, its choices."""
    kind = row.kind
    return {
        "number": (kind.low, kind.high),
        "whole": (kind.low, kind.high),
        "switch": (True, False),
        "choice": [c for c in kind.choices if c != row.none],
        "colour": ("#123456",),
        "text": ("Evening",),
    }[kind.type]


class Every(unittest.TestCase):
    def test_what_is_set_is_what_it_is_then(self):
        for row in SETTINGS.values():
            of = part_of(row)
            for value in others(row):
                with self.subTest(row.key, value=value):
                    edit = row.edit(value, of, "a name")
                    self.assertTrue(str(edit.name))
                    self.assertEqual(row.now(edit.apply(PLAN), of), value)

    def test_numbers_are_kept_within_the_range_and_what_is_none_is_refused(self):
        for row in SETTINGS.values():
            if row.kind.type not in ("number", "whole"):
                continue
            of = part_of(row)
            for wild, kept in ((-1e9, row.kind.low), (1e9, row.kind.high)):
                self.assertEqual(row.now(row.edit(wild, of).apply(PLAN), of), kept, row.key)
            with self.assertRaises(Refusal):
                row.edit(math.nan, of)

    def test_a_word_for_none_gives_its_own_back(self):
        for row in SETTINGS.values():
            if row.none and row.kind.type != "choice":
                of = part_of(row)
                told = row.edit(row.kind.low, of).apply(PLAN)
                self.assertEqual(row.now(row.edit(None, of).apply(told), of), row.none)

    def test_a_field_says_what_it_is(self):
        for row in SETTINGS.values():
            if row.field is not None:
                self.assertTrue(row.field.title and row.field.says, row.key)
                self.assertIsNotNone(row.kind.low, row.key)


class Some(unittest.TestCase):
    def test_kinds_follow_from_the_records(self):
        self.assertEqual(SETTINGS["region.REGION.role"].kind.choices, ROLES)
        self.assertEqual(SETTINGS["region.REGION.form"].kind.choices, get_args(Form))
        self.assertEqual(SETTINGS["brief.distance"].kind.range, [5, 10000])
        self.assertEqual(SETTINGS["scheme.spread"].kind.range, [5.0, 90.0])

    def test_what_goes_with_it_is_set_too(self):
        self.assertIsNone(study(BARE).rig)
        lit = change_setting("crevice", 30).apply(BARE)
        self.assertEqual((study(lit).rig.on, study(lit).rig.crevice), (True, 30))
        off = change_setting("light.on", False).apply(BARE)
        self.assertIs(off, BARE)  # it is off already

    def test_a_study_by_its_id_and_none_that_is_not_there(self):
        plan = duplicate_study(PLAN, "s1").apply(PLAN)
        named = change_setting("study.note", "dusk", "s2").apply(plan)
        self.assertEqual([s.note for s in named.studies], ["", "dusk"])
        for key, value, of in (
            ("study.note", "x", "s9"),
            ("lamp.LAMP.on", False, "moon"),
            ("region.REGION.form", "flat", "r9"),
        ):
            with self.assertRaises(Refusal):
                change_setting(key, value, of).apply(PLAN)

    def test_moves_of_one_number_are_one_step_and_words_by_value(self):
        one, two = (change_setting("lamp.LAMP.softness", n, "key") for n in (0.2, 0.3))
        self.assertEqual(one.merge, two.merge)
        self.assertNotEqual(one.merge, change_setting("lamp.LAMP.strength", 3, "key").merge)
        self.assertIsNone(change_setting("light.anchor", "mean").merge)
        self.assertEqual(str(change_setting("light.on", False).name), "turn the light off")
        self.assertEqual(str(change_setting("budget", None).name), "set no colour budget")
