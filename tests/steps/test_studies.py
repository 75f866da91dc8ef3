"""Studies: grown by rule, far from each other, and what is said of them."""

import numpy as np
from msgspec.structs import replace

from tests import scenes
from umber_compass.colour.spaces import decode, oklab, parse_hex
from umber_compass.document.sheet import client_sheet
from umber_compass.plan.edits import study
from umber_compass.plan.harmony_edits import turn_lead
from umber_compass.plan.light_edits import light_on
from umber_compass.plan.model import Pinned
from umber_compass.plan.palettes import GivenPalette, Swatch
from umber_compass.plan.practice_edits import set_rule
from umber_compass.plan.study_edits import add_studies, choose_study, in_study
from umber_compass.steps.harmony.colours import region_colours
from umber_compass.steps.harmony.edits import pin_to
from umber_compass.steps.studies.client import variants
from umber_compass.steps.studies.grow_rule import GrowContext, ground_value
from umber_compass.steps.studies.growing import doubled, grow, linears_of
from umber_compass.steps.studies.numbers import numbers_of
from umber_compass.steps.studies.rules import RULES
from umber_compass.words import Refusal, words

PALETTE = GivenPalette(
    title="Quay",
    source="ours",
    colours=tuple(Swatch(hex=h) for h in ("#20242c", "#3c6a80", "#b8573d", "#e8d4b0")),
)


class Grown(scenes.InFolder):
    def setUp(self):
        super().setUp()
        self.made, self.pipeline = self.bring_in()
        roles = {scenes.SEA: "ground", scenes.SAND: "ground", scenes.HULL: "figure"}
        regions = self.made.plan.regions
        for colour, role in roles.items():
            own = self.region(self.made.plan, colour).id
            regions = tuple(replace(r, role=role) if r.id == own else r for r in regions)
        self.plan = light_on(replace(self.made.plan, regions=regions))
        self.sun = self.region(self.plan, scenes.SUN).id
        self.plan = pin_to(self.sun, scenes.SUN, "sun").apply(self.plan)
        self.derived = self.pipeline.derive(self.plan)
        self.context = GrowContext(dict(self.derived.shares), self.derived.touching, (PALETTE,))

    def test_every_rule_makes_other_versions_and_leaves_given_colours(self):
        for rule in RULES.values():
            versions = rule.versions(self.plan, self.context)
            self.assertTrue(versions, rule.name)
            for version in versions:
                made = version.make()
                with self.subTest(rule=rule.name, version=version.title):
                    self.assertNotEqual(study(made), study(self.plan))
                    self.assertEqual(study(made).colours[self.sun], Pinned(hex=scenes.SUN))
                    self.assertEqual(set(study(made).colours), set(study(self.plan).colours))
                    self.assertTrue(version.title and version.says)
        self.assertEqual(
            RULES["library"].versions(self.plan, self.context._replace(library=())), []
        )

    def test_what_is_locked_keeps_its_colour_where_the_scheme_stands(self):
        hull = self.region(self.plan, scenes.HULL).id
        locked = replace(study(self.plan), locked=(hull,))
        plan = replace(self.plan, studies=(locked,))
        for name in ("ground", "lead", "temperature", "strength"):
            for version in RULES[name].versions(plan, self.context):
                made = study(version.make())
                self.assertEqual(made.colours[hull], locked.colours[hull], version.title)

    def test_the_ground_turns_over_and_orders_on_the_figure_stay(self):
        now = ground_value(self.plan, self.context.shares)
        for version in RULES["ground"].versions(self.plan, self.context):
            made = version.make()
            value = ground_value(made, self.context.shares)
            self.assertGreater(abs(value - now), 12)
            self.assertEqual(value < 40, version.title == "Dark ground")

    def test_six_lie_as_far_apart_as_is_said_with_a_light_and_a_dark_ground(self):
        found = grow(self.derived, list(RULES), 6, [PALETTE])
        self.assertEqual(len(found.studies), 6)
        self.assertEqual(found, grow(self.derived, list(RULES), 6, [PALETTE]))
        grounds = [
            ground_value(replace(self.plan, studies=(s,), current_study=s.id), self.context.shares)
            for s in found.studies
        ]
        self.assertTrue(min(grounds) < 40 and max(grounds) > 60, grounds)
        ids = list(self.derived.shares)
        labs = [doubled(x) for x in linears_of([study(self.plan), *found.studies], ids)]
        weight = np.array(list(self.derived.shares.values()))
        for i, one in enumerate(labs):
            for j in range(i):
                far = np.linalg.norm(one - labs[j], axis=1) @ weight
                other_light = found.studies[i - 1].rig != study(self.plan).rig
                self.assertGreater(far + 0.1 * other_light, 0.04)
        self.assertGreater(found.least, 0.05)
        plans = (replace(self.plan, studies=(s,), current_study=s.id) for s in found.studies)
        warnings = [numbers_of(self.pipeline.derive(p)).warnings for p in plans]
        self.assertEqual(warnings, sorted(warnings))
        titles = [s.title for s in found.studies]
        self.assertEqual(len(set(titles)), len(titles))

    def test_two_of_them_are_a_dark_and_a_light_one(self):
        found = grow(self.derived, ["ground", "turn"], 2)
        plans = [replace(self.plan, studies=(s,), current_study=s.id) for s in found.studies]
        grounds = sorted(ground_value(p, self.context.shares) for p in plans)
        self.assertTrue(grounds[0] < 36 and grounds[1] > 66, grounds)

    def test_no_two_lie_nearer_than_is_wished(self):
        for least in (0.1, 0.2):
            plan = set_rule("studies.apart", least, "x").apply(self.plan)
            found = grow(self.pipeline.derive(plan), list(RULES), 6, [PALETTE])
            self.assertGreaterEqual(found.least, least)
        plan = set_rule("studies.apart", 1.0, "x").apply(self.plan)
        with self.assertRaisesRegex(Refusal, "1.00 apart"):
            grow(self.pipeline.derive(plan), ["strength"], 6)

    def test_hue_counts_twice_in_how_far_two_lie_apart(self):
        lab = doubled(np.array([[0.2, 0.1, 0.05]]))
        np.testing.assert_allclose(lab / oklab(np.array([[0.2, 0.1, 0.05]])), [[1, 2, 2]])

    def test_colours_worked_out_together_are_those_of_the_plan(self):
        ids = list(self.derived.shares)
        together = linears_of([study(self.plan)], ids)[0]
        shown = region_colours(self.derived.scheme, self.derived.planned)
        wanted = [decode(parse_hex(shown[r].first.hex)) for r in ids]
        np.testing.assert_allclose(together, wanted, atol=0.006)

    def test_rules_that_make_nothing_are_refused(self):
        with self.assertRaises(Refusal):
            grow(self.derived, ["library"], 6, [])

    def test_numbers_speak_of_the_study_that_is_asked_about(self):
        found = grow(self.derived, ["ground", "turn"], 3)
        plan = add_studies(found.studies, words("x")).apply(self.plan)
        said = [numbers_of(self.pipeline.derive(plan, s.id)) for s in plan.studies]
        heat = [next(f.text for f in n.figures if f.name == "heat") for n in said]
        self.assertGreater(len(set(heat)), 2)
        for one, numbers in zip(plan.studies, said, strict=True):
            shown = self.pipeline.derive(choose_study(plan, one.id).apply(plan))
            self.assertEqual(numbers, numbers_of(shown))

    def test_an_edit_of_another_study_leaves_the_shown_one(self):
        plan = add_studies((study(self.plan),), words("x")).apply(self.plan)
        other = plan.studies[1].id
        after = in_study(other, turn_lead(11)).apply(plan)
        self.assertEqual(after.current_study, plan.current_study)
        self.assertIs(after.studies[0], plan.studies[0])
        self.assertEqual(after.studies[1].scheme.lead_deg, 11)

    def test_a_clients_sheet_keeps_what_it_says(self):
        lights = variants(self.plan, "light")
        self.assertEqual(len({v.caption for v in lights}), 6)
        for one in lights:
            self.assertEqual(study(one.plan).colours, study(self.plan).colours)
        moon = study(next(v.plan for v in lights if v.caption == "Moon")).rig
        self.assertEqual((moon.key.hex, moon.ambient.hex), ("#a9c2ff", "#3c4f86"))
        turned = variants(self.plan, "colours")
        self.assertEqual({study(v.plan).rig for v in turned}, {study(self.plan).rig})
        grown = grow(self.derived, ["lights"], 2).studies
        chosen = variants(self.plan, "colours", (study(self.plan), *grown))
        self.assertEqual({study(v.plan).rig for v in chosen}, {study(self.plan).rig})
        sheet = client_sheet(self.plan, self.made.pixels, lights, known=self.pipeline)
        levels = np.asarray(sheet)
        self.assertEqual(tuple(levels[2, 2]), (180, 180, 180))
        self.assertGreater(len(np.unique(levels.reshape(-1, 3), axis=0)), 100)
