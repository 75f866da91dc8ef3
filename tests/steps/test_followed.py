"""What is worked out again, and what is not: colours that changed, results that were read, checks
whose results are the same; always as if all were worked out anew."""

import unittest

import numpy as np

from tests import scenes
from umber_compass.plan.edits import study
from umber_compass.plan.harmony_edits import turn_lead
from umber_compass.plan.light_edits import light_on, set_lamp
from umber_compass.plan.settings import change_setting
from umber_compass.steps.checks.judging import Measuring, measure_all
from umber_compass.steps.followed import Followed
from umber_compass.steps.harmony.colours import measured_colours, region_colours
from umber_compass.steps.harmony.edits import make_gradient, pin_to, set_slot, set_value
from umber_compass.steps.harmony.planned_levels import planned_levels
from umber_compass.steps.pipeline import Derived, Pipeline
from umber_compass.words import words


class Changing(scenes.InFolder):
    """A plan that is changed edit by edit, as a hand would."""

    def setUp(self):
        super().setUp()
        self.made, _ = self.bring_in()
        self.plan = self.made.plan
        self.pipeline = Pipeline(self.made.pixels.drawings)

    def edits(self):
        """Each plan after one more edit: value, hue, slot, gradient, pin, light, nothing shown."""
        plan, one = self.plan, self.plan.regions[0].id
        two = self.plan.regions[1].id
        for edit in (
            lambda p: set_value(one, 0, 31.0, "x"),
            lambda p: turn_lead(77.0),
            lambda p: set_slot(p, two, "B", "x"),
            lambda p: make_gradient(p, one, "x"),
            lambda p: set_value(one, 1, 70.0, "x"),
            lambda p: pin_to(two, "#3060a0", "x"),
            lambda p: change_setting("slot.SLOT.chroma", 0.4, "A"),
            lambda p: change_setting("light.on", True),
            lambda p: set_lamp("key", words("x"), direction=(0.6, -0.2, 0.7)),
            lambda p: change_setting("title", "Other"),
        ):
            plan = edit(plan).apply(plan)
            yield plan


def rounded(colours):
    """Colours by region, to what arrays of another length may round otherwise."""
    return {
        k: [(e.hex, e.slot, round(e.value, 9), e.hue and round(e.hue, 6)) for e in c.ends]
        for k, c in colours.items()
    }


class Colours(Changing):
    def test_what_changed_alone_gives_what_all_of_them_give(self):
        levels_before = colours_before = None
        for plan in self.edits():
            now = study(plan)
            levels = planned_levels(now.scheme, now.colours, levels_before)
            whole = planned_levels(now.scheme, now.colours)
            np.testing.assert_array_equal(levels.levels, whole.levels)
            self.assertEqual(levels.solids.slots, whole.solids.slots)
            self.assertEqual(levels.solids.seconds, whole.solids.seconds)
            colours = measured_colours(levels, colours_before)
            self.assertEqual(rounded(colours), rounded(region_colours(now.scheme, now.colours)))
            levels_before = ((now.scheme, now.colours), levels)
            colours_before = ((levels,), colours)

    def test_colours_that_stay_are_the_very_same_records(self):
        one, two = (r.id for r in self.plan.regions[:2])
        before = self.pipeline.derive(self.plan)
        after = self.pipeline.derive(set_value(one, 0, 31.0, "x").apply(self.plan))
        self.assertIs(after.colours[two], before.colours[two] if before.colours else None)
        self.assertNotEqual(after.colours[one], before.colours[one])


class Reading(Changing):
    def test_a_part_is_behind_where_what_it_read_changed_and_nowhere_else(self):
        read = Followed()
        derived = self.pipeline.derive(self.plan)
        self.assertTrue(read.is_behind(derived))  # nothing was read yet
        reader = read.reader(derived)
        self.assertIs(reader.colours, derived.colours)
        self.assertEqual(reader.rules["fix.value"], derived.rules["fix.value"])
        self.assertFalse(read.is_behind(derived))
        lit = self.pipeline.derive(light_on(self.plan))
        self.assertFalse(read.is_behind(lit))
        turned = self.pipeline.derive(turn_lead(12.0).apply(self.plan))
        self.assertTrue(read.is_behind(turned))
        reader = read.reader(turned)
        reader.of(self.plan)  # what a method reads is not known: the whole plan is followed
        self.assertTrue(read.is_behind(lit))

    def test_results_are_worked_out_a_few_at_a_time(self):
        read = Followed()
        derived = self.pipeline.derive(self.plan)
        reader = read.reader(derived)
        self.assertTrue(reader.colours and reader.rose and reader.readings)
        other = self.pipeline.derive(turn_lead(200.0).apply(self.plan))
        rounds = 0
        while not read.work_out(other, 1e-9 if rounds < 2 else 1000.0):
            rounds += 1
        self.assertGreaterEqual(rounds, 2)
        self.assertTrue({"colours", "rose", "readings"} <= set(other._results))


class Checks(Changing):
    def test_checks_that_are_not_measured_again_say_what_they_would(self):
        measuring = Measuring()
        for plan in self.edits():
            derived = self.pipeline.derive(plan)
            for seen in (derived, derived.of(plan).think()):
                found = [(r.key, r.level, r.measured, str(r.text)) for r in measuring.all(seen)]
                whole = [(r.key, r.level, r.measured, str(r.text)) for r in measure_all(seen)]
                self.assertEqual(found, whole, str(plan.title))

    def test_a_lamp_wakes_no_check_of_harmony(self):
        from umber_compass.steps.checks import CHECKS

        measuring = Measuring()
        plan = light_on(self.plan)
        first = {n: measuring.of(CHECKS[n], self.pipeline.derive(plan)) for n in CHECKS}
        moved = set_lamp("key", words("x"), direction=(0.6, -0.2, 0.7)).apply(plan)
        again = {n: measuring.of(CHECKS[n], self.pipeline.derive(moved)) for n in CHECKS}
        for name in ("hue-off-scheme", "near-duplicates", "colour-budget"):
            self.assertIs(again[name], first[name], name)
        self.assertIsNot(again["lamp-rank"], first["lamp-rank"])


class Frozen(unittest.TestCase):
    def test_a_stage_that_goes_on_is_named_as_such(self):
        going = {n for n in vars(Derived) if getattr(vars(Derived)[n], "goes_on", False)}
        self.assertEqual(going, {"levels", "colours"})
