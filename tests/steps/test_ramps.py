"""Shade and light steps, by properties over many bases; the palette's rows."""

import itertools
import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import scenes
from umber_compass.colour.difference import ciede2000
from umber_compass.colour.gamut import fit
from umber_compass.colour.measured import measure_hex
from umber_compass.colour.spaces import (
    cielab,
    decode,
    encode,
    hsb,
    hue_distance,
    parse_hex,
    to_hex,
)
from umber_compass.plan import edits
from umber_compass.plan.light_edits import light_on
from umber_compass.plan.model import Gradient, Ramp
from umber_compass.plan.practices.general import PRACTICE
from umber_compass.plan.rig import Lamp, Rig, Terminator
from umber_compass.steps import keys
from umber_compass.steps.handoff import palette
from umber_compass.steps.ramps.ramps import FIRST, all_steps, make_steps, ramp_of
from umber_compass.steps.ramps.recipes import RECIPES
from umber_compass.steps.ramps.recipes.recipe import HIGHEST, LOWEST, Ask, ladder
from umber_compass.steps.ramps.sharing import shared

NUMBERS = {r.key: r.number for r in PRACTICE.rules}
levels = st.integers(0, 255)
hexes = st.builds(lambda r, g, b: f"#{r:02x}{g:02x}{b:02x}", levels, levels, levels)


def steps(base, recipe="cool-warm", darker=3, lighter=2, **more):
    return make_steps(base, Ramp(recipe=recipe, darker=darker, lighter=lighter, **more), NUMBERS)


def turns(made):
    """OKLCh degrees of every step from the base."""
    base = made.steps[made.base].hue
    return [float(hue_distance(base, s.hue)) for s in made.steps]


class Ladder(unittest.TestCase):
    def test_nine_points_a_step_and_even_steps_where_there_is_no_room(self):
        ask = Ask(np.zeros(3), darker=2, lighter=3, degrees=0, spacing=9, points=25)
        np.testing.assert_allclose(ladder(50, ask), [32, 41, 50, 59, 68, 77])
        np.testing.assert_allclose(ladder(88, ask), [70, 79, 88, 91, 94, HIGHEST])
        np.testing.assert_allclose(ladder(10, ask), [LOWEST, 7, 10, 19, 28, 37])
        self.assertEqual((LOWEST, HIGHEST), (4, 97))

    def test_spacing_and_counts_are_those_that_were_asked(self):
        made = make_steps(
            "#808080",
            Ramp(recipe="straight", darker=2, lighter=2),
            {**NUMBERS, "ramp.spacing": 5.0},
        )
        values = [s.value for s in made.steps]
        np.testing.assert_allclose(np.diff(values), 5, atol=0.5)
        self.assertEqual((made.base, len(values)), (2, 5))


def generated_bases():
    """120 bases of ten kinds, the same in every run."""
    rng, found = np.random.default_rng(7), []
    for low, high, chroma, hue in (
        (70, 92, (0.10, 0.2), (85, 112)), (28, 86, (0.035, 0.1), (38, 72)),
        (4, 14, (0.005, 0.06), (0, 360)), (93, 98, (0.003, 0.03), (0, 360)),
        (28, 55, (0.15, 0.3), (255, 272)), (35, 80, (0.07, 0.22), (125, 155)),
        (35, 60, (0.15, 0.25), (18, 35)), (25, 60, (0.1, 0.25), (290, 330)),
        (25, 55, (0.03, 0.08), (50, 95)), (20, 85, (0.0, 0.012), (0, 360)),
    ):  # fmt: skip
        for _ in range(12):
            light = fit(rng.uniform(low, high), rng.uniform(*chroma), rng.uniform(*hue))
            found.append(to_hex(encode(light)))
    return found


class Recipes(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(hexes, st.integers(0, 5), st.integers(0, 5), st.sampled_from(sorted(RECIPES)))
    def test_every_recipe_climbs_holds_its_base_and_counts_right(
        self, base, darker, lighter, recipe
    ):
        made = steps(base, recipe, darker, lighter)
        self.assertEqual(len(made.steps) + made.left_out, darker + lighter + 1)
        self.assertEqual(made.steps[made.base].hex, base)
        self.assertEqual(len({s.hex for s in made.steps}), len(made.steps))
        if recipe != "hsb-sum":
            values = [s.value for s in made.steps]
            self.assertTrue(all(b >= a - 0.35 for a, b in itertools.pairwise(values)))

    @settings(max_examples=60, deadline=None)
    @given(hexes)
    def test_straight_keeps_hue_and_chroma_and_the_same_in_grey_its_values(self, base):
        straight, turned = steps(base, "straight"), steps(base, same_in_grey=True)
        own = straight.steps[straight.base]
        for a, b in zip(straight.steps, turned.steps, strict=False):
            if not straight.left_out and not turned.left_out:
                self.assertAlmostEqual(a.value, b.value, delta=0.7)  # as 8 bits have it
            if own.chroma > 0.04 and a.chroma > 0.04 and 15 < a.value < 92:
                self.assertLess(abs(float(hue_distance(own.hue, a.hue))), 3)
                self.assertLess(a.chroma, own.chroma + 0.006)

    def test_cool_warm_steps_look_even_and_yellows_never_turn_green(self):
        least, uneven = [], []
        for base in generated_bases():
            made = steps(base, darker=3, lighter=3)
            lch = [(s.value, s.chroma, s.hue) for s in made.steps]
            lab = cielab(decode(np.array([parse_hex(s.hex) for s in made.steps])))
            far = ciede2000(lab[:-1], lab[1:])
            least.append(far.min())
            sides = [x for x in (far[: made.base], far[made.base :]) if len(x) > 1]
            uneven.append(max(x.std() / x.mean() for x in sides))
            self.assertTrue(all(b[0] > a[0] for a, b in itertools.pairwise(lch)), base)
            if lch[made.base][1] > 0.04 and 60 < lch[made.base][2] < 112:
                for _, chroma, hue in lch:
                    self.assertFalse(chroma > 0.03 and 118 < hue < 165, base)
        self.assertGreater(np.percentile(least, 5), 2.5)
        self.assertLess(np.percentile(uneven, 90), 0.05)

    def test_one_level_hardly_moves_a_step(self):
        moved = []
        for i, base in enumerate(generated_bases()):
            level = np.round(parse_hex(base) * 255).astype(int)
            level[i % 3] += 1 if level[i % 3] < 128 else -1
            pair = [steps(h, darker=3, lighter=3) for h in (base, to_hex(level / 255))]
            if pair[0].base == pair[1].base:
                labs = [cielab(decode(np.array([parse_hex(s.hex) for s in m.steps]))) for m in pair]
                moved.append(float(ciede2000(*labs).max()))
        self.assertLess(np.percentile(moved, 95), 1.5)
        self.assertLess(max(moved), 3.5)

    def test_steps_lie_closer_in_shade_or_in_light(self):
        far = {}
        for spread in ("even", "shade", "light"):
            made = steps("#a05a3c", darker=2, lighter=2, spread=spread)
            lab = cielab(decode(np.array([parse_hex(s.hex) for s in made.steps])))
            far[spread] = ciede2000(lab[:-1], lab[1:])
        np.testing.assert_allclose(far["even"], 9, atol=0.6)
        self.assertTrue((far["shade"][:2] < 7).all() and (far["shade"][2:] > 10).all())
        self.assertTrue((far["light"][2:] < 7).all() and (far["light"][:2] > 10).all())

    def test_many_at_once_are_what_they_are_one_by_one(self):
        asks = [
            Ask(parse_hex(h), 3, 2, 8.0, 9.0, 25.0, same_in_grey=g)
            for h, g in (("#e0a27c", False), ("#102030", True), ("#f8f4e0", False))
        ]
        many = RECIPES["cool-warm"].many(asks)
        for ask, found in zip(asks, many, strict=True):
            np.testing.assert_allclose(found, RECIPES["cool-warm"].steps(ask), atol=4e-3)

    def test_a_second_colour_is_leant_to_reached_or_laid_on(self):
        rose = steps("#e0a27c", "lean", tint="#b04a80", degrees=12.0)
        plain = steps("#e0a27c", degrees=12.0)
        self.assertLess(rose.steps[0].hue, plain.steps[0].hue + 0.1)
        violet = steps("#5a7a3c", "lean", tint="#7a4fa0", degrees=20.0)
        self.assertNotEqual(violet.steps[0].hex, steps("#5a7a3c", degrees=20.0).steps[0].hex)
        for other, end in (("#1c243c", 0), ("#fff4d0", -1)):
            made = steps("#5a7a3c", "inbetween", 3, 3, tint=other)
            self.assertEqual(made.steps[end].hex, other)
            lab = cielab(decode(np.array([parse_hex(s.hex) for s in made.steps])))
            way = ciede2000(lab[:-1], lab[1:])
            own = way[: made.base] if end == 0 else way[made.base :]
            np.testing.assert_allclose(own, own.mean(), rtol=0.06)
        laid = steps("#e0a27c", "tinted-multiply", 1, 0, tint="#8080ff").steps[0].hex
        share = parse_hex(laid) / parse_hex("#e0a27c")
        self.assertLess(abs(share[2] - 1), 0.02)  # the tint has all of blue
        self.assertAlmostEqual(share[0], share[1], delta=0.02)
        burnt = steps("#e0a27c", "dodge-and-burn", 2, 2).steps
        power = np.log(parse_hex(burnt[0].hex)) / np.log(parse_hex("#e0a27c"))
        np.testing.assert_allclose(power, power.mean(), rtol=0.04)

    def test_shades_turn_cool_and_lights_turn_warm_the_shorter_way(self):
        for base, cool, warm in (
            ("#7a4fa0", -1, 1),  # violet: back to blue; on through red to yellow
            ("#4f7aa0", 1, -1),  # blue: on to the pole; back through green
            ("#a05a3c", -1, 1),  # brown: back through red; on to yellow
            ("#3f8a5a", 1, -1),  # green: on to blue; back to yellow
        ):
            with self.subTest(base):
                made = steps(base, darker=4, lighter=3)
                found = turns(made)
                self.assertTrue(all(t * cool > 0 for t in found[:4]), found)
                self.assertTrue(all(t * warm > 0 for t in found[5:]), found)

    def test_each_step_turns_by_the_degrees_and_never_past_the_pole(self):
        for degrees in (4.0, 8.0, 12.0):
            found = turns(steps("#7a4fa0", darker=2, lighter=0, degrees=degrees))
            np.testing.assert_allclose(found, [-2 * degrees, -degrees, 0], atol=1.2)
        self.assertEqual(FIRST.recipe, "cool-warm")
        far = steps("#7a4fa0", darker=5, lighter=0, degrees=60.0).steps
        for step in far[:-2]:
            self.assertLess(abs(float(hue_distance(step.hue, 264))), 4)
        own = turns(steps("#7a4fa0", darker=1, lighter=0))
        self.assertAlmostEqual(own[0], -NUMBERS["ramp.degrees"], delta=1)

    def test_hsb_sum_by_hand(self):
        made = steps("#996633", "hsb-sum", 1, 1)
        dark, light = (hsb(parse_hex(made.steps[i].hex)) for i in (0, 2))
        np.testing.assert_allclose(dark[1:], [66.67 + 25, 35], atol=1)
        np.testing.assert_allclose(light[1:], [66.67 - 25, 85], atol=1)
        turned = steps("#996633", "hsb-sum", 1, 1, degrees=10.0)
        hues = [hsb(parse_hex(s.hex))[0] for s in turned.steps]
        np.testing.assert_allclose(np.diff(hues), 10, atol=1)

    def test_greys_stay_grey(self):
        for recipe in ("straight", "hsb-sum", "rig", "dodge-and-burn"):
            self.assertTrue(all(s.hue is None for s in steps("#808080", recipe).steps), recipe)

    def test_shades_of_grey_breathe_cool_and_its_lights_warm(self):
        made = steps("#808080", darker=3, lighter=3).steps
        for step, pole in ((made[0], 264), (made[-1], 88)):
            self.assertTrue(0.008 < step.chroma < 0.02, step)
            self.assertLess(abs(float(hue_distance(step.hue, pole))), 12)

    def test_from_the_rig_keeps_base_and_values_and_turns_cool_in_shade(self):
        rig = Rig()
        for base in ("#da8590", "#8c8169", "#808080", "#f4e8d2", "#1c2a30"):
            made = make_steps(base, Ramp(recipe="rig"), NUMBERS, rig)
            even = make_steps(base, Ramp(recipe="straight"), NUMBERS)
            self.assertEqual(made.steps[made.base].hex, base)
            for one, two in zip(made.steps, even.steps, strict=True):
                self.assertAlmostEqual(one.value, two.value, delta=0.6)
        coat = make_steps("#8c8169", Ramp(recipe="rig"), NUMBERS, rig)
        warmth = [np.cos(np.radians(s.hue - 45)) * s.chroma for s in coat.steps]
        self.assertLess(warmth[0], warmth[-1])
        self.assertNotEqual(
            [s.hex for s in coat.steps],
            [
                s.hex
                for s in make_steps(
                    "#8c8169", Ramp(recipe="rig"), NUMBERS, Rig(lamps=(Lamp(hex="#4060ff"),))
                ).steps
            ],
        )


class Every(unittest.TestCase):
    def test_a_region_has_its_own_recipe_and_a_gradient_a_ramp_for_each_end(self):
        class Ends:
            def __init__(self, *colours):
                self.ends = [measure_hex(c) for c in colours]

        regions = [scenes.region(1, "figure"), scenes.region(2, "figure")]
        straight = Ramp(recipe="straight", darker=1, lighter=0)
        colours = {"r1": Ends("#7a4fa0"), "r2": Ends("#102030", "#c0d0e0")}
        found = all_steps(regions, {"r1": straight}, colours, NUMBERS, Rig())
        self.assertEqual([len(found[r]) for r in ("r1", "r2")], [1, 2])
        self.assertEqual((found["r1"][0].ramp, found["r2"][0].ramp), (straight, FIRST))
        self.assertEqual(found["r2"][1].steps[FIRST.darker].hex, "#c0d0e0")
        self.assertEqual(ramp_of({}, "r1"), FIRST)


class Beside(unittest.TestCase):
    """Bases a level apart, and at the ends of value."""

    def test_neighbouring_bases_give_neighbouring_steps(self):
        rng = np.random.default_rng(2)
        bases = [
            *rng.integers(0, 255, (60, 3)),
            *(rng.integers(3, 250, (40, 1)) + rng.integers(-2, 3, (40, 3))),
        ]
        bases += [bytes.fromhex(h) for h in ("fac85d", "80807e", "fafafa", "bccef4", "110f0f")]
        rig = Rig(terminator=Terminator(hex="#c8505a", strength=60))
        for base, recipe in itertools.product(bases, RECIPES):
            base = np.clip(np.array(list(base)), 0, 254)
            both = []
            for more in ((0, 0, 0), np.eye(3, dtype=int)[rng.integers(3)]):
                text = "#" + bytes((base + more).astype(np.uint8)).hex()
                made = make_steps(text, Ramp(recipe=recipe, darker=3, lighter=3), NUMBERS, rig)
                both.append({i - made.base: s.hex for i, s in enumerate(made.steps)})
            for i in set(both[0]) & set(both[1]):
                lab = [cielab(decode(parse_hex(b[i]))) for b in both]
                with self.subTest(recipe=recipe, both=(both[0][0], both[1][0]), step=i):
                    self.assertLess(float(ciede2000(*lab)), 7)

    def test_beside_the_opposite_of_a_pole_both_ways_meet(self):
        """Straw a level apart, on both sides of OKLCh 84 (CIEDE2000 25 where each took its way)."""
        both = [steps(h, "cool-warm", 3, 3) for h in ("#fac85d", "#f9c85d", "#f8c85d", "#fbc85d")]
        for one, other in itertools.combinations(both, 2):
            for pair in zip(one.steps, other.steps, strict=True):
                self.assertLess(
                    float(ciede2000(*(cielab(decode(parse_hex(s.hex))) for s in pair))), 6
                )

    def test_steps_that_fall_together_are_left_out_and_said(self):
        for base, recipe, left_out in (
            ("#0a0a0a", "straight", 0),
            ("#fcfcfc", "cool-warm", 0),
            ("#fffaf0", "straight", 0),
            ("#000000", "straight", 3),
            ("#ffffff", "straight", 3),
            ("#808080", "hsb-sum", 0),
        ):
            made = make_steps(base, Ramp(recipe=recipe, darker=3, lighter=3), NUMBERS)
            with self.subTest(base=base, recipe=recipe):
                self.assertEqual((made.left_out, len(made.steps)), (left_out, 7 - left_out))
                self.assertEqual(str(made.says).startswith(str(left_out)), bool(left_out))

    def test_greys_fade_into_colours(self):
        for grey, near in (("#80807f", "#80807e"), ("#fafafa", "#fafafb")):
            for recipe in set(RECIPES) - {"inbetween", "tinted-multiply"}:
                chroma = [max(s.chroma for s in steps(h, recipe, 3, 3).steps) for h in (grey, near)]
                self.assertLess(max(chroma), 0.02, (grey, recipe))


class Palette(scenes.InFolder):
    def test_rows_say_minus_for_darker_and_stand_dark_to_light(self):
        made, pipeline = self.bring_in()
        derived = pipeline.derive(made.plan)
        rows = palette.palette_rows(derived)
        first = [(h, which) for h, n, which in rows if n == made.plan.regions[0].name]
        self.assertEqual([w for _, w in first], ["−3", "−2", "−1", "base", "+1", "+2"])
        values = [measure_hex(h).value for h, _ in first]
        self.assertEqual(values, sorted(values))
        order = list(dict.fromkeys(n for _, n, _ in rows))
        names = {r.id: r.name for r in made.plan.regions}
        self.assertEqual(order, [names[r] for r in derived.families])

    def test_a_gradients_ends_are_both_in_it(self):
        made, pipeline = self.bring_in()
        two = Gradient(first=scenes.planned(), second=scenes.planned(value=70.0))
        from umber_compass.plan.harmony_edits import set_colour

        plan = set_colour("r1", two, scenes.NOTHING).apply(made.plan)
        names = [f"{n} {w}" for _, n, w in palette.palette_rows(pipeline.derive(plan))]
        name = made.plan.regions[0].name
        self.assertIn(f"{name} above base", names)
        self.assertIn(f"{name} below −1", names)

    def test_the_charts_rows_and_what_is_said_of_both(self):
        made, pipeline = self.bring_in()
        derived = pipeline.derive(light_on(made.plan))
        names = [f"{n} {w}" for _, n, w in palette.chart_rows(derived)]
        name = made.plan.regions[0].name
        places = ["local", "light", "halftone", "terminator", "core shadow"]
        places += ["cast shadow", "bounce", "crevice"]
        self.assertEqual([n for n in names if n.startswith(name)], [f"{name} {p}" for p in places])
        self.assertIn("minus is darker", palette.comments(derived)[1])
        self.assertIn("faces the key", palette.comments(derived, "chart")[1])

    def test_stems_are_safe_as_names_of_files(self):
        for title, stem in (
            ("Evening at sea", "evening-at-sea"),
            ("  ../../x ", "x"),
            ("???", "plan"),
            ("Über den Tag", "über-den-tag"),
        ):
            self.assertEqual(palette.stem(title), stem)
        self.assertEqual(len(palette.stem("a" * 300)), 80)
        dark = palette.kinds_for(scenes.plan_of([scenes.planned()]))
        self.assertEqual(set(palette.KINDS) - set(dark), {"lit", "chart"})
        lit = scenes.plan_of([scenes.planned()], rig=Rig())
        self.assertEqual(palette.kinds_for(lit), tuple(palette.KINDS))


class Within(unittest.TestCase):
    """Steps that share a budget of colours."""

    HEXES = ("#e0a27c", "#2f6f86", "#c8405a", "#f4e8d2", "#3a3040", "#7a9a4c", "#d0a030", "#6a5a8c")

    def ramps(self):
        ramp = Ramp(recipe="cool-warm", darker=2, lighter=1)
        return {f"r{i}": (make_steps(h, ramp, NUMBERS),) for i, h in enumerate(self.HEXES)}

    def test_bases_stay_and_the_colours_are_counted_and_as_near_as_was_measured(self):
        ramps, shares = self.ramps(), {f"r{i}": 1 / 8 for i in range(8)}
        for budget in (8, 12, 16, 24):
            found = shared(ramps, shares, budget)
            hexes = {s.hex for (made,) in found.values() for s in made.steps}
            self.assertEqual(found.sharing.colours, len(hexes))
            self.assertLessEqual(len(hexes), budget)
            for (made,), base in zip(found.values(), self.HEXES, strict=True):
                self.assertEqual(made.steps[made.base].hex, base)
                values = [s.value for s in made.steps]
                self.assertTrue(all(b > a for a, b in itertools.pairwise(values)))
                for i, value in enumerate(values):
                    if i != made.base:
                        self.assertGreaterEqual(abs(value - values[made.base]), 3.9)
        off = [shared(ramps, shares, n).sharing.off for n in (12, 16, 24)]
        self.assertTrue(off[0] > off[1] > off[2], off)
        self.assertLess(off[1], 9)
        whole = shared(ramps, shares, 256)
        self.assertEqual((whole.sharing.off, whole.sharing.whole), (0, 8))
        self.assertEqual([len(m.steps) for (m,) in whole.values()], [4] * 8)

    def test_fewer_than_the_bases_leaves_the_bases_and_what_they_do_for_each_other(self):
        found = shared(self.ramps(), {}, 1)
        hexes = {s.hex for (made,) in found.values() for s in made.steps}
        self.assertEqual(hexes, set(self.HEXES))

    def test_a_colour_next_to_the_base_in_value_is_no_step_of_it(self):
        near = {
            h: (make_steps(h, Ramp(darker=1, lighter=1), NUMBERS),) for h in ("#808080", "#858585")
        }
        found = shared(near, {}, 2)
        self.assertEqual([[s.hex for s in m.steps] for (m,) in found.values()],
                         [["#808080"], ["#858585"]])  # fmt: skip

    def test_a_plan_keeps_its_steps_within_its_budget(self):
        plan = scenes.plan_of([scenes.planned(value=v) for v in (30.0, 50.0, 70.0)])
        for edit in ("budget=6", "ramps.within=true"):
            plan = keys.edit_from(plan, edit).apply(plan)
        self.assertEqual((plan.budget, edits.study(plan).within_budget), (6, True))
