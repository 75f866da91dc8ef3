"""History: a drag is one step, and nothing that was done is lost but what a new edit replaces."""

import unittest

from tests import scenes
from umber_compass.plan import edits, harmony_edits
from umber_compass.plan.history import History
from umber_compass.plan.settings import change_setting

PLAN = scenes.plan_of([scenes.planned(), scenes.planned("B")])


class Steps(unittest.TestCase):
    def test_undo_and_redo_through_everything(self):
        history, plans = History(PLAN), [PLAN]
        for edit in (
            harmony_edits.turn_lead(77),
            change_setting("title", "Evening"),
            change_setting("region.REGION.name", "sea", "r1"),
        ):
            history = history.do(edit).sealed()
            plans.append(history.now)
        self.assertEqual([str(m.change) for m in history.past][1], "title the plan Evening")
        for plan in reversed(plans[:-1]):
            history = history.undo()
            self.assertEqual(history.now, plan)
        self.assertIs(history.undo(), history)
        self.assertEqual(str(history.future[0].change), "turn the scheme to 77°")
        for plan in plans[1:]:
            history = history.redo()
            self.assertEqual(history.now, plan)
        self.assertIs(history.redo(), history)

    def test_a_new_edit_ends_what_could_be_redone(self):
        history = History(PLAN).do(harmony_edits.turn_lead(77)).sealed().undo()
        self.assertEqual(len(history.future), 1)
        history = history.do(change_setting("title", "Evening"))
        self.assertEqual(history.future, ())
        self.assertIs(history.redo(), history)

    def test_a_drag_is_one_step_and_relative_moves_do_not_add_up(self):
        history = History(PLAN)
        for turn in (5, 10, 20):
            history = history.do(harmony_edits.turn_family("A", turn))
        self.assertEqual(len(history.past), 1)
        self.assertEqual(edits.study(history.now).colours["r1"].hue_offset_deg, 20)
        history = history.sealed().do(harmony_edits.turn_family("A", 3))
        self.assertEqual(len(history.past), 2)
        self.assertEqual(edits.study(history.now).colours["r1"].hue_offset_deg, 23)
        history = history.do(harmony_edits.turn_family("B", 3))
        self.assertEqual(len(history.past), 3)

    def test_a_drag_back_to_where_it_began_leaves_no_step(self):
        history = History(PLAN).do(harmony_edits.turn_lead(209)).do(harmony_edits.turn_lead(200))
        self.assertEqual((history.past, history.now), ((), PLAN))
        self.assertIs(History(PLAN).do(harmony_edits.turn_lead(200)).now, PLAN)

    def test_after_undo_a_drag_begins_anew(self):
        history = History(PLAN).do(harmony_edits.turn_lead(209)).undo()
        self.assertIsNone(history.open_key)
        self.assertEqual(len(history.do(harmony_edits.turn_lead(210)).past), 1)
