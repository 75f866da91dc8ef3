"""The five checks of a palette: what each finds, and that its fixes mend it."""

import numpy as np
from msgspec.structs import replace
from PIL import Image

from tests import scenes
from umber_compass import document
from umber_compass.plan.edits import study, with_colours, with_scheme, with_study
from umber_compass.plan.model import Planned
from umber_compass.plan.moods import MoodWish
from umber_compass.plan.settings import change_setting
from umber_compass.steps.checks.judging import judge
from umber_compass.steps.harmony.budget import colours_needed
from umber_compass.steps.harmony.colours import region_colours
from umber_compass.steps.harmony.edits import give_colour
from umber_compass.steps.harmony.places import Parts, parts_of, slot_places
from umber_compass.steps.pipeline import Pipeline
from umber_compass.steps.studies.growing import grow
from umber_compass.steps.studies.rules import RULES
from umber_compass.words import Refusal

# A ground with two large fields and six small squares, well apart.
SHAPES = [
    ("rectangle", (0, 0, 240, 160), "#4a6a78"),
    ("rectangle", (0, 100, 240, 160), "#7a8a70"),
    *(
        ("rectangle", (x, y, x + 14, y + 14), colour)
        for (x, y), colour in zip(
            ((12, 12), (110, 16), (210, 20), (16, 130), (120, 120), (215, 135)),
            ("#8a94a0", "#9aa4a8", "#a8b4b0", "#5a6a60", "#c04a30", "#6a7a78"),
            strict=True,
        )
    ),
]


class Judged(scenes.InFolder):
    def setUp(self):
        super().setUp()
        self.sketch.write_bytes(scenes.encoded(scenes.draw(SHAPES)))
        self.made, self.pipeline = self.bring_in()
        self.plan = self.made.plan
        shares = self.pipeline.derive(self.plan).shares
        regions = tuple(
            replace(r, role="ground" if shares[r.id] > 0.1 else "middle ground")
            for r in self.plan.regions
        )
        self.plan = replace(self.plan, regions=regions)

    def results(self, plan, check):
        found = judge(self.pipeline.derive(plan), step="harmony")
        return [r for r in found if r.check == check]

    def assert_mended(self, plan, result):
        self.assertTrue(result.fixes)
        for fix in result.fixes:
            after = fix.edit.apply(plan)
            left = [r for r in self.results(after, result.check) if r.key == result.key]
            self.assertFalse([r for r in left if r.level != "fine"], str(fix.text))


class Found(Judged):
    def test_a_hue_in_one_place_is_missed_and_echoed_far_from_it(self):
        lone = self.region_of("#c04a30")
        plan = with_scheme(self.plan, name="opposites", lead_deg=230.0)
        plan = with_colours(
            plan,
            {
                r.id: Planned(slot="A", value=50.0 + i, chroma=0.05)
                for i, r in enumerate(plan.regions)
            },
        )
        plan = with_colours(plan, {lone: Planned(slot="B", value=50.0, chroma=0.12)})
        found = self.results(plan, "echo")
        self.assertEqual([(r.level, r.regions) for r in found], [("note", (lone,))])
        self.assert_mended(plan, found[0])
        parts = parts_of(self.made.pixels.drawing(plan.sketch))
        at = {r.id: r.label for r in plan.regions}
        middle = parts.centre[parts.label == at[lone]][0]
        first = found[0].fixes[0].id.removeprefix("echo-")
        there = parts.centre[parts.label == at[first]][0]
        self.assertGreater(np.linalg.norm(there - middle), 0.2)

    def region_of(self, colour):
        return self.region(self.plan, colour).id

    def test_parts_of_a_slot_that_lie_near_are_one_place(self):
        regions = (scenes.region(1, "figure"), scenes.region(2, "figure"))
        plan = scenes.plan_of([Planned(slot="B", value=50.0, chroma=0.1)] * 2)
        colours = region_colours(study(plan).scheme, study(plan).colours)
        for apart, count in ((0.05, 1), (0.3, 2)):
            where = np.array([[0.3, 0.3], [0.3 + apart, 0.3]])
            parts = Parts(np.array([1, 2]), np.array([0.02, 0.01]), where)
            found = slot_places(parts, regions, colours, 12)
            self.assertEqual([(p.slot, p.many) for p in found], [("B", count)])
            self.assertAlmostEqual(found[0].share, 0.03)

    def test_a_dead_palette_is_made_alive_at_its_own_values(self):
        plan = with_scheme(self.plan, name="one-hue", lead_deg=230.0, chosen=True)
        same = {r.id: Planned(slot="A", value=50.0, chroma=0.04) for r in plan.regions}
        for i, region in enumerate(same):
            same[region] = replace(same[region], chroma=0.04 + i * 1e-4)
        plan = with_colours(plan, same)
        found = self.results(plan, "lively")
        self.assertEqual([r.level for r in found], ["note"])
        self.assertLess(found[0].measured, 1)
        self.assert_mended(plan, found[0])
        loud = {
            r: replace(c, hue_offset_deg=i * 50 - 150, chroma=0.1)
            for i, (r, c) in enumerate(same.items())
        }
        found = self.results(with_colours(plan, loud), "lively")
        self.assertEqual((found[0].level, found[0].wanted), ("note", 6))
        triad = with_scheme(with_colours(plan, loud), name="triad")
        self.assertEqual(self.results(triad, "lively"), [])

    def test_a_mood_names_its_odd_one_and_both_fixes_mend_what_they_say(self):
        wish = MoodWish(name="own", of={"warm": (0, 0.3), "chroma": (0, 30)})
        plan = with_study(self.plan, replace(study(self.plan), mood=wish))
        found = self.results(plan, "mood")
        odd = self.region_of("#c04a30")
        self.assertEqual((len(found), found[0].regions), (1, (odd,)))
        self.assertIn("warm colours", str(found[0].text))
        self.assert_mended(plan, found[0])
        held = with_study(self.plan, replace(study(self.plan), mood=MoodWish(name="own")))
        self.assertEqual(self.results(held, "mood"), [])

    def test_colours_that_nobody_tells_apart_are_joined(self):
        ids = [r.id for r in self.plan.regions]
        base = study(self.plan).colours[ids[2]]
        plan = with_colours(self.plan, {ids[3]: replace(base, value=base.value + 0.6)})
        found = self.results(plan, "near-duplicates")
        self.assertEqual(found[0].level, "note")
        self.assertLess(found[0].measured, 1.5)
        before = colours_needed(self.pipeline.derive(plan).colours)
        self.assert_mended(plan, found[0])
        after = self.pipeline.derive(found[0].fixes[0].edit.apply(plan))
        self.assertEqual(colours_needed(after.colours), before - 1)

    def test_a_budget_is_kept_by_merging_or_says_what_it_needs(self):
        plan = change_setting("budget", 5).apply(self.plan)
        found = self.results(plan, "colour-budget")
        self.assertEqual((found[0].level, found[0].measured), ("warning", 8))
        self.assert_mended(plan, found[0])
        locked = tuple(r.id for r in plan.regions[:6])
        stuck = with_study(plan, replace(study(plan), locked=locked))
        found = self.results(stuck, "colour-budget")
        self.assertIn("locked or given needs", str(found[0].text))
        self.assertTrue(found[0].stuck)
        self.assertEqual(self.results(self.plan, "colour-budget"), [])


class Odd(scenes.InFolder):
    def test_greys_one_colour_and_locked_plans_grow_or_are_refused_in_a_line(self):
        rows = {
            "one": np.full((60, 80, 3), (120, 80, 40), np.uint8),
            "black": np.zeros((60, 80, 3), np.uint8),
            "greys": np.repeat(np.arange(20, 240, 27, np.uint8).repeat(10)[None, :80, None], 60, 0)
            .repeat(3, axis=2)
            .copy(),
        }
        for name, rgb in rows.items():
            path = self.folder / f"{name}.png"
            Image.fromarray(rgb).save(path)
            made = document.bring_in(path)
            pipeline = Pipeline(made.pixels.drawings)
            for locked in (False, True):
                plan = made.plan
                if locked:
                    ids = tuple(r.id for r in plan.regions)
                    plan = with_study(plan, replace(study(plan), locked=ids))
                for rule in (["ground"], ["turn"], ["scheme"], ["lights"], list(RULES)):
                    with self.subTest(name=name, locked=locked, rule=rule):
                        try:
                            found = grow(pipeline.derive(plan), rule, 6)
                            self.assertTrue(found.studies)
                        except Refusal as refusal:
                            self.assertIn("no ", str(refusal))


class SeenOtherwise(Judged):
    def of_two(self, ground_hex, small_hex):
        """The plan with a figure of one colour on a ground of another, and both regions."""
        plan, ids = self.plan, [r.id for r in self.plan.regions]
        ground = max(ids, key=lambda r: self.pipeline.derive(plan).shares[r])
        touching = self.pipeline.derive(plan).touching
        small = next(
            touching.ids[b if touching.ids[a] == ground else a]
            for a, b in touching.pairs.tolist() if ground in (touching.ids[a], touching.ids[b])
        )  # fmt: skip
        plan = change_setting("region.REGION.role", "figure", small).apply(plan)
        for region, hex_ in ((ground, ground_hex), (small, small_hex)):
            plan = give_colour(region, hex_, "it").apply(plan)
        return plan, ground, small

    def test_a_figure_that_parts_by_red_and_green_alone_is_said_and_mended(self):
        plan, ground, small = self.of_two("#8c8a2c", "#c8703c")
        (result,) = self.results(plan, "other-eyes")
        self.assertEqual((set(result.regions), result.level), ({ground, small}, "note"))
        self.assertLess(result.measured, 6)
        for fix in result.fixes:
            after = self.results(fix.edit.apply(plan), "other-eyes")
            self.assertGreaterEqual(after[0].measured, result.wanted)
        self.assertTrue(result.fixes)

    def test_what_a_press_or_an_e_reader_cannot_part_is_said_where_the_piece_is_seen(self):
        for hexes, where, use, others in (
            (("#5db916", "#10f800"), "in offset print", "card", ""),
            (("#8c8a2c", "#c86f5c"), "in an e-reader’s greys", "cover", "spread"),
        ):
            plan, ground, small = self.of_two(*hexes)
            used = change_setting("brief.use", use).apply(plan)
            (result,) = self.results(used, "other-screens")
            self.assertEqual((set(result.regions), where in str(result.title)),
                             ({ground, small}, True), str(result.title))  # fmt: skip
            self.assertNotEqual(result.level, "fine")
            self.assertTrue(result.fixes)
            for fix in result.fixes:
                (after,) = self.results(fix.edit.apply(used), "other-screens")
                self.assertEqual(after.level, "fine")
            elsewhere = change_setting("brief.use", others).apply(plan)
            (result,) = self.results(elsewhere, "other-screens")
            self.assertEqual(result.level, "fine", str(result.text))
