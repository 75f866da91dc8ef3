"""Stages: worked out once, found again by the very same needs, shared by studies and threads."""

import threading
import unittest

import numpy as np
from msgspec.structs import replace

from tests import scenes
from umber_compass.plan import (
    edits,
    harmony_edits,
    practice_edits,
    sketch_edits,
)
from umber_compass.plan.light_edits import light_on, set_lamp
from umber_compass.plan.rig import Lamp, Rig
from umber_compass.plan.settings import change_setting
from umber_compass.steps.checks.judging import judge
from umber_compass.steps.harmony.edits import make_gradient
from umber_compass.steps.pictures import exact_picture, picture
from umber_compass.steps.pipeline import Derived, Pipeline, carried
from umber_compass.steps.stages import KEPT, Memory, freeze, same, slow_stage, stage
from umber_compass.work import Stopped

STAGES = [n for n, s in vars(Derived).items() if type(s).__name__ == "Stage"]


CALLS = []


def twice(number):
    CALLS.append(number)
    return (number * 2,)


class Counted:
    """A holder of its own: a number, twice it, and what settles."""

    def __init__(self, memory, number):
        self.memory, self.number = memory, number

    twice = stage(twice, "number")
    even = stage(lambda twice: [t % 4 for t in twice], "twice", settles=True)

    def result(self, wanted):
        needs = tuple(getattr(self, n) for n in wanted.needs)
        known = self.memory.find(wanted, needs)
        return known[0] if known else self.memory.keep(wanted, needs, wanted.work(*needs))


class Stages(unittest.TestCase):
    def setUp(self):
        CALLS.clear()
        self.memory = Memory()

    def test_the_last_few_are_found_again_and_older_ones_worked_out_anew(self):
        first = Counted(self.memory, 1).twice
        self.assertIs(Counted(self.memory, 1).twice, first)
        for number in range(2, KEPT + 1):
            self.assertEqual(Counted(self.memory, number).twice, (number * 2,))
        self.assertIs(Counted(self.memory, 1).twice, first)
        Counted(self.memory, 99)
        for number in range(50, 50 + KEPT):
            self.assertEqual(Counted(self.memory, number).twice, (number * 2,))
        self.assertEqual(CALLS.count(1), 1)
        self.assertIsNot(Counted(self.memory, 1).twice, first)
        self.assertEqual(CALLS.count(1), 2)

    def test_an_equal_result_settles_to_the_earlier_object(self):
        one, three = (Counted(self.memory, n).even for n in (1, 3))
        self.assertIs(one, three)
        self.assertEqual(Counted(self.memory, 2).even, [0])

    def test_needs_are_the_same_by_identity_or_as_plain_values(self):
        a, b = [1], [1]
        for one, other, alike in (
            (a, a, True),
            (a, b, False),
            (1.5, 1.5, True),
            ("x", "x", True),
            (1, True, False),
            (1, 1.0, False),
            (None, None, True),
        ):
            self.assertEqual(same(one, other), alike)

    def test_a_stand_in_needs_what_it_names_to_be_the_same(self):
        made = slow_stage(lambda *_: None, "a", "b", stands_in=("b",))
        made.name = "made"
        self.memory.keep(made, (1, "x"), "first")
        self.memory.keep(made, (2, "x"), "second")
        self.assertEqual(self.memory.stand_in(made, (3, "x")), "second")
        self.assertIsNone(self.memory.stand_in(made, (3, "y")))
        bare = slow_stage(lambda *_: None, "a")
        bare.name = "bare"
        self.memory.keep(bare, (1,), "x")
        self.assertIsNone(self.memory.stand_in(bare, (2,)))

    def test_two_threads_never_hold_two_results(self):
        gate, found = threading.Barrier(2), []

        def work():
            gate.wait(10)
            found.append(Counted(self.memory, 7).twice)

        threads = [threading.Thread(target=work) for _ in range(2)]
        for t in threads:
            t.start()
        for t in threads:
            t.join()
        self.assertIs(found[0], found[1])

    def test_arrays_are_frozen_wherever_they_stand(self):
        deep = (np.zeros(2), (np.zeros(2), "a"))
        freeze(deep)
        self.assertFalse(deep[0].flags.writeable or deep[1][0].flags.writeable)


def arrays_in(result):
    """Every array in a result, however deep it lies."""
    if isinstance(result, np.ndarray):
        yield result
    elif isinstance(result, dict | list | tuple):
        for part in result.values() if isinstance(result, dict) else result:
            yield from arrays_in(part)


class Pipelines(scenes.InFolder):
    def setUp(self):
        super().setUp()
        self.made, self.pipeline = self.bring_in()
        self.plan = light_on(self.made.plan)

    def kept(self, one, other):
        """The stages whose results are the very same objects."""
        return {n for n in STAGES if getattr(one, n) is getattr(other, n)}

    def test_every_stage_names_what_there_is(self):
        derived = self.pipeline.derive(self.plan)
        for name in STAGES:
            self.assertEqual(
                len(derived.needs(getattr(Derived, name))), len(getattr(Derived, name).needs)
            )
        self.assertGreater(len(STAGES), 15)

    def test_no_array_of_a_result_can_be_changed(self):
        derived = self.pipeline.derive(self.plan)
        arrays = {n: list(arrays_in(getattr(derived, n))) for n in STAGES}
        self.assertGreater(sum(map(len, arrays.values())), 20)
        for name, found in arrays.items():
            self.assertFalse(any(a.flags.writeable for a in found), name)

    def test_results_are_carried_over_only_where_the_same_is_shown(self):
        first = self.pipeline.derive(self.plan)
        table = first.table
        same = carried(first, change_setting("title", "Other").apply(self.plan))
        self.assertIs(same.table, table)
        self.assertEqual(same.plan.title, "Other")
        name = self.plan.regions[0].id
        for change in (
            harmony_edits.turn_lead(10),
            change_setting("region.REGION.name", "deep", name),
            change_setting("budget", 9),
            practice_edits.set_rule("extremes.dark", 11, "x"),
        ):
            self.assertIsNone(carried(first, change.apply(self.plan)), str(change.name))

    def test_a_change_runs_only_what_names_it(self):
        first = self.pipeline.derive(self.plan)
        every = {n for n in STAGES if getattr(first, n) is not None}
        name = self.plan.regions[0].id
        lit = {"arriving", "lit", "values", "lights", "chart"}
        for change, anew in (
            (change_setting("title", "Other"), set()),
            (
                change_setting("region.REGION.name", "deep", name),
                {"given", "chart", "shares", "held", "table"},
            ),
            (set_lamp("key", scenes.NOTHING, strength=20), {*lit, "ramps"}),
            (change_setting("light.anchor", "mean"), {*lit, "ramps"}),
            (
                harmony_edits.turn_lead(10),
                {
                    "colours",
                    "table",
                    "rose",
                    "slot_shares",
                    "families",
                    "ramps",
                    "given",
                    "lit",
                    "values",
                    "lights",
                    "chart",
                },
            ),
        ):
            with self.subTest(str(change.name)):
                then = self.pipeline.derive(change.apply(self.plan))
                changed = every - self.kept(first, then)
                kept_anyway = {"axes", "indexed", "form_wishes", "built"}
                self.assertFalse(changed & kept_anyway, changed)
                if not anew:
                    self.assertEqual(changed, set())
                for stage_name in anew & {"lit", "colours", "arriving"}:
                    self.assertIn(stage_name, changed)
        turn = harmony_edits.turn_lead(10)
        for bounce in (0, 1):  # the floor's colour is thrown back, so that it is light too
            plan = change_setting("bounce", bounce).apply(self.plan)
            one, other = (self.pipeline.derive(p) for p in (plan, turn.apply(plan)))
            thrown = one.ground != other.ground
            self.assertEqual(one.arriving is other.arriving, not thrown, bounce)
            self.assertFalse(thrown and not bounce)
        moved = self.pipeline.derive(set_lamp("key", scenes.NOTHING, strength=20).apply(self.plan))
        for kept in ("indexed", "colours", "table", "built", "shares", "families", "rose"):
            self.assertIs(getattr(moved, kept), getattr(first, kept), kept)

    def test_forward_back_form_and_shared_surface_build_anew_and_a_role_too(self):
        first = self.pipeline.derive(self.plan).buffers
        one, two = self.plan.regions[2].id, self.plan.regions[3].id
        for edit in (
            change_setting("region.REGION.front", 0, one, "x"),
            change_setting("region.REGION.form", "flat", one, "x"),
            sketch_edits.share_form(one, two, "x", "y"),
            change_setting("region.REGION.role", "ground", one, "x"),
        ):
            with self.subTest(str(edit.name)):
                self.assertIsNot(self.pipeline.derive(edit.apply(self.plan)).buffers, first)
        wet = change_setting("region.REGION.material", "wet", one, "x").apply(self.plan)
        self.assertIs(self.pipeline.derive(wet).built, self.pipeline.derive(self.plan).built)

    def test_where_slow_stages_may_not_work_the_older_relief_stands_in(self):
        quick = Pipeline(self.made.pixels.drawings, works=False)
        flat = quick.derive(self.plan)
        self.assertEqual((flat.buffers, flat.lit, flat.ramps, flat.chart), (None,) * 4)
        self.assertFalse(flat.has(Derived.built))
        working = quick.derive(self.plan, works=True)
        self.assertIsNotNone(working.buffers)
        lit = quick.derive(self.plan)
        self.assertIs(lit.buffers, working.buffers)
        told = change_setting("region.REGION.form", "flat", self.plan.regions[2].id, "x").apply(
            self.plan
        )
        other = quick.derive(told)
        self.assertIs(other.buffers, working.buffers)
        self.assertFalse(other.has(Derived.built))
        gradient = make_gradient(self.plan, self.plan.regions[0].id, "x").apply(self.plan)
        self.assertIsNone(quick.derive(gradient).buffers)  # its codes stand for other colours

    def test_slow_results_are_looked_up_again_once_they_are_there(self):
        quick = Pipeline(self.made.pixels.drawings, works=False)
        derived = quick.derive(self.made.plan)
        self.assertIsNone(derived.ramps)
        told = []
        found = derived.worked(Derived.ramps, told.append)
        self.assertIsNone(derived.ramps)
        derived.forget_missing()
        self.assertIs(derived.ramps, found)
        self.assertTrue(told)

        def stop(share):
            raise Stopped

        with self.assertRaises(Stopped):
            self.assertIsNone(quick.derive(self.plan, works=True, tick=stop).built)

    def test_studies_share_what_hangs_on_the_sketch(self):
        other = replace(edits.study(self.plan), id="s2", rig=Rig(lamps=(Lamp(strength=5),)))
        plan = replace(self.plan, studies=(*self.plan.studies, other))
        one, two = self.pipeline.derive(plan), self.pipeline.derive(plan, "s2")
        self.assertIs(one.built, two.built)
        self.assertIs(one.indexed, two.indexed)
        self.assertIsNot(one.lit, two.lit)
        self.assertEqual(two.rig.key.strength, 5)

    def test_flat_and_lit_pictures(self):
        flat, lit = self.pipeline.derive(self.made.plan), self.pipeline.derive(self.plan)
        self.assertEqual((flat.buffers, flat.lit), (None, None))
        self.assertIs(flat.adjacency, flat.indexed.adjacency)
        self.assertIs(lit.adjacency, lit.buffers.adjacency)
        np.testing.assert_array_equal(picture(flat), exact_picture(flat))
        self.assertFalse((picture(lit) == picture(flat)).all())
        for name in ("table",):
            self.assertFalse(getattr(lit, name).flags.writeable)
        self.assertFalse(lit.lit.packed.flags.writeable)

    def test_looking_for_fixes_makes_nothing_of_the_plan_be_forgotten(self):
        many = replace(self.plan, budget=4)
        derived = self.pipeline.derive(many).think()
        before = derived.worked(Derived.ramps), derived.colours, derived.values
        self.assertTrue(any(r.fixes for r in judge(derived)))
        after = Pipeline.derive(self.pipeline, many, works=False)
        self.assertIs(after.colours, before[1])
        self.assertIs(after.ramps, before[0])
        self.assertIs(after.values, before[2])
