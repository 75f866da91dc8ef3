"""The hand-off bench with its layers, two recipes side by side, ramps borrowed from a reference,
gradients over the artist's own shading: driven as a hand would."""

import re
import shutil
import subprocess
import tempfile
import time
from pathlib import Path

import numpy as np
from PIL import Image
from PySide6.QtCore import QEventLoop, QPointF, QSettings, Qt, QTimer
from PySide6.QtGui import QGuiApplication
from PySide6.QtTest import QTest

from bench import drawings
from tests import scenes
from tests.window.driving import InWindow, drag, wait
from umber_compass.colour.packed import unpack
from umber_compass.formats import ggr
from umber_compass.plan import edits
from umber_compass.plan.harmony_edits import turn_lead
from umber_compass.plan.settings import change_setting
from umber_compass.steps.light.rig_of_picture import read_rig
from umber_compass.window.benches.ramps.compare_page import NOW, OTHER
from umber_compass.window.benches.sketch.sketch_bench import READING
from umber_compass.window.drawers.picking import LIGHT, STEP


def own_folder(test):
    """A folder that is gone after a test."""
    held = tempfile.TemporaryDirectory()
    test.addCleanup(held.cleanup)
    return Path(held.name)


class Driven(InWindow):
    def until(self, come, ms=20_000):
        """Wait until something is so, as what rests first and is then worked out."""
        begin = time.monotonic()
        while not come():
            self.assertLess((time.monotonic() - begin) * 1000, ms)
            loop = QEventLoop()  # unlike a wait of QTest's it lets the worker's thread run
            QTimer.singleShot(20, loop.quit)
            loop.exec()
        self.settle()

    def enter(self, field, text):
        self.type(field, text)
        QTest.keyClick(field, Qt.Key.Key_Return)
        self.settle()


class Layers(Driven):
    def setUp(self):
        super().setUp()
        self.open()
        self.works.steps.open("handoff")
        self.bench = self.parts.benches["handoff"]
        self.bench.open_tab(1)
        self.page = self.bench.layers
        self.until(lambda: self.page.picture._bitmap is not None)

    def laid(self, than=None):
        """The layers laid on each other; others than some, where those are told."""
        if than is not None:
            self.until(lambda: (self.laid() != than).any())
        return unpack(self.page.picture._bitmap.packed).astype(int)

    def test_every_file_shows_what_it_will_look_like(self):
        for kind in ("gpl", "flat", "lit", "chart", "ora"):
            image = self.bench._rows[kind].glimpse.grab().toImage()
            colours = {image.pixel(x, y) for x in range(2, 74, 6) for y in range(2, 44, 6)}
            self.assertGreater(len(colours), 6, kind)

    def test_layers_are_hidden_by_their_boxes(self):
        before = self.laid()
        self.assertRegex(self.page.says.text(), r"CIEDE2000 0\.\d on the mean")
        self.assertIn("shade", self.page.eyes)
        self.page.eyes["key"].click()
        dark = self.laid(before)
        self.assertGreater(np.abs(dark - before).mean(), 1)
        self.page.eyes["grey check"].click()
        grey = self.laid(dark)
        self.assertLess((grey.max(axis=2) - grey.min(axis=2)).max(), 2)
        self.page.eyes["grey check"].click()
        self.page.eyes[self.region("sky").id].click()
        self.assertGreater((self.laid(grey) - dark).max(), 20)

    def test_how_light_is_handed_over_is_a_step_that_can_be_undone(self):
        self.press(self.page.light.buttons["repaintable"])
        self.until(lambda: not [n for n in self.page.eyes if n.startswith("for these")])
        self.assertEqual(self.desk.history.now.layers.light, "repaintable")
        self.press(self.page.clipped)
        self.page.grown.setValue(7)
        self.settle()
        self.assertEqual(
            (self.desk.history.now.layers.clipped, self.desk.history.now.layers.grown), (False, 7)
        )
        for _ in range(3):
            self.works.menus.run("undo")
        self.settle()
        self.assertEqual(self.desk.history.now.layers.light, "pictures")
        self.assertTrue(self.page.clipped.isChecked())


class TwoRecipes(Driven):
    def setUp(self):
        super().setUp()
        self.open()
        self.works.steps.open("ramps")
        self.settle()
        self.bench = self.parts.benches["ramps"]

    def test_another_recipe_is_seen_beside_and_taken(self):
        region = self.region("apron").id
        self.session.select(region)
        self.bench.open_tab(1)
        page = self.bench.compare
        self.until(lambda: page.pictures[OTHER]._bitmap is not None)
        pictures = [unpack(page.pictures[n]._bitmap.packed) for n in (NOW, OTHER)]
        self.assertTrue((pictures[0] != pictures[1]).any())
        balls = [page.balls[n]._bitmap.packed for n in (NOW, OTHER)]
        self.assertTrue((balls[0] != balls[1]).any())
        page.which.setCurrentIndex(page.which.findData("hsb-sum"))
        page.which.activated.emit(page.which.currentIndex())
        self.settle()
        self.press(page.take)
        self.settle()
        self.assertEqual(edits.study(self.desk.history.now).recipes[region].recipe, "hsb-sum")
        self.assertFalse(page.take.isEnabled())

        def alike():
            return bool(
                (page.pictures[NOW]._bitmap.packed == page.pictures[OTHER]._bitmap.packed).all()
            )

        self.until(alike)

    def test_amounts_change_the_chosen_ramp_alone(self):
        region = self.region("apron").id
        self.session.select(region)
        self.settle()
        before = {k: r._line.steps.steps for k, r in self.bench.rows.items()}
        self.bench.recipe.fields["dark_chroma"].setValue(30)
        self.settle()
        self.assertAlmostEqual(edits.study(self.desk.history.now).recipes[region].dark_chroma, 0.3)
        other = [k[0] for k, r in self.bench.rows.items() if r._line.steps.steps != before[k]]
        self.assertEqual(other, [region])
        row = self.bench.rows[region, 0]
        drag(row, [row.outline_box().center()])
        self.assertEqual(QGuiApplication.clipboard().text(), row._line.outline)

    def test_a_region_is_tied_to_another_and_follows_it(self):
        apron, coat = self.region("apron").id, self.region("coat").id
        self.session.select(apron)
        self.settle()
        tie = self.bench.tie
        tie.of.setCurrentIndex(tie.of.findData(coat))
        tie.of.activated.emit(tie.of.currentIndex())
        self.settle()
        ramp = self.bench.rows[coat, 0]._line.steps
        self.assertEqual(self.colour("apron").hex, ramp.steps[ramp.base - 1].hex)
        tie.step.setValue(-2)
        self.settle()
        self.assertEqual(self.colour("apron").hex, ramp.steps[ramp.base - 2].hex)
        tie.of.setCurrentIndex(0)
        tie.of.activated.emit(0)
        self.settle()
        self.assertEqual(edits.study(self.desk.history.now).shades, {})

    def pick(self, drawer, what):
        drawer.picking.what.setCurrentIndex(drawer.picking.what.findData(what))
        drawer.picking.what.activated.emit(drawer.picking.what.currentIndex())

    def test_a_pictures_light_is_read_from_a_place_in_light_and_one_in_shade(self):
        path = own_folder(self) / "ball.png"
        picture = Image.new("RGB", (90, 60), "#e8b878")
        picture.paste("#5a4a60", (45, 0, 90, 60))
        picture.save(path)
        self.works.menus.run("reference")
        drawer = self.parts.drawers["reference"]
        drawer.added_path.emit(path)
        self.settle()
        self.pick(drawer, LIGHT)
        box, past, said = drawer.picture.frame(), len(self.desk.history.past), []
        for share in (0.8, 0.2, 0.2, 0.8):  # first the wrong way round: nothing comes of that
            place = QPointF(box.x() + box.width() * share, box.center().y())
            QTest.mouseClick(drawer.picture, Qt.MouseButton.LeftButton, pos=place.toPoint())
            said.append(drawer.picking.says.text())
        self.assertIn("hardly lighter", said[1])
        self.settle()
        rig = edits.study(self.desk.history.now).rig
        wanted = read_rig(["#e8b878"], ["#5a4a60"])
        self.assertEqual((rig.key.hex, rig.ambient.hex), (wanted.key, wanted.ambient))
        self.assertTrue(rig.on)
        self.assertEqual(len(self.desk.history.past), past + 1)
        self.assertIn("taking for granted", drawer.picking.says.text())

    def test_picks_on_a_reference_become_the_steps_of_a_ramp(self):
        path = own_folder(self) / "swatch.png"
        colours = ["#2a1a4a", "#e08a4a", "#ffe0a0"]
        picture = Image.new("RGB", (90, 60))
        for i, colour in enumerate(colours):
            picture.paste(colour, (i * 30, 0, i * 30 + 30, 60))
        picture.save(path)
        region = self.region("apron").id
        self.works.menus.run("reference")
        drawer = self.parts.drawers["reference"]
        drawer.added_path.emit(path)
        self.settle()
        self.session.select(region)
        self.pick(drawer, STEP)
        box = drawer.picture.frame()
        for share in (0.15, 0.5, 0.85):
            place = QPointF(box.x() + box.width() * share, box.center().y())
            QTest.mouseClick(drawer.picture, Qt.MouseButton.LeftButton, pos=place.toPoint())
        self.settle()
        ramp = edits.study(self.desk.history.now).recipes[region]
        self.assertEqual((ramp.recipe, ramp.picked), ("borrowed", tuple(colours)))
        self.works.steps.open("ramps")
        self.settle()
        recipe = self.parts.benches["ramps"].recipe
        self.assertEqual(recipe.picked.text(), ", ".join(colours))
        self.enter(recipe.picked, "#2a1a4a, red")
        self.assertEqual(recipe.picked.text(), ", ".join(colours))


class OwnShading(Driven):
    def setUp(self):
        super().setUp()
        path = own_folder(self) / "grey.png"
        Image.fromarray(drawings.grey_thumbnail(9, 4, (480, 360), 8).rgb).save(path)
        wait(self.desk.opened, lambda: self.works.files.open_path(path))
        self.settle()
        self.bench = self.parts.benches["sketch"]
        self.bench.open_tab(READING)
        self.part = self.bench.reading.shading
        self.path = path

    def choose(self, hue):
        self.part.hue.setCurrentIndex(self.part.hue.findData(hue))
        self.part.hue.activated.emit(self.part.hue.currentIndex())
        self.settle()

    def test_one_gradient_colours_the_greys_and_comes_from_a_file_too(self):
        grey = unpack(self.desk.live.bitmap.packed).astype(int)
        self.choose("gradient")
        self.assertTrue(self.part.stops.isVisible())
        self.enter(self.part.stops, "#1a1030, #c8603c, #fff6e0")
        found = unpack(self.desk.live.bitmap.packed).astype(int)
        self.assertGreater((found.max(axis=2) - found.min(axis=2)).mean(), 20)
        self.assertEqual(grey.shape, found.shape)
        file = self.path.with_suffix(".ggr")
        file.write_text(ggr.text("x", ["#001030", "#e0f0ff"]))
        self.answers.path = file
        self.press(self.part.open)
        self.settle()
        shading = edits.study(self.desk.history.now).shading
        self.assertEqual((shading.hue, shading.stops), ("gradient", ("#001030", "#e0f0ff")))

    def test_a_region_has_a_gradient_of_its_own_until_it_is_emptied(self):
        self.assertFalse(self.part.own.isVisible())
        region = max(self.desk.derived.regions, key=lambda r: self.desk.derived.shares[r.id])
        self.session.select(region.id)
        self.settle()
        self.assertIn("alone", self.part.own_of.text())
        grey = unpack(self.desk.live.bitmap.packed).astype(int)
        self.enter(self.part.own, "#301008, #f0b040")
        there = self.desk.derived.drawing.labels == region.label
        found = unpack(self.desk.live.bitmap.packed).astype(int)
        spread = (found.max(axis=2) - found.min(axis=2))[there]
        self.assertGreater(np.median(spread), 30)
        far = np.abs(found - grey).max(axis=2)[~there]
        self.assertLess(np.percentile(far, 90), 2)  # but for smooth borders the others stay
        other = next(r for r in self.desk.derived.regions if r.id != region.id)
        self.session.select(other.id)
        self.settle()
        self.assertEqual(self.part.own.text(), "")
        self.session.select(region.id)
        self.settle()
        self.assertEqual(self.part.own.text(), "#301008, #f0b040")
        self.enter(self.part.own, "rust")
        self.assertEqual(self.part.own.text(), "#301008, #f0b040")
        self.part.own.selectAll()
        QTest.keyClick(self.part.own, Qt.Key.Key_Delete)
        QTest.keyClick(self.part.own, Qt.Key.Key_Return)
        self.settle()
        self.assertEqual(edits.study(self.desk.history.now).recipes[region.id].over, ())

    def test_shade_leans_to_a_colour_of_ones_own(self):
        self.choose("own")
        self.enter(self.part.poles["shade"], "#2040ff")
        self.assertEqual(edits.study(self.desk.history.now).shading.shade_hex, "#2040ff")
        self.enter(self.part.poles["shade"], "bluish")
        self.assertEqual(self.part.poles["shade"].text(), "#2040ff")


class Press(Driven):
    def seen(self):
        """The mean of the view on the stage, levels."""
        return unpack(self.works.director._seen.packed).mean(axis=(0, 1)).round(1).tolist()

    def test_an_own_profile_is_chosen_shown_and_given_back_and_a_wrong_one_is_said(self):
        self.open()
        self.works.menus.run("brief")
        row = self.parts.drawers["brief"].press
        self.assertIn("offset", row.title.text())
        self.assertFalse(row.shipped.isVisible())
        self.session.put_on_stage("print")
        self.settle()
        self.parts.strip.show_views(["print", "grey", "squint", "small"])
        self.settle()
        before, tile = self.seen(), self.parts.strip.tiles[0]._image.copy()
        folder = own_folder(self)
        (folder / "bad.icc").write_bytes(b"no profile")
        self.answers.path = folder / "bad.icc"
        QTest.mouseClick(row.choose, Qt.MouseButton.LeftButton)
        self.assertIn("is no ICC profile", self.parts.notice.text())
        self.assertEqual(self.seen(), before)
        (folder / "shop.icc").write_bytes(scenes.wide_press())
        self.answers.path = folder / "shop.icc"
        QTest.mouseClick(row.choose, Qt.MouseButton.LeftButton)
        self.settle()
        self.assertEqual(row.title.text(), "sRGB built-in")
        self.assertNotEqual(self.parts.strip.tiles[0]._image, tile)
        self.assertNotEqual(self.seen(), before)
        QTest.mouseClick(row.shipped, Qt.MouseButton.LeftButton)
        self.settle()
        self.assertEqual(self.seen(), before)


class PlanSheet(Driven):
    def setUp(self):
        super().setUp()
        self.open()
        self.works.steps.open("handoff")
        self.bench = self.parts.benches["handoff"]
        self.bench.open_tab(self.bench.pages.indexOf(self.bench.plan_sheet))
        self.page = self.bench.plan_sheet
        self.until(lambda: not self.page.picture._image.isNull())

    def shown(self):
        return self.page.picture._image

    def test_it_is_seen_as_it_will_print_and_follows_what_is_wished_and_the_plan(self):
        before = self.shown().copy()
        self.assertGreater(before.width(), before.height())
        self.page.upright.click()
        self.until(lambda: self.shown().width() < self.shown().height())
        upright = self.shown().copy()
        self.page.parts["checks"].click()
        self.until(lambda: self.shown() != upright and not self.page.picture.coming)
        fewer = self.shown().copy()
        self.do(change_setting("title", "Another page"))
        self.until(lambda: self.shown() != fewer and not self.page.picture.coming)
        self.page.paper.buttons["Letter"].click()
        self.until(lambda: abs(self.shown().height() / self.shown().width() - 11 / 8.5) < 0.01)

    def written(self, name):
        self.answers.path = own_folder(self) / name
        wait(self.desk.orders.rested, self.page.write.click)
        return self.answers.path

    def test_it_is_written_as_what_its_name_says(self):
        png = Image.open(self.written("a.png"))
        self.assertEqual(png.size, (round(297 / 25.4 * 200), round(210 / 25.4 * 200)))
        self.assertAlmostEqual(png.info["dpi"][0], 200, delta=1)
        self.assertIn(b"<svg", self.written("a.svg").read_bytes()[:200])
        bare = self.written("bare")
        self.assertTrue(bare.with_suffix(".pdf").read_bytes().startswith(b"%PDF"))
        bare.with_suffix(".pdf").write_bytes(b"another")
        self.answers.path = bare
        self.page.write.click()  # the dialog asked about the bare name alone
        self.settle()
        self.assertEqual(bare.with_suffix(".pdf").read_bytes(), b"another")
        self.assertFalse(self.written("a.docx").exists())
        self.assertIn(".pdf, .svg or .png", self.parts.notice.text())

    def test_text_of_the_pdf_is_text_and_its_page_is_the_papers(self):
        path = self.written("a.pdf")
        data = path.read_bytes()
        box = re.search(rb"/MediaBox \[\s*0 0 ([\d.]+) ([\d.]+)", data)
        self.assertAlmostEqual(float(box[1]) / 72 * 25.4, 297, delta=0.5)
        self.assertAlmostEqual(float(box[2]) / 72 * 25.4, 210, delta=0.5)
        self.assertEqual(data.count(b"/Type /Page\n"), 1)
        self.assertIn(b"SourceSans3", data)  # the program's own typeface, whatever is installed
        if shutil.which("pdftotext") is None:
            self.skipTest("pdftotext (poppler-utils) is not on this machine")
        done = subprocess.run(["pdftotext", "-layout", path, "-"], capture_output=True, text=True)
        for words in ("Lighthouse Bakery", "Values, dark to light", "Open checks", "sea"):
            self.assertIn(words, done.stdout)
        self.assertEqual(done.stderr, "")


class LinkedFolder(Driven):
    def setUp(self):
        super().setUp()
        self.folder = own_folder(self)
        self.open()
        self.works.steps.open("handoff")
        self.bench = self.parts.benches["handoff"]
        self.out = self.folder / "out"
        self.out.mkdir()
        self.type(self.bench.folder, str(self.out))
        for kind, box in self.bench.kinds.items():
            box.setChecked(kind in ("gpl", "hex"))
        self.answers.path = self.folder / "mine.umber"

    def save(self):
        wait(self.desk.orders.rested, self.works.menus.of["save"].trigger)
        self.settle()

    def names(self):
        return sorted(p.suffix for p in self.out.iterdir())

    def test_files_follow_every_save_until_that_is_taken_away(self):
        self.save()
        self.assertEqual(self.names(), [])
        self.bench.linked.click()
        self.save()
        self.assertEqual(self.names(), [".gpl", ".hex"])
        before = {p: p.read_bytes() for p in self.out.iterdir()}
        self.do(turn_lead(40))
        self.save()
        self.assertTrue(all(p.read_bytes() != old for p, old in before.items()))
        self.bench.kinds["css"].click()  # the link follows what is chosen
        self.save()
        self.assertEqual(self.names(), [".css", ".gpl", ".hex"])
        self.bench.linked.click()
        gone = {p: p.read_bytes() for p in self.out.iterdir()}
        self.do(turn_lead(80))
        self.save()
        self.assertEqual({p: p.read_bytes() for p in self.out.iterdir()}, gone)

    def test_it_is_known_again_with_the_plan_and_with_no_other(self):
        file = str(self.folder / "window.ini")
        self.works.remembered._settings = QSettings(file, QSettings.Format.IniFormat)
        self.bench.linked.click()
        self.save()
        self.open()
        self.assertFalse(self.bench.linked.isChecked())
        self.works.files.handing_off.choose_folder(str(self.folder / "other"))
        self.open(self.answers.path)
        self.assertTrue(self.bench.linked.isChecked())
        self.assertEqual(self.bench.folder.text(), str(self.out))
        self.assertEqual(self.works.files.handing_off.folder, str(self.out))
        chosen = {k for k, b in self.bench.kinds.items() if b.isChecked()}
        self.assertEqual(chosen, {"gpl", "hex"})

    def test_a_folder_with_a_blank_can_be_typed_while_it_is_linked(self):
        self.bench.linked.click()
        QTest.keyClicks(self.bench.folder, " of two")
        self.assertEqual(self.bench.folder.text(), f"{self.out} of two")
        self.assertEqual(self.works.files.handing_off.links.link.folder, f"{self.out} of two")
        self.assertTrue(self.bench.linked.isChecked())

    def test_a_folder_that_is_gone_and_files_of_others_are_said_and_left(self):
        self.bench.linked.click()
        self.out.rmdir()
        self.save()
        self.assertIn("is gone", self.parts.notice.text())
        self.assertFalse(self.out.exists())
        self.assertTrue(self.answers.path.exists())
        self.out.mkdir()
        other = self.out / "lighthouse-bakery.gpl"
        other.write_text("GIMP Palette\n1 2 3\n")
        self.do(turn_lead(40))
        self.save()
        self.assertIn("stay as they are", self.parts.notice.text())
        self.assertEqual(other.read_text(), "GIMP Palette\n1 2 3\n")
        self.assertEqual(self.names(), [".gpl"])
