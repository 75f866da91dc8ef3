"""Every bench and part of the frame, driven as a hand would; the plan, the pixels, the words."""

import time
import unittest
from unittest import mock

import numpy as np
from PIL import Image
from PySide6.QtCore import QEvent, QMimeData, QPointF, Qt, QUrl
from PySide6.QtGui import QDragEnterEvent, QGuiApplication
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from tests import scenes
from tests.window.driving import DEMO, InWindow, drag, dropped, mouse, wait
from umber_compass import document
from umber_compass.formats import atomic
from umber_compass.picture.indexed import paint
from umber_compass.plan import edits, harmony_edits
from umber_compass.plan.settings import change_setting
from umber_compass.views import VIEWS
from umber_compass.window.benches import BENCHES
from umber_compass.window.widgets import theme

SKY = (300, 30)  # a place in the demo's sky, picture px
COAT = (287, 370)


class Harmony(InWindow):
    def setUp(self):
        super().setUp()
        self.open()
        self.rose = self.parts.benches["harmony"].rose

    def knob(self, slot):
        angle = self.rose._parts.needles[slot]
        return self.rose.dial.at(angle, self.rose.dial.radius - 6)

    def test_dragging_the_lead_turns_the_picture_in_one_step(self):
        self.assertTrue(self.parts.hint.isVisible())
        before, sea = self.pixel(*SKY), self.colour("sea")
        places = [self.rose.dial.at(216 + d, self.rose.dial.radius - 6) for d in (0, 10, 40, 90)]
        drag(self.rose, places)
        self.assertAlmostEqual(edits.study(self.desk.history.now).scheme.lead_deg, 306, delta=1)
        self.assertNotEqual(self.pixel(*SKY), before)
        self.assertAlmostEqual(self.colour("sea").value, sea.value, delta=0.6)
        self.assertEqual(self.colour("skin").slot, "given")
        self.assertEqual(len(self.desk.history.past), 1)
        self.assertFalse(self.parts.hint.isVisible())
        self.assert_exact()

    def test_another_knob_spreads_a_petal_turns_its_family(self):
        drag(self.rose, [self.knob("B"), self.rose.dial.at(341, self.rose.dial.radius - 6)])
        self.assertAlmostEqual(edits.study(self.desk.history.now).scheme.spread_deg, 55, delta=2)
        petal = next(p for p in self.rose._parts.petals if p.region == self.region("awning").id)
        far = (self.rose.dial.radius - 15) * petal.chroma / 0.22 - 3
        before = {n: self.colour(n).hex for n in ("awning", "apron", "sea")}
        drag(
            self.rose,
            [self.rose.dial.at(petal.angle, far), self.rose.dial.at(petal.angle + 30, far)],
        )
        self.assertNotEqual(self.colour("awning").hex, before["awning"])
        self.assertNotEqual(self.colour("apron").hex, before["apron"])
        self.assertEqual(self.colour("sea").hex, before["sea"])

    def test_the_spread_is_taken_across_nought_degrees_without_a_jump(self):
        for lead in (350.0, 5.0, 180.0):
            self.do(harmony_edits.turn_lead(lead))
            self.desk.seal()
            for slot, (base, way) in self.rose._parts.spreads.items():
                at = (lead + base + way * 40) % 360
                drag(self.rose, [self.knob(slot), self.rose.dial.at(at, self.rose.dial.radius - 6)])
                scheme = edits.study(self.desk.history.now).scheme
                self.assertAlmostEqual(scheme.spread_deg, 40, delta=1.5)
                self.assertEqual(scheme.lead_deg, lead)

    def test_keys_fields_and_words_do_the_same(self):
        QTest.keyClick(self.rose, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
        QTest.keyClick(self.rose, Qt.Key.Key_Up)
        scheme = edits.study(self.desk.history.now).scheme
        self.assertEqual((scheme.lead_deg, scheme.spread_deg), (226, 39))
        field = self.parts.benches["harmony"].wheel_page.lead
        field.setFocus()
        field.selectAll()
        QTest.keyClicks(field, "100")
        QTest.keyClick(field, Qt.Key.Key_Return)
        self.assertEqual(edits.study(self.desk.history.now).scheme.lead_deg, 100)
        QTest.keyClick(field, Qt.Key.Key_Up)
        self.assertEqual(edits.study(self.desk.history.now).scheme.lead_deg, 101)
        for button in (
            self.parts.benches["harmony"].wheel_page.supports,
            self.parts.benches["harmony"].wheel_page.answers,
        ):
            for i in range(len(button.menu().actions())):
                action = button.menu().actions()[i]
                title = action.text().split("(")[1].rstrip(")")
                action.trigger()
                self.assertIn(title, self.parts.benches["harmony"].says.text())
        for wheel, button in self.parts.benches["harmony"].wheel_page.wheels.items():
            self.press(button)
            self.assertEqual(edits.study(self.desk.history.now).scheme.wheel, wheel)

    def test_shares_are_wished_by_drag_and_key(self):
        shares = self.parts.benches["harmony"].wheel_page.shares
        box = shares.boxes()[0]
        drag(shares, [box.center(), QPointF(box.x() + box.width() * 0.7, box.center().y())])
        self.assertAlmostEqual(edits.study(self.desk.history.now).scheme.shares["A"], 0.7, places=2)
        QTest.keyClick(shares, Qt.Key.Key_Left)
        self.assertAlmostEqual(
            edits.study(self.desk.history.now).scheme.shares["A"], 0.69, places=2
        )


class Values(InWindow):
    def setUp(self):
        super().setUp()
        self.open()
        self.works.steps.open("values")
        QApplication.processEvents()
        self.ladder = self.parts.benches["values"].ladder

    def test_a_chip_that_is_taken_by_its_edge_does_not_jump(self):
        box, chip = next((b, c) for b, c in self.ladder.boxes() if c.name == "coat")
        before = self.colour("coat").value
        for off in (-5.0, 4.0):
            place = QPointF(box.center().x(), self.ladder.scale.y_of(chip.value) + off)
            drag(self.ladder, [place, place])
            self.assertAlmostEqual(self.colour("coat").value, before, delta=0.3)

    def test_a_chip_is_dragged_and_the_pixels_follow(self):
        planned = self.colour("coat").value
        box = next(b for b, c in self.ladder.boxes() if c.name == "coat")
        drag(
            self.ladder,
            [box.center(), box.center() - QPointF(0, 20), box.center() - QPointF(0, 60)],
        )
        coat = self.colour("coat")
        wanted = planned + 60 / (self.ladder.scale.y_of(0) - self.ladder.scale.y_of(100)) * 100
        self.assertAlmostEqual(coat.value, wanted, delta=1)
        self.assertEqual(len(self.desk.history.past), 1)
        self.assert_exact()
        self.do(change_setting("light.on", False))
        self.assertEqual(self.pixel(*COAT), coat.hex)
        np.testing.assert_array_equal(
            self.desk.live.bitmap.packed, paint(self.desk.derived.indexed, self.desk.derived.table)
        )
        self.assertEqual(self.session.selection, self.region("coat").id)

    def test_keys_and_fields(self):
        self.session.select(self.region("sky").id)
        QTest.keyClick(self.ladder, Qt.Key.Key_Up, Qt.KeyboardModifier.ShiftModifier)
        sky = edits.study(self.desk.history.now).colours[self.region("sky").id]
        self.assertAlmostEqual(sky.first.value, 77.9, delta=0.5)
        bar = self.parts.benches["values"].page.bar
        for field, number in ((bar.value, 40), (bar.chroma, 0.02), (bar.turn, 12)):
            field.setValue(number)
        sky = edits.study(self.desk.history.now).colours[self.region("sky").id].first
        self.assertEqual((sky.value, sky.chroma, sky.hue_offset_deg), (40, 0.02, 12))

    def test_a_limit_is_dragged_and_the_check_follows(self):
        y = self.ladder.scale.y_of(80)
        drag(
            self.ladder,
            [
                QPointF(40, y),
                QPointF(40, self.ladder.scale.y_of(68)),
            ],
        )
        self.assertEqual(self.desk.history.now.overrides["extremes.light"], 68)
        self.settle()
        self.assertIn(
            "darker than 20 or lighter than 68 L*",
            " ".join(str(r.result.text) for r in self.parts.checks.rows),
        )

    def test_a_fix_is_previewed_then_taken_then_undone(self):
        self.settle(fixes=True)
        row = self.parts.checks.rows[0]
        self.assertIn("Coat and sea merge", str(row.result.title))
        before, seen = self.colour("coat").hex, self.pixel(*COAT)
        QApplication.sendEvent(row.button, QEvent(QEvent.Type.Enter))
        wait(row._timer.timeout)
        QTest.qWait(0)
        self.assertTrue(self.parts.stage.fading.image is not None)
        while self.parts.stage.fading.opacity < 1:
            wait(self.parts.stage.fading.clock.timeout)
        self.assertNotEqual(self.pixel(*COAT), seen)
        self.assertEqual(self.colour("coat").hex, before)
        QApplication.sendEvent(row.button, QEvent(QEvent.Type.Leave))
        self.assertEqual(self.pixel(*COAT), seen)
        self.press(row.button)
        self.assertGreater(self.colour("coat").value, 54)
        self.assertEqual(self.parts.route.stops["values"].warnings, 0)
        self.works.menus.run("undo")
        self.assertEqual(self.colour("coat").hex, before)
        self.assertIn("Lighten coat", self.works.menus.of["redo"].text())

    def test_hold_b_and_o(self):
        first = self.pixel(*SKY)
        self.do(harmony_edits.turn_lead(10))
        self.desk.seal()
        second = self.pixel(*SKY)
        self.do(harmony_edits.turn_lead(90))
        third = self.pixel(*SKY)
        for key, held in ((Qt.Key.Key_B, second), (Qt.Key.Key_O, first)):
            QTest.keyPress(self.ladder, key)
            self.assertEqual(self.pixel(*SKY), held)
            QTest.keyRelease(self.ladder, key)
            self.assertEqual(self.pixel(*SKY), third)
        field = self.parts.benches["values"].page.bar.value
        self.session.select(self.region("sea").id)
        field.setFocus()
        with mock.patch("PySide6.QtWidgets.QApplication.focusWidget", return_value=field):
            QTest.keyPress(field, Qt.Key.Key_B)
        self.assertEqual(self.session.held, "")


class OtherBenches(InWindow):
    def setUp(self):
        super().setUp()
        self.open()

    def test_ramps_change_by_region_and_for_all(self):
        self.works.steps.open("ramps")
        self.settle()
        bench = self.parts.benches["ramps"]
        self.session.select(self.region("apron").id)
        self.press(bench.recipe.recipes["straight"])
        ramps = edits.study(self.desk.history.now).recipes
        self.assertEqual(
            {k: r.recipe for k, r in ramps.items()}, {self.region("apron").id: "straight"}
        )
        self.assertFalse(bench.within.isEnabled())
        bench.edit_wanted.emit(change_setting("budget", 40))
        for _ in range(
            100
        ):  # the steps may have to be worked out anew, however busy the machine is
            self.settle()
            if "budget" in bench._count.text():
                break
            QTest.qWait(20)
        self.assertIn("over the budget of 40", bench._count.text())
        self.press(bench.within)
        self.settle()
        self.assertEqual(bench._count.text(), "40 colours in all")
        self.assertRegex(bench._count.toolTip(), "off by CIEDE2000 [0-9.]+ on the mean")
        self.press(bench.within)
        self.settle()
        bench.recipe.every.setChecked(True)
        self.press(bench.recipe.recipes["hsb-sum"])
        self.assertEqual(
            {r.recipe for r in edits.study(self.desk.history.now).recipes.values()}, {"hsb-sum"}
        )
        bench.recipe.fields["lighter"].setValue(4)
        self.settle()
        row = bench.rows[self.region("sea").id, 0]
        made = row._line.steps
        self.assertEqual(len(row.boxes()), 8 - made.left_out)
        drag(row, [row.boxes()[0].center()])
        self.assertEqual(QGuiApplication.clipboard().text(), row._line.steps.steps[0].hex)
        QTest.keyClick(row, Qt.Key.Key_Right)
        QTest.keyClick(row, Qt.Key.Key_Return)
        self.assertEqual(QGuiApplication.clipboard().text(), row._line.steps.steps[1].hex)

    def test_region_actions(self):
        self.session.select(self.region("sea").id)
        for name in ("gradient", "pin", "copy"):
            self.works.menus.run(name)
        self.assertEqual(len(self.desk.derived.colours[self.region("sea").id].ends), 2)
        self.assertEqual(QGuiApplication.clipboard().text(), self.colour("sea").hex)
        seen = set()
        for _ in self.desk.history.now.regions:
            self.works.menus.run("next-region")
            seen.add(self.session.selection)
        self.assertEqual(len(seen), len(self.desk.history.now.regions))

    def test_the_practice_drawer_changes_a_rule_and_restores_it(self):
        self.works.menus.run("practice")
        self.assertIs(self.parts.stack.currentWidget(), self.parts.drawers["practice"])
        self.parts.drawers["practice"]._fields["figure-merges.note"].setValue(30)
        self.assertEqual(self.desk.history.now.overrides, {"figure-merges.note": 30})
        self.press(self.parts.drawers["practice"].restore)
        self.assertEqual(self.desk.history.now.overrides, {})

    def test_hand_off_writes_what_is_chosen_and_refuses_others_files(self):
        with scenes.tempfile.TemporaryDirectory() as name:
            self.works.steps.open("handoff")
            bench = self.parts.benches["handoff"]
            self.type(bench.folder, name)
            for kind in ("flat", "lit", "chart", "ora"):
                bench.kinds[kind].setChecked(False)
            wait(self.desk.worker.idle, lambda: self.press(bench.write))
            self.assertEqual(
                [p.name for p in scenes.Path(name).iterdir()], ["lighthouse-bakery.gpl"]
            )
            self.assertIn("Wrote lighthouse-bakery.gpl", self.parts.notice.text())
            (scenes.Path(name) / "lighthouse-bakery.gpl").write_text("mine")
            wait(self.desk.worker.idle, lambda: self.press(bench.write))
            self.assertIn("lighthouse-bakery.gpl", self.answers.asked[-1])
            self.assertIn("Nothing was written", self.parts.notice.text())
            self.assertEqual((scenes.Path(name) / "lighthouse-bakery.gpl").read_text(), "mine")
            self.answers.may_replace = True
            wait(self.desk.worker.idle, lambda: self.press(bench.write))
            self.settle()
            self.assertIn("Wrote lighthouse-bakery.gpl", self.parts.notice.text())
            bench.kinds["gpl"].setChecked(False)
            self.assertFalse(bench.write.isEnabled())


class Frame(InWindow):
    def test_an_empty_window_says_what_to_do(self):
        self.assertTrue(self.works.start.isVisible())
        for name in self.works.menus.specs:
            if name not in ("quit", "demo"):
                self.works.menus.run(name)

    def test_every_action_has_a_place_and_no_shortcut_twice(self):
        self.open()
        specs = self.works.menus.specs
        keys = [s.keys for s in specs.values() if s.keys]
        self.assertEqual(len(keys), len(set(keys)))
        for name in specs:
            if name not in ("quit", "new", "open", "save-as", "save", "demo"):
                with self.subTest(name):
                    self.works.menus.of[name].trigger()

    def test_tray_selects_copies_and_gives(self):
        self.open()
        tray = self.parts.tray
        self.assertGreater(min(b.width() for b, _ in tray.boxes()), 4)
        box, swatch = tray.boxes()[0]
        drag(tray, [box.center()])
        self.assertEqual((self.session.selection, swatch.name), (self.region("sky").id, "sky"))
        QTest.keyClick(tray, Qt.Key.Key_Right)
        QTest.keyClick(tray, Qt.Key.Key_Return)
        self.assertEqual(QGuiApplication.clipboard().text(), self.colour("sea").hex)
        mime = QMimeData()
        at = self.parts.stage.from_picture(*COAT)
        coat = self.colour("coat").hex
        for odd in (b"r3", b"\xff\xfe", b"", b"#12345g"):
            mime.setData("application/x-umber-swatch", odd)
            self.parts.stage.dropEvent(dropped(mime, at.toTuple()))
            self.assertIn("not a colour", self.parts.notice.text())
            self.assertEqual(self.colour("coat").hex, coat)
        mime.setData("application/x-umber-swatch", self.colour("awning").hex.encode())
        self.parts.stage.dropEvent(dropped(mime, at.toTuple()))
        self.assertEqual(self.colour("coat").hex, self.colour("awning").hex)

    def test_pointing_clicking_and_double_clicking_the_picture(self):
        self.open()
        stage = self.parts.stage
        mouse(stage, QEvent.Type.MouseMove, stage.from_picture(*SKY), Qt.MouseButton.NoButton)
        self.assertRegex(self.parts.notice.text(), r"sky, ground:  #\w+  value \d+ L\*  chroma")
        mouse(stage, QEvent.Type.MouseButtonPress, stage.from_picture(*COAT))
        self.assertEqual(self.session.selection, self.region("coat").id)
        self.assertIsNotNone(stage._over)
        mouse(stage, QEvent.Type.MouseButtonDblClick, stage.from_picture(*SKY))
        self.assertEqual(self.session.selection, self.region("sky").id)
        self.assertEqual(self.works.colouring.field.name.text(), "sky")
        self.works.colouring.close()

    def test_views_on_the_stage_and_back(self):
        self.open()
        plain = self.parts.stage.grab().toImage()
        for tile in self.parts.strip.tiles:
            self.assertIsNotNone(tile._image)
            tile.click()
            self.assertNotEqual(self.parts.stage.grab().toImage(), plain)
            self.assertEqual(self.session.view, tile.view)
        self.works.menus.run("picture")
        self.assertEqual(self.parts.stage.grab().toImage(), plain)
        tile = self.parts.strip.tiles[0]
        wait(self.desk.worker.idle, lambda: tile.view_wanted.emit("mirrored"))
        self.assertEqual((tile.view, tile.text()), ("mirrored", VIEWS["mirrored"].title))
        tile.click()
        where = self.parts.stage.from_picture(640 - COAT[0], COAT[1])
        mouse(self.parts.stage, QEvent.Type.MouseButtonPress, where)
        self.assertEqual(self.session.selection, self.region("coat").id)

    def test_the_rooms_keep_every_text_readable(self):
        for room in theme.ROOMS.values():
            for ink in (room.ink, room.quiet):
                for ground in (room.ground, room.edge, room.card):
                    self.assertGreaterEqual(_contrast(ink, ground), 4.5, (room.name, ink, ground))
            for part in room[2:]:
                self.assertEqual(len({part[1:3], part[3:5], part[5:7]}), 1)
        self.open()
        self.works.menus.run("room-night")
        while self.window.dressing.turn.isActive():
            QApplication.processEvents()
        QApplication.processEvents()
        corner = (
            self.window.grab()
            .toImage()
            .pixelColor(self.window.width() - 4, self.window.height() - 4)
        )
        self.assertEqual(corner.name(), theme.ROOMS["night"].ground)
        self.works.menus.run("room-gallery")

    def test_it_fits_at_1100_by_700(self):
        self.window.resize(1100, 700)
        self.open()
        for step in BENCHES:
            self.works.steps.open(step)
            QApplication.processEvents()
            self.assertEqual((self.window.width(), self.window.height()), (1100, 700))
            right = self.parts.right.geometry().right()
            self.assertLess(right, 1100)


def _contrast(one, two):
    from umber_compass.colour import spaces

    lum = sorted(float(spaces.luminance(spaces.decode(spaces.parse_hex(c)))) for c in (one, two))
    return (lum[1] + 0.05) / (lum[0] + 0.05)


class Files(InWindow):
    def setUp(self):
        super().setUp()
        held = scenes.tempfile.TemporaryDirectory()
        self.addCleanup(held.cleanup)
        self.folder = scenes.Path(held.name)
        self.sketch = self.folder / "boat.png"
        self.sketch.write_bytes(scenes.encoded(scenes.draw()))

    def drop(self, path):
        mime = QMimeData()
        mime.setUrls([QUrl.fromLocalFile(str(path))])
        enter = QDragEnterEvent(
            QPointF(5, 5).toPoint(),
            Qt.DropAction.CopyAction,
            mime,
            Qt.MouseButton.LeftButton,
            Qt.KeyboardModifier.NoModifier,
        )
        self.window.dragEnterEvent(enter)
        self.assertTrue(enter.isAccepted())
        self.window.dropEvent(dropped(mime))

    def test_small_views_show_the_plan_that_is_on_after_the_wall(self):
        self.open(DEMO)
        self.works.steps.open("studies")
        self.settle()
        path = self.folder / "red.png"
        Image.new("RGB", (64, 40), "#c02020").save(path)
        self.works.files.open_path(path)
        self.settle()
        self.works.steps.open("studies")
        self.settle()
        self.works.steps.open("harmony")
        self.settle()
        shown = [b.packed for b in self.works.small_views._bitmaps]
        self.assertEqual([len(np.unique(p)) for p in shown[:3]], [1, 1, 1])
        self.assertGreater(len(np.unique(shown[3])), 1)  # red, small on a wall

    def test_what_is_clear_is_checked_and_no_lightest_light(self):
        sprite = Image.new("RGBA", (24, 24), (0, 0, 0, 0))
        sprite.paste((40, 60, 120, 255), (4, 4, 20, 20))
        sprite.paste((200, 80, 60, 255), (8, 8, 14, 14))
        path = self.folder / "sprite.png"
        sprite.save(path)
        wait(self.desk.opened, lambda: self.works.files.open_path(path))
        self.settle()
        tones = {self.pixel(1, y) for y in range(4)}
        self.assertEqual(tones, {"#ffffff", "#e6e6e6"})
        self.assertEqual(int(self.desk.live.bitmap.packed[0, 0]), 0xFFFFFF)  # only on screen
        pure = next(r for r in self.desk.judge.results if r.check == "pure")
        self.assertNotIn("100", str(pure.text))

    def test_a_dropped_picture_becomes_a_plan(self):
        wait(self.desk.opened, lambda: self.drop(self.sketch))
        self.assertEqual(self.parts.title.text(), "Boat")
        self.assertEqual(len(self.desk.history.now.regions), 5)

    def test_bad_files_are_one_line_and_nothing_is_lost(self):
        self.open()
        self.do(harmony_edits.turn_lead(12))
        plain = np.full((80, 80, 4), 0, np.uint8)
        (self.folder / "clear.png").write_bytes(scenes.encoded(plain))
        (self.folder / "cut.umber").write_bytes(DEMO.read_bytes()[:9000])
        (self.folder / "text.png").write_text("hello")
        (self.folder / "zip.umber").write_bytes(b"PK\x03\x04 not")
        plan = self.desk.history.now
        self.answers.unsaved_answer = "discard"
        for name, words in (
            ("clear.png", "nothing is painted"),
            ("cut.umber", "damaged"),
            ("text.png", "not a picture"),
            ("zip.umber", "damaged"),
            ("gone.umber", "no such file"),
        ):
            with self.subTest(name):
                wait(self.desk.worker.idle, lambda n=name: self.drop(self.folder / n))
                said = self.parts.notice.text()
                self.assertTrue(said.startswith("▲") and words in said and "\n" not in said, said)
                self.assertIs(self.desk.history.now, plan)

    def test_unsaved_work_is_asked_about_once(self):
        self.open()
        self.do(harmony_edits.turn_lead(12))
        plan = self.desk.history.now
        self.answers.unsaved_answer = "cancel"
        self.window.close()
        self.drop(self.sketch)
        self.assertTrue(self.window.isVisible())
        self.assertIs(self.desk.history.now, plan)
        self.assertEqual(self.answers.asked, ["unsaved", "unsaved"])
        self.answers.unsaved_answer, self.answers.path = "save", self.folder / "kept.umber"
        wait(self.desk.opened, lambda: self.drop(self.sketch))
        self.assertTrue((self.folder / "kept.umber").exists())
        self.assertEqual(self.answers.asked[-1], "save as")

    def test_a_save_that_fails_says_so_and_stays_unsaved(self):
        self.open()
        self.do(harmony_edits.turn_lead(12))
        self.answers.path = self.folder / "none" / "x.umber"
        wait(self.desk.worker.idle, lambda: self.works.menus.run("save"))
        self.assertIn("could not be written", self.parts.notice.text())
        self.assertTrue(self.desk.unsaved)

    def saved(self, name="boat.umber"):
        """A plan of the boat in a file."""
        made = document.bring_in(self.sketch)
        path = self.folder / name
        document.save(made.plan, made.pixels, path)
        return path

    def test_a_save_names_its_own_document(self):
        """Saved while another plan is read: the other keeps its own file."""
        one, two = self.saved("one.umber"), self.saved("two.umber")
        self.open(one)
        self.do(harmony_edits.turn_lead(12))
        before, answers = two.read_bytes(), []
        with mock.patch.object(self.desk.worker, "_finished") as finished:
            finished.emit = lambda *a: answers.append(a)  # held back: the save comes in last
            self.works.files.save()
            while not any(a[0].kind == "save" for a in answers):
                QApplication.processEvents()
        # What else was held back, on a busy machine, comes at once; the save when the other is on.
        for late in [a for a in answers if a[0].kind != "save"]:
            self.desk.worker._deliver(*late)
        self.works.files.documents.open(two, True, lambda lay: lay())
        wait(self.desk.opened)
        self.desk.worker._deliver(*next(a for a in answers if a[0].kind == "save"))
        self.assertEqual(self.desk.path, two)
        self.do(harmony_edits.turn_lead(90))
        self.assertTrue(self.desk.unsaved)
        self.settle()
        self.assertEqual(two.read_bytes(), before)

    def test_work_done_while_a_plan_is_read_is_asked_about(self):
        other = self.saved()
        self.open()
        for answer, stays in (("cancel", True), ("discard", False)):
            self.answers.asked.clear()
            self.answers.unsaved_answer = "discard"
            self.works.files.open_path(other)
            self.answers.asked.clear()
            self.answers.unsaved_answer = answer
            self.do(harmony_edits.turn_lead(33 if stays else 66))
            self.settle()
            self.assertEqual(self.answers.asked, ["unsaved"])
            self.assertEqual(self.parts.title.text() == "Lighthouse Bakery", stays)
        self.assertFalse(self.desk.unsaved)

    def test_work_done_while_a_save_is_written_is_asked_about_before_another_plan_comes(self):
        other = self.saved()
        self.open()
        self.do(harmony_edits.turn_lead(12))
        self.answers.unsaved_answer, self.answers.path = "save", self.folder / "mine.umber"
        self.works.files.open_path(other)
        self.answers.unsaved_answer = "cancel"
        self.do(harmony_edits.turn_lead(70))
        self.settle()
        self.assertEqual(self.answers.asked, ["unsaved", "save as", "unsaved"])
        self.assertEqual(self.parts.title.text(), "Lighthouse Bakery")
        self.assertTrue(self.desk.unsaved)

    def test_save_as_only_adds_the_ending_and_asks_about_the_file_it_writes(self):
        self.open()
        for typed, written in (
            ("sea.v2", "sea.v2.umber"),
            ("1.5 sea", "1.5 sea.umber"),
            ("x.umber", "x.umber"),
        ):
            self.answers.path = self.folder / typed
            wait(self.desk.worker.idle, self.works.files.save_as)
            self.assertTrue((self.folder / written).exists(), written)
        there = self.folder / "sea.v2.umber"
        there.write_text("mine")
        self.answers.path = self.folder / "sea.v2"
        self.works.files.save_as()
        self.assertFalse(self.desk.orders.busy)  # nothing is written
        self.assertIn("sea.v2.umber already exists", self.answers.asked[-1])
        self.assertEqual(there.read_text(), "mine")

    def test_what_was_saved_and_undone_since_is_unsaved(self):
        self.open(self.saved())
        self.do(harmony_edits.turn_lead(12))
        wait(self.desk.worker.idle, self.works.files.save)
        self.assertFalse(self.desk.unsaved)
        self.desk.undo()
        self.assertTrue(self.desk.unsaved)
        self.assertIn("*", self.window.windowTitle())
        self.answers.unsaved_answer = "cancel"
        self.window.close()
        self.assertTrue(self.window.isVisible())

    def test_a_file_that_something_else_changed_is_not_overwritten_unasked(self):
        path = self.saved()
        self.open(path)
        self.do(harmony_edits.turn_lead(12))
        theirs = self.saved("theirs.umber").read_bytes() + b"x"
        for answer, kept in (("cancel", True), ("elsewhere", True), ("replace", False)):
            path.write_bytes(theirs)
            self.answers.changed_answer, self.answers.path = answer, self.folder / "both"
            self.works.files.save()
            self.settle()
            self.assertEqual(path.read_bytes() == theirs, kept, answer)
            if answer == "elsewhere":
                self.assertEqual(self.desk.path, self.folder / "both.umber")
                self.desk.path, self.desk.stamp = path, atomic.stamp(self.saved("z.umber"))
            self.assertEqual(self.desk.unsaved, answer == "cancel")

    def test_a_new_plan_ends_every_drag(self):
        other = self.saved()
        self.open()
        rose = self.parts.benches["harmony"].rose
        at = rose.dial.at(rose._parts.needles["A"], rose.dial.radius - 6)
        mouse(rose, QEvent.Type.MouseButtonPress, at)
        self.works.files.documents.open(other, True, lambda lay: lay())
        wait(self.desk.opened)
        self.assertFalse(self.session.dragging)
        plan = self.desk.history.now
        mouse(rose, QEvent.Type.MouseMove, rose.dial.at(10, rose.dial.radius - 6))
        mouse(rose, QEvent.Type.MouseButtonRelease, at)
        self.assertIs(self.desk.history.now, plan)
        self.settle()

    def test_a_home_that_nobody_has_is_said(self):
        self.open()
        self.works.files.handing_off.choose_folder("~nobody-of-that-name/x")
        self.works.files.handing_off.hand_off(["gpl"])
        self.assertIn("no such person", self.parts.notice.text())

    def test_closing_does_not_hold_the_screen_while_something_is_read(self):
        seen, path = [], self.saved()
        reading = mock.patch.object(document, "open_plan", side_effect=lambda *a: time.sleep(0.3))
        closing = self.desk.worker.close
        with (
            reading,
            mock.patch.object(
                self.desk.worker, "close", lambda: (seen.append(self.window.isVisible()), closing())
            ),
        ):
            self.works.files.open_path(path)
            self.window.close()
        self.assertEqual(seen, [False])

    def test_what_a_sketch_was_read_to_follow_is_said(self):
        wait(self.desk.opened, lambda: self.drop(self.sketch))
        self.assertRegex(self.parts.notice.text(), "read as flats: areas.*Read as ")

    def test_the_newest_of_two_requests_is_shown(self):
        other = self.folder / "other.png"
        other.write_bytes(self.sketch.read_bytes())
        self.works.files.open_path(self.sketch)
        self.works.files.open_path(other)
        wait(self.desk.worker.idle)
        self.assertEqual(self.parts.title.text(), "Other")


if __name__ == "__main__":
    unittest.main()
