"""Edits: every one has a name, and nothing is changed in place."""

import copy

import msgspec

from tests import scenes
from umber_compass.plan import edits, harmony_edits, practice_edits, ramp_edits, sketch_edits
from umber_compass.plan.history import History
from umber_compass.plan.model import Gradient, Pinned, Plan, Planned, Ramp
from umber_compass.steps.harmony import colours as colouring
from umber_compass.steps.harmony import scheme as harmony


class Edits(scenes.InFolder):
    def setUp(self):
        super().setUp()
        self.made, _ = self.bring_in()
        self.plan = self.made.plan

    def every(self):
        first = self.plan.regions[0].id
        planned = Planned(slot="A", value=40, chroma=0.1)
        return [
            harmony_edits.turn_lead(77),
            harmony_edits.set_spread(41),
            harmony_edits.set_wished_share("A", 0.4),
            harmony_edits.turn_family("A", 20),
            harmony_edits.set_colour(
                first, Gradient(first=planned, second=Pinned(hex="#102030")), edits.words("x")
            ),
            ramp_edits.set_recipe(first, Ramp(recipe="hsb-sum"), "sea"),
            ramp_edits.set_all_recipes(Ramp(recipe="straight")),
            sketch_edits.rename(first, "  deep   sea "),
            sketch_edits.set_role(first, "focus", "sea"),
            sketch_edits.set_title("Evening"),
            practice_edits.set_rule("extremes.dark", 12, "limit"),
            harmony.choose_scheme("square"),
            harmony.choose_wheel("light"),
            colouring.set_value(first, 0, 61, "sea"),
            colouring.set_chroma(first, 0, 0.02, "sea"),
            colouring.give_colour(first, "#c06020", "sea"),
            colouring.toggle_pin(self.plan, first, "sea"),
            colouring.make_gradient(self.plan, first, "sea"),
        ]

    def test_each_is_named_changes_the_plan_and_leaves_the_old_one(self):
        before = copy.deepcopy(self.plan)
        for edit in self.every():
            with self.subTest(str(edit.name)):
                after = edit.apply(self.plan)
                self.assertNotEqual(after, self.plan)
                self.assertEqual(self.plan, before)
                self.assertTrue(str(edit.name))
                again = msgspec.json.decode(msgspec.json.encode(after), type=Plan)
                self.assertEqual(again, after)

    def test_an_empty_name_is_not_taken(self):
        self.assertEqual(
            sketch_edits.rename(self.plan.regions[0].id, "  ").apply(self.plan), self.plan
        )

    def test_undo_and_redo_through_everything(self):
        history, plans = History(self.plan), [self.plan]
        for edit in self.every():
            history = history.do(edit).sealed()
            plans.append(history.now)
        for plan in reversed(plans[:-1]):
            history = history.undo()
            self.assertEqual(history.now, plan)
        self.assertIs(history.undo(), history)
        for plan in plans[1:]:
            history = history.redo()
            self.assertEqual(history.now, plan)
        self.assertIs(history.redo(), history)

    def test_a_drag_is_one_step_and_relative_moves_do_not_add_up(self):
        history = History(self.plan)
        for turn in (5, 10, 20):
            history = history.do(harmony_edits.turn_family("A", turn))
        self.assertEqual(len(history.past), 1)
        self.assertEqual(history.now, harmony_edits.turn_family("A", 20).apply(self.plan))
        history = history.sealed().do(harmony_edits.turn_family("A", 3))
        self.assertEqual(len(history.past), 2)

    def test_a_drag_back_to_where_it_began_leaves_no_step(self):
        lead = edits.study(self.plan).scheme.lead_deg
        history = (
            History(self.plan)
            .do(harmony_edits.turn_lead(lead + 9))
            .do(harmony_edits.turn_lead(lead))
        )
        self.assertEqual((history.past, history.now), ((), self.plan))
