"""Regions changed by hand, sketches followed, compositions and pictures beside a plan: with their
pixels, saved and opened."""

import numpy as np
from msgspec.structs import replace
from PIL import Image, ImageDraw

from bench import drawings
from bench.hands import SORTS
from tests import scenes
from umber_compass import document
from umber_compass.colour.packed import unpack
from umber_compass.document import reworking, second_picture
from umber_compass.document.following_sketch import followed
from umber_compass.document.joining_alike import join_alike
from umber_compass.document.splitting import split_picture
from umber_compass.formats import picture
from umber_compass.picture.drawing import draw
from umber_compass.plan.brief_edits import add_reference, remove_reference
from umber_compass.plan.candidate_edits import add_candidate, choose_candidate, remove_candidate
from umber_compass.plan.edits import study
from umber_compass.plan.focus_edits import set_focus
from umber_compass.plan.light_edits import light_on, rig_of
from umber_compass.plan.settings import change_setting
from umber_compass.plan.sketch_edits import share_form
from umber_compass.plan.wish_edits import lock
from umber_compass.steps.pictures import exact_picture
from umber_compass.steps.pictures import picture as picture_of
from umber_compass.steps.pipeline import Pipeline
from umber_compass.steps.sketch.compositions import COMPOSITIONS, drawn
from umber_compass.steps.sketch.matching import shift_between
from umber_compass.words import Refusal, words


class Sketches(scenes.InFolder):
    def setUp(self):
        super().setUp()
        self.made, self.pipeline = self.bring_in()
        self.plan, self.pixels = self.made.plan, self.made.pixels
        self.hull = self.region(self.plan, scenes.HULL).id
        self.sail = self.region(self.plan, scenes.SAIL).id
        self.sea = self.region(self.plan, scenes.SEA).id

    def again(self, plan):
        """The plan as it comes back from a file."""
        path = self.folder / "again.umber"
        document.save(plan, self.pixels, path)
        return document.open_plan(path)

    def done(self, rework):
        rework.take(self.pixels)
        return rework.edit.apply(self.plan)


class ByHand(Sketches):
    def test_what_was_decided_for_a_region_that_goes_goes_with_it(self):
        for edit in (
            lock(self.hull, True, "hull"),
            set_focus((self.hull, self.sail), words("x")),
            share_form(self.hull, self.sail, "hull", "sail"),
            change_setting("region.REGION.name", "mainsail", self.sail),
        ):
            self.plan = edit.apply(self.plan)
        plan = self.done(reworking.merge(self.plan, self.pixels, [self.sea, self.sail]))
        now = study(plan)
        self.assertEqual(now.locked, (self.hull,))
        self.assertEqual(now.focus.regions, (self.hull,))
        hull = next(r for r in plan.regions if r.id == self.hull)
        self.assertIsNone(hull.shares_form_with)
        back = self.again(plan)
        self.assertEqual(back.plan, plan)
        self.assertEqual(set(now.colours), {r.id for r in plan.regions})

    def test_a_split_region_keeps_colour_and_role_in_both_parts(self):
        line = [(40.0, -3.0), (40.0, 50.0), (40.0, 120.0)]
        done = reworking.split_by_line(self.plan, self.pixels, self.sea, line)
        plan = self.done(done)
        fresh = next(i for i in done.chosen if i != self.sea)
        colours = study(plan).colours
        self.assertEqual(colours[fresh], colours[self.sea])
        roles = {r.id: r.role for r in plan.regions}
        self.assertEqual(roles[fresh], roles[self.sea])
        before = picture_of(self.pipeline.derive(self.plan))
        after = picture_of(Pipeline(self.pixels.drawings).derive(plan))
        differs = np.count_nonzero(before != after)
        self.assertLess(differs, 0.01 * before.size)
        self.assertEqual(len({r.name for r in plan.regions}), len(plan.regions))

    def test_what_is_decided_while_px_are_worked_on_stays(self):
        done = reworking.merge(self.plan, self.pixels, [self.sea, self.sail])
        done.take(self.pixels)
        named = change_setting("region.REGION.name", "tug", self.hull).apply(self.plan)
        plan = done.edit.apply(named)
        self.assertEqual(next(r.name for r in plan.regions if r.id == self.hull), "tug")

    def test_fewer_than_two_are_not_merged_and_no_specks_are_refused(self):
        with self.assertRaisesRegex(Refusal, "two regions"):
            reworking.merge(self.plan, self.pixels, [self.sea])
        with self.assertRaisesRegex(Refusal, "none under"):
            reworking.swallow_specks(self.plan, self.pixels)

    def test_a_part_is_given_away_and_all_that_hangs_on_px_follows(self):
        sun = self.region(self.plan, scenes.SUN).id
        self.plan = self.done(reworking.merge(self.plan, self.pixels, [self.hull, sun]))
        before = self.pipeline.derive(self.plan).shares
        plan = self.done(reworking.reassign(self.plan, self.pixels, (195.0, 30.0), self.sail))
        shares = Pipeline(self.pixels.drawings).derive(plan).shares
        self.assertGreater(shares[self.sail], before[self.sail] + 0.02)
        self.assertAlmostEqual(sum(shares.values()), 1)
        with self.assertRaisesRegex(Refusal, "all of its region"):
            reworking.reassign(plan, self.pixels, (110.0, 80.0), self.sea)

    def test_a_gap_is_closed_and_opened_again(self):
        image = Image.new("RGB", (300, 240), "white")
        ImageDraw.Draw(image).arc([60, 50, 240, 190], 6, 360, fill="black", width=4)
        path = self.folder / "lines.png"
        image.save(path)
        opened = document.bring_in(path)
        self.plan, self.pixels = opened.plan, opened.pixels
        number = next(i for i, n in enumerate(self.plan.sketch.necks) if n.closed)
        count = len(self.plan.regions)
        self.plan = self.done(reworking.turn_neck(self.plan, self.pixels, number))
        self.assertEqual(len(self.plan.regions), count - 1)
        self.assertFalse(self.plan.sketch.necks[number].closed)
        self.plan = self.done(reworking.turn_neck(self.plan, self.pixels, number))
        self.assertEqual(len(self.plan.regions), count)

    def test_lines_are_tinted_by_what_they_lie_along(self):
        image = Image.new("RGB", (300, 240), "white")
        ImageDraw.Draw(image).ellipse([60, 50, 240, 190], outline="black", width=6)
        path = self.folder / "lines.png"
        image.save(path)
        opened = document.bring_in(path)
        self.plan, self.pixels = opened.plan, opened.pixels
        line = next(r for r in self.plan.regions if r.role == "line")
        plan = self.done(reworking.tint_lines(self.plan, self.pixels, line.id))
        lines = [r for r in plan.regions if r.role == "line"]
        self.assertEqual(len(lines), 2)
        self.assertTrue(all(r.name.startswith("line of ") for r in lines))
        self.assertTrue(all(study(plan).colours[r.id].value <= 20 for r in lines))
        with self.assertRaises(Refusal):
            only = self.plan.regions[0]
            reworking.tint_lines(replace(self.plan, regions=(only,)), self.pixels, only.id)


class Followed(Sketches):
    def follow(self, rgb, kind="flats", plan=None):
        path = self.folder / "new.png"
        path.write_bytes(scenes.encoded(rgb))
        read = picture.read(path)
        chosen = split_picture(read, "new.png", kind)
        return followed(plan or self.plan, self.pixels, read, chosen, "new.png")

    def test_regions_keep_their_decisions_and_new_ones_take_the_sketchs_colour(self):
        self.plan = change_setting("region.REGION.name", "mainsail", self.sail).apply(self.plan)
        shapes = (*scenes.BOAT, ("rectangle", (10, 120, 60, 150), "#103a20"))
        found = self.follow(scenes.draw(shapes))
        plan = found.edit.apply(self.plan)
        self.assertEqual(len(found.fresh), 1)
        names = {r.id: r.name for r in plan.regions}
        self.assertEqual(names[self.sail], "mainsail")
        self.assertEqual(study(plan).colours[self.sail], study(self.plan).colours[self.sail])
        colour = Pipeline(self.pixels.drawings).derive(plan).colours[found.fresh[0]].first.hex
        apart = [abs(int(colour[i : i + 2], 16) - int("#103a20"[i : i + 2], 16)) for i in (1, 3, 5)]
        self.assertLess(max(apart), 4)
        self.assertIn("1 new", found.says)
        self.assertEqual(self.again(plan).plan, plan)

    def test_what_is_gone_is_told_by_name(self):
        found = self.follow(scenes.draw(scenes.BOAT[:4]))
        self.assertEqual(len(found.gone), 1)
        plan = found.edit.apply(self.plan)
        self.assertEqual(len(plan.regions), 4)

    def test_the_same_sketch_changes_nothing_but_its_name(self):
        found = self.follow(scenes.draw())
        plan = found.edit.apply(self.plan)
        self.assertEqual(found.says, "every region was found again")
        self.assertEqual(plan.studies, self.plan.studies)
        self.assertEqual({r.id for r in plan.regions}, {r.id for r in self.plan.regions})


class Candidates(Sketches):
    def test_a_candidate_takes_the_place_and_the_other_stays(self):
        other = self.folder / "other.png"
        other.write_bytes(scenes.encoded(scenes.draw(scenes.BOAT[:3])))
        found = document.bring_in(other)
        self.pixels.take_over(found.pixels)
        new = found.plan
        plan = add_candidate(new.sketch, new.regions, new.studies).apply(self.plan)
        self.assertEqual(plan.sketch, self.plan.sketch)
        chosen = choose_candidate("c1", "other").apply(plan)
        self.assertEqual((chosen.sketch, len(chosen.regions)), (new.sketch, 3))
        back = choose_candidate("c1", "boat").apply(self.again(chosen).plan)
        self.assertEqual(back, plan)
        self.assertEqual(remove_candidate("c1", "x").apply(plan), self.plan)
        for unknown in ("c9", "b", "c"):
            self.assertIs(choose_candidate(unknown, "x").apply(plan), plan)


class Beside(Sketches):
    def test_pictures_beside_a_plan_are_kept_once_and_come_back(self):
        key = self.pixels.add_reference(self.sketch.read_bytes())
        plan = add_reference("boat", key).apply(self.plan)
        self.assertEqual(add_reference("again", key).apply(plan), plan)
        back = self.again(plan)
        self.assertEqual(back.pixels.references[key], self.sketch.read_bytes())
        self.assertEqual(remove_reference("p1", "boat").apply(plan), self.plan)

    def test_every_composition_is_a_plan_with_its_names_and_roles(self):
        for name, composition in COMPOSITIONS.items():
            made = document.compose(name)
            with self.subTest(name):
                names = [s.name for s in composition.shapes]
                self.assertEqual({r.name for r in made.plan.regions}, set(names))
                self.assertTrue(
                    {"ground", "figure", "focus"} <= {r.role for r in made.plan.regions}
                )
                small = drawn(composition, 120)
                self.assertEqual(small.rgb.shape[1], 120)
                self.assertGreater(np.bincount(small.labels.reshape(-1))[1:].min(), 8)
        with self.assertRaisesRegex(Refusal, "no composition"):
            document.compose("nothing")


class Shaded(Sketches):
    def test_the_values_of_a_grey_sketch_are_its_value_plan(self):
        path = self.folder / "grey.png"
        path.write_bytes(scenes.encoded(drawings.grey_thumbnail(22, 3, (640, 480), 10).rgb))
        plan = document.bring_in(path, kind="grey", settings={"groups": 3}).plan
        bands = study(plan).wishes.bands
        self.assertEqual((len(bands.edges), bands.fault()), (2, ""))
        self.assertAlmostEqual(sum(bands.shares), 1)
        values = sorted(c.value for c in study(plan).colours.values())
        self.assertTrue(values[0] < bands.edges[0] < bands.edges[1] < values[-1])
        lit = light_on(plan)  # its own shadows are enough
        self.assertEqual((rig_of(lit).on, rig_of(lit).shadows), (True, False))
        self.assertTrue(rig_of(light_on(document.bring_in(self.sketch).plan)).shadows)

    def test_a_grey_sketch_comes_back_and_hands_keep_every_px(self):
        drawn = SORTS["soft grey"](5)
        rgb = np.ascontiguousarray(unpack(drawn.packed)[::2, ::2])
        rgb[40:60, 60:90], rgb[200:230, 100:140] = 0, 255  # to both ends of what there is
        made = document.take_in(picture.decode(picture.png_bytes(rgb), "g"), "g.png", kind="grey")
        pixels, ids = made.pixels, [r.id for r in made.plan.regions]

        def shown(plan):
            return unpack(exact_picture(Pipeline(pixels.drawings).derive(plan))).astype(int)

        there = shown(made.plan)
        self.assertLessEqual(np.abs(there - rgb).max(), 2)
        merged = reworking.merge(made.plan, pixels, ids[:4])
        merged.take(pixels)
        plan = merged.edit.apply(made.plan)
        self.assertLessEqual(np.abs(shown(plan) - there).max(), 3)
        whole = (rgb.shape[1] - 1, rgb.shape[0] / 2)
        parted = reworking.split_by_line(plan, pixels, ids[0], [(0, whole[1] - 9), whole])
        parted.take(pixels)
        self.assertLessEqual(np.abs(shown(parted.edit.apply(plan)) - there).max(), 3)

    def test_what_hands_change_is_redrawn_as_the_whole_would_be(self):
        rgb = np.ascontiguousarray(unpack(SORTS["soft grey"](5).packed))
        grey = document.take_in(picture.decode(picture.png_bytes(rgb), "g"), "g.png", kind="grey")
        plan, pixels = grey.plan, grey.pixels
        ids = [r.id for r in plan.regions][-2:]
        part = reworking.merge(plan, pixels, ids)
        part.take(pixels)
        after = part.edit.apply(plan)
        whole = draw(pixels.picture(plan.sketch), part.encoded[2], plan.sketch.shaded)
        quick = part.drawing
        np.testing.assert_array_equal(quick.labels, whole.labels)
        self.assertEqual(quick.box, whole.box)
        one, two = (
            unpack(picture_of(Pipeline({after.sketch.labels: d}).derive(after))).astype(int)
            for d in (quick, whole)
        )
        self.assertLessEqual(np.abs(one - two).max(), 2)

    def test_a_second_picture_gives_shading_or_regions_lined_up(self):
        height, width = 160, 240
        light = np.linspace(60, 220, width)[None] * np.ones((height, 1))
        sea = scenes.draw()[..., 2] > 120  # edges to line up by
        grey = np.clip(light - 40 * sea, 0, 255).astype(np.uint8)
        moved = np.roll(np.roll(grey, 3, axis=1), -2, axis=0)
        rgb = np.repeat(moved[..., None], 3, axis=2)
        other = picture.decode(picture.png_bytes(np.ascontiguousarray(rgb)), "g")
        labels = self.pixels.labels(self.plan.sketch)
        self.assertEqual(shift_between(labels, moved), (2, -3))
        found = second_picture.take_shading(self.plan, self.pixels, other, "g.png")
        plan = found.edit.apply(self.plan)
        self.assertEqual([r.id for r in plan.regions], [r.id for r in self.plan.regions])
        told = self.pixels.drawings[plan.sketch.labels].shades.grey.astype(int)
        near = np.abs(told - grey)[8:-8, 8:-8]
        self.assertLess(np.median(near), 3)
        back = document.from_file(self.pixels.held_with(plan, b""), "x")
        self.assertTrue(back.plan.sketch.shaded)
        flats = split_picture(picture.read(self.sketch), "boat.png")
        again = second_picture.take_regions(
            plan, self.pixels, picture.read(self.sketch), flats, "boat.png"
        )
        self.assertEqual((again.fresh, again.gone), ((), ()))
        tall = picture.decode(picture.png_bytes(np.ascontiguousarray(rgb[:, :120])), "t")
        with self.assertRaisesRegex(Refusal, "other proportions"):
            second_picture.take_shading(self.plan, self.pixels, tall, "t.png")

    def test_like_regions_are_joined_and_called_by_the_one_that_is_named(self):
        image = Image.new("RGB", (240, 160), "#8090a0")
        pen = ImageDraw.Draw(image)
        pen.ellipse([70, 20, 170, 140], fill="#d0a080")
        for x, colour in ((95, "#203040"), (125, "#213140")):
            pen.ellipse([x, 60, x + 20, 72], fill=colour)
        path = self.folder / "face.png"
        image.save(path)
        made = document.bring_in(path)
        eye = next(r for r in made.plan.regions if r.role == "figure" and r.label > 2)
        plan = change_setting("region.REGION.name", "left eye", eye.id).apply(made.plan)
        joined = join_alike(plan, made.pixels)
        after = joined.edit.apply(plan)
        self.assertEqual(len(after.regions), len(plan.regions) - 1)
        self.assertIn("eyes", [r.name for r in after.regions])
        joined.take(made.pixels)
        with self.assertRaisesRegex(Refusal, "not found"):
            join_alike(after, made.pixels)

    def test_a_shaded_sketch_is_saved_opened_and_handed_off_at_its_own_size(self):
        known = drawings.grey_thumbnail(21, 3, (1800, 450), 8)
        path = self.folder / "grey.png"
        path.write_bytes(scenes.encoded(known.rgb))
        made = document.bring_in(path, kind="grey")
        self.pixels = made.pixels
        back = self.again(made.plan)
        self.assertEqual(back.plan, made.plan)
        drawing = back.pixels.drawing(back.plan.sketch)
        self.assertIsNotNone(drawing.shades)
        full = document.full_picture(back.plan, back.pixels)
        self.assertEqual(full.shape, (450, 1800))
        off = np.abs((full & 0xFF).astype(int) - known.rgb[..., 0])
        self.assertLess(off.mean(), 2.5)
