"""Checks and fixes: thresholds by hand, then everything over plans made at random."""

import itertools
import unittest

import numpy as np
from msgspec.structs import replace

from tests import scenes
from tests.scenes import NOTHING, planned
from umber_compass import document
from umber_compass.demo.plans import DEMOS
from umber_compass.plan import edits
from umber_compass.plan.harmony_edits import turn_lead
from umber_compass.plan.light_edits import light_on, rig_of, set_ambient, set_lamp, with_rig
from umber_compass.plan.model import Gradient, Pinned
from umber_compass.plan.practice_edits import set_rule
from umber_compass.plan.rig import Lamp
from umber_compass.plan.settings import change_setting
from umber_compass.steps.checks import CHECKS, judging
from umber_compass.steps.checks.check import Result, level_over, level_under, upper
from umber_compass.steps.checks.values import extremes
from umber_compass.steps.harmony.scheme import slot_hues
from umber_compass.steps.harmony.shifts import shift_values
from umber_compass.steps.mending import balance
from umber_compass.steps.pipeline import Pipeline
from umber_compass.words import words


def result(key, level, measured=5.0, wanted=10.0):
    return Result(key, level, (), measured, wanted, "", words(key), words(""))


class Thresholds(unittest.TestCase):
    def test_a_wish_that_is_just_met_is_met(self):
        for measured, over, under in (
            (10, "fine", "warning"),
            (20, "fine", "note"),
            (20.1, "note", "note"),
            (25, "note", "fine"),
            (25.1, "warning", "fine"),
        ):
            self.assertEqual(level_over(measured, 20, 25), over)
            self.assertEqual(level_under(measured, 25, 20), under)
        self.assertEqual(upper("sea"), "Sea")

    def test_results_stand_worst_first(self):
        rows = [result("a", "note", 11), result("b", "warning", 12), result("c", "warning", 30)]
        order = sorted(
            rows, key=lambda r: (-("fine", "note", "warning").index(r.level), -judging._excess(r))
        )
        self.assertEqual([r.check for r in order], ["c", "b", "a"])
        self.assertAlmostEqual(judging._excess(result("a", "note", 30, 0)), 3)

    def test_what_a_fix_breaks_costs(self):
        before = [result("a", "fine"), result("b", "note"), result("c", "warning")]
        for then, cost in (
            ([result("a", "fine"), result("b", "note"), result("c", "warning")], 0),
            ([result("a", "warning")], 3),
            ([result("d", "warning")], 3),
            ([result("b", "warning")], 1.5),
            ([result("a", "note")], 0.5),
            ([result("c", "fine")], 0),
        ):
            self.assertEqual(judging._broken(before, then), cost)
        new = judging._new_warnings(before, [result("b", "warning"), result("c", "warning")])
        self.assertEqual([r.check for r in new], ["b"])


class Boat(scenes.InFolder):
    def setUp(self):
        super().setUp()
        self.made, self.pipeline = self.bring_in()
        self.plan = self.made.plan
        self.hull, self.sea = (self.region(self.plan, c) for c in (scenes.HULL, scenes.SEA))

    def measured(self, plan, check):
        return [r for r in judging.measure_all(self.pipeline.derive(plan)) if r.check == check]

    def coloured(self, **values):
        colours = {r.id: planned(value=values.get(r.id, 50.0)) for r in self.plan.regions}
        return edits.with_colours(self.plan, colours)

    def test_a_figure_is_held_against_its_ground_along_their_border(self):
        for apart, level in ((15.2, "fine"), (14.5, "note"), (11.5, "warning")):
            plan = self.coloured(**{self.hull.id: 50 - apart, "r2": 5.0})
            found = self.measured(plan, "figure-merges")
            mine = [r for r in found if r.regions[:1] == (self.hull.id,)]
            got = mine[0].level if mine else "fine"
            self.assertEqual(got, level)
            if mine:
                self.assertAlmostEqual(mine[0].measured, apart, delta=0.6)
                self.assertEqual((mine[0].regions[1], mine[0].wanted), (self.sea.id, 15))
        ground = change_setting("region.REGION.role", "ground", self.hull.id, "x").apply(
            self.coloured()
        )
        self.assertNotIn(
            self.hull.id, {i for r in self.measured(ground, "figure-merges") for i in r.regions[:1]}
        )

    def test_a_short_border_does_not_count(self):
        """A boat that lies three parts in the sea and one in the sand."""
        boat = ("rectangle", (70, 72, 110, 109), scenes.HULL)
        self.sketch.write_bytes(scenes.encoded(scenes.draw((*scenes.BOAT[:2], boat))))
        self.made, self.pipeline = self.bring_in()
        plan = self.plan = self.made.plan
        plan = edits.with_colours(plan, {r.id: planned() for r in plan.regions})
        hull, sea, sand = (self.region(plan, c).id for c in (scenes.HULL, scenes.SEA, scenes.SAND))
        for least, grounds in ((10, {sea, sand}), (50, {sea}), (95, set())):
            told = set_rule("figure-merges.border", least, "x").apply(plan)
            found = {r.regions for r in self.measured(told, "figure-merges") if r.level != "fine"}
            self.assertEqual(found, {(hull, g) for g in grounds})

    def test_strays_are_counted_by_share_chroma_and_arc(self):
        scheme = scenes.scheme("one-hue", "perceptual", 100.0)
        study = replace(edits.study(self.plan), scheme=scheme)

        def levels(turn, chroma=0.1, **rules):
            colours = {r.id: planned(turn=0.0) for r in self.plan.regions}
            colours[self.sea.id] = planned(chroma=chroma, turn=float(turn))
            plan = edits.with_study(self.plan, replace(study, colours=colours))
            plan = replace(plan, overrides=rules)
            return [(r.level, r.regions) for r in self.measured(plan, "hue-off-scheme")]

        mine = (self.sea.id,)
        self.assertEqual(levels(17), [("fine", ())])
        self.assertEqual(levels(25), [("note", mine)])
        self.assertEqual(levels(40), [("warning", mine)])
        self.assertEqual(levels(170, chroma=0.029), [("fine", ())])  # a grey does not stray
        self.assertEqual(levels(40, **{"hue-off-scheme.share": 99.0}), [("fine", ())])
        self.assertEqual(levels(40, **{"hue-off-scheme.arc": 45.0}), [("fine", ())])

    def test_a_stray_is_said_of_its_arc_and_of_a_given_colour(self):
        for scheme, own, said in (
            ("one-hue", planned(turn=60.0), "outside the lead’s arc"),
            ("one-hue", Pinned(hex="#7060c0"), "outside the lead’s arc, but its colour is fixed"),
            ("opposites", planned(slot="B", turn=60.0), "outside B’s arc"),
            ("opposites", Pinned(hex="#2f9fc4"), "outside B’s arc, but its colour is fixed"),
        ):
            with self.subTest(said):
                wheel = scenes.scheme(scheme, "perceptual", 100.0)
                colours = {r.id: planned() for r in self.plan.regions} | {self.sea.id: own}
                study = replace(edits.study(self.plan), scheme=wheel, colours=colours)
                (found,) = self.measured(edits.with_study(self.plan, study), "hue-off-scheme")
                self.assertIn(said + "\n", str(found.text) + "\n")

    def test_a_gradient_strays_at_its_worse_end_and_is_turned_there(self):
        scheme = scenes.scheme("one-hue", "perceptual", 100.0)
        two = Gradient(first=planned(), second=planned(turn=50.0))
        study = replace(edits.study(self.plan), scheme=scheme)
        colours = {r.id: planned() for r in self.plan.regions} | {self.sea.id: two}
        plan = edits.with_study(self.plan, replace(study, colours=colours))
        derived = self.pipeline.derive(plan)
        found = next(r for r in judging.judge(derived) if r.check == "hue-off-scheme")
        self.assertAlmostEqual(found.measured, 32, delta=1.5)
        turned = edits.study(found.fixes[0].edit.apply(plan)).colours[self.sea.id]
        self.assertEqual(turned.first, two.first)
        self.assertLess(turned.second.hue_offset_deg, 18)
        self.assertGreater(turned.second.hue_offset_deg, 8)

    def test_the_cheaper_of_two_fixes_stands_first_whatever_it_breaks(self):
        """Costs of every fix by hand: its change of colour and what it breaks."""
        compared = 0
        for seed in range(8):
            plan = self.random_plan(seed)
            derived = self.pipeline.derive(plan)
            before = judging.measure_all(derived)
            for found in judging.judge(derived):
                costs = []
                for fix in found.fixes:
                    after = self.pipeline.derive(fix.edit.apply(plan))
                    moved = 0.0
                    for r, share in derived.shares.items():
                        a, b = derived.colours[r].first.hex, after.colours[r].first.hex
                        moved += share * balance._distance(a, b)
                    costs.append(100 * moved + judging._broken(before, judging.measure_all(after)))
                np.testing.assert_allclose(costs, sorted(costs), atol=1e-6)
                compared += len(costs) > 1
        self.assertGreater(compared, 8)

    def random_plan(self, seed):
        rng = np.random.default_rng(seed)
        plan = turn_lead(float(rng.uniform(0, 360))).apply(self.plan)
        plan = edits.with_scheme(plan, chosen=True)
        slots = list(slot_hues(edits.study(plan).scheme))
        colours = {
            r.id: planned(
                str(rng.choice(slots)),
                float(rng.uniform(5, 95)),
                float(rng.uniform(0, 0.16)),
                float(np.clip(rng.normal(0, 25), -180, 180)),
            )
            for r in plan.regions
        }
        return edits.with_colours(plan, colours)

    def test_measured_agrees_with_level_and_best_fix_reaches_its_wish(self):
        of_light = {n for n, c in CHECKS.items() if c.step == "light"}  # these plans are flat
        seen = dict.fromkeys(set(CHECKS) - of_light, 0)
        for seed in range(18):
            plan = self.random_plan(seed)
            derived = self.pipeline.derive(plan)
            results = judging.judge(derived)
            self.assertLessEqual({r.check for r in results}, set(CHECKS) - of_light)
            for found in results:
                if found.level == "fine" or not found.fixes:
                    continue
                seen[found.check] += 1
                after = judging.measure_all(self.pipeline.derive(found.fixes[0].edit.apply(plan)))
                with self.subTest(seed=seed, check=found.check):
                    same = {r.key: r for r in after}.get(found.key)
                    self.assertTrue(same is None or same.level == "fine")
                    warned = {r.key for r in after if r.level == "warning"}
                    stood = {
                        r.key: abs(r.measured - r.wanted) for r in results if r.level == "warning"
                    }
                    warned -= set(stood)
                    warned |= {
                        r.key
                        for r in after
                        if r.level == "warning"
                        and abs(r.measured - r.wanted) > 1.1 * stood.get(r.key, np.inf)
                    }
                    self.assertEqual(bool(warned), bool(found.fixes[0].adds))
                    self.assertEqual("(but: " in str(found.fixes[0].text), bool(warned))
        often = (
            "extremes figure-merges hue-off-scheme halves-equal drift shadow-middles strong-colour"
        )
        self.assertTrue(all(seen[check] >= 2 for check in often.split()), seen)

    def test_mending_leaves_fewer_warnings_and_stops(self):
        for seed in range(8):
            plan = self.random_plan(seed)

            def warnings(now):
                results = judging.measure_all(self.pipeline.derive(now))
                return sum(r.level == "warning" for r in results)

            mended, taken = judging.mend(plan, self.pipeline)
            self.assertLessEqual(len(taken), judging.MOST_FIXES)
            self.assertEqual(warnings(mended) < warnings(plan), bool(taken))
            only, some = judging.mend(plan, self.pipeline, "extremes")
            self.assertTrue(all(f.id.startswith("cover") for f in some))
            self.assertEqual(only == plan, not some)

    def test_a_given_colour_is_never_moved(self):
        plan = edits.with_colours(
            self.random_plan(1), {r.id: Pinned(hex="#20c040") for r in self.plan.regions}
        )
        for found in judging.judge(self.pipeline.derive(plan)):
            self.assertEqual(found.fixes, ())

    def test_thresholds_come_from_the_plan(self):
        plan = set_rule("extremes.light", 100, "x").apply(
            set_rule("extremes.dark", 0, "x").apply(self.plan)
        )
        found = self.measured(plan, "extremes")
        self.assertEqual((found[0].level, found[0].measured), ("fine", 0.0))


class Covers(unittest.TestCase):
    def test_a_cover_of_extremes_costs_hardly_more_than_the_best_of_all(self):
        rng = np.random.default_rng(0)
        for _ in range(60):
            moves = [
                extremes._Move(str(i), 1.0, *map(float, rng.random(2)))
                for i in range(rng.integers(2, 9))
            ]
            excess = float(rng.random() * sum(m.gain for m in moves))
            sets = itertools.chain.from_iterable(
                itertools.combinations(moves, k) for k in range(len(moves) + 1)
            )
            enough = [s for s in sets if sum(m.gain for m in s) >= excess]
            found = extremes._cover(moves, excess)
            self.assertIn(tuple(found), enough)
            best = min(sum(m.cost for m in s) for s in enough)
            self.assertLessEqual(sum(m.cost for m in found), best * 1.15 + 1e-6)
        self.assertEqual(extremes._cover(moves, 99.0), [])


class Light(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.plan, pixels, *_ = document.open_plan(DEMOS[0].plan)
        cls.pipeline = Pipeline(pixels.drawings)

    def found(self, plan, check):
        derived = self.pipeline.derive(plan)
        results = judging.measure_all(derived)
        bad = next(r for r in results if r.check == check)
        return judging.with_fixes(bad, results, derived)

    def test_the_rank_is_measured_as_luminance(self):
        grey = set_ambient(NOTHING, hex="#ffffff", strength=50).apply(self.plan)
        for strength, level in ((66, "fine"), (64, "note"), (49, "note")):
            plan = set_lamp("key", NOTHING, hex="#ffffff", strength=strength).apply(grey)
            found = self.found(plan, "lamp-rank")
            self.assertEqual(found.level, level)
            self.assertAlmostEqual(found.measured, strength / 50, places=6)

    def test_the_hues_apart_are_measured_between_key_and_ambient(self):
        for ambient, level in (("#80a8ff", "fine"), ("#ffd0a8", "note"), ("#a8c840", "note")):
            found = self.found(set_ambient(NOTHING, hex=ambient).apply(self.plan), "warm-with-cool")
            self.assertEqual(found.level, level, found.measured)

    def test_lamp_checks_are_mended(self):
        rim = Lamp(name="rim", rank=2, hex="#ff8080")
        two = with_rig(self.plan, replace(rig_of(self.plan), lamps=(rim, *rig_of(self.plan).lamps)))
        for plan in (self.plan, two):
            for edit, check in (
                (set_lamp("key", NOTHING, strength=20.0), "lamp-rank"),
                (set_lamp("key", NOTHING, on=False), "lamp-rank"),
                (set_ambient(NOTHING, hex="#ffe0b0"), "warm-with-cool"),
                (set_ambient(NOTHING, hex="#d0d0d0"), "warm-with-cool"),
            ):
                with self.subTest(check):
                    changed = edit.apply(plan)
                    found = self.found(changed, check)
                    self.assertNotEqual(found.level, "fine")
                    for fix in found.fixes:
                        after = judging.measure_all(self.pipeline.derive(fix.edit.apply(changed)))
                        levels = {r.level for r in after if r.check == check}
                        self.assertEqual(levels, {"fine"}, str(fix.text))
                    self.assertTrue(found.fixes)

    def test_no_light_no_check_of_it(self):
        flat = edits.with_study(self.plan, replace(edits.study(self.plan), rig=None))
        names = {r.check for r in judging.measure_all(self.pipeline.derive(flat))}
        self.assertFalse(names & {"lamp-rank", "warm-with-cool"})
        lit = {r.check for r in judging.measure_all(self.pipeline.derive(light_on(flat)))}
        self.assertIn("lamp-rank", lit)

    def test_fixes_of_values_reach_their_wish_through_the_light(self):
        derived = self.pipeline.derive(self.plan)
        for found in judging.judge(derived):
            if found.check == "figure-merges":
                self.assertTrue(found.fixes)
                for fix in found.fixes:
                    after = judging.measure_all(self.pipeline.derive(fix.edit.apply(self.plan)))
                    self.assertNotIn(found.key, {r.key for r in after if r.level != "fine"})


class InLight(unittest.TestCase):
    def test_a_fix_moves_no_more_than_it_must_and_holds_on_exact_px(self):
        opened = document.open_plan(scenes.small(DEMOS[0].plan))
        pipeline = Pipeline(opened.pixels.drawings)
        for seed in range(2):
            moved = np.random.default_rng(seed).normal(0, 9, len(opened.plan.regions)).tolist()
            by = dict(zip((r.id for r in opened.plan.regions), moved, strict=True))
            plan = shift_values(by)(opened.plan)
            derived = pipeline.derive(plan)
            asked = 0
            for result in judging.judge(derived):
                first = next(iter(result.fixes), None)
                for fix in (f for f in result.fixes if f.at is not None and f is not first):
                    less = fix.at((fix.move - 0.5) / fix.at(1.0).move).edit.apply(plan)
                    with self.subTest(seed=seed, fix=str(fix.text)):
                        bad = judging._still_bad(result, judging.measure_all(pipeline.derive(less)))
                        self.assertTrue(fix.move <= 0.5 or bad)
                        asked += 1
                if first is not None and first.at is not None:
                    after = pipeline.derive(first.edit.apply(plan)).exactly()
                    self.assertFalse(judging._still_bad(result, judging.measure_all(after)))
            self.assertGreater(asked, 4)

    def test_a_standing_warning_that_grows_is_said(self):
        said = words("Sea and sand merge")
        before = Result("x", "warning", ("a",), 10.0, 15.0, "L*", said, said)
        for measured, count in ((9.6, 0), (9.3, 1), (12.0, 0)):
            found = judging._worse([before], [before._replace(measured=measured)])
            self.assertEqual([str(r.title) for r in found], ["Sea and sand merge the more"] * count)
