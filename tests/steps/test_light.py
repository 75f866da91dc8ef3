"""The rig: where lamps stand, exposure, chart, the light in parts, volumes of values."""

import itertools
import unittest

import numpy as np
from msgspec.structs import replace

from tests import scenes
from tests.scenes import BEHIND, NOTHING, RIGHT, UP_LEFT, plain_rig
from umber_compass import document
from umber_compass.colour import spaces
from umber_compass.colour.difference import ciede2000
from umber_compass.colour.measured import measure_hex
from umber_compass.colour.packed import unpack
from umber_compass.colour.spaces import decode, encode, hue_distance, parse_hex, to_hex
from umber_compass.demo.plans import DEMOS
from umber_compass.picture.light import facing, lights_of
from umber_compass.plan import edits
from umber_compass.plan.light_edits import light_on, rig_of, set_ambient, set_lamp, with_rig
from umber_compass.plan.rig import Ambient, Glow, Lamp, Rig, Terminator
from umber_compass.plan.settings import change_setting
from umber_compass.steps.checks import judging
from umber_compass.steps.harmony.edits import make_gradient
from umber_compass.steps.light import exposure, lamps
from umber_compass.steps.light.chart import PLACES, Row
from umber_compass.steps.light.rig_of_picture import hex_at, read_rig
from umber_compass.steps.light_views import LIGHT_VIEWS, exactly_in_part, in_part
from umber_compass.steps.pictures import exact_picture, picture
from umber_compass.steps.pipeline import Pipeline
from umber_compass.steps.values.measured import (
    code_weights,
    lit_range,
    measure_values,
    moved_values,
    picture_values,
)
from umber_compass.words import Refusal

# Places that px can be told to have by how they turn, and how open they lie.
_BY_TURN = ("lit", "halftone", "terminator", "core-shadow", "crevice")


class Stands(unittest.TestCase):
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
            angles = lamps.angles_of(lamps.direction_at(*place))
            self.assertAlmostEqual(angles.off_deg, off, places=3)
        np.testing.assert_allclose(lamps.direction_at(1, 0), (1, 0, 0), atol=1e-9)
        np.testing.assert_allclose(lamps.direction_at(0, 1), (0, 1, 0), atol=1e-9)
        np.testing.assert_allclose(
            lamps.direction_at(-0.5, 0), (-(0.5**0.5), 0, 0.5**0.5), atol=1e-9
        )

    def test_where_they_stand_is_said_as_it_is_seen(self):
        """x is right, y is down, z toward the viewer."""
        for direction, said in (
            ((0, 0, 1), "straight from the front"),
            ((0, -1, 0), "from above, 90° off the front"),
            ((0, 1, 0), "from below, 90° off the front"),
            ((1, 0, 0), "from the right, 90° off the front"),
            ((-1, 0, 0), "from the left, 90° off the front"),
            ((0.5, -0.5, 0.7071), "from the upper right, 45° off the front"),
            ((-0.5, -0.5, 0.7071), "from the upper left, 45° off the front"),
            ((0.5, 0.5, 0.7071), "from the lower right, 45° off the front"),
            ((-0.5, 0.5, -0.7071), "from the lower left, 135° off the front, behind"),
            ((0, -0.8660, -0.5), "from above, 120° off the front, behind"),
        ):
            self.assertEqual(str(lamps.in_words(direction)), said)

    def test_a_step_goes_the_way_it_is_asked_by_its_degrees(self):
        x, y = lamps.place_of(lamps.stepped(UP_LEFT, 9, -4.5))
        x0, y0 = lamps.place_of(UP_LEFT)
        np.testing.assert_allclose((x - x0, y - y0), (0.1, -0.05), atol=1e-6)
        self.assertEqual(lamps.angles_of((0.0, 0.0, 1.0)).round_deg, 0)


def samples(local, there, share):
    """One px of each region: linear colours and the light on them, (n, 3)."""
    count = np.arange(len(local))
    lum, wished = spaces.luminance(local * there), spaces.value(local)
    return exposure.Samples(count, np.ones(len(local)), lum, wished, np.asarray(share, float))


class Exposure(unittest.TestCase):
    def test_one_exposure_holds_equal_colours_exactly(self):
        lights = lights_of(plain_rig())
        local = np.array([[0.2, 0.2, 0.2]] * 2)
        there = np.tile(exposure.anchor_light("lit", lights), (2, 1))
        np.testing.assert_allclose(there, 0.75, rtol=1e-5)
        exposed, rest = exposure.expose(samples(local, there, [0.5, 0.5]), lights)
        self.assertAlmostEqual(exposed.exposure, 1 / 0.75, places=3)
        np.testing.assert_allclose(rest, 0, atol=0.02)

    def test_what_holds_more_of_the_picture_is_held_better(self):
        lights = lights_of(plain_rig())
        local = np.array([[0.2] * 3, [0.2] * 3])
        there = np.array([[0.75] * 3, [0.3] * 3])
        rests = {}
        for share in (0.9, 0.5, 0.1):
            _, rest = exposure.expose(samples(local, there, [share, 1 - share]), lights)
            rests[share] = np.abs(rest)
        self.assertLess(rests[0.9][0], rests[0.5][0] * 0.5)
        self.assertLess(rests[0.1][1], rests[0.5][1] * 0.5)
        self.assertGreater(rests[0.9][1], rests[0.5][1])

    def test_the_solution_is_the_least_weighted_square_of_what_is_shown(self):
        """The shoulder included: within 1 % of the least of ten thousand exposures."""
        rng = np.random.default_rng(5)
        lights = lights_of(plain_rig())
        for _ in range(10):
            local, there = rng.uniform(0.02, 1, (6, 3)), rng.uniform(0.2, 2, (6, 3))
            asked = samples(local, there, rng.random(6))
            exposed, rest = exposure.expose(asked, lights)

            def cost(logs, asked=asked):
                off = exposure._shown_at(asked, logs) - asked.wished
                return (off * off) @ asked.weight

            found = float(cost(np.log([exposed.exposure]))[0])
            self.assertLessEqual(found, 1.01 * cost(np.linspace(-4, 4, 10001)).min() + 1e-6)
            self.assertAlmostEqual(found, float((rest**2 * asked.weight).sum()), places=6)

    def test_anchors_and_the_dark(self):
        lights = lights_of(plain_rig())
        np.testing.assert_allclose(exposure.anchor_light("halftone", lights), 0.5, rtol=1e-5)
        dark = lights_of(
            plain_rig(lamps=(Lamp(on=False),), ambient=replace(plain_rig().ambient, on=False))
        )
        local = np.array([[0.2] * 3])
        exposed, rest = exposure.expose(samples(local, local * 0, [1.0]), dark)
        self.assertEqual(exposed.exposure, 1)
        np.testing.assert_allclose(rest, -spaces.value(local))

    def test_other_lamps_meet_a_place_at_the_normal_that_is_seen_best(self):
        rim = Lamp(
            name="rim", rank=2, direction=(0.0, 0.0, 1.0), strength=40, hex="#ffffff", softness=0
        )
        key = replace(plain_rig().key, direction=(-1.0, 0.0, 0.0))
        lights = lights_of(plain_rig(lamps=(key, rim)))
        surface = exposure.surface_at(np.array([1.0, 0.5, 0.0, -1.0]), np.ones(4), lights)
        turns = [facing(surface.normal, one.direction) for one in lights.lamps]
        np.testing.assert_allclose(turns[0], [1, 0.5, 0, -1], atol=1e-6)
        np.testing.assert_allclose(turns[1], [0, 0.75**0.5, 1, 0], atol=1e-6)


DARK = Glow(strength=0)


class OnTheDemo(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        plan, pixels, *_ = document.open_plan(DEMOS[0].plan)
        cls.plan = with_rig(plan, replace(rig_of(plan), glow=DARK))
        cls.pipeline = Pipeline(pixels.drawings)

    def derive(self, *changes):
        plan = self.plan
        for change in changes:
            plan = change.apply(plan)
        return self.pipeline.derive(plan)

    def test_chart_and_picture_agree(self):
        rig = rig_of(self.plan)
        rim = Lamp(name="rim", rank=2, strength=0, direction=RIGHT)
        for lamps_now in (rig.lamps, (*rig.lamps, rim)):
            sky = replace(rig.ambient, bounce=0)
            now = replace(rig, lamps=lamps_now, way="soft", shadows=False, ambient=sky)
            derived = self.pipeline.derive(with_rig(self.plan, now))
            label = {r.id: r.label for r in derived.regions}
            turn = facing(derived.buffers.normal, derived.lit.lights.key.direction)
            compared = 0
            for row in derived.chart:
                if "sky" in row.name:
                    continue
                own = derived.buffers.adjacency.label == label[row.region]
                for place in (p for p in PLACES if p.name in _BY_TURN):
                    near = own & (np.abs(turn - place.cosine) < 0.01)
                    near &= np.abs(derived.buffers.occlusion - place.occlusion) < 0.01
                    for code in np.flatnonzero(near)[:3]:
                        shown = derived.lit.packed[code] >> np.array([16, 8, 0]) & 255
                        wished = np.round(spaces.parse_hex(row.places[place.name].hex) * 255)
                        off = np.abs(shown.astype(int) - wished).max()
                        self.assertLess(off, 6, (row.name, place.name))
                        compared += 1
            self.assertGreater(compared, 20)

    def test_the_quick_picture_stays_near_the_exact_one_in_ordinary_rigs(self):
        key, much = Lamp(), Terminator(strength=100)
        hard = replace(key, softness=0.0, strength=120)
        soft = {"way": "soft", "shadows": False, "highlights": False, "glow": DARK}
        for name, rig, most in (
            ("first", Rig(shadows=False, glow=DARK), (0.5, 4.5, 14)),
            ("with what glows", Rig(**{**soft, "glow": Glow()}), (0.5, 5, 12)),
            ("soft", Rig(**soft), (0.5, 2.5, 5)),
            ("ambient only", Rig(lamps=(replace(key, on=False),), glow=DARK), (0.5, 2.5, 5)),
            ("behind", Rig(lamps=(replace(key, direction=BEHIND),), **soft), (0.5, 2.5, 5)),
            ("terminator", Rig(terminator=much, **soft), (0.5, 2.5, 5.5)),
            ("hard key", Rig(ambient=Ambient(strength=10.0), lamps=(hard,), **soft), (0.5, 3.2, 9)),
        ):
            derived = self.pipeline.derive(with_rig(self.plan, rig))
            lab = [
                spaces.cielab(spaces.decode(unpack(p) / 255))
                for p in (picture(derived), exact_picture(derived))
            ]
            off = ciede2000(*lab)
            found = (off.mean(), np.percentile(off, 99.9), off.max())
            with self.subTest(name):
                self.assertTrue(np.less_equal(found, most).all(), found)

    def test_the_rest_is_what_the_picture_misses(self):
        """At every anchor, also with the key behind, where nothing faces it: the value of the px
        that are anchored, less what those are planned to have."""
        for anchor, way in itertools.product(("lit", "halftone", "mean"), (UP_LEFT, BEHIND)):
            plan = set_lamp("key", NOTHING, direction=way).apply(self.plan)
            derived = self.pipeline.derive(with_rig(plan, replace(rig_of(plan), anchor=anchor)))
            most = 2.5 if anchor == "halftone" else 1.0  # one code, between light and shade
            code, label, share = derived.anchored[:3]
            shown = unpack(derived.lit.packed[code]) / 255
            local = derived.table[derived.buffers.local[code]] / 255
            lum = [spaces.luminance(spaces.decode(c)) * share for c in (shown, local)]
            got, wished = (spaces.value_of_luminance(np.bincount(label, x)) for x in lum)
            for region in plan.regions:
                missed = got[region.label] - wished[region.label]
                with self.subTest(anchor=anchor, way=way, region=region.name):
                    self.assertAlmostEqual(missed, derived.lit.rest[region.id], delta=most)

    def test_lit_is_the_most_lit_facing_that_is_there(self):
        plan = set_lamp("key", NOTHING, direction=BEHIND).apply(self.plan)
        derived = self.pipeline.derive(with_rig(plan, replace(rig_of(plan), anchor="lit")))
        lum = spaces.luminance(derived.arriving.mean.T)
        for region in plan.regions:
            own = derived.buffers.adjacency.label == region.label
            held = lum[derived.anchored.code[derived.anchored.label == region.label]]
            self.assertGreaterEqual(held.min(), 0.969 * lum[own].max())

    def test_a_gradient_is_charted_at_both_ends_and_a_turn_has_its_sign(self):
        coat = next(r for r in self.plan.regions if r.name == "coat")
        rows = [
            r
            for r in self.derive(make_gradient(self.plan, coat.id, "coat")).chart
            if r.region == coat.id
        ]
        self.assertEqual([r.name for r in rows], ["coat above", "coat below"])
        self.assertGreater(rows[1].local.value, rows[0].local.value)
        for local, there, turn in (
            (10.0, 30.0, 20),
            (30.0, 10.0, -20),
            (350.0, 10.0, 20),
            (None, 10.0, None),
        ):
            base = measure_hex("#d03040")
            row = Row("r1", "x", base._replace(hue=local), {"lit": base._replace(hue=there)}, 0.0)
            self.assertEqual(row.turn_deg("lit"), turn)
        grey = measure_hex("#808080")._replace(hue=20.0)
        self.assertIsNone(Row("r1", "x", grey, {"lit": base}, None).turn_deg("lit"))

    def test_a_flat_plan_is_charted_in_the_light_it_would_begin_with(self):
        plan = edits.with_study(self.plan, replace(edits.study(self.plan), rig=None))
        flat = self.pipeline.derive(plan)
        self.assertIsNone(flat.lit)
        self.assertIsNotNone(self.pipeline.derive(light_on(plan)).lit)
        self.assertEqual({r.rest for r in flat.chart}, {None})
        row = flat.chart[3]
        self.assertLess(row.places["core-shadow"].value, row.places["lit"].value)
        self.assertLess(row.places["crevice"].value, row.places["core-shadow"].value)

    def test_parts_of_the_light_add_up_and_off_is_darkest(self):
        rig = replace(
            rig_of(self.plan), terminator=Terminator(strength=0), way="soft", highlights=False,
            reaches_far=True,
        )  # fmt: skip
        plan = scenes.all_values(-20).apply(self.plan)
        for region in plan.regions:  # what glows is seen in every part of the light
            plan = change_setting("region.REGION.material", "matte", region.id, "x").apply(plan)
        derived = self.pipeline.derive(with_rig(plan, rig))
        linear = {
            n: spaces.decode(unpack(exactly_in_part(derived, n)) / 255)
            for n in ("ambient-only", "key-only", "lights-off")
        }
        whole = spaces.decode(unpack(exact_picture(derived)) / 255)
        added = linear["ambient-only"] + linear["key-only"]
        inside = ~np.isin(np.arange(whole.shape[0] * whole.shape[1]), derived.buffers.place)
        off = np.abs(added - whole).reshape(-1, 3)[inside]
        self.assertLess(np.percentile(off, 99), 0.012)
        self.assertLess(linear["lights-off"].mean(), linear["ambient-only"].mean())
        for name in LIGHT_VIEWS:
            quick = spaces.decode(unpack(in_part(derived, name)) / 255)
            exact = spaces.decode(unpack(exactly_in_part(derived, name)) / 255)
            self.assertLess(np.abs(quick - exact).mean(), 0.01, name)
        np.testing.assert_array_equal(
            unpack(in_part(derived, "flat")).reshape(-1, 3)[0],
            derived.table[derived.indexed.run_code[0]],
        )

    def test_strange_lights_give_pictures(self):
        for changes in (
            {"strength": 0.0},
            {"strength": 1000.0},
            {"direction": (0.0, 0.0, -1.0)},
            {"direction": (0.0, 1.0, 0.0)},
            {"direction": (0.0, 0.0, 0.0)},
            {"direction": BEHIND},
            {"softness": 1.0},
            {"on": False},
        ):
            with self.subTest(changes):
                values = self.derive(set_lamp("key", NOTHING, **changes)).values
                self.assertTrue(np.isfinite(values.by_code).all())
                self.assertTrue(0 < values.by_code.max() <= 100)
        dark = self.derive(set_lamp("key", NOTHING, on=False), set_ambient(NOTHING, on=False))
        lit = [n for n in np.unique(dark.drawing.labels) if getattr(dark.finishes.get(n), "lit", 1)]
        own = np.isin(dark.drawing.labels, lit)
        self.assertLess(np.percentile(unpack(picture(dark))[own], 95), 2)  # but along borders
        titles = [str(r.title) for r in judging.measure_all(dark) if r.level == "warning"]
        self.assertIn("All lamps are off", titles)

    def test_values_of_the_lit_picture_are_those_of_its_px(self):
        derived = self.derive()
        px = spaces.value(spaces.decode(unpack(derived.lit.packed) / 255))
        np.testing.assert_allclose(derived.values.by_code, px, atol=0.02)
        flat = picture_values(derived.table, derived.flat_weights, None, 20, 80)
        self.assertEqual(len(flat.by_code), derived.indexed.size)


class Values(unittest.TestCase):
    def setUp(self):
        adjacency = type("Grain", (), {})()
        adjacency.label = np.array([0, 1, 1, 1, 2])
        adjacency.pixels = np.array([1000, 10, 80, 10, 100])
        self.adjacency, self.by_code = adjacency, np.array([50.0, 10.0, 40.0, 90.0, 85.0])

    def measured(self, by_code, ink=()):
        return measure_values(by_code, code_weights(self.adjacency, ink), 20, 80)

    def test_histogram_and_extremes_are_shares_of_what_is_a_region(self):
        found = self.measured(self.by_code)
        self.assertAlmostEqual(float(found.histogram.sum()), 1)
        self.assertAlmostEqual(found.histogram[85], 0.5)
        self.assertEqual(found.histogram[50], 0)
        self.assertAlmostEqual(found.darks, 10 / 200)
        self.assertAlmostEqual(found.lights, 110 / 200)
        self.assertAlmostEqual(found.extremes, 120 / 200)
        edge = self.measured(np.array([0.0, 20.0, 80.0, 100.0, 80.0]))
        self.assertAlmostEqual(edge.extremes, 10 / 200)

    def test_the_lit_range_holds_nine_tenths(self):
        self.assertEqual(lit_range(self.measured(self.by_code), self.adjacency, 1), (10, 90))
        self.adjacency.pixels[[1, 3]] = 4
        found = lit_range(self.measured(self.by_code), self.adjacency, 1)
        self.assertEqual(found, (40, 40))
        self.assertIsNone(lit_range(self.measured(self.by_code), self.adjacency, 9))

    def test_light_keeps_its_ratio_when_the_planned_value_moves(self):
        lum = spaces.luminance_of_value
        found = moved_values(np.array([30.0, 70.0]), 50.0, 10.0)
        ratio = lum(60) / lum(50)
        np.testing.assert_allclose(lum(found), lum(np.array([30.0, 70.0])) * ratio, rtol=1e-6)
        np.testing.assert_allclose(
            moved_values(np.array([50.0]), 50.0, np.array([[0], [80]])), [[50], [100]]
        )


class OfAPicture(unittest.TestCase):
    """A rig read from places in the light and in shade."""

    LOCALS = ("#b08060", "#5f8a70", "#8a6f9a", "#c0b090", "#808080")

    def seen(self, key, ambient, locals_=LOCALS):
        light, dark = (decode(parse_hex(h)) for h in (key, ambient))
        found = []
        for hex_ in locals_:
            own = 0.4 * decode(parse_hex(hex_))
            found.append([to_hex(encode(own * x)) for x in (dark + light, dark)])
        return tuple(zip(*found, strict=True))

    def test_a_natural_rig_is_found_within_some_degrees_and_a_grey_pair_is_better(self):
        off = {False: [], True: []}
        for key, ambient in (
            ("#ffc080", "#7090c0"),
            ("#ffe0b0", "#a0b8e0"),
            ("#a8c8ff", "#b08860"),
        ):
            lit, shaded = self.seen(key, ambient)
            for grey in (False, True):
                order = slice(None, None, -1) if grey else slice(None)
                made = read_rig(lit[order], shaded[order], grey)
                for found, wanted in ((made.key, key), (made.ambient, ambient)):
                    hues = [measure_hex(h).hue for h in (found, wanted)]
                    off[grey].append(abs(float(hue_distance(*hues))))
        self.assertLess(np.median(off[False]), 12)
        self.assertLess(max(off[True]), 4)

    def test_what_cannot_be_read_is_said_in_one_line(self):
        lit, shaded = self.seen("#ffc080", "#7090c0")
        for pair in (((), ()), (lit, shaded[:2]), (shaded, lit), (lit[:1], lit[:1])):
            with self.assertRaises(Refusal):
                read_rig(*pair)
        picture = np.full((10, 20, 3), 128, np.uint8)
        self.assertEqual(hex_at(picture, 0, 9), "#808080")
        with self.assertRaisesRegex(Refusal, "outside"):
            hex_at(picture, 20, 3)
