"""The first minute of a stranger: the start page, a picture of one's own, help, a right click."""

from unittest import mock

import numpy as np
from PySide6.QtCore import QEvent, QMimeData, QPointF, QRect, QUrl
from PySide6.QtGui import QColor, QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from tests import scenes
from tests.window.driving import DEMO, InWindow, Qt, dropped, look_is_over, mouse, wait
from umber_compass.plan.terms import ROLES
from umber_compass.window.benches.harmony.dial import reach
from umber_compass.window.benches.light.light_bench import CHART
from umber_compass.window.desk.remembered import MOST_RECENT, Remembered
from umber_compass.window.frame.help import ABOUT, KEYS, PAGES
from umber_compass.window.main_window import MainWindow
from umber_compass.window.start.page import Card
from umber_compass.window.widgets import theme
from umber_compass.window.widgets.under import Under

HOUSE = (
    ("rectangle", (0, 0, 240, 150), "#86bcc4"),
    ("rectangle", (0, 150, 240, 340), "#8c8169"),
    ("rectangle", (110, 40, 230, 260), "#4a6b60"),
    ("rectangle", (140, 80, 170, 130), "#ffe9a8"),
    ("rectangle", (185, 80, 210, 130), "#ffe9a8"),
    ("ellipse", (30, 170, 90, 300), "#d0566a"),
    ("polygon", (20, 50, 50, 62, 80, 50, 50, 75), "#f8f4e8"),
)


def picture(folder, size=(240, 340), name="house.png", shapes=HOUSE):
    path = scenes.Path(folder) / name
    scenes.Image.fromarray(scenes.draw(shapes, size)).save(path)
    return path


class WithoutAPlan(InWindow):
    def setUp(self):
        super().setUp()
        self.folder = scenes.Path(self.enterContext(scenes.tempfile.TemporaryDirectory()))

    def cards(self):
        QApplication.processEvents()
        return {c.text(): c for c in self.works.start.findChildren(Card) if c.isVisible()}

    def test_the_start_page_offers_what_can_be_done_and_what_needs_a_plan_is_off(self):
        self.assertTrue(self.works.start.isVisible())
        self.assertFalse(self.parts.isVisible())
        offered = list(self.cards())
        for title in ("Flats", "Line art", "Layered file", "Table group", "Lantern hedgehog"):
            self.assertIn(title, offered)
        on = {n for n, a in self.works.menus.of.items() if a.isEnabled()}
        always = {
            "new",
            "open",
            "paste",
            "demo",
            "quit",
            "about",
            "help-keys",
            "help-here",
            "story",
        }
        always |= {"trainer"}
        rooms = {n for n in self.works.menus.of if n.startswith("room-")}
        self.assertEqual(on, always | rooms | {f"help-{p}" for p in PAGES})
        wait(self.desk.opened, self.cards()["Lighthouse Bakery"].click)
        self.settle()
        self.assertTrue(self.parts.isVisible())
        self.assertTrue(self.parts.hint.isVisible())
        self.assertEqual(self.session.step, "harmony")
        self.assertIsNone(self.desk.path)

    def test_a_picture_is_chosen_dropped_or_pasted_and_opens_on_sketch(self):
        path = self.answers.path = picture(self.folder)
        mime, files = QMimeData(), QMimeData()
        mime.setImageData(QImage(str(path)))
        mime.setUrls([])
        files.setUrls([QUrl.fromLocalFile(str(path))])
        clipboard = QApplication.clipboard()
        for bring, name in (
            (self.works.start.choose.click, "house.png"),
            (lambda: self.window.dropEvent(dropped(files)), "house.png"),
            (lambda: (clipboard.setMimeData(mime), self.works.menus.run("paste")), "pasted pic"),
        ):
            self.session.open_step("values")
            wait(self.desk.opened, bring)
            self.settle()
            plan = self.desk.history.now
            self.assertEqual((self.session.step, len(plan.regions)), ("sketch", 6))
            self.assertTrue(plan.sketch.file_name.startswith(name), plan.sketch.file_name)
            roles = {self.desk.derived.colours[r.id].first.hex: r.role for r in plan.regions}
            self.assertEqual(roles["#ffe9a8"], "middle ground")  # windows in a wall
            self.assertEqual((roles["#f8f4e8"], roles["#d0566a"]), ("figure", "figure"))
        self.assertEqual(self.answers.asked, ["sketch", "second house.png"])

    def test_nothing_to_paste_and_nothing_to_open_is_said_on_the_page(self):
        QApplication.clipboard().setText("no picture")
        self.works.menus.run("paste")
        self.assertIn("No picture to paste", self.works.start.says.text())
        bad = self.folder / "bad.png"
        bad.write_bytes(b"nothing")
        wait(self.desk.told, lambda: self.works.files.open_path(bad))
        self.settle()
        self.assertIn("bad.png", self.works.start.says.text())
        self.assertTrue(self.works.start.isVisible())

    def test_a_picture_is_on_the_stage_dimmed_while_it_is_read(self):
        path, documents = picture(self.folder), self.works.files.documents
        arriving = self.parts.middle.arriving
        shown = []

        def look(*_):
            level = self.window.grab().toImage().pixelColor
            inside = arriving.mapTo(self.window, arriving.frame().topLeft().toPoint())
            shown.append(
                (level(inside.x() + 3, inside.y() + 3).name(), self.parts.stack.isVisible())
            )

        documents.seen.connect(look)
        wait(self.desk.opened, lambda: self.works.files.open_path(path))
        ground, own = QColor(theme.THEME.room.ground), QColor(QImage(str(path)).pixel(1, 1))
        mixed = QColor(shown[0][0])
        self.assertFalse(shown[0][1])  # no bench of nothing
        for part in (QColor.red, QColor.green, QColor.blue):
            self.assertAlmostEqual(part(mixed), (0.55 * part(ground) + 0.45 * part(own)), delta=3)
        self.assertEqual((arriving.isVisible(), self.parts.stack.isVisible()), (False, True))
        for broken in (self.folder / "none.png", self.folder / "none.umber"):
            before = self.desk.history
            wait(documents.ended, lambda p=broken: self.works.files.open_path(p))
            self.assertFalse(arriving.isVisible())
            self.assertIs(self.desk.history, before)

    def test_plans_that_were_open_last_are_there_again_and_gone_ones_are_not(self):
        remembered = self.works.remembered
        for i in range(MOST_RECENT + 2):
            path = self.folder / f"plan {i}.umber"
            path.write_bytes(DEMO.read_bytes() if i > 5 else b"x")
            remembered.add(path)
        path.unlink()
        last = self.folder / "plan 8.umber"
        self.works.plans.look()
        look_is_over()
        names = [n for n in self.cards() if n.startswith("plan")]
        self.assertEqual(names, [f"plan {i}" for i in range(8, 1, -1)])
        self.works.recent.fill()
        self.assertEqual(self.works.recent.menu.actions()[0].text(), last.name)
        wait(self.desk.opened, self.works.recent.menu.actions()[1].trigger)
        self.settle()
        self.assertEqual(self.desk.path, self.folder / "plan 7.umber")
        self.assertEqual(remembered.recent()[0], self.desk.path)
        wait(self.desk.filed, lambda: self.works.files.documents.save(path))
        self.settle()
        self.assertEqual(remembered.recent()[0], path)
        remembered.forget()
        self.assertEqual([n for n in self.cards() if n.startswith("plan")], [])

    def test_size_room_and_plans_are_remembered_whatever_the_file_holds(self):
        path = self.folder / "window.ini"
        one = Remembered(path)
        one.add(DEMO)
        one.keep("geometry", self.window.saveGeometry())
        one.keep("room", "night")
        del one
        two = Remembered(path)
        self.assertEqual(two.recent(), [DEMO])
        self.assertEqual(two.state("geometry"), self.window.saveGeometry())
        self.assertEqual((two.word("room"), two.word("geometry")), ("night", ""))
        path.write_text("[recent]\nplans=@Invalid()\n[window]\ngeometry=7\nroom=attic\n")
        three = Remembered(path)
        self.assertEqual((three.recent(), three.state("geometry")), ([], None))
        other = MainWindow(self.answers, remembered=three)  # a room that is none is the first
        self.assertEqual((three.word("room"), theme.THEME.room.name), ("attic", "gallery"))
        other.close()
        other.deleteLater()

    def test_with_a_plan_to_come_the_start_page_is_not_seen_unless_it_cannot_be_read(self):
        self.window.expect()
        self.assertFalse(self.works.start.isVisible())
        bad = self.folder / "bad.umber"
        bad.write_bytes(b"nothing")
        wait(self.desk.told, lambda: self.works.files.open_path(bad))
        self.assertFalse(self.works.start.isVisible())  # it is being read
        self.settle()
        self.assertTrue(self.works.start.isVisible())
        self.assertIn("bad.umber", self.works.start.says.text())

    def test_the_window_is_drawn_in_to_what_a_title_bar_leaves_free(self):
        place, free = self.window.place, QRect(0, 0, 1280, 800)
        whole = QRect(-4, 0, 1288, 836)
        with (
            mock.patch.object(place, "_free", return_value=free),
            mock.patch.object(self.window, "frameGeometry", return_value=whole),
        ):
            place.fit()
        self.assertEqual(self.window.size().toTuple(), (1272, 764))
        with mock.patch.object(place, "_free", return_value=QRect(0, 0, 900, 560)):
            place.restore(self.parts.splitter)
        self.assertEqual(self.window.minimumSize().toTuple(), (900, 560))

    def test_help_has_every_page_and_every_key(self):
        pages = self.works.help
        for page in PAGES:
            self.works.menus.run(f"help-{page}")
            self.assertNotIn("came without", pages.text.toPlainText())
            self.assertGreater(len(pages.text.toPlainText()), 400, page)
        pages.open(KEYS)
        said = pages.text.toPlainText()
        for action in self.works.menus.specs.values():
            if action.keys:
                self.assertIn(action.text, said)
        pages.open(ABOUT)
        self.assertIn("0.", pages.text.toPlainText())
        pages.open("light")
        pages._follow(QUrl("checks.md"))
        self.assertEqual(pages.pages.currentItem().text(), "Checks")
        pages.close()


class UnderTheHand(InWindow):
    """What a right click offers, wherever a region or a colour is shown."""

    def setUp(self):
        super().setUp()
        self.open()
        self.coat = self.region("coat").id

    def entries(self, menu):
        return {a.text(): a for a in menu.actions()}

    def at(self, widget, place):
        return self.works.context.under(self.parts, QPointF(widget.mapTo(self.parts, place)))

    def test_every_part_says_what_lies_at_a_place(self):
        found, hexed = {}, self.colour("coat").hex
        place = self.works.marks._places.places[self.region("coat").label]
        found["stage"] = self.at(self.parts.stage, self.parts.stage.from_picture(*place[:2]))
        box = next(b for b, s in self.parts.tray.boxes() if s.region == self.coat)
        found["tray"] = self.at(self.parts.tray, box.center())
        self.works.steps.open("values")
        self.session.select(self.coat)
        self.settle()
        ladder = self.parts.benches["values"].ladder
        box = next(b for b, c in ladder.boxes() if c.region == self.coat)
        found["ladder"] = self.at(ladder, box.center())
        self.works.steps.open("harmony")
        self.settle()
        rose = self.parts.benches["harmony"].rose
        petal = next(p for p in rose._parts.petals if p.region == self.coat)
        found["rose"] = self.at(rose, rose.dial.at(petal.angle, reach(petal, rose.dial.inner) - 2))
        self.works.steps.open("ramps")
        self.settle()
        row = self.parts.benches["ramps"].rows[self.coat, 0]
        self.parts.benches["ramps"]._scroll.ensureWidgetVisible(row)
        found["ramps"] = self.at(row, row.boxes()[row._line.steps.base].center())
        self.works.steps.open("light")
        self.parts.benches["light"].open_tab(CHART)
        self.settle()
        chart = self.parts.benches["light"].chart
        at = next(i for i, r in enumerate(chart.rows) if r.region == self.coat)
        place = chart.box(at, 0).center().toPoint()
        self.parts.benches["light"].chart_scroll.ensureVisible(place.x(), place.y())
        found["chart"] = self.at(chart, chart.box(at, 0).center())
        self.works.steps.open("sketch")
        self.settle()
        plan = self.parts.benches["sketch"].plan_page.plan
        found["sketch"] = self.at(plan, plan.box_of(self.coat).center())
        self.assertEqual({n: u.region for n, u in found.items()}, dict.fromkeys(found, self.coat))
        self.assertEqual({u.hex for u in found.values()}, {"", hexed})
        self.assertEqual(self.at(self.parts.route, QPointF(5, 700)), Under())
        self.assertIsNone(self.works.context.menu(Under()))

    def test_a_right_press_chooses_copies_and_drags_nothing(self):
        before, right = self.desk.history.now, Qt.MouseButton.RightButton
        QApplication.clipboard().setText("kept")
        rose = self.parts.benches["harmony"].rose
        for widget, place in (
            (self.parts.tray, QPointF(40, 20)),
            (rose, rose.dial.at(100, rose.dial.radius - 6)),
            (self.parts.stage, QPointF(40, 20)),
        ):
            for kind in (QEvent.Type.MouseButtonPress, QEvent.Type.MouseButtonRelease):
                mouse(widget, kind, place, right)
        self.assertIs(self.desk.history.now, before)
        self.assertEqual(QApplication.clipboard().text(), "kept")

    def test_its_entries_do_what_they_say(self):
        QApplication.clipboard().setText("#3060a0")
        menu = self.works.context.menu(Under(self.coat))
        offered = self.entries(menu)
        self.assertEqual(self.session.selection, self.coat)
        giving = self.entries(offered["Give it the colour"].menu())
        roles = self.entries(offered["Its role"].menu())
        self.assertEqual(list(roles), list(ROLES))
        roles["middle ground"].trigger()
        self.assertEqual(self.region("coat").role, "middle ground")
        offered["Pin its colour"].trigger()
        self.assertEqual(self.colour("coat").slot, "given")
        self.assertIn(
            "Let its colour follow the scheme",
            self.entries(self.works.context.menu(Under(self.coat))),
        )
        giving["#3060a0, copied"].trigger()
        self.assertEqual(self.colour("coat").hex, "#3060a0")
        again = self.entries(self.works.context.menu(Under(self.coat)))
        again["Copy #3060a0"].trigger()
        self.assertEqual(QApplication.clipboard().text(), "#3060a0")
        sea = self.region("sea").name
        self.entries(again["Give it the colour"].menu())[f"of {sea}"].trigger()
        self.assertEqual(self.colour("coat").hex, self.colour("sea").hex)
        again["Name …"].trigger()
        self.assertEqual(self.session.step, "sketch")
        self.settle()

    def test_a_region_is_seen_alone_until_another_is_chosen_or_escape(self):
        self.works.steps.open("values")
        self.settle()
        sky = self.parts.stage.grab().toImage().pixelColor(60, 40).name()
        self.assertGreater(len(self.parts.stage._tags), 5)
        self.entries(self.works.context.menu(Under(self.coat)))["Show it alone"].trigger()
        self.settle()
        place = self.works.marks._places.places[self.region("coat").label]
        self.assertEqual(self.session.alone, self.coat)
        self.assertEqual([t.label for t in self.parts.stage._tags], [self.region("coat").label])
        covered = self.parts.stage.grab().toImage().pixelColor(60, 40)
        self.assertNotEqual(covered.name(), sky)
        self.assertLess(covered.saturation(), 40)
        inside = self.pixel(*place[:2])
        QTest.keyClick(self.window, Qt.Key.Key_Escape)
        self.settle()
        self.assertEqual((self.session.alone, self.pixel(*place[:2])), ("", inside))
        self.session.show_alone(self.coat)
        self.session.select(self.region("sea").id)
        self.assertEqual(self.session.alone, "")
        self.settle()

    def test_what_a_check_says_of_it_is_one_click_away(self):
        result = next(r for r in self.desk.judge.results if r.level == "warning" and r.regions)
        menu = self.works.context.menu(Under(result.regions[0]))
        look_at = self.parts.checks.look_at
        with mock.patch.object(self.parts.checks, "look_at", side_effect=look_at) as looked:
            self.entries(menu)[f"▲ {result.title}"].trigger()
        looked.assert_called_once_with(result.check, result.regions[0])
        self.settle()
        shown = [r.result.title for r in self.parts.checks.rows]
        self.assertIn(result.title, shown)


class Shapes(InWindow):
    """The middle stands as suits the picture."""

    def test_views_stand_beside_a_portrait_below_a_screen_and_two_by_two_below_a_strip(self):
        with scenes.tempfile.TemporaryDirectory() as folder:
            for size, across in (((240, 340), 1), ((340, 250), 4), ((900, 200), 2)):
                self.open(picture(folder, size, f"{size[0]}.png"))
                stage, strip = self.parts.stage, self.parts.strip
                tiles = [t.geometry() for t in strip.tiles]
                self.assertEqual(len({t.x() for t in tiles}), across)
                self.assertEqual(len({t.y() for t in tiles}), 4 // across)
                beside = strip.mapTo(self.parts, QRect().topLeft()).x()
                left = stage.mapTo(self.parts, QRect().topLeft()).x() + stage.width()
                self.assertEqual(beside >= left, across == 1)
                frame, room = stage.frame(), stage.rect()
                self.assertAlmostEqual(frame.center().x(), room.width() / 2, delta=1)
                self.assertAlmostEqual(frame.center().y(), room.height() / 2, delta=1)
                fills = max(frame.width() / room.width(), frame.height() / room.height())
                self.assertGreater(fills, 0.99)

    def test_bench_and_views_grow_with_the_window(self):
        self.open()
        small = self.parts.strip.height(), self.parts.right.width()
        self.window.resize(1920, 1080)
        self.settle()
        large = self.parts.strip.height(), self.parts.right.width()
        self.assertTrue(np.greater(large, np.multiply(small, 1.25)).all(), (small, large))

    def test_light_that_is_off_shows_what_it_would_give_and_one_click_switches_it_on(self):
        with scenes.tempfile.TemporaryDirectory() as folder:
            self.open(picture(folder))
        self.works.steps.open("light")
        self.settle()
        bench, tiles = self.parts.benches["light"], self.parts.strip.tiles
        self.assertIsNone(self.desk.derived.lit)
        self.assertTrue(bench.invitation.isVisible())
        promised = [t._promised for t in tiles]
        self.assertEqual(promised, [True, True, True, False])
        key = tiles[2]._image.copy()
        bench.light_up.click()
        self.assertIsNotNone(self.desk.derived.lit)  # its forms were made for the tiles
        self.settle()
        self.assertFalse(bench.invitation.isVisible())
        self.assertEqual([t._promised for t in tiles], [False] * 4)
        self.assertEqual(tiles[2]._image, key)


class Guided(InWindow):
    """The first picture of one's own is led through five steps, once."""

    def setUp(self):
        super().setUp()
        self.folder = scenes.Path(self.enterContext(scenes.tempfile.TemporaryDirectory()))
        kept = {}
        for name, stand_in in (
            ("is_kept", True),
            ("word", lambda _, name: kept.get(name, "")),
            ("keep", lambda _, name, word: kept.update({name: word})),
        ):
            self.enterContext(mock.patch.object(Remembered, name, stand_in))
        self.card = self.parts.guide

    def bring(self):
        path = picture(self.folder)
        wait(self.desk.opened, lambda: self.works.files.open_path(path))
        self.settle()

    def test_five_steps_on_ones_own_picture(self):
        self.bring()
        self.assertTrue(self.card.isVisible())
        seen = []
        for _ in range(5):
            seen.append(self.session.step)
            self.card.next.click()
            self.settle()
        self.assertEqual(seen, ["sketch", "harmony", "values", "light", "handoff"])
        self.assertFalse(self.card.isVisible())
        self.bring()
        self.assertFalse(self.card.isVisible(), "it comes once")

    def test_escape_skips_it_and_whoever_goes_on_is_led_from_there(self):
        self.bring()
        self.works.steps.open("light")
        self.assertIn("4 of 5", self.card.count.text())
        QTest.keyClick(self.window, Qt.Key.Key_Escape)
        self.assertFalse(self.card.isVisible())

    def test_a_demo_is_not_ones_own(self):
        self.open()
        self.assertFalse(self.card.isVisible())
