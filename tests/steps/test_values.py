"""Values: bands, constraints, balance, and each check's number by hand."""

import itertools
import unittest

import numpy as np
from msgspec.structs import replace

from tests import scenes
from tests.scenes import planned
from umber_compass.colour.grouping import optimal_edges
from umber_compass.plan import edits
from umber_compass.plan.model import Pinned
from umber_compass.plan.settings import change_setting
from umber_compass.plan.wish_edits import (
    lock,
    lock_wish,
    set_bands,
    set_order,
    set_wish,
    start_from,
    switch_wish,
)
from umber_compass.plan.wishes import Bands
from umber_compass.steps.checks.judging import judge, measure_all
from umber_compass.steps.checks.values.other_grey import luma_by_code
from umber_compass.steps.harmony.shifts import shift_family
from umber_compass.steps.mending.balance import balance, conflict_of
from umber_compass.steps.mending.constraints import constraints_of, state_at, unmet
from umber_compass.steps.mending.programme import Cell, Constraint, Held, Room, Row, conflict, solve
from umber_compass.steps.values.bands import KEYS, bands_of_picture
from umber_compass.steps.values.measured import mean_value, median
from umber_compass.words import words

NAME = words("x")


def constraint(name, *rows, shares=(), locked=False):
    return Constraint(name, words(name), locked, rows, shares)


def room(*bounds, price=None, cells=None):
    low, high = np.array(bounds, float).T
    price = np.ones(len(bounds)) if price is None else np.array(price, float)
    return Room(low, high, price, cells or ((),) * len(bounds), np.zeros(2), np.zeros(2))


class Groups(unittest.TestCase):
    def test_edges_part_as_trying_every_one_would(self):
        rng = np.random.default_rng(2)
        for count in (2, 3):
            held = rng.random(100) ** 6
            held /= held.sum()
            at = np.arange(100) + 0.5

            def spread(edges, held=held, at=at):
                parts = np.split(np.arange(100), edges)
                means = [np.average(at[p], weights=held[p] + 1e-12) for p in parts]
                return sum(
                    (held[p] * (at[p] - m) ** 2).sum() for p, m in zip(parts, means, strict=True)
                )

            best = min(
                (
                    c
                    for c in itertools.combinations(range(2, 99), count - 1)
                    if np.all(np.diff([0, *c, 100]) >= 2)
                ),
                key=spread,
            )
            found = [int(e) for e in optimal_edges(held, count)]
            self.assertAlmostEqual(spread(found), spread(list(best)), places=9)

    def test_equal_values_give_edges_that_rise(self):
        held = np.zeros(100)
        held[99] = 1
        for count in range(2, 6):
            edges = optimal_edges(held, count)
            self.assertEqual((len(edges), sorted(set(edges))), (count - 1, list(edges)))
            self.assertEqual(Bands(edges=edges, shares=(1 / count,) * count).fault(), "")
        self.assertAlmostEqual(median(held), 99.5)

    def test_bands_that_contradict_say_so(self):
        for edges, shares, said in (
            ((40, 30), (0.3, 0.3, 0.4), "rise"),
            ((40,), (0.3, 0.3, 0.4), "one edge less"),
            ((40,), (0.7, 0.6), "more than the whole"),
        ):
            self.assertIn(said, Bands(edges=edges, shares=shares).fault())


class Programme(unittest.TestCase):
    def test_the_cheaper_one_moves_by_just_enough(self):
        apart = constraint("a", Row((0, 1), (1.0, -1.0), 10.0))
        for price, moves in (((1, 3), (10, 0)), ((3, 1), (0, -10))):
            found = solve(room((-50, 50), (-50, 50), price=price), [apart])
            np.testing.assert_allclose(found.moves, moves, atol=1e-6)
        held = solve(room((-50, 4), (-50, 50), price=(1, 3)), [apart])
        np.testing.assert_allclose(held.moves, (4, -6), atol=1e-6)

    def test_the_fewest_are_dropped_and_never_a_locked_one(self):
        up, down = Row((0,), (1.0,), 10.0), Row((0,), (-1.0,), 10.0)
        two = [constraint("up", up), constraint("down", down), constraint("also", down)]
        found = solve(room((-50, 50)), two)
        self.assertEqual(found.dropped, (0,))
        locked = [constraint("up", up, locked=True), *two[1:]]
        self.assertEqual(solve(room((-50, 50)), locked).dropped, (1, 2))
        self.assertIsNone(
            solve(
                room((-50, 50)),
                [constraint("u", up, locked=True), constraint("d", down, locked=True)],
            )
        )

    def test_a_conflict_is_irreducible(self):
        rows = {
            "a": Row((0, 1), (1.0, -1.0), 5.0),
            "b": Row((1, 2), (1.0, -1.0), 5.0),
            "c": Row((2, 0), (1.0, -1.0), 5.0),
            "d": Row((3,), (1.0,), 3.0),
            "e": Row((0, 3), (1.0, 1.0), 1.0),
        }
        wished = [constraint(n, r) for n, r in rows.items()]
        where = room(*[(-50, 50)] * 4)
        self.assertEqual({d.name for d in conflict(where, wished)}, {"a", "b", "c"})
        self.assertEqual(conflict(where, wished[1:]), [])

    def test_shares_come_in_whole_steps(self):
        cells = (
            (Cell(-50, -10, np.array([0.3, 0])), Cell(-10, 50, np.array([0.0, 0.3]))),
            (Cell(-50, -20, np.array([0.4, 0])), Cell(-20, 50, np.array([0.0, 0.4]))),
        )
        dark = constraint("dark", shares=(Held(0, 0.25, 0.35),))
        found = solve(room((-50, 50), (-50, 50), cells=cells), [dark])
        np.testing.assert_allclose(found.moves, (-10, 0), atol=1e-6)


class Boat(scenes.InFolder):
    def setUp(self):
        super().setUp()
        self.made, self.pipeline = self.bring_in()
        self.plan = self.made.plan
        named = zip(
            ("sea", "sand", "hull", "sail", "sun"),
            (scenes.SEA, scenes.SAND, scenes.HULL, scenes.SAIL, scenes.SUN),
            strict=True,
        )
        self.ids = {n: self.region(self.plan, c).id for n, c in named}
        for name, role in (
            ("hull", "figure"),
            ("sail", "figure"),
            ("sun", "figure"),
            ("sea", "ground"),
            ("sand", "ground"),
        ):
            self.plan = change_setting("region.REGION.role", role, self.ids[name], name).apply(
                self.plan
            )

    def valued(self, plan=None, **values):
        made = {self.ids[n]: planned(value=v, chroma=0.03) for n, v in values.items()}
        return edits.with_colours(plan or self.plan, made)

    def derive(self, plan):
        return self.pipeline.derive(plan)

    def measured(self, plan, check):
        return [r for r in measure_all(self.derive(plan).think()) if r.check == check]


class Balancing(Boat):
    def test_a_balanced_plan_breaks_no_wish_it_could_keep(self):
        rng = np.random.default_rng(4)
        for _ in range(6):
            values = dict(zip(self.ids, rng.uniform(15, 90, 5).tolist(), strict=True))
            plan = set_order((self.ids["hull"], self.ids["sea"], self.ids["sand"])).apply(
                self.valued(**values)
            )
            begin = self.derive(plan)
            found = balance(begin)
            after = self.derive(found.edit.apply(plan))
            stand = state_at(after, begin)
            left = [d.name for d in unmet(stand, constraints_of(stand))]
            self.assertEqual(left, [d.name for d in found.dropped])
            if left:
                self.assertTrue(conflict_of(begin), values)
            for move in found.moved:
                self.assertAlmostEqual(after.colours[move.region].mean_value, move.after)

    def test_a_small_focus_is_not_the_one_to_move(self):
        plan = change_setting("region.REGION.role", "focus", self.ids["sun"], "sun").apply(
            self.valued(sea=70, sun=74, hull=20, sail=95)
        )
        moved = {
            m.region
            for m in balance(
                self.derive(plan), frozenset({f"parting.{self.ids['sun']}.{self.ids['sea']}"})
            ).moved
        }
        self.assertIn(self.ids["sea"], moved)
        self.assertNotIn(self.ids["sun"], moved)

    def test_what_is_locked_given_or_ink_stays_and_all_locked_says_so(self):
        plan = self.valued(sea=50, sand=60, hull=52, sail=54, sun=55)
        kept = lock(self.ids["sea"], True, "sea").apply(plan)
        kept = edits.with_colours(kept, {self.ids["sand"]: Pinned(hex="#808080")})
        kept = change_setting("region.REGION.role", "line", self.ids["sail"], "sail").apply(kept)
        moved = {m.region for m in balance(self.derive(kept)).moved}
        self.assertTrue(moved)
        self.assertFalse(moved & {self.ids[n] for n in ("sea", "sand", "sail")})
        for name in self.ids:
            plan = lock(self.ids[name], True, name).apply(plan)
        found = balance(self.derive(plan))
        self.assertEqual((found.moved, found.change), ((), 0))
        self.assertTrue(found.dropped)
        self.assertIn("Nothing can move", str(found.says))

    def test_a_yellow_stays_where_it_can_be_strong(self):
        strong = edits.with_colours(
            self.valued(sea=88, hull=30, sail=20),
            {
                self.ids["sun"]: replace(
                    edits.study(self.made.plan).colours[self.ids["sun"]], value=86.0, chroma=0.17
                )
            },
        )
        begin = self.derive(strong)
        stand = state_at(begin, begin)
        at = stand.free.place[self.ids["sun"]]
        self.assertGreater(stand.room.low[at], -55)
        grey = stand.free.place[self.ids["sea"]]
        self.assertLess(stand.room.low[grey], -75)

    def test_bands_are_met_by_moving_whole_shapes(self):
        wish = Bands(edges=(40, 70), shares=(0.35, 0.6, 0.05))
        plan = set_bands(wish, NAME).apply(self.valued(sea=55, sand=58, hull=20, sail=90, sun=85))
        begin = self.derive(plan)
        self.assertIn(
            "bands.1",
            [d.name for d in unmet(state_at(begin, begin), constraints_of(state_at(begin, begin)))],
        )
        found = balance(begin)
        after = self.derive(found.edit.apply(plan))
        self.assertEqual(found.dropped, ())
        for held, share in zip(after.bands, wish.shares, strict=True):
            self.assertLessEqual(abs(held - share), 0.101)

    def test_contradicting_wishes_name_each_other(self):
        plan = self.valued(sea=50, sand=52, hull=20, sail=90, sun=80)
        ids = self.ids
        plan = start_from(KEYS["high"].bands, 0, "x").apply(plan)
        plan = set_bands(Bands(edges=(50,), shares=(0.9, 0.1)), NAME).apply(plan)
        plan = lock_wish("bands", True, "bands").apply(plan)
        for name in ("sea", "sand"):
            plan = edits.with_colours(plan, {ids[name]: Pinned(hex="#e8e8e8")})
        found = conflict_of(self.derive(plan))
        self.assertIn("bands.1", [d.name for d in found])
        self.assertTrue(balance(self.derive(plan)).dropped)
        off = switch_wish("bands", False, "bands").apply(plan)
        self.assertNotIn("bands.1", [d.name for d in conflict_of(self.derive(off))])

    def test_in_light_the_picture_as_it_is_measured_meets_it(self):
        lit = edits.with_study(self.plan, replace(edits.study(self.plan), rig=scenes.plain_rig()))
        lit = self.valued(lit, sea=50, sand=60, hull=46, sail=58, sun=80)
        begin = self.derive(lit)
        found = balance(begin)
        self.assertIsNotNone(begin.lit)
        after = self.measured(found.edit.apply(lit), "figure-merges")
        bad = [r.regions for r in after if r.level == "warning"]
        self.assertLessEqual(len(bad), len(found.dropped))

    def test_a_key_leaves_what_is_locked_and_a_family_moves_without_it(self):
        plan = lock_wish("bands", True, "bands").apply(self.plan)
        before = edits.study(plan).wishes.bands
        after = start_from(KEYS["low"].bands, 20, "low").apply(plan)
        self.assertEqual(edits.study(after).wishes.bands, before)
        self.assertEqual(edits.study(after).wishes.of["figure"].number, 20)
        held = lock(self.ids["sea"], True, "sea").apply(self.valued(sea=50, sand=50))
        moved = edits.study(shift_family("A", 9).apply(held)).colours
        self.assertEqual([moved[self.ids[n]].value for n in ("sea", "sand")], [50, 59])


class Checks(Boat):
    def test_a_number_of_ones_own_moves_its_warning_along(self):
        plan = self.valued(sea=50, hull=68, sail=90, sun=90)
        for number, level in ((15, "fine"), (20, "note"), (22, "warning")):
            own = set_wish("parting", number, "x").apply(plan)
            pair = (self.ids["hull"], self.ids["sea"])
            found = {r.regions: r.level for r in self.measured(own, "figure-merges")}
            self.assertEqual(found.get(pair, "fine"), level, number)

    def test_a_middle_ground_counts_where_it_stands_behind(self):
        plan = change_setting("region.REGION.role", "middle ground", self.ids["sea"], "sea").apply(
            self.valued(sea=50, hull=55)
        )
        pair = (self.ids["hull"], self.ids["sea"])
        found = {r.regions: r for r in self.measured(plan, "figure-merges")}
        self.assertEqual(found[pair].wanted, 8)
        front = change_setting("region.REGION.front", 9, self.ids["sea"], "sea").apply(plan)
        self.assertNotIn(pair, [r.regions for r in self.measured(front, "figure-merges")])
        off = switch_wish(f"parting-middle.{pair[0]}.{pair[1]}", False, "x").apply(plan)
        self.assertNotIn(pair, [r.regions for r in self.measured(off, "figure-merges")])
        wide = set_wish("parting-middle", 30, "x").apply(self.valued(plan, sea=50, hull=75))
        self.assertIn(
            pair, [r.regions for r in self.measured(wide, "figure-merges") if r.level != "fine"]
        )

    def test_order(self):
        plan = set_order((self.ids["sea"], self.ids["sand"])).apply(self.valued(sea=60, sand=57))
        (result,) = self.measured(plan, "order-broken")
        self.assertEqual((result.level, result.wanted), ("warning", 8))
        self.assertAlmostEqual(result.measured, -3, delta=0.4)
        self.assertEqual(self.measured(self.plan, "order-broken"), [])

    def test_bands_and_halves(self):
        plan = set_bands(Bands(edges=(50,), shares=(0.5, 0.5)), NAME).apply(
            self.valued(sea=30, sand=70, hull=30, sail=30, sun=30)
        )
        sand = self.derive(plan).shares[self.ids["sand"]]
        (band,) = self.measured(plan, "band-share")
        self.assertAlmostEqual(band.measured, 100 * abs(sand - 0.5), delta=0.1)
        (half,) = self.measured(plan, "halves-equal")
        self.assertAlmostEqual(half.measured, 100 * abs(2 * sand - 1), delta=0.2)
        even = self.valued(sea=70, sand=30, hull=70, sail=70, sun=70)
        self.assertEqual(self.measured(even, "halves-equal")[0].level, "fine")
        self.assertEqual(
            self.measured(switch_wish("halves", False, "x").apply(even), "halves-equal"), []
        )
        own = self.derive(plan)
        taken = bands_of_picture(
            own.by_code if hasattr(own, "by_code") else own.values.by_code,
            own.adjacency,
            own.values.histogram,
            2,
        )
        self.assertAlmostEqual(taken.shares[1], sand, delta=0.051)

    def test_drift_warns_where_edges_are_lost_too(self):
        dark = self.valued(sea=14, sand=12, hull=15, sail=13, sun=16)
        (result,) = self.measured(dark, "drift")
        self.assertEqual(result.level, "warning")
        (only,) = self.measured(self.valued(sea=20, sand=27, hull=5, sail=40, sun=60), "drift")
        self.assertEqual(only.level, "note")
        (fix,) = next(r for r in judge(self.derive(dark)) if r.check == "drift").fixes
        self.assertEqual(self.measured(fix.edit.apply(dark), "drift")[0].level, "fine")

    def test_pure_and_ink(self):
        plan = self.valued(sea=50, sand=60, hull=0, sail=100, sun=70)
        (result,) = self.measured(plan, "pure")
        self.assertEqual(set(result.regions), {self.ids["sail"]})  # a solid black is ink
        both = switch_wish("lines", False, "x").apply(plan)
        self.assertEqual(
            set(self.measured(both, "pure")[0].regions), {self.ids["sail"], self.ids["hull"]}
        )
        self.assertEqual(self.measured(switch_wish("pure", False, "x").apply(plan), "pure"), [])
        for one, way in (("sail", -1), ("hull", 1)):  # white goes down, black up, and not far
            alone = self.valued(
                sea=50, sand=60, hull=0 if way > 0 else 30, sail=100 - 60 * (way > 0)
            )
            alone = switch_wish("lines", False, "x").apply(alone)
            found = next(r for r in judge(self.derive(alone)) if r.check == "pure")
            moved = found.fixes[0].edit.apply(alone)
            now, then = (self.derive(p).colours[self.ids[one]].mean_value for p in (alone, moved))
            by = then - now
            self.assertTrue(0 < way * by < 8, (one, by))
        extremes = [self.measured(p, "extremes")[0].measured for p in (plan, both)]
        self.assertAlmostEqual(
            extremes[1] - extremes[0], 100 * self.derive(plan).shares[self.ids["hull"]], delta=0.1
        )

    def test_a_figure_in_shadow(self):
        plan = self.valued(sea=60, sand=70, hull=12, sail=14, sun=90)
        derived = self.derive(plan)
        figure = derived.figures[0]
        self.assertEqual(set(figure.regions) <= set(self.ids.values()), True)
        self.assertLess(figure.median(derived.by_label), 20)
        result = next(
            r for r in self.measured(plan, "shadow-middles") if self.ids["hull"] in r.regions
        )
        self.assertEqual((result.level, result.measured), ("note", 0))
        lifted = self.valued(plan, hull=32, sail=32)
        self.assertTrue(all(r.level == "fine" for r in self.measured(lifted, "shadow-middles")))

    def test_the_other_grey_is_the_one_of_painting_programs(self):
        plan = edits.with_colours(
            self.plan,
            {self.ids["sea"]: Pinned(hex="#0000ff"), self.ids["hull"]: Pinned(hex="#3c1e00")},
        )
        derived = self.derive(plan)
        code = derived.indexed.spans[
            next(r.label for r in plan.regions if r.id == self.ids["sea"])
        ][0]
        self.assertAlmostEqual(luma_by_code(derived)[code], 11, places=5)
        pair = (self.ids["hull"], self.ids["sea"])
        (result,) = [r for r in self.measured(plan, "other-grey") if r.regions == pair]
        self.assertAlmostEqual(result.measured, (0.3 * 60 + 0.59 * 30) / 2.55 - 11, delta=0.8)
        self.assertEqual(result.level, "note")

    def test_every_check_of_values_offers_fixes_that_mend_it(self):
        plan = self.valued(sea=55, sand=52, hull=50, sail=49, sun=57)
        plan = set_order((self.ids["sand"], self.ids["sea"])).apply(plan)
        plan = start_from(KEYS["low"].bands, 0, "low").apply(plan)
        found = [r for r in judge(self.derive(plan)) if r.level != "fine" and r.fixes]
        self.assertLessEqual(
            {"figure-merges", "order-broken", "band-share"}, {r.check for r in found}
        )
        for result in found:
            for fix in result.fixes:
                after = self.measured(fix.edit.apply(plan), result.check)
                bad = [r for r in after if r.key == result.key and r.level != "fine"]
                self.assertEqual(bad, [], (result.title, fix.text))

    def test_means(self):
        derived = self.derive(self.valued(sea=44))
        label = next(r.label for r in self.plan.regions if r.id == self.ids["sea"])
        self.assertAlmostEqual(mean_value(derived.by_label[label]), 44, delta=0.6)
