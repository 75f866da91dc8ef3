"""A plan with its pixels: brought in, saved, opened, undone, handed off, kept."""

import io
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path
from unittest import mock

import numpy as np
from msgspec.structs import replace
from PIL import Image

from tests import scenes
from umber_compass import document
from umber_compass.colour.packed import unpack
from umber_compass.document import Kept, Pixels, built_buffers, kept_arrays
from umber_compass.document.full_flat import flat_in_strips
from umber_compass.document.opening import thumbnail_of
from umber_compass.document.pixels import MOST_WORKING, at_working_size
from umber_compass.document.rig_library import RigLibrary
from umber_compass.formats import gpl, picture
from umber_compass.formats.cache import Cache
from umber_compass.picture.shading import Shades
from umber_compass.plan import edits
from umber_compass.plan.edits import Edit
from umber_compass.plan.harmony_edits import set_colour
from umber_compass.plan.history import History
from umber_compass.plan.light_edits import light_on, with_lamp
from umber_compass.plan.model import Gradient
from umber_compass.plan.rig import Lamp, Rig
from umber_compass.plan.settings import change_setting
from umber_compass.steps.pictures import exact_picture
from umber_compass.steps.pictures import picture as picture_of
from umber_compass.steps.pipeline import Derived, Pipeline
from umber_compass.words import Refusal


class Made(scenes.InFolder):
    def setUp(self):
        super().setUp()
        self.made, self.pipeline = self.bring_in()
        self.plan, self.pixels = self.made.plan, self.made.pixels
        self.path = self.folder / "boat.umber"


class Saving(Made):
    def test_the_thumbnail_is_the_picture_that_is_given_or_the_plans(self):
        document.save(self.plan, self.pixels, self.path)
        shown = picture_of(self.pipeline.derive(self.plan))
        there = np.asarray(Image.open(io.BytesIO(document.open_plan(self.path).thumbnail)))
        np.testing.assert_array_equal(there, unpack(shown))
        red = np.full_like(shown, 0xFF0000)
        document.save(self.plan, self.pixels, self.path, red)
        there = np.asarray(Image.open(io.BytesIO(document.open_plan(self.path).thumbnail)))
        self.assertEqual(there[0, 0].tolist(), [255, 0, 0])
        large = np.zeros((600, 1200), np.uint32)
        self.assertEqual(Image.open(io.BytesIO(thumbnail_of(large))).size, (512, 256))

    def test_a_full_disk_leaves_the_old_file(self):
        document.save(self.plan, self.pixels, self.path)
        data = self.path.read_bytes()
        full = OSError(28, "No space left on device")
        with mock.patch("os.fsync", side_effect=full), self.assertRaisesRegex(Refusal, "no space"):
            document.save(self.plan, self.pixels, self.path)
        self.assertEqual(self.path.read_bytes(), data)
        self.assertEqual(sorted(p.name for p in self.folder.iterdir()), ["boat.png", "boat.umber"])

    def test_killed_in_the_middle_of_saving_leaves_the_old_file(self):
        document.save(self.plan, self.pixels, self.path)
        data = self.path.read_bytes()
        code = (
            "import os, sys, pathlib\nfrom umber_compass import document\n"
            "os.fsync = lambda n: os._exit(9)\np = pathlib.Path(sys.argv[1])\n"
            "plan, pixels, *_ = document.open_plan(p)\ndocument.save(plan, pixels, p)"
        )
        ended = subprocess.run([sys.executable, "-c", code, str(self.path)], check=False)
        self.assertEqual((ended.returncode, self.path.read_bytes()), (9, data))

    def test_saving_into_a_folder_that_is_not_there(self):
        with self.assertRaisesRegex(Refusal, "could not be written"):
            document.save(self.plan, self.pixels, self.folder / "gone" / "x.umber")


class Pixeled(Made):
    def test_undo_holds_label_pixels(self):
        """Two regions joined into one, in pixels and in the plan; undo has both again."""
        labels = self.pixels.labels(self.plan.sketch).copy()
        labels[labels == 5] = 1
        joined = self.pixels.add_labels(labels)
        self.pixels.drawings[joined] = at_working_size(
            self.pixels.picture(self.plan.sketch), labels
        )

        def join(plan):
            now = edits.study(plan)
            kept = {r: c for r, c in now.colours.items() if r != "r5"}
            plan = edits.with_study(plan, replace(now, colours=kept))
            sketch = replace(plan.sketch, labels=joined)
            return replace(plan, sketch=sketch, regions=plan.regions[:4])

        history = History(self.plan).do(Edit(scenes.NOTHING, join))
        before = picture_of(self.pipeline.derive(self.plan))
        after = self.pipeline.derive(history.now)
        self.assertAlmostEqual(sum(after.shares.values()), 1)
        self.assertFalse((picture_of(after) == before).all())
        document.save(history.now, self.pixels, self.path)
        again = document.open_plan(self.path)
        np.testing.assert_array_equal(again.pixels.labels(again.plan.sketch), labels)
        self.assertEqual(again.pixels._labels.keys(), {joined})
        undone = self.pipeline.derive(history.undo().now)
        np.testing.assert_array_equal(picture_of(undone), before)
        document.save(history.undo().now, self.pixels, self.path)
        np.testing.assert_array_equal(
            document.open_plan(self.path).pixels.labels(self.plan.sketch),
            self.pixels.labels(self.plan.sketch),
        )

    def test_label_pixels_cannot_be_changed_in_place(self):
        with self.assertRaises(ValueError):
            self.pixels.labels(self.plan.sketch)[0, 0] = 3
        document.save(self.plan, self.pixels, self.path)
        opened = document.open_plan(self.path)
        with self.assertRaises(ValueError):
            opened.pixels.labels(opened.plan.sketch)[0, 0] = 3

    def test_a_large_sketch_is_worked_on_smaller_and_handed_off_whole(self):
        big = tuple((k, tuple(p * 10 for p in pts), c) for k, pts, c in scenes.BOAT)
        self.sketch.write_bytes(scenes.encoded(scenes.draw(big, (2400, 1600), 2)))
        plan, pixels, *_ = document.bring_in(self.sketch)
        small = pixels.drawing(plan.sketch).labels
        self.assertEqual((small.shape, MOST_WORKING), ((1066, 1600), 1600))
        self.assertEqual(document.full_picture(plan, pixels).shape, (1600, 2400))
        whole = pixels.labels(plan.sketch)
        held = (np.bincount(a.reshape(-1)) / a.size for a in (whole, small))
        np.testing.assert_allclose(*held, atol=0.002)

    def test_a_smaller_px_has_the_label_of_the_one_in_its_middle(self):
        """Two and three px to one: the middle of the first small px lies in px 1."""
        for factor, first in ((3, 1), (5, 2)):
            width = MOST_WORKING * factor
            labels = np.tile(np.arange(width, dtype=np.uint16) % 60000, (factor, 1))
            for here, shape in ((labels, (1, MOST_WORKING)), (labels.T, (MOST_WORKING, 1))):
                made = at_working_size(np.zeros(here.shape, np.uint32), here).labels
                self.assertEqual(made.shape, shape)
                found = made.reshape(-1)[:3]
                np.testing.assert_array_equal(found, first + factor * np.arange(3))
        labels = np.ones((3, MOST_WORKING), np.uint16)
        self.assertIs(
            at_working_size(np.zeros((3, MOST_WORKING), np.uint32), labels).labels, labels
        )

    def test_a_sketch_its_regions_do_not_fit_is_refused(self):
        other = Pixels()
        sketch = replace(
            self.plan.sketch,
            hash=other.add_sketch(self.sketch.read_bytes()),
            labels=other.add_labels(np.ones((9, 9), np.uint16)),
        )
        with self.assertRaisesRegex(Refusal, "do not fit its sketch"):
            other.drawing(sketch)


class HandedOff(Made):
    def test_it_writes_ours_over_ours_and_nothing_over_others(self):
        out = self.folder / "out"

        def hand_off(kinds, **more):
            return document.hand_off(self.plan, self.pixels, out, kinds, **more)

        files = hand_off(["gpl", "flat"])
        self.assertEqual([f.name for f in files], ["boat.gpl", "boat-flat.png"])
        hand_off(["gpl", "flat"])
        drawn = picture.read(files[1]).rgb.astype(int)
        np.testing.assert_allclose(drawn, scenes.draw().astype(int), atol=6)
        files[0].write_text("mine")
        files[1].unlink()
        self.assertEqual(document.others_files(self.plan, out, ["gpl", "flat"]), [files[0]])
        with self.assertRaisesRegex(Refusal, "already exists"):
            hand_off(["flat", "gpl"])
        self.assertEqual((files[0].read_text(), files[1].exists()), ("mine", False))
        hand_off(["gpl"], force=True)
        self.assertTrue(files[0].read_text().startswith(gpl.MAGIC))
        (self.folder / "file").write_text("x")
        with self.assertRaisesRegex(Refusal, "no folder"):
            document.hand_off(self.plan, self.pixels, self.folder / "file", ["gpl"])

    def test_all_files_or_none_and_folders_that_cannot_be_entered(self):
        out = self.folder / "out"
        full = OSError(28, "No space left on device")
        with (
            mock.patch("umber_compass.formats.picture.fill_png", side_effect=full),
            self.assertRaisesRegex(Refusal, "no space"),
        ):
            document.hand_off(self.plan, self.pixels, out, ["gpl", "flat"])
        self.assertEqual(list(out.iterdir()), [])
        closed = PermissionError(13, "Permission denied")
        with (
            mock.patch("pathlib.Path.exists", side_effect=closed),
            self.assertRaisesRegex(Refusal, "can be entered"),
        ):
            document.others_files(self.plan, out, ["gpl"])

    def test_clear_parts_are_no_part_of_shares_or_light_and_stay_clear(self):
        rgba = np.dstack([scenes.draw(), np.full((160, 240), 255, np.uint8)])
        rgba[:100, :120, 3], rgba[100:102, :, 3] = 0, 128
        self.sketch.write_bytes(scenes.encoded(rgba))
        made, pipeline = self.bring_in()
        derived = pipeline.derive(light_on(made.plan))
        self.assertAlmostEqual(sum(derived.shares.values()), 1)
        for shown in (picture_of(derived), exact_picture(derived)):
            self.assertEqual(set(shown[:98, :118].reshape(-1).tolist()), {0xFFFFFF})
        for file in document.hand_off(
            light_on(made.plan), made.pixels, self.folder / "out", ["flat", "lit"]
        ):
            back = np.asarray(Image.open(file))
            np.testing.assert_array_equal(back[..., 3], rgba[..., 3])
            if "flat" in file.name:
                off = np.abs(back[..., :3].astype(int) - rgba[..., :3])[rgba[..., 3] > 0]
                self.assertLessEqual(np.percentile(off, 99), 4)

    def test_a_large_flat_picture_is_the_whole_one_strip_by_strip(self):
        two = Gradient(
            first=scenes.planned(), second=scenes.planned(value=70.0), axis=(0.1, 0, 0.8, 1)
        )
        plan = set_colour("r1", two, scenes.NOTHING).apply(self.plan)
        derived = self.pipeline.derive(plan)
        sketch = self.plan.sketch
        for rows in (7, 30, 500):
            with mock.patch("umber_compass.document.full_flat._STRIP_PX", rows * 240):
                shown = flat_in_strips(
                    derived, self.pixels.picture(sketch), self.pixels.labels(sketch)
                )
            np.testing.assert_array_equal(shown, picture_of(derived))

    def test_views_at_full_size(self):
        lit = light_on(self.plan)
        views = {
            v: document.full_picture(lit, self.pixels, v) for v in ("", "lit", "flat", "key-only")
        }
        np.testing.assert_array_equal(views[""], views["lit"])
        np.testing.assert_array_equal(views["flat"], document.full_picture(self.plan, self.pixels))
        self.assertEqual(len({v.tobytes() for v in views.values()}), 3)
        told = []
        document.full_picture(lit, self.pixels, "lit", told.append)
        self.assertEqual(told, sorted(told))
        self.assertGreater(told[-1], 0.5)


class KeptBetween(Made):
    def setUp(self):
        super().setUp()
        self.kept = Kept(Cache(self.folder / "kept"))

    def test_drawing_and_relief_come_back_as_they_were(self):
        drawing = self.pixels.drawing(self.plan.sketch)
        again = kept_arrays.drawing_of(kept_arrays.drawing_arrays(drawing))
        np.testing.assert_array_equal(again.labels, drawing.labels)
        self.assertEqual((again.box, again.shades), (drawing.box, None))
        grey = np.full(drawing.labels.shape, 90, np.uint8)
        mixed = drawing.borders._replace(
            rest=type(drawing.borders.rest)(*(part[:0] for part in drawing.borders.rest))
        )
        mean = np.full(int(drawing.labels.max()) + 1, 36, np.float32)
        shades = Shades(grey, np.zeros(len(mixed.place), np.uint8), mean)
        shaded = kept_arrays.drawing_arrays(drawing._replace(borders=mixed, shades=shades))
        np.testing.assert_array_equal(kept_arrays.drawing_of(shaded).shades.grey, grey)
        with self.assertRaises(ValueError):
            kept_arrays.drawing_of({**shaded, "shades_grey": grey[1:]})
        buffers = self.pipeline.derive(light_on(self.plan)).buffers
        back = kept_arrays.buffers_of(kept_arrays.buffer_arrays(buffers), buffers.shape)
        for one, two in zip(buffers, back, strict=True):
            if isinstance(one, np.ndarray):
                np.testing.assert_array_equal(one, two)
        shares = Pipeline({self.plan.sketch.labels: again}).derive(self.plan).shares
        self.assertEqual(shares, self.pipeline.derive(self.plan).shares)

    def test_arrays_that_do_not_fit_are_refused(self):
        buffers = self.pipeline.derive(light_on(self.plan)).buffers
        for name in (
            "code",
            "own",
            "other_place",
            "place",
            "begin",
            "adjacency_touching",
            "adjacency_pair",
        ):
            spoiled = kept_arrays.buffer_arrays(buffers)
            spoiled[name] = spoiled[name] - 10**6
            with self.subTest(name), self.assertRaises(ValueError):
                kept_arrays.buffers_of(spoiled, buffers.shape)
        for name in ("occlusion", "weight", "cover", "local"):
            spoiled = kept_arrays.buffer_arrays(buffers)
            spoiled[name] = spoiled[name][:-1]
            with self.subTest(name), self.assertRaises(ValueError):
                kept_arrays.buffers_of(spoiled, buffers.shape)
        for change in (lambda a: a.astype(np.float64), lambda a: a[None]):
            spoiled = kept_arrays.buffer_arrays(buffers)
            spoiled["occlusion"] = change(spoiled["occlusion"])
            with self.assertRaises(ValueError):
                kept_arrays.buffers_of(spoiled, buffers.shape)
        with self.assertRaises(ValueError):
            kept_arrays.buffers_of(kept_arrays.buffer_arrays(buffers), (3, 3))
        missing = kept_arrays.drawing_arrays(self.pixels.drawing(self.plan.sketch))
        del missing["cover"]
        with self.assertRaises(KeyError):
            kept_arrays.drawing_of(missing)

    def test_a_relief_is_built_once_and_found_again_by_sketch_forms_and_gradients(self):
        plan = light_on(self.plan)

        def build(plan):
            fresh = Pipeline(self.pixels.drawings)
            with mock.patch.object(Derived.built, "work", wraps=Derived.built.work) as work:
                return built_buffers(fresh.derive(plan), self.kept), work.call_count

        first, count = build(plan)
        self.assertEqual(count, 1)
        again, count = build(plan)
        self.assertEqual(count, 0)
        np.testing.assert_array_equal(again.code, first.code)
        told = change_setting("region.REGION.form", "flat", "r3", "x").apply(plan)
        self.assertEqual(build(told)[1], 1)
        self.assertEqual(build(told)[1], 0)
        known = Pipeline(self.pixels.drawings).derive(plan)
        self.assertIs(built_buffers(known, self.kept), built_buffers(known, self.kept))

    def test_a_damaged_copy_counts_as_none_and_is_noted(self):
        document.save(self.plan, self.pixels, self.path)
        document.open_plan(self.path, self.kept)
        entry = next(self.kept.cache.folder.iterdir())
        with mock.patch("umber_compass.picture.borders.find", side_effect=AssertionError):
            document.open_plan(self.path, self.kept)
        entry.write_bytes(entry.read_bytes()[:90])
        opened = document.open_plan(self.path, self.kept)
        np.testing.assert_array_equal(
            opened.pixels.drawing(opened.plan.sketch).labels,
            self.pixels.drawing(self.plan.sketch).labels,
        )
        self.assertTrue(self.kept.cache.take_damage())


class Rigs(unittest.TestCase):
    def test_own_rigs_are_kept_read_written_over_and_forgotten(self):
        with tempfile.TemporaryDirectory() as held:
            library = RigLibrary(Path(held) / "rigs")
            self.assertEqual(library.rigs(), {})
            rig = with_lamp(Rig(lamps=(Lamp(spares=("r1",)),)), "spot")
            path = library.keep("  Night   market ", rig)
            (spec,) = library.rigs().values()
            self.assertEqual((spec.title, spec.lamps[0].spares), ("Night market", ()))
            self.assertEqual((spec.ambient, spec.lamps[1]), (rig.ambient, rig.lamps[1]))
            self.assertEqual(library.keep("Night market", Rig()), path)
            self.assertEqual(len(library.rigs()[path].lamps), 1)
            other = library.keep("Night, market!", rig)
            for bad in (b"{", b"[]", path.read_bytes()[:90], b'{"title": 3}', b"\xff" * 40):
                (library.folder / "bad.rig.json").write_bytes(bad)
                self.assertEqual(set(library.rigs()), {path, other})
                self.assertRegex(library.faults[0], "bad.rig.json: is no rig")
            library.remove(other)
            self.assertEqual(set(library.rigs()), {path})
            with self.assertRaisesRegex(Refusal, "needs a name"):
                library.keep(" ", rig)
