"""What is said of a plan at first sight: what may warn, what stays free, what no fix offers."""

import json
from unittest import mock

import numpy as np
from msgspec.structs import replace

from tests import scenes
from umber_compass.document.practice_pictures import practice_pictures
from umber_compass.formats import plan_file, upgrades
from umber_compass.plan import edits
from umber_compass.plan.focus_edits import set_focus
from umber_compass.plan.harmony_edits import add_hue
from umber_compass.plan.model import Pinned, Planned
from umber_compass.plan.practice_edits import set_practice, set_rule
from umber_compass.plan.practices import PRACTICES
from umber_compass.plan.settings import change_setting
from umber_compass.plan.wish_edits import switch_wish
from umber_compass.plan.wishes import Falloff
from umber_compass.steps.checks import CHECKS, judging
from umber_compass.steps.checks.check import TOGETHER, Fix
from umber_compass.steps.checks.refused import is_refused
from umber_compass.steps.checks.shifting import amount, lighten_or_darken
from umber_compass.steps.focus.falloff import apply_falloff, why_nothing_falls
from umber_compass.steps.harmony.quiet import quieten
from umber_compass.steps.harmony.readings import family_of
from umber_compass.steps.harmony.scheme_edits import choose_scheme, take_scheme
from umber_compass.steps.harmony.shifts import Shift, shift_colours, shift_values
from umber_compass.steps.in_context import in_context, in_words
from umber_compass.steps.mending.still import why_no_air, why_still
from umber_compass.steps.mood_pictures import SHOWN, mood_pictures
from umber_compass.words import words

# Hues all round the wheel, none of which leads.
MANY = ("#b04a4a", "#a08030", "#4f9048", "#3f8f96", "#4a62b0", "#8a4aa0")


class Sight(scenes.InFolder):
    def setUp(self):
        super().setUp()
        self.made, self.pipeline = self.bring_in()
        self.plan = self.made.plan

    def derive(self, plan):
        return self.pipeline.derive(plan).think()

    def found(self, plan, check):
        return [r for r in judging.measure_all(self.derive(plan)) if r.check == check]

    def level(self, plan, check):
        found = self.found(plan, check)
        return found[0].level if found else None

    def lit_up(self, *values):
        """The plan with its regions at some values."""
        own = edits.study(self.plan).colours
        pairs = zip(self.plan.regions, values, strict=True)
        moved = {r.id: replace(own[r.id], value=float(v)) for r, v in pairs}
        return edits.with_colours(self.plan, moved)

    def brought(self, shapes):
        self.sketch.write_bytes(scenes.encoded(scenes.draw(shapes)))
        self.made, self.pipeline = self.bring_in()
        self.plan = self.made.plan
        return edits.study(self.plan)


class Wishes(Sight):
    def test_a_habit_notes_and_a_wish_warns(self):
        far = self.lit_up(90, 92, 95, 40, 60)
        (noted,) = self.found(far, "extremes")
        self.assertEqual(noted.level, "note")
        self.assertIn("usually 20 % or less", str(noted.text))
        self.assertNotIn("wanted", str(noted.text))
        for told in (
            switch_wish("extremes", True, "x"),
            set_rule("extremes.note", 12, "x"),
            set_practice("ink-and-colour"),
        ):
            (warned,) = self.found(told.apply(far), "extremes")
            self.assertEqual(warned.level, "warning")
            self.assertIn("wanted", str(warned.text))
        off = switch_wish("extremes", False, "x").apply(far)
        self.assertEqual(self.found(off, "extremes"), [])

    def test_no_filled_mark_without_a_wish_or_damage(self):
        rng = np.random.default_rng(4)
        seen = set()
        for _ in range(12):
            plan = self.lit_up(*rng.uniform(2, 98, 5))
            for result in judging.measure_all(self.derive(plan)):
                if result.level == "warning":
                    self.assertTrue(result.damage or CHECKS[result.check].always, result.check)
                    seen.add(result.check)
        self.assertIn("figure-merges", seen)

    def test_only_a_figure_that_merges_along_half_of_its_outline_is_damage(self):
        sea, sand, hull, sail, sun = self.plan.regions
        roles = {sea.id: "figure", hull.id: "ground", sail.id: "ground", sun.id: "ground"}
        regions = tuple(replace(r, role=roles.get(r.id, "ground")) for r in self.plan.regions)
        self.plan = replace(self.plan, regions=regions)
        for values, damaged in (((50, 52, 90, 91, 92), False), ((50, 52, 53, 51, 92), True)):
            plan = self.lit_up(*values)
            found = self.found(plan, "figure-merges")
            self.assertEqual([r.level for r in found].count("warning"), int(damaged))
            self.assertEqual(bool(self.derive(plan).merged), damaged)
            if damaged:  # the longest of the borders that are lost
                self.assertEqual(found[0].regions, (sea.id, sand.id))
        said = switch_wish("parting", True, "x").apply(self.lit_up(50, 52, 90, 91, 92))
        self.assertEqual(self.level(said, "figure-merges"), "warning")

    def test_what_is_dark_all_over_stands_first_and_a_night_with_lights_does_not(self):
        dark = judging.measure_all(self.derive(self.lit_up(12, 14, 13, 15, 16)))
        self.assertEqual((dark[0].check, dark[0].level), ("drift", "warning"))
        night = judging.measure_all(self.derive(self.lit_up(8, 62, 10, 90, 95)))
        self.assertEqual((night[0].check, night[0].level), ("figure-merges", "warning"))
        self.assertEqual([r.level for r in night if r.check == "drift"], ["note"])

    def test_that_nothing_leads_stands_before_what_is_only_habit(self):
        hull = self.plan.regions[2].id
        roles = {hull: "figure"}
        behind = tuple(replace(r, role=roles.get(r.id, "middle ground")) for r in self.plan.regions)
        dull = {r.id: Planned(slot="A", value=84.0, chroma=0.03) for r in behind}
        dull[hull] = replace(dull[hull], value=90.0)
        plan = edits.with_colours(replace(self.plan, regions=behind), dull)
        first, *rest = judging.measure_all(self.derive(plan))
        self.assertEqual((first.level, str(first.title)), ("note", "Nothing leads"))
        self.assertIn("figure-merges", {r.check for r in rest if r.level == "note"})

    def test_greys_are_told_nothing_of_hues(self):
        grey = {
            r.id: Planned(slot="grey", value=v, chroma=0.0)
            for r, v in zip(self.plan.regions, (20, 35, 50, 65, 65.4), strict=True)
        }
        plan = choose_scheme("one-hue").apply(edits.with_colours(self.plan, grey))
        self.assertTrue(self.derive(plan).uncoloured)
        said = {r.check for r in judging.measure_all(self.derive(plan))}
        self.assertFalse(said & {n for n, c in CHECKS.items() if c.coloured})
        self.assertIn(
            "near-duplicates", {r.check for r in judging.measure_all(self.derive(self.plan))}
        )

    def test_a_drawing_on_which_nothing_is_planned_is_told_nothing(self):
        white = {r.id: Planned(slot="grey", value=96.0, chroma=0.0) for r in self.plan.regions}
        plan = edits.with_colours(self.plan, white)
        self.assertEqual(judging.measure_all(self.derive(plan)), [])
        one = {r: replace(c, value=50.0) for r, c in white.items()}
        self.assertEqual(judging.measure_all(self.derive(edits.with_colours(self.plan, one))), [])
        white[self.plan.regions[0].id] = Planned(slot="grey", value=60.0, chroma=0.0)
        begun = edits.with_colours(self.plan, white)
        self.assertTrue(judging.measure_all(self.derive(begun)))


class Free(Sight):
    def test_a_picture_that_follows_none_is_free_and_its_families_lie_between_gaps(self):
        shapes = [("rectangle", (40 * i, 0, 40 * i + 40, 160), c) for i, c in enumerate(MANY)]
        study = self.brought(shapes)
        self.assertEqual((study.scheme.name, study.scheme.chosen), ("free", False))
        self.assertTrue(study.readings[0].free)
        shown = self.derive(self.plan).colours
        self.assertEqual({shown[r.id].first.hex for r in self.plan.regions}, set(MANY))
        hues = np.array([shown[r.id].first.hue for r in self.plan.regions])
        by_family = {}
        for region, family in zip(self.plan.regions, family_of(hues).tolist(), strict=True):
            by_family.setdefault(family, set()).add(study.colours[region.id].slot)
        self.assertGreaterEqual(len({s for own in by_family.values() for s in own}), 3)
        said = {r.check for r in judging.measure_all(self.derive(self.plan))}
        self.assertFalse(said & {"hue-off-scheme", "lively"})

    def test_colours_are_held_to_a_scheme_once_it_is_chosen(self):
        self.assertEqual(self.found(self.plan, "hue-off-scheme"), [])
        read = self.derive(self.plan).readings.ranked[0]
        for edit, held in (
            (choose_scheme("triad"), True),
            (take_scheme(read.scheme, read.title), True),
            (choose_scheme(edits.study(self.plan).scheme.name), True),
            (change_setting("scheme.spread", 40.0), True),
            (choose_scheme("free"), False),
        ):
            after = edit.apply(self.plan)
            self.assertEqual(bool(self.found(after, "hue-off-scheme")), held, str(edit.name))
        own = add_hue().apply(choose_scheme("free").apply(self.plan))
        self.assertTrue(edits.study(own).scheme.chosen)

    def test_a_quiet_palette_is_judged_once_it_is_made(self):
        near = self.lit_up(50, 51, 52, 49, 53)
        read = edits.with_scheme(near, name="one-hue", chosen=False)
        self.assertIsNotNone(self.derive(read).lively)
        self.assertEqual(self.found(read, "lively"), [])
        made = quieten(self.derive(read).touching, 0.3).apply(read)
        self.assertTrue(edits.study(made).scheme.chosen)

    def test_a_plan_of_before_knows_which_scheme_was_only_read(self):
        def loaded(**changes):
            plan = edits.with_scheme(self.plan, **changes)
            tree = json.loads(plan_file.json_of(plan))
            for study in tree["studies"]:
                del study["scheme"]["chosen"]
            upgrades.mark_read(tree)
            return tree["studies"][0]["scheme"]["chosen"]

        self.assertEqual(
            (loaded(), loaded(lead_deg=11.0), loaded(name="square")), (False, True, True)
        )


class Fixes(Sight):
    def test_what_an_artist_would_refuse_is_not_offered(self):
        sea, sand, hull, *_ = self.plan.regions
        skin = Planned(slot="A", value=70.0, chroma=0.08)
        scheme = scenes.scheme("one-hue", "perceptual", 55.0)
        colours = {r.id: skin for r in self.plan.regions} | {
            sea.id: replace(skin, value=6.0, chroma=0.02)
        }
        named = {
            hull.id: ("face", "figure"),
            sea.id: ("space", "ground"),
            sand.id: ("sand", "ground"),
        }
        regions = tuple(
            replace(
                r,
                name=named.get(r.id, (r.name, ""))[0],
                named=True,
                role=named.get(r.id, ("", "middle ground"))[1],
            )
            for r in self.plan.regions
        )
        study = replace(edits.study(self.plan), scheme=scheme, colours=colours)
        plan = edits.with_study(replace(self.plan, regions=regions), study)
        derived = self.derive(plan)
        result = judging.measure_all(derived)[0]._replace(damage=False)

        def refused(result=result, fix_id="x", **shifts):
            change = shift_colours({getattr(r, "id", r): s for r, s in shifts.items()})
            after = self.derive(change(plan))
            fix = Fix(fix_id, words("x"), edits.Edit(words("x"), change))
            return is_refused(derived, after, result, fix)

        for region, shift, wanted in (
            (hull, Shift(hue_deg=150.0), True),  # skin turned blue
            (hull, Shift(chroma=-0.04), True),  # dulled
            (hull, Shift(value=-5.0), False),
            (hull, Shift(value=-10.0), True),  # made another person's
            (hull, Shift(hue_deg=15.0), False),
            (sand, Shift(hue_deg=150.0), False),  # no skin
            (sea, Shift(value=12.0), True),  # a black ground lifted
            (sea, Shift(value=3.0), False),
            (sea, Shift(value=-5.0), True),  # made pure black
        ):
            with self.subTest(region.name, shift=shift):
                self.assertEqual(refused(**{region.id: shift}), wanted)
        self.assertFalse(refused(fix_id=TOGETHER, **{hull.id: Shift(value=-10.0)}))
        drifted = result._replace(damage=True, whole=True)
        self.assertFalse(refused(drifted, **{sea.id: Shift(value=12.0)}))
        unnamed = replace(regions[2], name="clay", named=False)
        plan = replace(plan, regions=(*regions[:2], unnamed, *regions[3:]))
        derived = self.derive(plan)
        self.assertTrue(refused(**{hull.id: Shift(hue_deg=150.0)}))  # has a skin's colour

    def test_a_face_gives_way_a_little_and_keeps_its_hue(self):
        """On the way to any focus; what lies beside it takes the rest."""
        sail = self.plan.regions[3]
        skin = Planned(slot="A", value=75.0, chroma=0.1)
        plan = edits.with_scheme(self.plan, name="one-hue", wheel="perceptual", lead_deg=50.0)
        regions = tuple(
            replace(r, name="face", material="skin") if r.id == sail.id else r for r in plan.regions
        )
        plan = edits.with_colours(replace(plan, regions=regions), {sail.id: skin})
        plan = set_focus((plan.regions[2].id,), words("x")).apply(plan)
        derived = self.derive(plan)
        results = judging.measure_all(derived)
        moved = 0
        for result in results:
            if result.check in ("focus-leads", "competes") and result.level != "fine":
                for fix in judging.with_fixes(result, results, derived).fixes:
                    after = self.derive(fix.edit.apply(plan)).colours[sail.id].first
                    self.assertGreater(after.chroma, 0.07)
                    self.assertLess(abs(after.value - 75), 7.5)
                    self.assertLess(abs(after.hue - 50), 5)
                    moved += abs(after.chroma - 0.1) > 0.005
        self.assertGreater(moved, 0)

    def test_no_two_fixes_say_the_same_and_none_says_by_nought(self):
        rng = np.random.default_rng(7)
        count = 0
        for _ in range(6):
            for result in judging.judge(self.derive(self.lit_up(*rng.uniform(5, 60, 5)))):
                texts = [str(f.text) for f in result.fixes]
                self.assertEqual(len(texts), len(set(texts)))
                self.assertFalse([t for t in texts if " 0 L*" in t or " 0°" in t])
                count += len(texts) > 1
        self.assertGreater(count, 3)
        self.assertEqual((amount(0.4), amount(12.3)), ("0.4", "12"))
        self.assertEqual(str(lighten_or_darken("x", -5, -0.2)), "Darken x to 0")

    def test_of_fixes_that_say_the_same_the_cheapest_stays_in_its_place(self):
        derived = self.derive(self.lit_up(50, 52, 51, 49, 53))
        (result, *_) = judging.measure_all(derived)
        hull = self.plan.regions[2].id
        moves = (("same", 20.0), ("other", 24.0), ("same", 30.0))
        fixes = [
            Fix(str(i), words(t), edits.Edit(words(t), shift_values({hull: by})))
            for i, (t, by) in enumerate(moves)
        ]
        spec = CHECKS[result.check]._replace(candidates=lambda derived, result: fixes[::-1])
        with mock.patch.dict(judging.CHECKS, {result.check: spec}):
            found = judging.with_fixes(result, judging.measure_all(derived), derived)
        self.assertEqual([f.id for f in found.fixes], ["0", "1"])

    def test_fixes_are_told_one_by_one_and_known_ones_are_not_sought_again(self):
        derived, told = self.derive(self.lit_up(50, 52, 51, 49, 53)), []
        whole = judging.judge(derived, step="values", tell=told.append)
        self.assertEqual(
            told, [r for r in whole if r.level != "fine" and CHECKS[r.check].step == "values"]
        )
        known = {told[0].key: told[0]._replace(title=words("known"))}
        again = []
        found = judging.judge(derived, step="values", tell=again.append, known=known)
        self.assertEqual(len(again), len(told) - 1)
        self.assertIn("known", [str(r.title) for r in found])


class Pictures(Sight):
    def test_every_mood_and_practice_is_a_picture_of_its_own(self):
        derived = self.derive(self.plan)
        moods = mood_pictures(derived, 60)
        self.assertEqual(tuple(moods), SHOWN)
        self.assertEqual(len({m.tobytes() for m in moods.values()}), len(SHOWN))
        self.assertEqual({m.shape for m in moods.values()}, {(40, 60)})
        practices = practice_pictures(derived, 120)
        self.assertEqual(set(practices), set(PRACTICES))
        self.assertEqual(len({p.tobytes() for p in practices.values()}), len(PRACTICES))
        self.assertLessEqual(len(np.unique(practices["sprite"])), 16)
        grey = practices["grey-first"]
        self.assertTrue(np.array_equal(grey >> 16, grey & 0xFF))
        self.assertLess(int((practices["ink-and-colour"] & 0xFF).min()), 60)
        self.assertTrue(np.array_equal(practices["general"].shape, (80, 120)))

    def test_a_region_in_context_differs_only_where_it_lies(self):
        derived = self.derive(self.plan)
        for reads in derived.reads:
            pair = in_context(derived, reads, 100)
            self.assertLessEqual(max(pair.measured.shape), 100)
            other = pair.measured != pair.looks
            if reads.hex != reads.seen:
                self.assertTrue(other.any())
            self.assertEqual(len(np.unique(pair.looks[other])), min(1, int(other.sum())))
            said = str(in_words(reads, "It"))
            self.assertNotIn("#", said)
            lighter = reads.lighter >= 1 and reads.apart >= 1
            self.assertEqual("lighter" in said, lighter)


class Reasons(Sight):
    def test_what_would_change_nothing_says_why(self):
        def reasons(plan, group="ground"):
            derived = self.derive(plan)
            return [
                str(why_still(derived, group, k) or "") for k in ("value", "chroma", "contrast")
            ]

        grounds = tuple(replace(r, role="ground") for r in self.plan.regions)
        plan = replace(self.plan, regions=grounds)
        self.assertEqual(reasons(plan), ["", "", ""])
        self.assertIn("no region has this role", reasons(plan, "figure"))
        grey = {r.id: Planned(slot="grey", value=50.0, chroma=0.0) for r in grounds}
        value, chroma, contrast = reasons(edits.with_colours(plan, grey))
        self.assertEqual((value, "grey" in chroma, "one value" in contrast), ("", True, True))
        pinned = edits.with_colours(plan, {r.id: Pinned(hex="#405060") for r in grounds})
        self.assertEqual(set(reasons(pinned)), {"all of them are fixed or locked"})
        self.assertIsNone(why_no_air(self.derive(plan)))
        self.assertIsNotNone(why_no_air(self.derive(pinned)))

    def test_a_fall_off_that_would_change_nothing_says_why(self):
        bare = self.derive(self.plan)
        wish = Falloff(near=(0.0, 0.05), far=(0.0, 0.01))
        free = frozenset(r.id for r in self.plan.regions)
        self.assertIn("no focus", str(why_nothing_falls(bare.spots, wish, "chroma", free)))
        focus = change_setting("region.REGION.role", "focus", self.plan.regions[2].id, "x")
        plan = focus.apply(self.plan)
        spots = self.derive(plan).spots
        self.assertIsNone(why_nothing_falls(spots, wish, "chroma", free))
        why = str(why_nothing_falls(spots, wish, "chroma", frozenset()))
        self.assertIn("fixed or locked", why)
        after = apply_falloff(spots, wish, "chroma", 1.0, free).apply(plan)
        self.assertIn(
            "already", str(why_nothing_falls(self.derive(after).spots, wish, "chroma", free))
        )
