"""What ties a palette together, held against its own promises."""

import unittest
from itertools import pairwise

import numpy as np
from msgspec.structs import replace

from tests import scenes
from tests.scenes import planned, scheme
from umber_compass.colour.difference import ciede2000
from umber_compass.colour.measured import measure_hex
from umber_compass.colour.spaces import cielab, decode, hue_distance, oklab, parse_hex
from umber_compass.plan.edits import study, with_study
from umber_compass.plan.harmony_edits import add_hue, set_offset
from umber_compass.plan.model import Gradient, Pinned
from umber_compass.plan.moods import MOODS, MoodWish
from umber_compass.plan.palettes import GivenPalette, Swatch
from umber_compass.plan.settings import change_setting
from umber_compass.steps.harmony import (
    budget,
    given,
    gradation,
    mapping,
    mood,
    quiet,
    relativity,
    scheme_edits,
    unify,
    warmth,
    zones,
)
from umber_compass.steps.harmony.colours import region_colours
from umber_compass.steps.harmony.moody import brought_within, moody
from umber_compass.steps.harmony.readings import family_of, hue_families, read_now
from umber_compass.steps.harmony.scheme import slot_hues, stray_deg
from umber_compass.steps.harmony.schemes import FREE, SCHEMES
from umber_compass.steps.harmony.touching import Touching, liveliness
from umber_compass.words import Refusal

SKIN, COAT = Pinned(hex="#d3a083"), Pinned(hex="#2f6e9c")


def colours_of(plan):
    now = study(plan)
    return region_colours(now.scheme, now.colours)


def even(plan):
    """Equal shares of every region."""
    return {r.id: 1 / len(plan.regions) for r in plan.regions}


def in_line(plan):
    """Each region touching the next."""
    ids = tuple(r.id for r in plan.regions)
    pairs = np.array(list(pairwise(range(len(ids)))))
    return Touching(ids, pairs, np.full(len(pairs), 50))


def role(plan, **roles):
    regions = tuple(replace(r, role=roles.get(r.id, r.role)) for r in plan.regions)
    return replace(plan, regions=regions)


class Schemes(unittest.TestCase):
    def test_a_colour_in_an_arc_of_the_new_scheme_stays_and_the_others_are_said(self):
        plan = scenes.plan_of([planned(), planned("B", turn=4.0), planned("C")], scheme("triad"))
        for name in SCHEMES:
            edit = scheme_edits.choose_scheme(name)
            after = edit.apply(plan)
            before, now = colours_of(plan), colours_of(after)
            hues = slot_hues(study(after).scheme)
            said = str(edit.says(plan, after))
            for region in ("r1", "r2", "r3"):
                turned = abs(float(hue_distance(before[region].first.hue, now[region].first.hue)))
                fits = stray_deg(hues, before[region].first.hue, 18)[0] == 0
                with self.subTest(name=name, region=region):
                    self.assertEqual(fits, turned < 3, (turned, said))
                    self.assertEqual(region in said, turned > 3)

    def test_another_wheel_moves_no_colour(self):
        plan = scenes.plan_of([planned(), planned("B", turn=9.0), planned("grey", chroma=0.01)])
        for wheel in ("light", "perceptual"):
            after = scheme_edits.choose_wheel(wheel).apply(plan)
            pairs = zip(colours_of(plan).values(), colours_of(after).values(), strict=True)
            for one, two in pairs:
                self.assertLess(ciede_hex(one.first.hex, two.first.hex), 1.0)
            self.assertEqual(study(after).scheme.wheel, wheel)

    def test_free_keeps_what_is_there_and_its_hues_go_where_they_are_put(self):
        plan = scenes.plan_of([planned(), planned("B"), planned("C")], scheme("triad"))
        free = scheme_edits.choose_scheme(FREE).apply(plan)
        self.assertEqual(
            [c.first.hex for c in colours_of(free).values()],
            [c.first.hex for c in colours_of(plan).values()],
        )
        moved = set_offset("B", 70).apply(free)
        turned = slot_hues(study(moved).scheme)["B"]
        self.assertAlmostEqual(colours_of(moved)["r2"].first.hue, turned, delta=3)
        more = add_hue().apply(free)
        self.assertEqual(len(study(more).scheme.offsets), 3)
        self.assertIs(add_hue().apply(more), more)
        less = scheme_edits.drop_hue().apply(more)
        self.assertEqual(len(study(less).scheme.offsets), 2)

    def test_the_pull_turns_as_far_as_it_says_and_no_locked_or_given_colour(self):
        plan = scenes.plan_of([planned(turn=20.0), planned("B", turn=-30.0), SKIN, planned(turn=9)])
        plan = with_study(plan, replace(study(plan), locked=("r4",)))
        half = study(scheme_edits.pull_into(0.5).apply(plan)).colours
        self.assertEqual((half["r1"].hue_offset_deg, half["r2"].hue_offset_deg), (10, -15))
        self.assertEqual((half["r3"], half["r4"].hue_offset_deg), (SKIN, 9))
        one = study(scheme_edits.pull_into(1, "B").apply(plan)).colours
        self.assertEqual((one["r1"].hue_offset_deg, one["r2"].hue_offset_deg), (20, 0))

    def test_slots_have_a_level_and_an_arc_of_their_own(self):
        plan = scenes.plan_of([planned(), planned("B")])
        after = colours_of(change_setting("slot.SLOT.chroma", 0.5, "B").apply(plan))
        self.assertAlmostEqual(after["r2"].first.chroma, 0.05, delta=0.004)
        self.assertAlmostEqual(after["r1"].first.chroma, 0.1, delta=0.004)
        arcs = study(change_setting("slot.SLOT.arc", 40, "B").apply(plan)).scheme.arcs
        hues = slot_hues(study(plan).scheme)
        self.assertEqual(stray_deg(hues, hues["B"] + 39, 18, arcs), (0, "B"))
        self.assertAlmostEqual(stray_deg(hues, hues["A"] + 20, 18, arcs)[0], 2)

    def test_readings_name_what_they_leave_outside(self):
        plan = scenes.plan_of([planned(), planned(), planned("B"), planned("B", turn=80.0)])
        found = read_now(
            colours_of(plan), {"r1": 0.5, "r2": 0.3, "r3": 0.15, "r4": 0.05}, "painter"
        )
        best = next(r for r in found.ranked if r.scheme.name == "opposites")
        self.assertEqual(best.outside, ("r4",))
        self.assertEqual(len(found.own.offsets), 2)
        taken = scheme_edits.take_scheme(found.own, FREE).apply(plan)
        offsets = [c.hue_offset_deg for c in study(taken).colours.values()]
        self.assertLess(max(map(abs, offsets)), 12)

    def test_families_go_round_with_the_hue(self):
        hues = np.array([350.0, 10.0, 100.0, 120.0, 5.0])
        self.assertEqual(len(set(family_of(hues)[[0, 1, 4]].tolist())), 1)
        found = hue_families(hues, np.ones(5))
        self.assertEqual([round(h) for _, h in found], [3, 2])
        self.assertLess(min(found[0][0], 360 - found[0][0]), 6)
        self.assertEqual(hue_families(np.zeros(0), np.zeros(0)), [])


def ciede_hex(one, two):
    pair = cielab(decode(np.array([parse_hex(one), parse_hex(two)])))
    return float(ciede2000(pair[0], pair[1]))


class Given(unittest.TestCase):
    def setUp(self):
        self.plan = role(scenes.plan_of([planned(value=60.0), SKIN, COAT]), r1="ground")

    def test_schemes_are_ranked_by_how_near_given_colours_stand(self):
        found = given.suited(colours_of(self.plan), even(self.plan), "painter")
        self.assertEqual([s.cost for s in found], sorted(s.cost for s in found))
        hues = [colours_of(self.plan)[r].first.hue for r in ("r2", "r3")]
        for one in found:
            needles = slot_hues(one.scheme)
            for hue, off in zip(hues, one.off, strict=True):
                near = min(
                    abs(float(hue_distance(needles[s], hue))) for s in needles if s != "grey"
                )
                self.assertAlmostEqual(near, off, delta=0.01)
        self.assertLess(max(found[0].off), 6)
        self.assertTrue(found[0].free)
        self.assertEqual(given.suited({}, {}, "painter"), ())

    def test_a_ground_lies_as_far_as_it_says_and_is_taken(self):
        colours = colours_of(self.plan)
        for ground in given.grounds_for(colours, study(self.plan).scheme):
            near = min(abs(ground.value - colours[r].first.value) for r in ("r2", "r3"))
            self.assertAlmostEqual(near, ground.away, delta=0.01)
            after = colours_of(given.take_ground(ground).apply(self.plan))
            self.assertAlmostEqual(after["r1"].first.value, ground.value, delta=1)
            self.assertEqual((after["r2"], after["r3"]), (colours["r2"], colours["r3"]))


class Bars(unittest.TestCase):
    def test_a_quiet_palette_keeps_values_and_parts_what_touches(self):
        plan = scenes.plan_of([planned(value=50 + i % 2, chroma=0.1 + i / 100) for i in range(9)])
        touching = in_line(plan)
        for amount in (0.0, 0.5, 1.0):
            after = quiet.quieten(touching, amount).apply(plan)
            shown = colours_of(after)
            hue = slot_hues(study(after).scheme)["A"]
            for i, colour in enumerate(shown.values()):
                self.assertAlmostEqual(colour.first.value, 50 + i % 2, delta=0.6)
                self.assertLess(abs(float(hue_distance(hue, colour.first.hue))), 36)
                self.assertLess(colour.first.chroma, 0.11)
            lab = np.array([cielab(decode(parse_hex(c.first.hex))) for c in shown.values()])
            lab[:, 0] = 50
            apart = ciede2000(lab[:-1], lab[1:])
            self.assertGreater(apart.min(), 2.5)
            self.assertAlmostEqual(liveliness(touching, shown), float(apart.mean()), delta=0.1)

    def test_greys_lean_to_their_pole_and_stay_grey(self):
        plan = scenes.plan_of([planned("grey", chroma=0.0), planned()])
        for amount, pole in ((1.0, warmth.WARM_HUE), (-1.0, warmth.COOL_HUE)):
            after = colours_of(quiet.tint_greys(amount).apply(plan))
            self.assertLess(abs(float(hue_distance(after["r1"].first.hue, pole))), 8)
            self.assertLess(after["r1"].first.chroma, 0.021)
            self.assertEqual(after["r2"].first.hex, colours_of(plan)["r2"].first.hex)

    def test_unify_mixes_as_a_layer_would(self):
        plan = scenes.plan_of([planned(), planned("B", value=70.0), SKIN])
        before, after = colours_of(plan), colours_of(unify.unify("#406080", 0.25).apply(plan))
        for region in ("r1", "r2"):
            wanted = parse_hex(before[region].first.hex) * 0.75 + parse_hex("#406080") * 0.25
            np.testing.assert_allclose(
                parse_hex(after[region].first.hex) * 255, wanted * 255, atol=2
            )
        self.assertEqual(after["r3"], before["r3"])
        self.assertIs(unify.unify("#406080", 0).apply(plan), plan)

    def test_a_gradation_gives_half_at_each_end_and_takes_gradients_by_place(self):
        gradient = Gradient(
            first=planned(value=40.0), second=planned(value=60.0), axis=(0.5, 0.0, 0.5, 0.5)
        )
        plan = scenes.plan_of([planned(), gradient, SKIN])
        after = study(gradation.lay_gradation(["r1", "r2", "r3"], "value", 20, "down").apply(plan))
        one, two = after.colours["r1"], after.colours["r2"]
        self.assertEqual((one.first.value, one.second.value), (60, 40))
        self.assertEqual((two.first.value, two.second.value), (50, 60))
        self.assertEqual(after.colours["r3"], SKIN)
        warm = study(
            gradation.lay_gradation(["r1"], "temperature", 100, "across").apply(plan)
        ).colours["r1"]
        ends = [
            region_colours(after.scheme, {"x": c})["x"].first for c in (warm.first, warm.second)
        ]
        heat = [e.chroma * np.cos(np.radians(e.hue - warmth.WARM_HUE)) for e in ends]
        self.assertTrue(0.03 < heat[0] - heat[1] <= 0.09, heat)
        turned = gradation.set_axis("r2", (0, 0, 2, 0.5), "x").apply(plan)
        self.assertEqual(study(turned).colours["r2"].axis, (0, 0, 1, 0.5))

    def test_temperature_counts_by_area_and_leaves_the_crossings_out(self):
        plan = scenes.plan_of([Pinned(hex="#c0603a"), Pinned(hex="#3a7fa0"), Pinned(hex="#808080")])
        found = warmth.temperature(colours_of(plan), {"r1": 0.5, "r2": 0.3, "r3": 0.2})
        np.testing.assert_allclose(found, (0.5, 0.3, 0.2), atol=1e-9)
        # 130 and 140 lie to either side of a crossing, 110 does not.
        hues = np.array([130.0, 140.0, 110.0])
        self.assertAlmostEqual(warmth.temperature_of(hues, np.full(3, 0.1)).neutral, 2 / 3)


class Relativity(unittest.TestCase):
    def reads(self, middle, around):
        plan = scenes.plan_of([Pinned(hex=around), Pinned(hex=middle), Pinned(hex=around)])
        found = relativity.reads(in_line(plan), colours_of(plan))
        return next(r for r in found if r.region == "r2")

    def test_what_colour_md_promises(self):
        """A violet-grey among oranges reads bluer; mid grey lighter on black than on white; on 20 %
        grey nothing changes."""
        violet = self.reads("#8a8494", "#d98a3a")
        lab = oklab(decode(np.array([parse_hex(violet.hex), parse_hex(violet.seen)])))
        self.assertLess(lab[1, 2], lab[0, 2] - 0.01)
        self.assertGreater(self.reads("#777777", "#000000").lighter, 2)
        self.assertLess(self.reads("#777777", "#ffffff").lighter, -2)
        self.assertLess(self.reads("#777777", "#7c7c7c").apart, 0.6)

    def test_a_colour_that_reads_another_way_does_by_the_least_that_was_tried(self):
        plan = scenes.plan_of([Pinned(hex="#d98a3a"), planned(value=55.0, chroma=0.05)])
        touching, colours = in_line(plan), colours_of(plan)
        for way in relativity.WAYS:
            hue = colours["r2"].first.hue
            found = relativity.find(touching, colours, "r2", way, [hue + 10, hue + 200], 18)
            self.assertIsNotNone(found, way)
            self.assertTrue(-8 <= found.hue_deg <= 28, (way, found))
            around = relativity.surrounds(touching, colours)[1][None]
            was, now = (
                relativity.as_read(decode(parse_hex(h))[None], around)
                for h in (colours["r2"].first.hex, found.hex)
            )
            self.assertGreater(float(relativity._shift(way, was, now)[0]), 0, way)


class Zones(unittest.TestCase):
    def test_every_zone_keeps_value_and_its_distance(self):
        for school in zones.SCHOOLS:
            for base in ("#d3a083", "#7a4a35", "#f0cfb8", "#8090a0"):
                for strength in (0.2, 1.0, 2.0):
                    for zone in zones.zones_of(measure_hex(base), school, strength):
                        with self.subTest(school=school, base=base, zone=zone.name):
                            self.assertAlmostEqual(zone.far, ciede_hex(base, zone.hex), delta=0.01)
                            self.assertTrue(1.6 <= zone.far <= 8.4, zone.far)
                            here = measure_hex(zone.hex).value
                            self.assertAlmostEqual(here, measure_hex(base).value, delta=0.8)

    def test_they_are_set_changed_and_taken_away(self):
        plan = scenes.plan_of([SKIN])
        made = zones.set_zones("r1", "warm-edges", 1.2, "skin").apply(plan)
        self.assertEqual(study(made).zones["r1"].strength, 1.2)
        self.assertEqual(study(zones.set_zones("r1", None, 1, "skin").apply(made)).zones, {})
        with self.assertRaises(Refusal):
            zones.set_zones("r1", "nobody", 1, "skin")


class Moods(unittest.TestCase):
    def setUp(self):
        self.plan = scenes.plan_of(
            [planned(value=v, chroma=c) for v, c in ((30, 0.03), (60, 0.12), (80, 0.06), (45, 0.1))]
        )

    def off(self, plan):
        return mood.disagreement(mood.mood_rows(colours_of(plan), even(plan), study(plan).mood))

    def test_every_mood_is_nearly_reached_and_held_to(self):
        for name, one in MOODS.items():
            after = moody(self.plan, name, even(self.plan))
            self.assertEqual(study(after).mood, MoodWish(name=name))
            held = with_study(self.plan, replace(study(self.plan), mood=MoodWish(name=name)))
            with self.subTest(mood=name):
                self.assertLessEqual(self.off(after), max(self.off(held), 0.0) + 1e-9)
                self.assertLess(self.off(after), 1.5)
                self.assertEqual(bool(one.wishes), name != "own")

    def test_bringing_within_moves_nothing_that_is_within(self):
        wish = MoodWish(name="own", of={"key": (0, 100), "chroma": (0, 40)})
        plan = with_study(self.plan, replace(study(self.plan), mood=wish))
        self.assertEqual(study(brought_within(plan, even(plan))), study(plan))

    def test_the_element_of_another_mood_is_found(self):
        colours = [planned(value=25.0, chroma=0.03) for _ in range(5)]
        odd = [*colours, Pinned(hex="#ff5020")]
        plan = scenes.plan_of(odd, scheme("one-hue", lead=240.0))
        wish = MoodWish(name="sombre", of={"warm": (0, 5)})
        found = mood.odd_one(colours_of(plan), even(plan), wish)
        self.assertEqual(found, "r6")


class Budgets(unittest.TestCase):
    def setUp(self):
        levels = (20, 22, 24, 50, 52, 80)
        self.plan = scenes.plan_of([planned(value=float(v)) for v in levels])
        self.colours, self.shares = colours_of(self.plan), even(self.plan)

    def within(self, wanted, apart=(), fixed=()):
        return budget.within(self.colours, self.shares, wanted, frozenset(apart), frozenset(fixed))

    def test_the_cheapest_merges_are_taken_and_no_more(self):
        self.assertEqual(self.within(6).merges, ())
        found = self.within(3)
        self.assertEqual(
            {frozenset(m.regions) for m in found.merges},
            {frozenset({"r1", "r2", "r3"}), frozenset({"r4", "r5"})},
        )
        after = budget.merging(found.merges, scenes.NOTHING).apply(self.plan)
        self.assertEqual(budget.colours_needed(colours_of(after)), 3)

    def test_each_colour_goes_to_the_nearest_that_is_left(self):
        rng = np.random.default_rng(2)
        rows = zip(rng.uniform(20, 85, 24), rng.uniform(0.02, 0.12, 24), strict=True)
        turns = rng.uniform(-180, 180, 24)
        solids = [
            planned("A", float(v), float(c), t) for (v, c), t in zip(rows, turns, strict=True)
        ]
        plan = scenes.plan_of(solids)
        self.colours, self.shares = colours_of(plan), even(plan)
        hexes = {r: c.first.hex for r, c in self.colours.items()}
        to = {r: m.hex for m in self.within(9).merges for r in m.regions}
        left = {to.get(r, h) for r, h in hexes.items()}
        self.assertEqual(len(left), 9)

        def far(one, two):
            return np.linalg.norm(oklab(decode(parse_hex(one))) - oklab(decode(parse_hex(two))))

        for region, taken in to.items():
            nearest = min(far(hexes[region], h) for h in left)
            self.assertAlmostEqual(far(hexes[region], taken), nearest)

    def test_what_is_apart_or_fixed_stays_so(self):
        found = self.within(4, apart=[("r1", "r2"), ("r2", "r3")])
        for merge in found.merges:
            self.assertFalse({"r1", "r2"} <= set(merge.regions))
            self.assertFalse({"r2", "r3"} <= set(merge.regions))
        kept = next(m for m in self.within(3, fixed=["r2"]).merges if "r2" in m.regions)
        self.assertEqual(kept.hex, self.colours["r2"].first.hex)
        with self.assertRaisesRegex(Refusal, "needs 3"):
            self.within(2, fixed=["r1", "r4", "r6"])


class Mapped(unittest.TestCase):
    PALETTE = ("#20242c", "#3c6a80", "#7fa6b0", "#b8573d", "#e8d4b0", "#f4efe4")

    def setUp(self):
        values = (25, 40, 55, 70, 85)
        colours = [planned(value=float(v), chroma=0.05) for v in values]
        self.plan = scenes.plan_of([*colours, planned("B", value=50.0), SKIN])
        self.shares = even(self.plan)

    def map(self, hexes):
        return mapping.map_palette(hexes, colours_of(self.plan), self.shares, in_line(self.plan))

    def test_values_keep_their_order_and_given_colours_their_own(self):
        of = self.map(self.PALETTE)
        self.assertNotIn("r7", of)
        values = [measure_hex(self.PALETTE[of[f"r{i}"]]).value for i in range(1, 6)]
        self.assertEqual(values, sorted(values))
        self.assertEqual(len(set(values)), 5)
        self.assertEqual(set(self.map(["#445566"]).values()), {0})
        with self.assertRaises(Refusal):
            self.map([])

    def test_a_palette_is_laid_and_a_line_of_it_moved(self):
        swatches = tuple(Swatch(hex=h) for h in self.PALETTE)
        kept = GivenPalette(title="x", colours=swatches, of=self.map(self.PALETTE))
        laid = mapping.lay_palette(kept, self.shares).apply(self.plan)
        shown = colours_of(laid)
        for region, at in kept.of.items():
            self.assertLess(ciede_hex(shown[region].first.hex, self.PALETTE[at]), 1.0)
        self.assertEqual(shown["r7"].first.hex, SKIN.hex)
        moved = mapping.move_swatch(laid, "r1", 5, "r1").apply(laid)
        self.assertLess(ciede_hex(colours_of(moved)["r1"].first.hex, self.PALETTE[5]), 1.0)
        self.assertEqual(study(moved).palette.of["r1"], 5)
        with self.assertRaises(Refusal):
            mapping.move_swatch(self.plan, "r1", 0, "r1")
        with self.assertRaises(Refusal):
            mapping.move_swatch(laid, "r1", 99, "r1")
