"""Edits: each has a name, changes nothing in place, and keeps the ranges whatever it is asked."""

import copy
import math
import unittest

import msgspec
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from tests import scenes
from umber_compass.plan import (
    brief_edits,
    candidate_edits,
    edits,
    focus_edits,
    harmony_edits,
    light_edits,
    model,
    palette_edits,
    palettes,
    practice_edits,
    ramp_edits,
    ranges,
    regrouping,
    rig,
    sketch_edits,
    study_edits,
    wish_edits,
)
from umber_compass.plan.edits import Edit
from umber_compass.plan.model import Gradient, Pinned, Plan, Ramp
from umber_compass.plan.moods import MoodWish
from umber_compass.plan.rig import Lamp, Rig, Strength
from umber_compass.plan.settings import change_setting
from umber_compass.plan.terms import Value
from umber_compass.plan.wishes import Bands, Falloff, Wish
from umber_compass.words import Refusal, words

NAME = words("x")
PLAN = scenes.plan_of(
    [scenes.planned(), scenes.planned("B", 30.0, 0.05, 20), Pinned(hex="#c08060")]
)
BANDS = Bands(edges=(30, 70), shares=(0.3, 0.4, 0.3))
GRADIENT = Gradient(first=scenes.planned(), second=scenes.planned(value=70.0))


def every(number=40.0):
    """Every factory of this folder, with one number wherever it takes one."""
    where = (number / 1000, 0.2, 0.9)
    return [
        harmony_edits.turn_lead(number),
        change_setting("scheme.spread", number),
        change_setting("share.SLOT", number, "A"),
        harmony_edits.turn_family("A", number),
        harmony_edits.set_colour("r1", GRADIENT, NAME),
        ramp_edits.set_recipe("r1", Ramp(recipe="hsb-sum"), "sea"),
        ramp_edits.set_all_recipes(Ramp(recipe="straight")),
        change_setting("region.REGION.name", "  deep   sea ", "r1"),
        change_setting("region.REGION.role", "focus", "r1", "sea"),
        change_setting("region.REGION.material", "wet", "r1", "sea"),
        change_setting("title", "Evening"),
        change_setting("purpose", "a card"),
        change_setting("region.REGION.form", "slope", "r1", "sea"),
        sketch_edits.share_form("r1", "r2", "sea", "sand"),
        change_setting(
            "region.REGION.front", None if math.isinf(number) else int(number) + 1, "r1", "sea"
        ),
        practice_edits.set_rule("extremes.dark", number, "limit"),
        wish_edits.set_wish("halves", number, "halves"),
        wish_edits.switch_wish("parting.r1.r2", False, "parting"),
        wish_edits.lock_wish("extremes", True, "extremes"),
        wish_edits.move_edge(BANDS, 0, number),
        wish_edits.move_edge(BANDS, 1, number),
        wish_edits.set_band_share(BANDS, 1, number),
        wish_edits.start_from(BANDS, 20, "a key"),
        wish_edits.set_order(("r2", "r1")),
        wish_edits.lock("r1", True, "sea"),
        change_setting("slot.SLOT.chroma", number, "A"),
        change_setting("slot.SLOT.arc", number, "A"),
        palette_edits.note_colour("r1", "  from   a tube ", "sea"),
        palette_edits.order_rows(("r2", "r1", "r2")),
        palette_edits.add_extra("#ffffff", "paper"),
        change_setting("budget", int(number) if math.isfinite(number) else 7),
        change_setting("shading.strength", number),
        change_setting("shading.hue", "cool-warm"),
        change_setting("shading.on", False),
        change_setting("shading.beside", True),
        change_setting("brief.use", "poster"),
        change_setting("brief.width", number),
        change_setting("brief.distance", number),
        change_setting("brief.notes", "x" * 9000),
        brief_edits.add_reference("  a   lamp ", "0" * 64),
        candidate_edits.add_candidate(PLAN.sketch, PLAN.regions, PLAN.studies),
        regrouping.set_several(("r1", "r2"), NAME, {"role": "line"}),
        regrouping.one_surface(("r1", "r2")),
        regrouping.place_in_front(("r2", "r1", "r3")),
        regrouping.regroup(NAME, PLAN.sketch, PLAN.regions[:2]),
        study_edits.duplicate_study(PLAN, "s1"),
        change_setting("study.title", "  Dusk  " * 90, "s1"),
        change_setting("study.verdict", "kept", "s1"),
        change_setting("study.reason", "x" * 999, "s1"),
        change_setting("study.note", "x" * 9999, "s1"),
        study_edits.set_mood("tender"),
        focus_edits.set_focus(("r1", "r1"), NAME),
        focus_edits.set_point(number, number, number),
        focus_edits.set_falloff("chroma", Falloff(near=(number, 0.1), far=(0, number))),
        change_setting("light.on", True),
        change_setting("light.anchor", "mean"),
        change_setting("crevice", number),
        light_edits.set_lamp("key", NAME, strength=number, softness=number),
        light_edits.set_lamp("key", NAME, direction=where),
        light_edits.set_ambient(NAME, strength=number),
        change_setting("terminator.strength", number),
    ]


class Every(unittest.TestCase):
    def test_each_is_named_changes_the_plan_and_leaves_the_old_one(self):
        before = copy.deepcopy(PLAN)
        for edit in every():
            with self.subTest(str(edit.name)):
                self.assertNotEqual(edit.apply(PLAN), PLAN)
                self.assertEqual(PLAN, before)
                self.assertTrue(str(edit.name))

    def test_whatever_is_asked_the_plan_can_be_read_again(self):
        extremes = (-1e-17, -1e9, 1e9, math.inf, -math.inf, 360.0, 1e-300, -0.0, 2000, 400)
        for number in extremes:
            for edit in every(number) if math.isfinite(number) else every(number)[15:]:
                with self.subTest(edit=str(edit.name), number=number):
                    after = edit.apply(PLAN)
                    data = msgspec.json.encode(after)
                    self.assertEqual(msgspec.json.decode(data, type=Plan), after)

    def test_what_is_no_number_is_refused(self):
        for make in (
            lambda n: change_setting("crevice", n),
            lambda n: light_edits.set_lamp("key", NAME, strength=n),
            lambda n: change_setting("share.SLOT", n, "A"),
            lambda n: harmony_edits.turn_lead(n),
            lambda n: practice_edits.set_rule("extremes.dark", n, "x"),
        ):
            with self.assertRaises(Refusal):
                make(math.nan).apply(PLAN)

    def test_an_edit_of_ones_own_is_held_to_the_ranges_too(self):
        def scheme(plan):
            return edits.with_scheme(plan, lead_deg=360.0)

        def value(plan):
            return edits.with_colours(plan, {"r2": scenes.planned(value=101.0)})

        def region(plan):
            return edits.with_region(plan, "r1", name="")

        def recipe(plan):
            now = edits.study(plan)
            bad = Ramp(recipe="straight", darker=12)
            return edits.with_study(plan, replace(now, recipes={"r1": bad}))

        def lost(plan):
            return replace(plan, regions=plan.regions[:2])

        def lamps(plan):
            return light_edits.with_rig(plan, Rig(lamps=(Lamp(), Lamp(rank=2))))

        for change in (scheme, value, region, recipe, lost, lamps):
            with self.subTest(change.__name__), self.assertRaisesRegex(Refusal, "not possible"):
                Edit(NAME, change).apply(PLAN)

    def test_numbers_are_brought_to_the_nearest_end(self):
        for kind, number, kept in ((Value, 120, 100), (Value, -3, 0), (Strength, 2000, 1000)):
            self.assertEqual(ranges.bounded(kind, number), kept)
        strong = light_edits.set_lamp("key", NAME, strength=2000).apply(PLAN)
        self.assertEqual(light_edits.rig_of(strong).key.strength, 1000)
        tinted = change_setting("terminator.strength", 400).apply(PLAN)
        self.assertEqual(light_edits.rig_of(tinted).terminator.strength, 100)
        cracks = change_setting("crevice", 400).apply(PLAN)
        self.assertEqual(light_edits.rig_of(cracks).crevice, 100)
        wide = change_setting("scheme.spread", 200).apply(PLAN)
        self.assertEqual(edits.study(wide).scheme.spread_deg, harmony_edits.MOST_SPREAD)

    def test_the_records_hold_the_ranges_that_the_format_names(self):
        for kind, low, high in (
            ("Value", 0, 100),
            ("Chroma", 0, 0.5),
            ("Turn", -360, 360),
            ("Spread", 0, 180),
            ("Share", 0, 1),
            ("Front", 0, 65535),
            ("Steps", 0, 9),
            ("StepTurn", 0, 60),
            ("Strength", 0, 1000),
            ("Percent", 0, 100),
            ("Part", -1, 1),
            ("Rank", 1, 99),
        ):
            annotated = getattr(rig if hasattr(rig, kind) else model, kind)
            for number in (low, high):
                self.assertEqual(msgspec.convert(number, annotated), number)
            for number in (
                low - 1e-6 if low < 1 else 0,
                high + (1 if kind in ("Front", "Steps", "Rank") else 1e-6),
            ):
                with self.subTest(kind, number=number), self.assertRaises(msgspec.ValidationError):
                    msgspec.convert(
                        int(number) if float(number).is_integer() else number, annotated
                    )
        for angle, fine in ((0.0, True), (359.999, True), (360.0, False), (-1e-9, False)):
            if fine:
                msgspec.convert(angle, model.Angle)
            else:
                with self.assertRaises(msgspec.ValidationError):
                    msgspec.convert(angle, model.Angle)

    @settings(max_examples=60, deadline=None)
    @given(st.floats(-1e6, 1e6))
    def test_angles_are_turned_into_their_circle(self, angle):
        self.assertTrue(0 <= harmony_edits.turned(angle) < 360)
        self.assertTrue(-180 <= harmony_edits.half_turned(angle) <= 180)


class Harmony(unittest.TestCase):
    def test_a_family_turns_as_asked_and_others_stay(self):
        turned = edits.study(harmony_edits.turn_family("A", 20).apply(PLAN)).colours
        self.assertEqual(turned["r1"].hue_offset_deg, 20)
        self.assertEqual((turned["r2"].hue_offset_deg, turned["r3"].hex), (20, "#c08060"))
        back = edits.study(harmony_edits.turn_family("B", -50).apply(PLAN)).colours
        self.assertEqual((back["r2"].hue_offset_deg, back["r1"].hue_offset_deg), (-30, 0))

    def test_a_wished_share_joins_moves_of_its_own_slot_only(self):
        one, two = (change_setting("share.SLOT", 0.4, s) for s in ("A", "B"))
        self.assertNotEqual(one.merge, two.merge)
        shares = edits.study(two.apply(one.apply(PLAN))).scheme.shares
        self.assertEqual(shares, {"A": 0.4, "B": 0.4})

    def test_ends_of_a_gradient(self):
        self.assertEqual(edits.part(GRADIENT, 0).value, 50)
        self.assertEqual(edits.part(GRADIENT, 1).value, 70)
        darker = scenes.planned(value=10.0)
        self.assertEqual(edits.with_part(GRADIENT, 0, darker).first, darker)
        self.assertEqual(edits.with_part(GRADIENT, 1, darker).second, darker)
        self.assertEqual(edits.with_part(scenes.planned(), 1, darker), darker)
        both = edits.each_part(GRADIENT, lambda c: replace(c, value=5.0))
        self.assertEqual((both.first.value, both.second.value), (5, 5))


class Regions(unittest.TestCase):
    def test_names_are_one_line_and_an_empty_one_is_not_taken(self):
        for key, of in (("region.REGION.name", "r1"), ("title", ""), ("study.title", "s1")):
            with self.assertRaisesRegex(Refusal, "may not be empty"):
                change_setting(key, " \n", of)
        named = change_setting("region.REGION.name", " a\n b" + "c" * 300, "r2").apply(PLAN)
        self.assertEqual(edits.region(named, "r2").name[:4], "a bc")
        self.assertEqual(len(edits.region(named, "r2").name), 200)
        self.assertEqual(edits.region(named, "r1").name, "r1")

    def test_a_form_of_its_own_is_no_longer_shared(self):
        shared = sketch_edits.share_form("r1", "r2", "a", "b").apply(PLAN)
        self.assertEqual(edits.region(shared, "r1").shares_form_with, "r2")
        told = edits.region(
            change_setting("region.REGION.form", "round", "r1", "a").apply(shared), "r1"
        )
        self.assertEqual((told.form, told.shares_form_with), ("round", None))
        alone = sketch_edits.share_form("r1", None, "a", "").apply(shared)
        self.assertIsNone(edits.region(alone, "r1").shares_form_with)

    def test_look_ups(self):
        self.assertEqual(edits.region_of_label(PLAN, 2).id, "r2")
        self.assertIsNone(edits.region_of_label(PLAN, 9))

    def test_one_recipe_or_the_same_for_all(self):
        straight = Ramp(recipe="straight")
        one = edits.study(ramp_edits.set_recipe("r2", straight, "b").apply(PLAN)).recipes
        self.assertEqual(one, {"r2": straight})
        self.assertEqual(
            edits.study(ramp_edits.set_all_recipes(straight).apply(PLAN)).recipes,
            dict.fromkeys(("r1", "r2", "r3"), straight),
        )


class Regrouped(unittest.TestCase):
    """Other regions: what was decided goes over."""

    def setUp(self):
        ramp = ramp_edits.set_recipe("r1", Ramp(recipe="hsb-sum"), "x")
        noted = palette_edits.note_colour("r2", "kept", "x")
        self.plan = noted.apply(wish_edits.lock("r2", True, "x").apply(ramp.apply(PLAN)))
        self.plan = wish_edits.set_order(("r2", "r1")).apply(self.plan)

    def test_a_part_of_a_region_takes_its_ramp_and_colour(self):
        regions = [*self.plan.regions, replace(self.plan.regions[0], id="r9", label=9)]
        edit = regrouping.regroup(words("x"), self.plan.sketch, regions, {"r9": "r1"})
        now = edits.study(edit.apply(self.plan))
        self.assertEqual(now.recipes["r9"], now.recipes["r1"])
        self.assertEqual(now.colours["r9"], now.colours["r1"])

    def test_what_went_comes_back_with_all_that_was_decided_for_it(self):
        left = [r for r in self.plan.regions if r.id != "r2"]
        fresh = replace(left[0], id="r10", label=10, name="blank")
        gone = regrouping.regroup(
            words("x"), self.plan.sketch, [*left, fresh], {"r10": "r1"}
        ).apply(self.plan)
        self.assertEqual(edits.study(gone).locked, ())
        gone = change_setting("region.REGION.name", "named since", "r1").apply(gone)
        back = regrouping.bring_back(words("x"), self.plan).apply(gone)
        now, was = edits.study(back), edits.study(self.plan)
        self.assertEqual([r.id for r in back.regions], [r.id for r in self.plan.regions])
        self.assertEqual(back.regions[0].name, "named since")
        for field in ("colours", "recipes", "notes", "locked"):
            self.assertEqual(getattr(now, field), getattr(was, field), field)
        self.assertEqual(now.wishes.order, ("r2", "r1"))

    def test_an_id_that_went_is_not_given_to_another_thing(self):
        self.assertEqual(
            regrouping.new_ids([replace(self.plan.regions[0], id="r30")], 2), ["r31", "r32"]
        )
        self.assertEqual(regrouping.new_ids([replace(self.plan.regions[0], id="sea")], 1), ["r2"])

    def test_a_locked_wish_stays_where_a_distribution_is_begun_from(self):
        bands = Bands(edges=(30.0, 60.0), shares=(0.2, 0.5, 0.3))
        for name in ("bands", "figure"):
            plan = wish_edits.lock_wish(name, True, "x", on=False).apply(PLAN)
            before = edits.study(plan).wishes
            after = edits.study(wish_edits.start_from(bands, 12, "x").apply(plan)).wishes
            self.assertEqual(after.of[name], before.of[name])
            self.assertEqual(after.bands == bands, name != "bands")
            self.assertEqual((after.of.get("figure") or Wish()).number == 12, name != "figure")

    def test_an_order_names_no_region_twice(self):
        with self.assertRaisesRegex(Refusal, "twice"):
            wish_edits.set_order(("r1", "r2", "r1")).apply(PLAN)

    def test_characters_that_are_no_text_are_refused(self):
        with self.assertRaisesRegex(Refusal, "no text"):
            change_setting("title", "\udcff").apply(PLAN)


class Light(unittest.TestCase):
    def test_every_change_of_the_light_switches_it_on(self):
        for edit in (
            light_edits.set_ambient(NAME, strength=30),
            light_edits.set_lamp("key", NAME, on=False),
            change_setting("terminator.strength", 30),
            change_setting("crevice", 30),
            change_setting("light.anchor", "mean"),
        ):
            self.assertTrue(light_edits.rig_of(edit.apply(PLAN)).on)
        off = change_setting("light.on", False).apply(light_edits.light_on(PLAN))
        self.assertFalse(light_edits.rig_of(off).on)
        self.assertFalse(light_edits.rig_of(PLAN).on)
        self.assertIs(light_edits.light_off(off), off)
        self.assertFalse(light_edits.rig_of(light_edits.light_off(light_edits.light_on(PLAN))).on)

    def test_the_named_lamp_changes_and_the_key_is_the_first_of_the_lowest_rank(self):
        rim = Lamp(name="rim", rank=3, strength=40)
        second = Lamp(name="second", rank=1, strength=60)
        rig = Rig(lamps=(rim, Lamp(rank=1), second))
        self.assertEqual(rig.key.name, "key")
        plan = light_edits.with_rig(PLAN, rig)
        after = light_edits.rig_of(light_edits.set_lamp("rim", NAME, strength=11).apply(plan))
        self.assertEqual([lamp.strength for lamp in after.lamps], [11, 90, 60])
        self.assertEqual(after.lamp("second"), second)
        with self.assertRaisesRegex(Refusal, "no lamp"):
            light_edits.set_lamp("moon", NAME, strength=1).apply(plan)


class Studies(unittest.TestCase):
    def test_another_study_is_shown_or_refused(self):
        other = replace(PLAN.studies[0], id="s2", title="Dusk")
        plan = replace(PLAN, studies=(*PLAN.studies, other))
        shown = study_edits.choose_study(plan, "s2").apply(plan)
        self.assertEqual(edits.study(shown).title, "Dusk")
        changed = edits.study(harmony_edits.turn_lead(9).apply(shown))
        self.assertEqual((changed.id, shown.studies[0]), ("s2", PLAN.studies[0]))
        with self.assertRaisesRegex(Refusal, "s1, s2"):
            study_edits.choose_study(plan, "s3")


class Versions(unittest.TestCase):
    def test_studies_are_told_apart_and_the_last_one_stays(self):
        plan = PLAN
        for _ in range(3):
            plan = study_edits.duplicate_study(plan, "s1").apply(plan)
        self.assertEqual([s.id for s in plan.studies], ["s1", "s2", "s3", "s4"])
        self.assertEqual(len({s.title for s in plan.studies}), 4)
        plan = study_edits.choose_study(plan, "s4").apply(plan)
        plan = study_edits.remove_study(plan, "s4").apply(plan)
        self.assertEqual(plan.current_study, "s3")
        plan = study_edits.remove_study(plan, "s1").apply(plan)
        self.assertEqual(plan.current_study, "s3")
        with self.assertRaisesRegex(Refusal, "no study"):
            study_edits.choose_study(plan, "s1")
        with self.assertRaisesRegex(Refusal, "only study"):
            study_edits.remove_study(PLAN, "s1")
        with self.assertRaises(Refusal):
            change_setting("study.title", "  ", "s1")

    def test_a_change_of_another_study_leaves_what_is_shown(self):
        plan = study_edits.duplicate_study(PLAN, "s1").apply(PLAN)
        edit = study_edits.in_study("s2", harmony_edits.turn_lead(7))
        after = edit.apply(plan)
        self.assertEqual((after.current_study, after.studies[1].scheme.lead_deg), ("s1", 7))
        self.assertIs(after.studies[0], plan.studies[0])
        self.assertEqual(edit.merge, "s2 lead")

    def test_a_mood_takes_its_own_numbers_and_gives_them_back(self):
        held = study_edits.set_mood("quiet").apply(PLAN)
        own = study_edits.set_mood_wish("key", (10, 20)).apply(held)
        self.assertEqual(edits.study(own).mood.wishes()["key"], (10, 20))
        back = study_edits.set_mood_wish("key", None).apply(own)
        self.assertEqual(edits.study(back).mood, edits.study(held).mood)
        self.assertIs(study_edits.set_mood_wish("key", (1, 2)).change(PLAN), PLAN)
        with self.assertRaises(Refusal):
            study_edits.set_mood("cross")
        with self.assertRaises(Refusal):
            study_edits.set_mood_wish("key", (30, 20)).apply(held)

    def test_extras_are_there_once_and_within_bounds(self):
        plan = palette_edits.add_extra("#ffffff").apply(PLAN)
        self.assertIs(palette_edits.add_extra("#ffffff").change(plan), plan)
        for i in range(63):
            plan = palette_edits.add_extra(f"#0000{i:02x}").apply(plan)
        with self.assertRaisesRegex(Refusal, "at most 64"):
            palette_edits.add_extra("#abcdef").apply(plan)
        left = palette_edits.remove_extra("#ffffff").apply(plan)
        self.assertEqual(len(edits.study(left).extras), 63)

    def test_studies_that_speak_of_what_is_not_there_are_refused(self):
        swatches = (palettes.Swatch(hex="#ffffff"),)
        for changes in (
            {"notes": {"r9": "x"}},
            {"row_order": ("r9",)},
            {"zones": {"r9": model.Zones(school="three-bands")}},
            {"palette": palettes.GivenPalette(title="x", colours=swatches, of={"r9": 0})},
            {"palette": palettes.GivenPalette(title="x", colours=swatches, of={"r1": 1})},
            {"mood": MoodWish(name="nobody")},
        ):
            made = replace(edits.study(PLAN), **changes)
            edit = Edit(NAME, lambda plan, m=made: edits.with_study(plan, m))
            with self.subTest(changes), self.assertRaises(Refusal):
                edit.apply(PLAN)
