"""What the eye meets first: pictures with a known answer, formulas by hand, changes that mend."""

import unittest

import numpy as np
from msgspec.structs import replace

from bench import eye
from tests import scenes
from umber_compass import document
from umber_compass.colour import spaces
from umber_compass.colour.packed import pack
from umber_compass.demo.plans import DEMOS
from umber_compass.plan import edits
from umber_compass.plan.focus_edits import set_focus, set_point
from umber_compass.plan.light_edits import light_off
from umber_compass.plan.model import Pinned
from umber_compass.plan.settings import change_setting
from umber_compass.plan.wish_edits import lock
from umber_compass.plan.wishes import Falloff
from umber_compass.steps.checks.judging import judge, measure_all
from umber_compass.steps.focus import depth, falloff
from umber_compass.steps.focus.lattice import lattice_from
from umber_compass.steps.focus.places import places_of
from umber_compass.steps.focus.pull import UNITS, look_at, pull_of
from umber_compass.steps.focus.reading import read_picture
from umber_compass.steps.harmony.shifts import mean_lab
from umber_compass.steps.mending import focus as mending
from umber_compass.steps.mending.scene import scene_of
from umber_compass.steps.pipeline import Pipeline
from umber_compass.words import words

NAME = words("x")


def squares(*colours, size=(480, 640), at=((120, 120), (120, 420), (320, 270)), side=70):
    """Labels and picture of a ground and squares on it."""
    labels = np.ones(size, np.uint16)
    for i, (y, x) in enumerate(at[: len(colours) - 1]):
        labels[y : y + side, x : x + side] = i + 2
    rgb = np.array([[int(c[i : i + 2], 16) for i in (1, 3, 5)] for c in ("#000000", *colours)])
    return labels, pack(np.ascontiguousarray(rgb[labels].astype(np.uint8)))


def looked(labels, picture):
    lattice = lattice_from(labels)
    return lattice, pull_of(lattice, look_at(lattice, picture.reshape(-1)[lattice.at]))


class KnownAnswers(unittest.TestCase):
    def test_what_pictures_were_built_for_is_read_from_them(self):
        wrong = []
        for seed in (501, 502):
            for kind in eye.KINDS:
                made = eye.scene(kind, seed)
                variants = {"plain": made}
                if seed == 501:
                    variants |= {
                        "cut": eye.cut(made),
                        "ink": eye.outlined(made),
                        "rim": eye.outlined(made, 2, 3),
                    }
                for name, shown in variants.items():
                    if eye.right(made, shown) != (True, True):
                        wrong.append((kind, seed, name))
        self.assertLessEqual(len(wrong), 1, wrong)

    def test_a_picture_without_regions_is_met_where_it_was_built_to_be(self):
        for kind in ("bright spot", "dark figure", "strong patch"):
            made = eye.scene(kind, 7)
            found = read_picture(made.picture, "painter", 20, 80).first
            self.assertIsNotNone(found, kind)
            y, x = int(found[1] * eye.HEIGHT), int(found[0] * eye.WIDTH)
            self.assertEqual(int(made.labels[y, x]), made.answer, kind)


class Pull(unittest.TestCase):
    def test_value_alone_by_hand(self):
        labels, picture = squares("#777777", "#dddddd")
        lattice, pull = looked(labels, picture)
        light = spaces.oklab(spaces.decode(np.array([[0x77] * 3, [0xDD] * 3]) / 255))[:, 0]
        gap, share = light[1] - light[0], lattice.share[2]
        size = share / (share + 0.0006)
        wanted = size * (0.8 * gap + 0.2 * gap * lattice.share[1]) / UNITS["value"]
        self.assertAlmostEqual(float(pull.parts[0, 2]), float(wanted), delta=0.01)
        np.testing.assert_allclose(pull.parts[1:, 2], 0, atol=1e-3)
        # The ground borders on the square and, for six tenths, on the frame.
        frame = 0.6 * 2 * (480 + 640) / (4 * 70 + 0.6 * 2 * (480 + 640))
        around = gap * (1 - frame)
        ground = lattice.size[1] * (0.8 * around + 0.2 * gap * share) / UNITS["value"]
        self.assertAlmostEqual(float(pull.parts[0, 1]), float(ground), delta=0.02)

    def test_hue_chroma_and_what_is_duller(self):
        labels, picture = squares("#8a7f78", "#c05030", "#808080")
        _, pull = looked(labels, picture)
        self.assertGreater(pull.parts[2, 2], 3 * pull.parts[2, 3])
        labels, picture = squares("#c05030", "#8a7f78")
        self.assertLess(looked(labels, picture)[1].parts[2, 2], pull.parts[2, 2] * 0.8)
        # What is duller than its ground counts seven tenths of what is as much stronger.
        pair = [
            looked(*squares(*c))[1].parts[2, 2]
            for c in (("#b06040", "#8c7468"), ("#8c7468", "#b06040"))
        ]
        self.assertAlmostEqual(float(pair[0] / pair[1]), 0.7, delta=0.03)
        turned = squares("#b06a50", "#4f8f74")
        self.assertGreater(looked(*turned)[1].parts[1, 2], 0.8)

    def test_flat_colours_have_no_detail_and_noise_over_all_is_none(self):
        rng = np.random.default_rng(3)
        labels, picture = squares("#777777", "#787878")
        self.assertEqual(float(looked(labels, picture)[1].parts[3].max()), 0)
        noise = rng.integers(-6, 7, labels.shape)
        grey = np.clip(0x77 + noise, 0, 255)
        even = looked(labels, pack(np.repeat(grey[..., None], 3, 2).astype(np.uint8)))[1]
        busy = grey + (labels == 2) * rng.integers(-60, 60, (60, 80)).repeat(8, 0).repeat(8, 1)
        rough = looked(
            labels, pack(np.repeat(np.clip(busy, 0, 255)[..., None], 3, 2).astype(np.uint8))
        )[1]
        self.assertLess(float(even.parts[3].max()), 0.1)
        self.assertGreater(float(rough.parts[3, 2]), 0.6)

    def test_an_outline_hides_no_figure_and_is_no_place(self):
        labels, picture = squares("#808080", "#f0f0f0")
        bare = looked(labels, picture)[1].total[2]
        inked, shown = labels.copy(), picture.copy()
        ring = np.zeros(labels.shape, bool)
        ring[117:193, 117:193] = True
        ring &= labels == 1
        inked[ring], shown[ring] = 3, 0x101010
        lattice, pull = looked(inked, shown)
        self.assertTrue(lattice.is_line[3])
        self.assertEqual(float(np.abs(np.diag(lattice.near)).max()), 0)  # none is its own neighbour
        self.assertLessEqual(float(lattice.near.sum(axis=1).max()), 1 + 1e-9)
        self.assertAlmostEqual(pull.total[2], bare, delta=0.25 * bare)
        self.assertEqual(places_of(lattice, pull).order[0], 2)

    def test_what_is_no_region_counts_nowhere_and_one_region_is_met_nowhere(self):
        labels, picture = squares("#808080", "#f0f0f0")
        labels[labels == 1] = 0
        lattice, pull = looked(labels, picture)
        self.assertEqual((float(pull.total[0]), float(lattice.share[2])), (0, 1))
        self.assertFalse(places_of(lattice, pull).is_met)
        tiny = np.array([[1]], np.uint16)
        self.assertFalse(places_of(*looked(tiny, np.array([[0x808080]], np.uint32))).is_met)

    def test_a_thousand_regions(self):
        labels = (np.arange(640 * 480).reshape(480, 640) // 12 % 40 + 1).astype(np.uint16)
        labels += (np.arange(480)[:, None] // 20 * 40).astype(np.uint16)
        colours = np.random.default_rng(1).integers(0, 1 << 24, 1200).astype(np.uint32)
        _, pull = looked(labels, colours[labels])
        self.assertTrue(np.isfinite(pull.total).all())


class Plans(scenes.InFolder):
    def setUp(self):
        super().setUp()
        self.made, self.pipeline = self.bring_in()
        self.sail, self.sun, self.hull = (
            self.region(self.made.plan, c) for c in (scenes.SAIL, scenes.SUN, scenes.HULL)
        )
        self.plan = set_focus((self.sail.id,), NAME).apply(self.made.plan)

    def seen(self, plan):
        return self.pipeline.derive(plan).think()

    def results(self, plan, check):
        return [r for r in measure_all(self.seen(plan)) if r.check == check]

    def test_lead_is_the_focus_over_the_strongest_other(self):
        attention = self.seen(self.plan).attention
        others = [t for i, t in enumerate(attention.total) if i not in (0, self.sail.label)]
        own = attention.total[self.sail.label]
        self.assertAlmostEqual(attention.lead, own / max(others))
        self.assertEqual(attention.total[attention.rival], max(others))
        self.assertEqual(attention.focus, (self.sail.label,))

    def test_a_point_means_what_lies_mostly_in_it_else_what_lies_under_it(self):
        for point, region in (
            ((197 / 240, 31 / 160, 0.12), self.sun),
            ((197 / 240, 31 / 160, 0.01), self.sun),
            ((110 / 240, 82 / 160, 0.02), self.hull),
        ):
            plan = set_point(*point).apply(self.plan)
            self.assertEqual(self.seen(plan).attention.focus, (region.label,))

    def test_no_focus_and_all_of_it(self):
        none = set_focus((), NAME).apply(self.plan)
        (result,) = self.results(none, "focus-leads")
        self.assertEqual((result.level, result.regions), ("note", ()))
        self.assertEqual(self.results(none, "competes"), [])
        every = set_focus(tuple(r.id for r in self.plan.regions), NAME).apply(self.plan)
        (result,) = self.results(every, "focus-leads")
        self.assertIn("whole picture", str(result.title))
        for plan in (none, every):
            judge(self.seen(plan))

    def test_fixes_reach_what_they_promise_and_leave_locked_colours(self):
        plan = set_focus((self.hull.id,), NAME).apply(self.plan)
        for kept in (None, self.sun):
            held = plan if kept is None else lock(kept.id, True, "sun").apply(plan)
            before = edits.study(held).colours
            for result in judge(self.seen(held)):
                if (
                    result.check not in ("focus-leads", "competes", "ties")
                    or result.level == "fine"
                ):
                    continue
                for fix in result.fixes:
                    after = fix.edit.apply(held)
                    same = [r for r in measure_all(self.seen(after)) if r.key == result.key]
                    self.assertTrue(all(r.level == "fine" for r in same), (result.title, fix.text))
                    if kept is not None:
                        self.assertIs(edits.study(after).colours[kept.id], before[kept.id])

    def test_where_nothing_may_move_it_says_so(self):
        plan = set_focus((self.hull.id,), NAME).apply(self.plan)
        for region in plan.regions:
            plan = lock(region.id, True, region.name).apply(plan)
        found = [r for r in judge(self.seen(plan)) if r.check == "focus-leads"]
        self.assertEqual([(r.level, r.fixes, r.stuck) for r in found], [("warning", (), True)])
        self.assertIn("cannot give way", str(found[0].text))

    def test_the_channel_that_is_named_is_the_one_whose_muting_takes_most(self):
        derived = self.seen(self.plan)
        scene = scene_of(derived)
        local = scene.local
        for region in (self.sun, self.hull):
            named = mending.cause(scene, region.label)
            target, left = scene.neighbour(local, region.label), {}
            for part in ("value", "chroma", "hue"):
                moved = local.copy()
                moved[region.label] = mending.toward(local[region.label], target, 1, part)
                left[part] = scene.pull(moved)[region.label]
            self.assertEqual(named, min(left, key=left.get))

    def test_the_whole_way_to_the_neighbours_leaves_no_border(self):
        scene = scene_of(self.seen(self.plan))
        local = scene.local
        local[self.sun.label] = scene.neighbour(local, self.sun.label)
        self.assertLess(
            scene.pull(local)[self.sun.label], 0.25 * scene.pull(scene.local)[self.sun.label]
        )

    def test_nothing_gives_way_toward_the_focus(self):
        plan = set_focus((self.region(self.plan, scenes.SEA).id,), NAME).apply(self.plan)
        scene = scene_of(self.seen(plan))
        local, label = scene.local, self.sun.label  # it lies in the sea alone
        others = scene.lattice.share.copy()
        others[[label, *scene.focus]] = 0
        wanted = others @ local / others.sum()
        np.testing.assert_allclose(scene.neighbour(local, label), wanted, atol=1e-9)

    def test_falloff_brings_the_far_into_the_band_and_leaves_the_near(self):
        derived = self.seen(self.plan)
        wish = Falloff(near=(0, 0.05), far=(0, 0.02))
        free = frozenset(r.id for r in self.plan.regions)
        for share in (1.0, 0.5):
            edit = falloff.apply_falloff(derived.spots, wish, "chroma", share, free)
            after = self.seen(edit.apply(self.plan))
            self.assertTrue(any(s.level["chroma"] > 0.06 for s in derived.spots.spots))
            for spot, then in zip(derived.spots.spots, after.spots.spots, strict=True):
                high = falloff.band_at(wish, spot.far)[1]
                over = max(spot.level["chroma"] - high, 0)
                wanted = spot.level["chroma"] - over * share
                self.assertAlmostEqual(then.level["chroma"], wanted, delta=0.006)
        turned = falloff.apply_falloff(
            derived.spots, Falloff(near=(0, 10), far=(0, 10)), "hue", 1.0, free
        )
        spots = self.seen(turned.apply(self.plan)).spots.spots
        self.assertLess(max(s.level["hue"] for s in spots), 18)
        self.assertEqual(falloff.band_at(wish, 0.5), (0, 0.035))

    def test_groups_of_depth_move_together_and_air_takes_the_far_most(self):
        plan = lock(self.sun.id, True, "sun").apply(self.made.plan)
        sand = self.region(plan, scenes.SAND)
        plan = change_setting("region.REGION.role", "middle ground", sand.id, "sand").apply(plan)
        before = self.pipeline.derive(plan).colours
        for edit, measure, wanted in (
            (depth.move_group("figure", 8), lambda a, b: b.value - a.value, 8),
            (depth.tone_group("figure", 0.5), lambda a, b: b.chroma / max(a.chroma, 1e-9), 0.5),
        ):
            after = self.pipeline.derive(edit.apply(plan)).colours
            for region in depth.members(plan, "figure"):
                found = measure(before[region].first, after[region].first)
                self.assertAlmostEqual(found, wanted, delta=0.8 if wanted > 1 else 0.1)
            self.assertEqual(after[self.sun.id], before[self.sun.id])
        spread = self.pipeline.derive(depth.spread_group("figure", 0.0).apply(plan)).colours
        values = [spread[r].mean_value for r in depth.members(plan, "figure")]
        self.assertLess(np.ptp(values), 1)
        aired = self.pipeline.derive(depth.add_air("#a0b8c8", 0.8).apply(plan)).colours
        air = spaces.oklab(spaces.decode(spaces.parse_hex("#a0b8c8")))

        def away(colours, region):
            return np.linalg.norm(mean_lab(colours[region]) - air)

        for region in plan.regions:
            kept = away(aired, region.id) / away(before, region.id)
            wanted = {"ground": 0.2, "middle ground": 0.6, "figure": 0.9}[region.role]
            if region.id != self.sun.id:
                self.assertAlmostEqual(kept, wanted, delta=0.08, msg=region.role)

    def test_given_colours_stay_in_every_change_of_many(self):
        pinned = edits.with_colours(
            self.plan, {r.id: Pinned(hex="#808080") for r in self.plan.regions}
        )
        for edit in (depth.move_group("ground", 9), depth.add_air("#ffffff", 1.0)):
            self.assertEqual(edit.apply(pinned), pinned)


class Demo(unittest.TestCase):
    def test_light_makes_detail_and_fixes_hold_in_it(self):
        opened = document.open_plan(DEMOS[0].plan)
        pipeline = Pipeline(opened.pixels.drawings)
        lit = pipeline.derive(opened.plan).think()
        flat = pipeline.derive(light_off(opened.plan)).think()
        self.assertGreater(
            lit.attention.pull.parts[3].sum(), 3 * flat.attention.pull.parts[3].sum()
        )
        result = next(r for r in measure_all(lit) if r.check == "competes")
        (one,) = [r for r in judge(lit) if r.key == result.key]
        after = pipeline.derive(one.fixes[0].edit.apply(opened.plan)).think()
        self.assertNotIn(result.key, [r.key for r in measure_all(after) if r.level != "fine"])
        self.assertIsNone(replace(opened.plan.studies[0], focus=None).focus)


if __name__ == "__main__":
    unittest.main()
