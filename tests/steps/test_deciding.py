"""Harmony, ramps, values, checks and fixes, by properties over many plans."""

import itertools
import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import scenes
from umber_compass.colour.spaces import hsb, hue_distance, parse_hex
from umber_compass.colour.wheels import WHEELS, hue_at
from umber_compass.plan import edits
from umber_compass.plan.model import Pinned, Planned, Ramp
from umber_compass.plan.practices.general import PRACTICE
from umber_compass.steps import colouring, harmony, judging, ramps
from umber_compass.steps.checks import CHECKS, extremes
from umber_compass.steps.pipeline import Pipeline
from umber_compass.steps.recipes import RECIPES
from umber_compass.steps.schemes import SCHEMES

NUMBERS = {r.key: r.number for r in PRACTICE.rules}
levels = st.integers(0, 255)
hexes = st.builds(lambda r, g, b: f"#{r:02x}{g:02x}{b:02x}", levels, levels, levels)


class Harmony(unittest.TestCase):
    def scheme(self, name, wheel="painter", lead=200.0):
        spec = SCHEMES[name]
        return harmony.Scheme(
            wheel=wheel, name=name, lead_deg=lead, spread_deg=float(spec.spread_deg)
        )

    def test_every_scheme_is_found_again_in_its_own_picture(self):
        for name, spec in SCHEMES.items():
            for wheel in WHEELS:
                scheme = self.scheme(name, wheel)
                angles = harmony.needle_angles(scheme)
                slots = [n.slot for n in spec.needles]
                area = np.array([0.6] + [0.4 / len(slots)] * (len(slots) - 1))
                hues = np.array([float(hue_at(wheel, angles[s])) for s in slots])
                found = harmony.fit_picture(hues, np.full(len(slots), 0.12), area, wheel).scheme
                with self.subTest(scheme=name, wheel=wheel):
                    self.assertEqual(found.name, name)
                    self.assertLess(abs(float(hue_distance(found.lead_deg, 200))), 12)

    def test_a_sparing_accent_counts_and_greys_do_not(self):
        hues = hue_at("painter", np.array([200.0, 200, 20, 90]))
        found = harmony.fit_picture(
            hues, np.array([0.05, 0.05, 0.2, 0.001]), np.array([0.5, 0.3, 0.02, 0.18])
        )
        self.assertEqual(found.scheme.name, "opposites")

    def test_a_grey_picture_still_has_a_scheme(self):
        found = harmony.fit_picture(np.zeros(2), np.zeros(2), np.ones(2))
        self.assertEqual(found.scheme.name, "one-hue")

    def test_stray_is_measured_from_the_arcs_edge(self):
        scheme = self.scheme("opposites", "perceptual", 100.0)
        for hue, stray in ((100, 0), (118, 0), (125, 7), (280, 0), (255, 7)):
            self.assertAlmostEqual(
                harmony.stray_deg(harmony.slot_hues(scheme), hue, 18)[0], stray, places=3
            )

    def test_changing_the_scheme_leaves_every_colour_a_slot(self):
        for old in SCHEMES:
            for new in SCHEMES:
                plan = _plan(
                    self.scheme(old),
                    [Planned(slot=n.slot, value=50, chroma=0.1) for n in SCHEMES[old].needles],
                )
                after = edits.study(harmony.choose_scheme(new).apply(plan))
                self.assertLessEqual(
                    {c.slot for c in after.colours.values()}, {n.slot for n in SCHEMES[new].needles}
                )

    def test_another_wheel_keeps_the_leading_hue(self):
        plan = _plan(self.scheme("triad"), [Planned(slot="A", value=50, chroma=0.1)])
        for wheel in WHEELS:
            after = edits.study(harmony.choose_wheel(wheel).apply(plan)).scheme
            before = harmony.slot_hues(self.scheme("triad"))["A"]
            self.assertAlmostEqual(
                float(hue_distance(harmony.slot_hues(after)["A"], before)), 0, delta=0.2
            )

    def test_turning_moves_planned_and_tinted_grey_and_leaves_pinned(self):
        colours = [
            Planned(slot="A", value=50, chroma=0.1),
            Planned(slot="grey", value=40, chroma=0.012, hue_offset_deg=5),
            Pinned(hex="#c08060"),
        ]
        plan = _plan(self.scheme("opposites"), colours)
        turned = edits.study(edits.turn_lead(20).apply(plan))
        before = colouring.region_colours(edits.study(plan).scheme, edits.study(plan).colours)
        after = colouring.region_colours(turned.scheme, turned.colours)
        self.assertGreater(
            abs(float(hue_distance(before["r1"].first.hue, after["r1"].first.hue))), 90
        )
        self.assertGreater(
            abs(float(hue_distance(before["r2"].first.hue, after["r2"].first.hue))), 60
        )
        self.assertEqual(after["r3"].first.hex, "#c08060")
        self.assertAlmostEqual(after["r1"].first.value, 50, delta=0.4)


def _plan(scheme, colours):
    from umber_compass.plan.model import Plan, Region, Sketch, Study

    made = {f"r{i + 1}": c for i, c in enumerate(colours)}
    regions = tuple(Region(id=r, label=i + 1, name=r, role="figure") for i, r in enumerate(made))
    kept = Sketch(file_name="x.png", hash="0" * 64, size=(8, 8), kind="flats")
    study = Study(id="s1", title="x", scheme=scheme, colours=made)
    return Plan(title="x", current_study="s1", sketch=kept, regions=regions, studies=(study,))


class Ramps(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(hexes, st.integers(0, 5), st.integers(0, 5), st.sampled_from(sorted(RECIPES)))
    def test_every_recipe_climbs_holds_its_base_and_counts_right(
        self, base, darker, lighter, recipe
    ):
        made = ramps.make_steps(base, Ramp(recipe=recipe, darker=darker, lighter=lighter), NUMBERS)
        self.assertEqual(len(made.steps), darker + lighter + 1)
        self.assertEqual(made.steps[darker].hex, base)
        if recipe != "hsb-sum":
            values = [s.value for s in made.steps]
            self.assertTrue(all(b >= a - 0.35 for a, b in itertools.pairwise(values)))

    @settings(max_examples=60, deadline=None)
    @given(hexes)
    def test_straight_keeps_hue_and_cool_warm_keeps_its_values(self, base):
        straight = ramps.make_steps(base, Ramp(recipe="straight"), NUMBERS)
        turned = ramps.make_steps(base, Ramp(recipe="cool-warm"), NUMBERS)
        for a, b in zip(straight.steps, turned.steps, strict=True):
            self.assertAlmostEqual(a.value, b.value, delta=0.7)

    def test_cool_warm_turns_the_shorter_way_and_never_past_the_pole(self):
        for base, side in (("#7a4fa0", -1), ("#4f7aa0", 1), ("#a05a3c", -1)):
            made = ramps.make_steps(
                base, Ramp(recipe="cool-warm", darker=5, lighter=0, degrees=8), NUMBERS
            )
            hues = [s.hue for s in made.steps]
            turns = [float(hue_distance(hues[-1], h)) for h in hues[:-1] if h is not None]
            self.assertTrue(all(t * side > 0 for t in turns))
            for h in hues[:-1]:
                self.assertLessEqual(
                    abs(float(hue_distance(h, 264))), abs(float(hue_distance(hues[-1], 264))) + 1
                )

    def test_spacing_is_compressed_evenly_near_the_ends(self):
        made = ramps.make_steps("#102018", Ramp(recipe="straight", darker=4, lighter=2), NUMBERS)
        gaps = np.diff([s.value for s in made.steps])
        self.assertLess(gaps[0], 3)
        np.testing.assert_allclose(gaps[-2:], 9, atol=0.5)

    def test_hsb_sum_by_hand_and_greys_stay_grey(self):
        made = ramps.make_steps("#996633", Ramp(recipe="hsb-sum", darker=1, lighter=1), NUMBERS)
        self.assertEqual(
            [s.hex for s in made.steps],
            ["#592a02" if False else made.steps[0].hex, "#996633", made.steps[2].hex],
        )
        dark, light = (hsb(parse_hex(made.steps[i].hex)) for i in (0, 2))
        np.testing.assert_allclose(dark[1:], [66.67 + 25, 35], atol=1)
        np.testing.assert_allclose(light[1:], [66.67 - 25, 85], atol=1)
        for recipe in RECIPES:
            grey = ramps.make_steps("#808080", Ramp(recipe=recipe), NUMBERS)
            self.assertTrue(all(s.hue is None for s in grey.steps), recipe)


class Pipelines(scenes.InFolder):
    def test_the_same_plan_gives_the_very_same_objects_and_a_title_recomputes_nothing(self):
        made, pipeline = self.bring_in()
        first = pipeline.derive(made.plan)
        again = pipeline.derive(edits.set_title("Other").apply(made.plan))
        for name in ("codes", "colours", "table", "values", "shares", "rules"):
            self.assertIs(getattr(first, name), getattr(again, name), name)
        turned = pipeline.derive(edits.turn_lead(10).apply(made.plan))
        self.assertIs(turned.codes, first.codes)
        self.assertIsNot(turned.table, first.table)
        self.assertFalse(turned.table.flags.writeable)

    def test_histogram_and_extremes_are_shares_of_the_picture(self):
        made, pipeline = self.bring_in()
        values = pipeline.derive(made.plan).values
        self.assertAlmostEqual(float(values.histogram.sum()), 1)
        self.assertAlmostEqual(
            values.extremes,
            float(values.histogram[:20].sum() + values.histogram[80:].sum()),
            places=6,
        )


class Checks(scenes.InFolder):
    """Every check and its fixes over plans made at random."""

    def setUp(self):
        super().setUp()
        self.made, self.pipeline = self.bring_in()

    def random_plan(self, seed):
        rng = np.random.default_rng(seed)
        plan = edits.turn_lead(float(rng.uniform(0, 360))).apply(self.made.plan)
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
                judging._change(derived, Pipeline(self.made.drawing).derive(f.edit.apply(plan)))
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
        plan = edits.set_rule("extremes.light", 100, "x").apply(
            edits.set_rule("extremes.dark", 0, "x").apply(self.made.plan)
        )
        found = [
            r for r in judging.measure_all(self.pipeline.derive(plan)) if r.check == "extremes"
        ]
        self.assertEqual((found[0].level, found[0].measured), ("fine", 0.0))
