"""A painting held against its plan: where it lies, what drifted, what is not painted yet."""

import unittest

import numpy as np
from msgspec.structs import replace
from PIL import Image
from scipy.ndimage import gaussian_filter

from bench.paintings import painting
from tests import scenes
from umber_compass.colour.packed import CLEAR, pack, unpack
from umber_compass.demo.plans import DEMOS
from umber_compass.document import open_plan, take_in
from umber_compass.document.painting import compare
from umber_compass.formats.picture import decode
from umber_compass.plan.edits import with_colours
from umber_compass.plan.journal import Look
from umber_compass.plan.model import Pinned
from umber_compass.plan.settings import change_setting
from umber_compass.steps.checks import CHECKS
from umber_compass.steps.handoff.card import card
from umber_compass.steps.painting.accepting import accept
from umber_compass.steps.painting.aligning import align, to_size
from umber_compass.steps.painting.comparing import Drift, Limits, _sure_from, drifts
from umber_compass.steps.painting.goal import Goal, Wanted, goal_of
from umber_compass.steps.painting.judged import worse_checks
from umber_compass.steps.painting.pictures import DARKER, drift_map, mended
from umber_compass.steps.painting.strokes import strokes_of
from umber_compass.steps.painting.telling import (
    Whole,
    drift_words,
    place_words,
    rework,
    since_words,
    whole_words,
)
from umber_compass.steps.painting.unpainted import unpainted
from umber_compass.steps.pictures import picture
from umber_compass.steps.pipeline import Pipeline
from umber_compass.steps.studies.story import page_of
from umber_compass.words import Refusal

LINES = (
    ("rectangle", (0, 0, 240, 180), "#ffffff"),
    ("rectangle", (20, 20, 110, 150), "#101010"),
    ("rectangle", (24, 24, 106, 146), "#ffffff"),
    ("rectangle", (130, 60, 220, 160), "#101010"),
    ("rectangle", (134, 64, 216, 156), "#ffffff"),
)


def derived_of(path):
    opened = open_plan(path)
    return Pipeline(opened.pixels.drawings).derive(opened.plan)


def moved(packed, labels, label, by):
    """A picture with one region's levels moved by an amount each."""
    rgb = unpack(packed & np.uint32(0xFFFFFF)).astype(int)
    rgb[labels == label] += by
    return pack(np.clip(rgb, 0, 255).astype(np.uint8))


def resized(packed, width, height):
    image = Image.fromarray(np.ascontiguousarray(unpack(packed)))
    return pack(np.asarray(image.resize((width, height), Image.Resampling.BICUBIC)))


class Painted(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.bakery = derived_of(scenes.small(DEMOS[0].plan))
        cls.picture = picture(cls.bakery)
        cls.labels = cls.bakery.drawing.labels
        cls.by_name = {r.name: r for r in cls.bakery.regions}

    def wrong(self, name, by):
        return moved(self.picture, self.labels, self.by_name[name].label, by)

    def drifted(self, packed):
        found = compare(self.bakery, packed, "painting.png")
        return {d.region: d for d in found.drifts if d.drifted}, found


class TestWhereItLies(Painted):
    def test_size_shift_and_crop_are_found(self):
        height, width = self.picture.shape
        shifted = np.full_like(self.picture, 0xFFFFFF)
        shifted[6:, 9:] = self.picture[:-6, :-9]
        cropped = self.picture[height // 10 :, width // 5 : -width // 10]
        larger = resized(cropped, round(cropped.shape[1] * 1.5), round(cropped.shape[0] * 1.5))
        own = self.bakery.plan.sketch.size[0] / width
        for packed, scale, dx, dy in (
            (self.picture, 1, 0, 0),
            (resized(self.picture, 2 * width, 2 * height), 2, 0, 0),
            (shifted, 1, -9, -6),
            (larger, 1.5, width // 5, height // 10),
        ):
            with self.subTest(scale=scale, dx=dx, dy=dy):
                found = compare(self.bakery, packed, "painting.png")
                self.assertAlmostEqual(found.scale * own, scale, delta=0.01 * scale)
                self.assertAlmostEqual(found.dx, dx * own, delta=3 * own)
                self.assertAlmostEqual(found.dy, dy * own, delta=3 * own)
                self.assertFalse(any(d.drifted for d in found.drifts))

    def test_what_is_seen_is_a_share_of_the_sketch(self):
        half = self.picture[:, : self.picture.shape[1] // 2]
        found = compare(self.bakery, half, "half.png")
        self.assertAlmostEqual(found.seen, 0.5, delta=0.02)

    def test_a_later_save_lies_where_the_earlier_did(self):
        planes = np.stack([unpack(self.picture)[..., k].astype(np.float32) for k in range(3)])
        part = planes[:, 40:, 60:]
        first = align(planes, part)
        again = align(planes, part, first)
        self.assertAlmostEqual(again.x, first.x, delta=0.004)
        # One that was cropped otherwise meanwhile is looked for anew.
        other = align(planes, planes[:, :-60, :-90], first)
        self.assertAlmostEqual(other.x, 0, delta=0.01)

    def test_one_that_is_mirrored_or_turned_is_said_to_be(self):
        own = self.picture
        for turned, said in (
            (own[:, ::-1], "is mirrored"),
            (own[::-1, ::-1], "is upside down"),
            (np.rot90(own), "lies on its side"),
            (np.rot90(own, 3), "lies on its side"),
        ):
            with self.subTest(said), self.assertRaisesRegex(Refusal, said):
                compare(self.bakery, np.ascontiguousarray(turned), "turned.png")

    def test_another_picture_is_refused(self):
        rng = np.random.default_rng(3)
        noise = rng.integers(0, 255, (24, 32, 3)).astype(np.float32)
        other = to_size(np.moveaxis(noise, -1, 0), 640, 480)
        for packed in (
            pack(np.moveaxis(other, 0, -1).astype(np.uint8)),
            pack(np.full((300, 400, 3), 128, np.uint8)),
            picture(derived_of(DEMOS[1].plan)),
        ):
            with self.assertRaisesRegex(Refusal, "does not show this sketch"):
                compare(self.bakery, packed, "other.png")


class TestUncoloured(unittest.TestCase):
    def test_a_drawing_without_colour_is_no_plan_to_be_held_against(self):
        levels = scenes.draw(LINES, (240, 180))
        made = take_in(decode(scenes.encoded(levels), "lines"), "lines.png")
        derived = Pipeline(made.pixels.drawings).derive(made.plan)
        self.assertTrue(derived.unpainted)
        with self.assertRaisesRegex(Refusal, "no colours yet"):
            compare(derived, pack(levels), "painting.png")
        self.assertEqual(card(derived), [])
        self.assertEqual((page_of(derived).reads_as, dict(page_of(derived).faults)), ("", {}))


class TestDrift(Painted):
    def test_a_drift_is_told_in_the_region_that_has_it(self):
        region = self.by_name["sea"]
        found, _ = self.drifted(self.wrong("sea", [-22, -22, -22]))
        self.assertEqual(set(found), {region.id})
        drift = found[region.id]
        self.assertIn("value", drift.drifted)
        self.assertLess(drift.value, -6)
        self.assertIn("darker", str(drift_words(drift)))

    def test_works_in_progress(self):
        """A few of those that bench/paintings.py makes: the right region, or silence."""
        right = silent = 0
        for seed in range(6):
            made = painting(self.bakery, 6000 + seed, drifts=True)
            found, _ = self.drifted(made.packed)
            right += made.planted is not None and made.planted.region in found
            plain = painting(self.bakery, 6100 + seed, drifts=False)
            silent += not self.drifted(plain.packed)[0]
        self.assertGreaterEqual(right, 5)
        self.assertGreaterEqual(silent, 5)

    def test_what_is_not_painted_has_not_drifted(self):
        width = self.picture.shape[1]
        half = np.arange(width) > width // 2
        for ground in (CLEAR, 0xFAFAF8, 0x968A7A):
            with self.subTest(ground=hex(ground)):
                packed = np.where(half, np.uint32(ground), self.picture)
                found, compared = self.drifted(packed)
                self.assertEqual(set(found), set())
                self.assertAlmostEqual(compared.painted, 0.5, delta=0.06)

    def test_a_shape_in_anothers_colour_is_painted(self):
        """The sea as dark as the trousers is a drift, and no bare ground."""
        sea = self.labels == self.by_name["sea"].label
        packed = self.picture.copy()
        packed[sea] = np.median(packed[self.labels == self.by_name["trousers"].label])
        found, _ = self.drifted(packed)
        self.assertEqual(set(found), {self.by_name["sea"].id})

    def test_flat_colours_under_a_lit_plan_have_not_drifted(self):
        """Light that is not painted yet is no drift; a darker flat colour is."""
        lit = self.bakery.of(change_setting("light.on", True).apply(self.bakery.plan))
        flat = picture(self.bakery.of(change_setting("light.on", False).apply(self.bakery.plan)))
        self.assertFalse([d for d in compare(lit, flat, "flat.png").drifts if d.drifted])
        dark = moved(flat, self.labels, self.by_name["pier"].label, [-20, -20, -20])
        found = [d.region for d in compare(lit, dark, "dark.png").drifts if d.drifted]
        self.assertEqual(found, [self.by_name["pier"].id])

    def test_a_pale_region_has_no_hue_to_drift(self):
        found, _ = self.drifted(self.wrong("gull", [0, 2, 5]))
        drift = found.get(self.by_name["gull"].id)
        self.assertFalse(drift is not None and "hue" in drift.drifted)

    def test_the_limits_are_the_practices(self):
        loose = replace(self.bakery.plan, overrides={"painting.value": 30.0})
        packed = self.wrong("sea", [-22, -22, -22])
        found = compare(self.bakery.of(loose), packed, "painting.png").drifts
        self.assertFalse([d for d in found if "value" in d.drifted])


class TestWhatFollows(Painted):
    def test_accepting_plans_what_is_painted(self):
        packed = self.wrong("sea", [-25, -10, 12])
        found, _ = self.drifted(packed)
        region = self.by_name["sea"].id
        edit = accept([found[region]], {region: "sea"})
        self.assertEqual(str(edit.name), "plan sea as it is painted")
        after = self.bakery.of(edit.apply(self.bakery.plan))
        left = {d.region: d for d in compare(after, packed, "x").drifts}
        self.assertEqual(left[region].drifted, ())
        self.assertLess(abs(left[region].value), 1.5)

    def test_a_given_colour_is_given_anew(self):
        region = self.by_name["sea"].id
        plan = with_colours(self.bakery.plan, {region: Pinned(hex="#2f6f8f")})
        given = self.bakery.of(plan)
        drift = Drift(region, -8.0, None, 0.0, 1.0, (45.0, 0.0, 0.0), ("value",))
        after = given.of(accept([drift], {}).apply(plan))
        before, now = (d.colours[region].ends[0] for d in (given, after))
        self.assertLess(now.value, before.value - 5)
        self.assertAlmostEqual(now.hue, before.hue, delta=3)

    def test_checks_speak_of_the_painting(self):
        _, compared = self.drifted(self.wrong("wall", [-70, -70, -70]))
        found = worse_checks(self.bakery.think(), compared.drifts)
        self.assertTrue(found)
        self.assertTrue({r.check for r in found} <= set(CHECKS))
        self.assertEqual(worse_checks(self.bakery, ()), [])

    def test_pictures_of_the_drift(self):
        region = self.by_name["sea"]
        _, found = self.drifted(self.wrong("sea", [-30, -30, -30]))
        by_id = {r.id: r.label for r in self.bakery.regions}
        drifts = [d._replace(drifted=d.drifted and ("value",)) for d in found.drifts]
        told = (found.on_grid, found.planes, found.goal, found.labels, drifts, by_id)
        inside = found.labels == region.label
        shown = unpack(drift_map(*told))[inside].astype(int).mean(axis=0)
        self.assertGreater(shown[2] - shown[0], 60, f"blue, as {DARKER}")
        back = mended(found.on_grid, found.labels, found.drifts, by_id)
        small = resized(self.picture, back.shape[1], back.shape[0])
        off = unpack(back)[inside].astype(int) - unpack(small)[inside]
        self.assertLess(np.abs(off.mean(axis=0)).max(), 6)
        self.assertTrue(np.array_equal(back[~inside], found.on_grid[~inside]))


class TestApart(unittest.TestCase):
    """Parts of the comparison on planes that are made for it."""

    def strips(self, *widths):
        """Labels of upright strips, (120, w)."""
        row = np.repeat(np.arange(1, len(widths) + 1), widths)
        return np.tile(row, (120, 1)).astype(np.uint16)

    def planes(self, labels, colours):
        return np.moveaxis(np.array([(0, 0, 0), *colours], np.float32)[labels], -1, 0)

    def test_bare_ground(self):
        labels, seen = self.strips(60, 60, 60, 60), np.ones((120, 240), bool)
        planned = np.array([(0, 0, 0), (30, 0, 0), (60, 8, 0), (80, 0, 9), (95, 0, 1)], float)
        paper = self.planes(labels, [(95, 0, 1)] * 4)
        strokes = np.random.default_rng(1).normal(0, 2, labels.shape).astype(np.float32)
        half = np.where(labels == 1, self.planes(labels, planned[1:]) + strokes, paper)
        bare = unpainted(half.astype(np.float32), seen, labels, planned)
        self.assertEqual(set(np.unique(labels[bare])), {2, 3}, "what is planned so is painted")
        # Two flat shapes in the colour of a third are painted: nothing tells them from ground.
        flat = self.planes(labels, [(95, 0, 1), (95, 0, 1), (80, 0, 9), (95, 0, 1)])
        self.assertFalse(unpainted(flat, seen, labels, planned).any())

    def test_ground_without_strokes_shows_in_parts_of_shapes(self):
        labels, seen = self.strips(60, 60, 60, 60), np.ones((120, 240), bool)
        planned = np.array([(0, 0, 0), (30, 0, 0), (60, 8, 0), (80, 0, 9), (70, 0, 1)], float)
        strokes = np.random.default_rng(1).normal(0, 0.4, labels.shape)
        half = (self.planes(labels, planned[1:]) + strokes).astype(np.float32)
        for left in (100, 160):  # a third of two shapes is bare, and no shape is wholly so
            half[:, :, left : left + 20] = np.array((98, 0, 0))[:, None, None]
        bare = unpainted(half, seen, labels, planned)
        self.assertEqual(int(bare.sum()), 2 * 20 * 120)

    def goal(self, planes, softness=0.0):
        return Goal(planes, planes * 0, planes * 0, softness)

    def test_a_small_shape_that_is_off_by_a_stroke_has_not_drifted(self):
        """Strokes of 5 L* lie everywhere; one of them covers a small shape."""
        labels = np.ones((240, 240), np.uint16)
        labels[100:120, 100:120] = 2
        planes = self.planes(labels, [(50, 0, 0), (50, 0, 0)])
        strokes = np.random.default_rng(2).normal(0, 5, (12, 12)).repeat(20, 0).repeat(20, 1)
        strokes[100:120, 100:120] = 0
        for by, drifted in ((7, ()), (30, ("value",))):
            with self.subTest(by):
                off = strokes + by * (labels == 2)
                painting = planes + np.stack([off, off * 0, off * 0])
                self.assertEqual(
                    self.told(painting, self.goal(planes), labels)["r2"].drifted, drifted
                )
        even = planes + np.stack([7.0 * (labels == 2), labels * 0, labels * 0])
        self.assertEqual(self.told(even, self.goal(planes), labels)["r2"].drifted, ("value",))

    def mosaic(self, offs, stroke):
        """36 shapes of 40 px, each off by so much L*, in strokes of 4 px."""
        cells = np.arange(1, 37, dtype=np.uint16).reshape(6, 6)
        labels = cells.repeat(40, 0).repeat(40, 1)
        strokes = np.random.default_rng(5).normal(0, stroke, (60, 60)).repeat(4, 0).repeat(4, 1)
        off = np.array([0.0, *offs])[labels] + strokes
        off -= np.array([0.0, *(np.median(off[labels == i]) - offs[i - 1] for i in range(1, 37))])[
            labels
        ]  # the middle of each is off by just so much
        planes = np.full((3, 240, 240), 50, np.float32)
        found = self.told(planes + np.stack([off, off * 0, off * 0]), self.goal(planes), labels)
        return [r for r, d in found.items() if d.drifted]

    def test_shapes_that_drifted_say_nothing_of_the_strokes(self):
        offs = np.where(np.arange(36) % 2, 12.0, -12.0)
        self.assertEqual(len(self.mosaic(offs, 0.5)), 36)

    def test_where_all_shapes_are_off_one_that_is_a_little_more_so_has_not_drifted(self):
        one = np.zeros(36)
        one[7] = 6.0
        all_off = np.where(np.arange(36) % 2, 2.2, -2.2)
        all_off[7] = 6.0
        self.assertEqual(self.mosaic(one, 7.0), ["r8"])
        self.assertEqual(self.mosaic(all_off, 7.0), [])

    def test_of_many_shapes_one_is_off_by_chance(self):
        self.assertLess(_sure_from(8), _sure_from(60))
        self.assertLess(_sure_from(60), _sure_from(300))
        self.assertAlmostEqual(_sure_from(60), 3.48, places=2)

    def test_strokes_of_larger_areas_differ_less(self):
        noise = np.random.default_rng(3).normal(0, 4, (1, 400, 400)).repeat(3, 0)
        found = strokes_of(noise.astype(np.float32), np.ones((400, 400), bool))
        for side in (4, 11, 32, 64):
            np.testing.assert_allclose(found.error(side * side), 4 / side, rtol=0.25)
        nothing = strokes_of(noise.astype(np.float32), np.zeros((400, 400), bool))
        self.assertEqual(nothing.error(100).tolist(), [0, 0, 0])

    def test_an_even_light_may_be_painted_or_not_where_only_a_part_is_lit(self):
        """Two shapes in one even light: of which one is painted cannot be told there."""
        labels = self.strips(240, 240)
        flat = self.planes(labels, [(40, 0, 0), (60, 0, 0)])
        light = np.zeros_like(flat)
        light[0] = 5
        light[0, :, :60] = np.linspace(-30, 5, 60)
        shown = np.ones(labels.shape, bool)
        half = flat + light
        half[0, :, 240:] -= 5  # painted flat
        goal = goal_of(half, shown, Wanted(labels, flat, flat + light))
        self.assertEqual(self.told(half, goal, labels)["r2"].drifted, ())
        half[0, :, 240:] -= 8
        goal = goal_of(half, shown, Wanted(labels, flat, flat + light))
        self.assertEqual(self.told(half, goal, labels)["r2"].drifted, ("value",))

    def told(self, painting, goal, labels):
        found = drifts(
            painting.astype(np.float32),
            np.ones(labels.shape, bool),
            goal,
            labels,
            {i: f"r{i}" for i in range(1, int(labels.max()) + 1)},
            Limits(4.3, 9.5, 0.023),
        )
        return {d.region: d for d in found}

    def test_soft_edges_of_a_thin_shape_take_nothing_from_its_drift(self):
        labels = self.strips(60, 12, 60)
        own = self.planes(labels, [(50, 0, 0), (50, 0, 0), (50, 0, 0)])
        wrong = self.planes(labels, [(50, 0, 0), (42, 0, 0), (50, 0, 0)])
        soft = np.stack([gaussian_filter(p, 4.0) for p in wrong])
        drift = self.told(soft, self.goal(own, 4.0), labels)["r2"]
        self.assertAlmostEqual(drift.value, -8, delta=0.8)

    def test_a_difference_within_its_doubt_is_none(self):
        labels = self.strips(40, 200)
        own = self.planes(labels, [(50, 0, 0), (50, 0, 0)])
        noise = np.zeros_like(own)
        blocks = np.random.default_rng(4).normal(0, 14, (8, 3)).repeat(16, 0)[:120].repeat(16, 1)
        noise[0, :, :40] = blocks[:, :40]
        noise[0, :, :40] += 5.5 - np.median(noise[0, :, :40])
        drift = self.told(own + noise, self.goal(own, 0.0), labels)["r1"]
        self.assertGreater(abs(drift.value), 4.3)
        self.assertEqual(drift.drifted, ())


class TestWords(unittest.TestCase):
    def test_a_turn_goes_toward_a_hue(self):
        blue = (50.0, 0.0, -10.0)
        for turn, hue in ((15, "violet"), (-15, "blue"), (70, "rose")):
            drift = Drift("r1", 0.0, turn, 0.0, 1.0, blue, ("hue",))
            self.assertIn(f"toward {hue}", str(drift_words(drift)))
        grey = Drift("r1", 0.0, None, -0.04, 1.0, blue, ("chroma",))
        self.assertEqual(str(drift_words(grey)), "greyer by chroma 0.04")

    def test_the_worst_come_first(self):
        def drift(region, value):
            return Drift(region, value, None, 0.0, 1.0, (50.0, 0.0, 0.0), ("value",))

        found = rework([drift("a", 7), drift("b", -7), drift("c", 7)], {"a": 0.1, "b": 0.4})
        self.assertEqual([d.region for d in found], ["b", "a", "c"])

    def test_the_whole_picture(self):
        self.assertEqual(whole_words(Whole(0.5, -1, 1, 0.002)), [])
        said = " ".join(str(w) for w in whole_words(Whole(-6, 0, 3, 0.02)))
        self.assertIn("darks have gone down by 6 L*", said)
        self.assertIn("stronger", said)

    def test_darks_creep_from_save_to_save(self):
        def look(at, dark, painted=1.0):
            by = (dark, 0.0, 0.0)
            return Look(
                at=at, file_name="a.png", painted=painted, darks=20, middle=50, lights=90, by=by
            )

        first, words = since_words([look(0, 0), look(3600, -2), look(7200, -6)])
        self.assertEqual((first.at, str(words)), (0, "The darks have crept down by 6 L*"))
        self.assertIsNone(since_words([look(0, 0), look(3600, -2)]))
        self.assertIsNone(since_words([look(0, 0, 0.3), look(3600, -6)]), "other parts")
        self.assertIsNone(since_words([look(9000, 0), look(3600, -6)]), "a clock set back")

    def test_places(self):
        self.assertEqual(place_words(0.1, 0.9), "lower left")
        self.assertEqual(place_words(0.5, 0.5), "middle")
