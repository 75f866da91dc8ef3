"""Amounts of a ramp, colours for outlines, ways that are borrowed, and the checks of ramps."""

import unittest

import numpy as np

from tests import scenes
from tests.steps.test_ramps import steps, turns
from umber_compass.colour.difference import ciede2000
from umber_compass.colour.measured import measure_hex
from umber_compass.colour.packed import unpack
from umber_compass.colour.spaces import cielab, decode, hue_distance, parse_hex
from umber_compass.plan import edits
from umber_compass.plan.model import Ramp
from umber_compass.plan.ramp_edits import set_all_recipes, set_region_gradient
from umber_compass.plan.regrouping import regroup
from umber_compass.plan.settings import change_setting
from umber_compass.steps import keys
from umber_compass.steps.checks import CHECKS
from umber_compass.steps.harmony.edits import give_colour
from umber_compass.steps.pictures import picture
from umber_compass.steps.ramps.outline import outline_of
from umber_compass.words import Refusal, words


class Amounts(unittest.TestCase):
    def test_chroma_in_darks_and_lights_is_times_the_recipes_own(self):
        usual = steps("#c06a3c")
        for key, end, other in (("dark_chroma", 0, -1), ("light_chroma", -1, 0)):
            less, none = steps("#c06a3c", **{key: 0.4}), steps("#c06a3c", **{key: 0.0})
            self.assertLess(less.steps[end].chroma, 0.75 * usual.steps[end].chroma)
            self.assertLess(none.steps[end].chroma, less.steps[end].chroma)
            self.assertEqual(less.steps[other].hex, usual.steps[other].hex)
            self.assertEqual(less.steps[less.base].hex, "#c06a3c")

    def test_greys_take_as_much_as_is_told_and_shades_end_where_told(self):
        none, much = steps("#808080", grey_tint=0.0), steps("#808080", grey_tint=0.03)
        self.assertLess(max(s.chroma for s in none.steps), 0.002)
        self.assertGreater(much.steps[0].chroma, 0.02)
        ends = [steps("#c06a3c", darker=9, darkest=d).steps[0].value for d in (0.0, 10.0, 25.0)]
        self.assertLess(ends[0], 5)
        self.assertAlmostEqual(ends[1], 10, delta=1.5)
        self.assertAlmostEqual(ends[2], 25, delta=1.5)

    def test_an_outline_is_nearly_black_in_the_hue_of_the_darkest(self):
        for base in ("#c06a3c", "#3c6ac0", "#f0e0a0", "#101010", "#ffffff"):
            made = steps(base)
            found = measure_hex(outline_of(made))
            self.assertTrue(3 <= found.value <= 15, base)
            darkest = made.steps[0]
            if darkest.hue is not None and found.hue is not None and found.chroma > 0.02:
                self.assertLess(abs(hue_distance(darkest.hue, found.hue)), 8)


class Borrowed(unittest.TestCase):
    PICKED = ("#2a1a4a", "#8a3a5a", "#e08a4a", "#ffe0a0")

    def test_steps_turn_and_rise_as_the_picked_ones_do_whatever_their_order(self):
        made = steps("#4a8a5a", "borrowed", picked=self.PICKED)
        self.assertEqual(
            made,
            made._replace(
                steps=steps("#4a8a5a", "borrowed", picked=self.PICKED[::-1]).steps, ramp=made.ramp
            ),
        )
        values = [s.value for s in made.steps]
        self.assertEqual(values, sorted(values))
        own = [measure_hex(h) for h in self.PICKED]
        # The strongest of the middle ones, the orange, stands for the base.
        way = float(hue_distance(own[2].hue, own[0].hue))
        self.assertGreater(turns(made)[0] * np.sign(way), 15)
        self.assertEqual(made.steps[made.base].hex, "#4a8a5a")

    def test_on_its_own_middle_its_way_leads_by_what_was_picked(self):
        made = steps(self.PICKED[2], "borrowed", darker=9, lighter=5, picked=self.PICKED)
        found, wanted = (
            cielab(decode(np.array([parse_hex(h) for h in many])))
            for many in ([s.hex for s in made.steps], self.PICKED)
        )
        nearest = ciede2000(found[:, None], wanted[None]).min(axis=0)
        self.assertLess(nearest.max(), 7)

    def test_none_one_and_odd_ones_give_steps_too(self):
        for picked in (
            (),
            ("#ff0000",),
            ("#808080", "#808080"),
            ("#000000", "#ffffff"),
            ("#00ff00",) * 12,
        ):
            made = steps("#c06a3c", "borrowed", picked=picked)
            values = [s.value for s in made.steps]
            self.assertEqual(values, sorted(values), picked)
            self.assertGreater(len(values), 3)

    def test_keys_say_what_is_picked(self):
        plan = scenes.plan_of([scenes.planned(), scenes.planned("B", 30.0, 0.05)])
        plan = keys.edit_from(plan, "region.r1.picked=#2A1A4A, #e08a4a").apply(plan)
        ramp = edits.study(plan).recipes["r1"]
        self.assertEqual((ramp.recipe, ramp.picked), ("borrowed", ("#2a1a4a", "#e08a4a")))
        with self.assertRaisesRegex(Refusal, "red"):
            keys.edit_from(plan, "region.r1.picked=red").apply(plan)


class Tied(scenes.InFolder):
    """A region that is a step of another's ramp."""

    def setUp(self):
        super().setUp()
        self.made, self.pipeline = self.bring_in()
        self.ids = [r.id for r in self.made.plan.regions]

    def tie(self, plan, region, of):
        return keys.edit_from(plan, f"region.{region}.shade-of={of}").apply(plan)

    def colour(self, plan, region):
        return self.pipeline.derive(plan).colours[region].first.hex

    def test_its_colour_is_that_step_and_follows_the_other(self):
        one, other = self.ids[:2]
        plan = self.tie(self.made.plan, one, f"{other}:-2")
        for base in ("#b05a3c", "#3c5ab0", "#101010"):
            plan = give_colour(other, base, "it").apply(plan)
            ramp = self.pipeline.derive(plan).ramps[other][0]
            wanted = ramp.steps[max(ramp.base - 2, 0)].hex
            self.assertEqual(self.colour(plan, one), wanted)
        plan = keys.edit_from(plan, f"region.{other}.recipe=straight").apply(plan)
        ramp = self.pipeline.derive(plan).ramps[other][0]
        self.assertEqual(self.colour(plan, one), ramp.steps[max(ramp.base - 2, 0)].hex)
        derived = self.pipeline.derive(plan)
        self.assertIn(one, derived.locked)
        table = unpack(picture(derived)).reshape(-1, 3)
        drawn = derived.drawing.labels.reshape(-1) == self.made.plan.regions[0].label
        shown, counts = np.unique(table[drawn], axis=0, return_counts=True)
        most = "#" + bytes(shown[counts.argmax()].tolist()).hex()
        self.assertEqual(most, self.colour(plan, one))

    def test_it_is_freed_and_what_cannot_be_tied_is_said(self):
        one, other, third = self.ids[:3]
        before = self.colour(self.made.plan, one)
        plan = self.tie(self.made.plan, one, f"{other}:+1")
        self.assertEqual(self.colour(self.tie(plan, one, "off"), one), before)
        for bad in (f"{one}:-1", f"{other}", f"{other}:x", f"{other}:-12", "nobody:-1"):
            with self.assertRaises(Refusal):
                self.tie(self.made.plan, one, bad)
        with self.assertRaisesRegex(Refusal, "tied itself"):
            self.tie(plan, third, f"{one}:-1")
        plan = self.tie(plan, other, f"{third}:-1")  # what hung on it is free
        self.assertEqual(set(edits.study(plan).shades), {other})

    def test_a_tie_goes_with_its_regions(self):
        one, other = self.ids[:2]
        plan = self.tie(self.made.plan, one, f"{other}:-1")
        left = tuple(r for r in plan.regions if r.id != other)
        then = regroup(words("x"), plan.sketch, left).apply(plan)
        self.assertEqual(edits.study(then).shades, {})


class Over(scenes.InFolder):
    def test_a_gradient_over_its_own_shading_stays_a_regions_own_when_all_get_one_recipe(self):
        made, _ = self.bring_in()
        one, other = (r.id for r in made.plan.regions[:2])
        plan = set_region_gradient(one, ["#102030", "#f0e0d0"], "one").apply(made.plan)
        everywhere = set_all_recipes(Ramp(recipe="straight", over=("#ffffff",))).apply(plan)
        ramps = edits.study(everywhere).recipes
        self.assertEqual({r.recipe for r in ramps.values()}, {"straight"})
        self.assertEqual((ramps[one].over, ramps[other].over), (("#102030", "#f0e0d0"), ()))


class Checked(scenes.InFolder):
    """Ramps against a budget, and light steps against other materials."""

    def setUp(self):
        super().setUp()
        self.made, self.pipeline = self.bring_in()

    def results(self, plan, name):
        derived = self.pipeline.derive(plan, works=True)
        return derived, list(CHECKS[name].results(derived))

    def test_steps_over_the_budget_are_said_and_mended(self):
        plan = change_setting("budget", 9).apply(self.made.plan)
        derived, (result,) = self.results(plan, "step-budget")
        self.assertEqual(result.level, "warning")
        found = {s.hex for many in derived.ramps.values() for r in many for s in r.steps}
        self.assertEqual(result.measured, len(found))
        fixes = CHECKS["step-budget"].candidates(derived, result)
        self.assertGreaterEqual(len(fixes), 1)
        for fix in fixes:
            _, (after,) = self.results(fix.edit.apply(plan), "step-budget")
            self.assertEqual(after.level, "fine", fix.id)
        self.assertEqual(self.results(self.made.plan, "step-budget")[1], [])

    def test_a_light_step_in_anothers_colour_is_said_and_mended(self):
        plan, ids = self.made.plan, [r.id for r in self.made.plan.regions]
        plan = give_colour(ids[0], "#b05a3c", "it").apply(plan)
        derived = self.pipeline.derive(plan, works=True)
        light = derived.ramps[ids[0]][0].steps[-1].hex
        plan = give_colour(ids[1], light, "it").apply(plan)
        derived, (result,) = self.results(plan, "step-alike")
        self.assertEqual((result.regions, result.level), ((ids[0], ids[1]), "note"))
        fixes = CHECKS["step-alike"].candidates(derived, result)
        self.assertTrue(fixes)
        for fix in fixes:
            _, (after,) = self.results(fix.edit.apply(plan), "step-alike")
            self.assertGreaterEqual(after.measured, result.wanted)

    def test_every_pair_is_said_and_no_fix_that_does_not_part_it(self):
        plan, touching = self.made.plan, self.pipeline.derive(self.made.plan).touching
        both = [(touching.ids[a], touching.ids[b]) for a, b in touching.pairs.tolist()]
        both += [(b, a) for a, b in both]
        first, second = next((p, q) for p in both for q in both if p[1] == q[0] != q[1] != p[0])
        plan = give_colour(first[0], "#606060", "it").apply(plan)
        for light, other in (first, second):
            derived = self.pipeline.derive(plan, works=True)
            plan = give_colour(other, derived.ramps[light][0].steps[-1].hex, "it").apply(plan)
        derived, found = self.results(plan, "step-alike")
        said = {r.regions: r for r in found}
        self.assertLessEqual({first, second}, set(said))
        # A grey has no chroma to take away: paler lights part nothing.
        fixes = CHECKS["step-alike"].candidates(derived, said[first])
        self.assertEqual([fix.id for fix in fixes], ["less"])
