"""Light: formulas, forms held to exact solutions, codes held to the exact picture."""

import itertools
import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from tests import scenes
from umber_compass import document
from umber_compass.colour import difference, spaces
from umber_compass.demo.plans import DEMOS
from umber_compass.plan import edits
from umber_compass.plan.light_edits import lit, rig_of, set_ambient, set_form, set_key, with_rig
from umber_compass.plan.model import Ambient, Lamp, Rig, Terminator
from umber_compass.steps import chart, codes, forms, judging, lamps, light, poisson, ramps, showing
from umber_compass.steps import lit as lighting
from umber_compass.steps.colouring import make_gradient
from umber_compass.steps.pipeline import Pipeline, exact_picture, form_key, picture
from umber_compass.words import words

UP_LEFT, RIGHT, BEHIND = (-0.66, -0.42, 0.62), (0.9, 0.1, 0.42), (0.3, 0.5, -0.8)
NOTHING = words("")


def plain(**changes):
    """A rig without tint or softness, so that formulas can be written out."""
    key = Lamp(hex="#ffffff", strength=50, direction=UP_LEFT, softness=0)
    ambient = Ambient(hex="#ffffff", strength=25)
    return replace(Rig(ambient=ambient, lamps=(key,), crevice=100), **changes)


def shade(local, turn, openness, rig):
    light_ = light.lights_of(rig)
    local = np.array(local, np.float32).reshape(3, 1)
    return light.shade(local, np.float32([turn]), np.float32([openness]), light_)[:, 0]


class Formula(unittest.TestCase):
    def test_ambient_times_openness_plus_key_times_cosine(self):
        for turn, openness, there in (
            (1, 1, 0.75),
            (0.5, 1, 0.5),
            (0, 1, 0.25),
            (-1, 0.25, 0.0625),
        ):
            out = shade([0.4, 0.2, 0.1], turn, openness, plain())
            np.testing.assert_allclose(out, np.array([0.4, 0.2, 0.1]) * there, rtol=1e-5)

    def test_softness_reaches_round_and_meets_the_cosine(self):
        turn = np.linspace(-1, 1, 2001).astype(np.float32)
        soft = light.reached(turn, 0.4)
        self.assertGreater(soft[turn > -0.39].min(), 0)
        self.assertEqual(float(soft[turn < -0.41].max()), 0)
        np.testing.assert_allclose(soft[turn > 0.41], turn[turn > 0.41])
        self.assertLess(np.abs(np.diff(soft, 2)).max(), 1e-5)

    def test_the_terminators_tint_keeps_luminance_of_grey_and_needs_a_key(self):
        rig = plain(terminator=Terminator(hex="#c8505a", strength=60))
        grey = shade([0.3] * 3, 0, 1, rig)
        self.assertGreater(grey[0], grey[2] * 1.3)
        self.assertAlmostEqual(float(spaces.luminance(grey)), 0.3 * 0.25, places=4)
        off = replace(rig, lamps=(replace(rig.lamps[0], on=False),))
        self.assertEqual(np.ptp(shade([0.3] * 3, 0, 1, off)), 0)

    @settings(max_examples=60, deadline=None)
    @given(st.lists(st.floats(0, 30), min_size=3, max_size=3))
    def test_nothing_is_clipped_and_value_is_kept_below_the_shoulder(self, colour):
        out = light.fitted(np.array(colour, np.float32).reshape(3, 1))[:, 0]
        self.assertTrue((out >= -1e-6).all() and (out <= 1 + 1e-5).all())
        lum = float(spaces.luminance(np.array(colour)))
        wished = lum if lum <= light.SHOULDER else float(light.shouldered(np.array([lum]))[0])
        self.assertAlmostEqual(float(spaces.luminance(out)), min(wished, 1), places=3)

    def test_lamps_stand_where_they_are_put(self):
        for place in itertools.product((-0.7, -0.2, 0, 0.4, 0.8), repeat=2):
            there = lamps.place_of(lamps.direction_at(*place))
            np.testing.assert_allclose(there, place, atol=1e-6)
        for place, off in (
            ((0, 0), 0),
            ((1, 0), 90),
            ((0, -0.5), 45),
            ((1.25, 0), 150),
            ((9, 0), 150),
        ):
            self.assertAlmostEqual(
                lamps.stand_of(lamps.direction_at(*place)).off_deg, off, places=3
            )
        np.testing.assert_allclose(lamps.direction_at(1, 0), (1, 0, 0), atol=1e-9)
        np.testing.assert_allclose(lamps.direction_at(0, 1), (0, 1, 0), atol=1e-9)
        self.assertIn("behind", str(lamps.in_words(BEHIND)))


def exact_swelling(state):
    """The same equation solved directly."""
    import scipy.sparse as sparse
    import scipy.sparse.linalg as solver

    inside = state == poisson.INSIDE
    number = np.where(inside, np.cumsum(inside.reshape(-1)).reshape(state.shape) - 1, -1)
    ys, xs = np.nonzero(inside)
    weight, rows, columns = np.zeros(len(ys)), [], []
    for dy, dx in ((0, 1), (1, 0), (0, -1), (-1, 0)):
        near, other = state[ys + dy, xs + dx], number[ys + dy, xs + dx]
        weight += (near == poisson.INSIDE) + 2 * (near == poisson.BEHIND)
        rows += np.flatnonzero(other >= 0).tolist()
        columns += other[other >= 0].tolist()
    ones = sparse.coo_matrix((np.ones(len(rows)), (rows, columns)), (len(ys), len(ys)))
    out = np.zeros(state.shape)
    out[inside] = solver.spsolve((sparse.diags(weight) - ones).tocsc(), np.full(len(ys), 4.0))
    return out


def shapes():
    y, x = np.mgrid[:220, :240]
    disc = ((x - 120) ** 2 + (y - 110) ** 2 < 100**2).astype(np.uint8)
    ring = disc * ((x - 120) ** 2 + (y - 110) ** 2 > 45**2)
    cross = ((np.abs(x - 90) < 40) | (np.abs(y - 120) < 22)).astype(np.uint8)
    cross[:4] = cross[-4:] = 0
    cross[:, :4] = cross[:, -4:] = 0
    covered = disc.copy()
    covered[90:150, 130:] = np.where(disc[90:150, 130:] > 0, poisson.FRONT, 0)
    bars = {f"bar of {w} px": np.pad(np.ones((w, 150), np.uint8), 1) for w in (6, 18, 38)}
    return {**bars, "disc": disc, "ring": ring.astype(np.uint8), "cross": cross, "covered": covered}


class Forms(unittest.TestCase):
    def test_normals_lie_near_those_of_an_exact_solution(self):
        for name, state in shapes().items():
            with self.subTest(name):
                found = [
                    np.stack(forms._normals(s.astype(np.float32), state)).astype(float)
                    for s in (poisson.swelling(state), exact_swelling(state))
                ]
                z = [np.sqrt(np.maximum(1 - (n**2).sum(axis=0), 0)) for n in found]
                cosine = (found[0] * found[1]).sum(axis=0) + z[0] * z[1]
                inside = (state == poisson.INSIDE)[1:-1, 1:-1]
                off = np.degrees(np.arccos(np.clip(cosine[inside], -1, 1)))
                self.assertLess(off.mean(), 1.5)
                self.assertLess(np.percentile(off, 99), 5)

    def test_a_disc_is_half_a_ball(self):
        labels = shapes()["disc"].astype(np.uint16) + 1
        built = self.build(labels, ("ground", "figure"))
        y, x = np.mgrid[:220, :240]
        inside = (x - 120) ** 2 + (y - 110) ** 2 < 92**2
        self.assertLess(np.abs(built.nx - (x - 120) / 100)[inside].mean(), 0.02)
        self.assertLess(np.abs(built.ny - (y - 110) / 100)[inside].mean(), 0.02)
        step = np.degrees(
            np.hypot(*(np.diff(n.astype(float), axis=1)[:, :][:, :] for n in (built.nx, built.ny)))
        )
        self.assertLess(np.percentile(step[inside[:, 1:]], 99.9), 6)

    def build(self, labels, roles, **more):
        regions = [
            scenes.region(i + 1, role, **more.get(f"r{i + 1}", {})) for i, role in enumerate(roles)
        ]
        from umber_compass.steps.sketch import boxes

        return forms.build(labels, regions, boxes(labels))

    def test_what_stands_in_front_neither_dents_nor_is_dented(self):
        labels = np.ones((120, 160), np.uint16)
        labels[20:100, 20:140] = 2
        alone = self.build(labels, ("ground", "figure"))
        labels[50:70, 70:90] = 3
        before = self.build(labels, ("ground", "figure", "focus"))
        behind = labels == 2
        far = np.abs(alone.nx.astype(float) - before.nx)[behind]
        self.assertLess(far.max(), 0.35)  # it gives way a little, and never turns over
        self.assertLess(np.abs(before.nx[60, 92].astype(float)), 0.25)
        self.assertLess(before.openness[60, 90], 120)
        self.assertEqual(before.openness[25, 25], 255)

    def test_frame_shared_surface_slope_and_told_order(self):
        labels = np.ones((90, 120), np.uint16)
        labels[:, 60:] = 2
        self.assertEqual(
            float(np.abs(self.build(np.full_like(labels, 1), ("figure",)).nx).max()), 0
        )
        labels[8:82, 8:112] += 2
        one = self.build(
            labels, ("ground", "ground", "figure", "figure"), r4={"shares_form_with": "r3"}
        )
        self.assertLess(np.abs(one.nx[45, 55:65]).max(), 0.2)
        two = self.build(labels, ("ground", "ground", "figure", "figure"))
        self.assertGreater(np.abs(two.nx[45, 55:65]).max(), 0.6)
        sloped = self.build(labels, ("ground", "middle ground"), r1={"form": "slope"})
        self.assertAlmostEqual(float(sloped.ny[3, 20]), forms.SLOPE_NORMAL[1], places=3)
        regions = [scenes.region(i, "figure") for i in (1, 2, 3)]
        order = forms.front_order(regions, np.array([0, 40, 60, 10]))
        self.assertEqual(order, {2: 1, 1: 2, 3: 3})
        regions[2] = replace(regions[2], front=0)
        self.assertEqual(forms.front_order(regions, np.array([0, 40, 60, 10]))[3], 1)

    def test_strange_sketches(self):
        many = np.arange(400).reshape(20, 20).repeat(6, 0).repeat(6, 1).astype(np.uint16) + 1
        one_px = np.ones((30, 40), np.uint16)
        one_px[10, 10] = 2
        for labels, count in (
            (many, 400),
            (one_px, 2),
            (np.ones((12, 40), np.uint16), 1),
            (np.ones((1, 1), np.uint16), 1),
        ):
            built = self.build(labels, ["figure"] * count)
            self.assertTrue(np.isfinite(built.nx).all())


class Picture(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.made = document.open_plan(DEMOS[0].plan)
        cls.pipeline = Pipeline(cls.made.drawing)

    def derive(self, *changes):
        plan = self.made.plan
        for change in changes:
            plan = change.apply(plan)
        return self.pipeline.derive(plan)

    def test_codes_stay_near_the_exact_picture(self):
        for direction, by in itertools.product((UP_LEFT, RIGHT, BEHIND), (8, -22)):
            with self.subTest(direction=direction, by=by):
                moved = scenes.all_values(by)
                derived = self.derive(set_key(NOTHING, direction=direction), moved)
                pair = [codes.unpack(p) for p in (picture(derived), exact_picture(derived))]
                lab = [spaces.cielab(spaces.decode(p / 255)) for p in pair]
                off = difference.ciede2000(*lab)
                self.assertLess(off.mean(), 0.5)
                self.assertLess(np.percentile(off, 99.9), 2.5)
                self.assertLess(off.max(), 5)

    def test_chart_and_picture_agree(self):
        derived = self.derive()
        rows = {r.region: r for r in chart.chart(derived)}
        label = {r.id: r.label for r in derived.plan.regions}
        turn = light.facing(derived.relief.normal, derived.lit.lights.direction)
        for region_id, row in rows.items():
            if "sky" in row.name:
                continue
            own = derived.relief.grain.label == label[region_id]
            for place in chart.PLACES:
                near = own & (np.abs(turn - place.turn) < 0.01)
                near &= np.abs(derived.relief.openness - place.openness) < 0.01
                for code in np.flatnonzero(near)[:3]:
                    shown = derived.lit.packed[code] >> np.array([16, 8, 0]) & 255
                    wished = np.round(spaces.parse_hex(row.lit[place.name].hex) * 255)
                    self.assertLess(
                        np.abs(shown.astype(int) - wished).max(), 6, (row.name, place.name)
                    )

    def test_each_anchor_brings_its_side_to_the_planned_value(self):
        for anchor in ("lit", "halftone"):
            rig = replace(rig_of(self.made.plan), anchor=anchor)
            derived = self.pipeline.derive(with_rig(self.made.plan, rig))
            for row in chart.chart(derived):
                if row.name.startswith("sky"):
                    continue
                there = row.lit[anchor].value - row.local.value
                self.assertAlmostEqual(there, row.rest, delta=0.8)
            worst = max(abs(x) for x in derived.lit.rest.values())
            self.assertLess(worst, 6)

    def test_parts_of_the_light_add_up_and_off_is_darkest(self):
        rig = replace(rig_of(self.made.plan), terminator=Terminator(strength=0))
        derived = self.pipeline.derive(with_rig(scenes.all_values(-20).apply(self.made.plan), rig))
        linear = {
            n: spaces.decode(codes.unpack(showing.exact_in(derived, n)) / 255)
            for n in ("ambient-only", "key-only", "lights-off")
        }
        whole = spaces.decode(codes.unpack(exact_picture(derived)) / 255)
        added = linear["ambient-only"] + linear["key-only"]
        inside = ~np.isin(np.arange(whole.shape[0] * whole.shape[1]), derived.relief.place)
        off = np.abs(added - whole).reshape(-1, 3)[inside]
        self.assertLess(np.percentile(off, 99), 0.012)
        self.assertLess(linear["lights-off"].mean(), linear["ambient-only"].mean())

    def test_strange_lights_give_pictures(self):
        for changes in (
            {"strength": 0.0},
            {"strength": 1000.0},
            {"direction": (0.0, 0.0, -1.0)},
            {"direction": (0.0, 1.0, 0.0)},
            {"direction": (0.0, 0.0, 0.0)},
            {"softness": 1.0},
            {"on": False},
        ):
            with self.subTest(changes):
                derived = self.derive(set_key(NOTHING, **changes))
                self.assertTrue(np.isfinite(derived.values.by_code).all())
                self.assertTrue(0 < derived.values.by_code.max() <= 100)
        dark = self.derive(set_key(NOTHING, on=False), set_ambient(NOTHING, on=False))
        self.assertEqual(int(picture(dark).max()), 0)
        titles = [str(r.title) for r in judging.measure_all(dark) if r.level == "warning"]
        self.assertIn("All lamps are off", titles)

    def test_a_lamp_changes_the_light_alone_and_a_form_the_relief(self):
        first = self.derive()
        moved = self.derive(set_key(NOTHING, direction=RIGHT))
        for part in ("codes", "colours", "table", "relief", "shares"):
            self.assertIs(getattr(moved, part), getattr(first, part))
        pipeline = Pipeline(self.made.drawing, builds=False)
        self.assertIsNone(pipeline.derive(self.made.plan).lit)
        pipeline.take(first.relief, form_key(self.made.plan))
        self.assertIsNotNone(pipeline.derive(self.made.plan).lit)
        sea = next(r for r in self.made.plan.regions if r.name == "sea")
        other = make_gradient(self.made.plan, sea.id, "sea").apply(self.made.plan)
        self.assertIsNone(pipeline.derive(other).lit)  # its codes stand for other colours
        roof = next(r for r in self.made.plan.regions if r.name == "roof")
        self.assertIsNot(self.derive(set_form(roof.id, "round", "roof")).relief, first.relief)

    def test_lamp_checks_are_mended(self):
        for edit, check in (
            (set_key(NOTHING, strength=20.0), "lamp-rank"),
            (set_key(NOTHING, on=False), "lamp-rank"),
            (set_ambient(NOTHING, hex="#ffe0b0"), "warm-with-cool"),
            (set_ambient(NOTHING, hex="#d0d0d0"), "warm-with-cool"),
        ):
            with self.subTest(check):
                derived = self.derive(edit)
                results = judging.measure_all(derived)
                bad = next(r for r in results if r.check == check)
                self.assertEqual(bad.level, "warning")
                mended = judging.with_fixes(bad, results, derived, self.pipeline)
                self.assertTrue(mended.fixes)
                after = self.pipeline.derive(mended.fixes[0].edit.apply(derived.plan))
                levels = {r.level for r in judging.measure_all(after) if r.check == check}
                self.assertEqual(levels, {"fine"})

    def test_steps_from_the_rig_keep_base_and_values_and_turn_cool_in_shade(self):
        rig = rig_of(self.made.plan)
        from umber_compass.plan.practices import rules

        numbers = rules(self.made.plan)
        for base in ("#da8590", "#8c8169", "#808080", "#f4e8d2", "#1c2a30"):
            made = ramps.make_steps(base, ramps.Ramp(recipe="rig"), numbers, rig)
            even = ramps.make_steps(base, ramps.Ramp(recipe="straight"), numbers)
            self.assertEqual(made.steps[made.base].hex, base)
            for one, two in zip(made.steps, even.steps, strict=True):
                self.assertAlmostEqual(one.value, two.value, delta=0.6)
        coat = ramps.make_steps("#8c8169", ramps.Ramp(recipe="rig"), numbers, rig)
        warmth = [np.cos(np.radians(s.hue - 45)) * s.chroma for s in coat.steps]
        self.assertLess(warmth[0], warmth[-1])

    def test_a_flat_plan_begins_with_a_light_when_asked(self):
        plan = edits.with_study(self.made.plan, replace(edits.study(self.made.plan), rig=None))
        self.assertIsNone(self.pipeline.derive(plan).lit)
        self.assertIsNotNone(self.pipeline.derive(lit(plan)).lit)
        rows = chart.chart(self.pipeline.derive(plan))
        self.assertEqual({r.rest for r in rows}, {None})
        self.assertLess(rows[3].lit["core-shadow"].value, rows[3].lit["lit"].value)

    def test_encoding_by_table_is_within_a_level(self):
        linear = np.random.default_rng(1).random((3, 4000)).astype(np.float32) ** 3
        packed = lighting._encoded(linear)
        levels = np.stack([packed >> s & 255 for s in (16, 8, 0)]).astype(int)
        off = levels - np.round(spaces.encode(linear) * 255)
        self.assertLessEqual(np.abs(off).max(), 1)
