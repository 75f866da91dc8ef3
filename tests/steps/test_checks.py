"""Checks and fixes over many plans."""

import itertools

import numpy as np

from tests import scenes
from umber_compass.plan import edits, harmony_edits, practice_edits
from umber_compass.plan.model import Pinned, Planned
from umber_compass.steps.checks import CHECKS, judging
from umber_compass.steps.checks.values import extremes
from umber_compass.steps.harmony import scheme as harmony
from umber_compass.steps.pipeline import Pipeline


class Checks(scenes.InFolder):
    """Every check and its fixes over plans made at random."""

    def setUp(self):
        super().setUp()
        self.made, self.pipeline = self.bring_in()

    def random_plan(self, seed):
        rng = np.random.default_rng(seed)
        plan = harmony_edits.turn_lead(float(rng.uniform(0, 360))).apply(self.made.plan)
        scheme = edits.study(plan).scheme
        slots = list(harmony.slot_hues(scheme))
        colours = {
            r.id: Planned(
                slot=str(rng.choice(slots)),
                hue_offset_deg=float(rng.normal(0, 25)),
                value=float(rng.uniform(5, 95)),
                chroma=float(rng.uniform(0, 0.16)),
            )
            for r in plan.regions
        }
        return edits.with_colours(plan, colours)

    def test_measured_agrees_with_level_and_best_fix_reaches_its_wish(self):
        of_light = {n for n, c in CHECKS.items() if c.step == "light"}  # these plans are flat
        seen = dict.fromkeys(set(CHECKS) - of_light, 0)
        for seed in range(60):
            plan = self.random_plan(seed)
            derived = self.pipeline.derive(plan)
            results = judging.judge(derived, self.pipeline)
            self.assertEqual({r.check for r in results}, set(CHECKS) - of_light)
            for result in results:
                if result.level == "fine" or not result.fixes:
                    continue
                seen[result.check] += 1
                after = self.pipeline.derive(result.fixes[0].edit.apply(plan))
                then = {r.key: r for r in judging.measure_all(after)}
                with self.subTest(seed=seed, check=result.check):
                    same = then.get(result.key)
                    self.assertTrue(same is None or same.level == "fine")
                    warned = {r.key for r in judging.measure_all(after) if r.level == "warning"} - {
                        r.key for r in results if r.level == "warning"
                    }
                    if warned and result.check != "extremes":
                        self.assertTrue(result.fixes[0].adds)
        self.assertTrue(all(count >= 3 for count in seen.values()), seen)

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

    def test_fixes_are_ranked_by_how_little_they_change(self):
        plan = self.random_plan(4)
        derived = self.pipeline.derive(plan)
        for result in judging.judge(derived, self.pipeline):
            costs = [
                judging._change(
                    derived, Pipeline(self.made.pixels.drawings).derive(f.edit.apply(plan))
                )
                for f in result.fixes
                if not f.adds
            ]
            if len(costs) > 1:
                self.assertLessEqual(costs[0], max(costs) + 1e-9)

    def test_mending_leaves_fewer_warnings_and_stops(self):
        for seed in range(8):
            plan = self.random_plan(seed)
            before = sum(
                r.level == "warning" for r in judging.measure_all(self.pipeline.derive(plan))
            )
            mended, taken = judging.mend(plan, self.pipeline)
            after = sum(
                r.level == "warning" for r in judging.measure_all(self.pipeline.derive(mended))
            )
            self.assertLessEqual(len(taken), judging.MOST_FIXES)
            self.assertEqual(after < before, bool(taken))

    def test_a_given_colour_is_never_moved(self):
        plan = self.random_plan(1)
        pinned = {r.id: Pinned(hex="#20c040") for r in plan.regions}
        derived = self.pipeline.derive(edits.with_colours(plan, pinned))
        for result in judging.judge(derived, self.pipeline):
            self.assertEqual(result.fixes, ())

    def test_thresholds_come_from_the_plan(self):
        plan = practice_edits.set_rule("extremes.light", 100, "x").apply(
            practice_edits.set_rule("extremes.dark", 0, "x").apply(self.made.plan)
        )
        found = [
            r for r in judging.measure_all(self.pipeline.derive(plan)) if r.check == "extremes"
        ]
        self.assertEqual((found[0].level, found[0].measured), ("fine", 0.0))
