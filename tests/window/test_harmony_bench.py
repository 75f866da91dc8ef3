"""The pages of the harmony bench under a hand and from the keyboard."""

import datetime

import numpy as np
from PIL import Image
from PySide6.QtCore import QMimeData, QPoint, QPointF
from PySide6.QtGui import QGuiApplication, QImage
from PySide6.QtTest import QTest

from tests.window.driving import Qt, drag
from tests.window.test_values_focus import OnTheBoat
from umber_compass.document.library import Library
from umber_compass.formats import palettes
from umber_compass.formats.palettes import Palette
from umber_compass.plan.model import Gradient, Pinned
from umber_compass.steps.harmony.edits import make_gradient, pin_to
from umber_compass.steps.harmony.schemes import FREE
from umber_compass.window.widgets.peek_button import PREVIEW_AFTER


class Pages(OnTheBoat):
    step = "harmony"

    def page(self, name):
        """Open a page of the bench."""
        page = getattr(self.bench, name)
        self.bench.open_page(page)
        self.settle()
        return page

    def offset(self, slot):
        return [c.hue_offset_deg for c in self.study.colours.values() if c.slot == slot]

    def test_readings_are_taken_and_no_colour_moves(self):
        page = self.bench.wheel_page
        before = [c.first.hex for c in self.desk.derived.colours.values()]
        for button in (*[b for b in page.readings if b.isVisible()], page.free):
            self.press(button)
            after = [c.first.hex for c in self.desk.derived.colours.values()]
            levels = [
                np.array(list(bytes.fromhex("".join(h[1:] for h in x)))) for x in (before, after)
            ]
            self.assertLessEqual(int(np.abs(levels[0].astype(int) - levels[1]).max()), 2)
        self.assertEqual(self.study.scheme.name, FREE)
        self.assertEqual(page.supports.text(), "other hues")
        count = len(self.study.scheme.offsets)
        self.press(page.drop)
        self.assertEqual(len(self.study.scheme.offsets), count - 1)
        self.press(page.add)
        self.assertEqual(len(self.study.scheme.offsets), count)

    def test_a_letter_of_a_free_scheme_goes_where_it_is_dragged(self):
        self.press(self.bench.wheel_page.free)
        rose = self.bench.rose
        dial, needles = rose.dial, rose._parts.needles
        lead, slot = needles["A"], "B"
        drag(rose, [dial.at(needles[slot], dial.radius - 5), dial.at(lead + 100, dial.radius - 5)])
        self.assertAlmostEqual(self.study.scheme.offsets[0], 100, delta=1)
        self.assertAlmostEqual(self.study.scheme.lead_deg, lead, delta=0.01)

    def test_another_scheme_says_what_it_turned(self):
        menu = self.bench.wheel_page.answers.menu()
        said = set()
        for i in range(len(menu.actions())):
            menu.actions()[i].trigger()
            self.settle()
            said.add(self.parts.notice.text().split()[0])
        self.assertLessEqual(said, {"Every", "Turned:"})
        self.assertIn("Turned:", said)

    def test_slots_in_numbers_and_the_pull(self):
        page = self.page("shares")
        slot = next(s for s in ("A", "B") if self.offset(s))
        row = page.rows[slot]
        self.type(row.chroma, "50\r")
        self.type(row.arc, "30\r")
        self.type(row.wished, "44\r")
        scheme = self.study.scheme
        self.assertEqual((scheme.chroma[slot], scheme.arcs[slot]), (0.5, 30))
        self.assertAlmostEqual(scheme.shares[slot], 0.44)
        before = self.offset(slot)
        steps = len(self.desk.history.past)
        middle = page.pull.height() / 2
        drag(page.pull, [QPointF(6, middle), QPointF(6 + (page.pull.width() - 12) / 2, middle)])
        for was, now in zip(before, self.offset(slot), strict=True):
            self.assertAlmostEqual(now, was / 2, delta=0.6)
        self.assertEqual(len(self.desk.history.past), steps + 1)

    def test_given_colours_get_schemes_and_grounds_that_are_seen_before_they_are_taken(self):
        page = self.page("fixed")
        self.assertFalse(page.rows[0][2].isVisible())
        region = self.plan.regions[2]
        self.do(pin_to(region.id, "#7c3f51", region.name))
        self.settle()
        button = page.rows[0][2]
        self.assertTrue(button.isVisible())
        before = self.plan
        self.enter(button)
        QTest.qWait(PREVIEW_AFTER + 80)
        self.assertIsNotNone(self.works.director.peeked)
        self.enter(button, leave=True)
        self.assertIsNone(self.works.director.peeked)
        self.assertIs(self.plan, before)
        self.press(button)
        self.assertEqual(self.study.scheme.name, page._derived.scheme.name)
        self.press(page.ground_rows[0][2])
        self.assertEqual(self.study.colours[region.id], Pinned(hex="#7c3f51"))
        self.assertGreater(len(self.desk.history.past), 2)

    def test_bars_tie_the_palette_and_each_drag_is_one_step(self):
        page = self.page("unify")
        for bar in (page.quiet, page.greys, page.unify, page.gradation):
            steps = len(self.desk.history.past)
            y, zero = bar.height() / 2, 6 if bar is not page.gradation else bar.width() / 2
            drag(bar, [QPointF(zero, y), QPointF(zero + 30, y), QPointF(zero + 60, y)])
            self.assertLessEqual(len(self.desk.history.past), steps + 1)
            bar.setFocus()
            QTest.keyClick(bar, Qt.Key.Key_Right)
        self.assertTrue(any(isinstance(c, Gradient) for c in self.study.colours.values()))
        self.settle()
        self.assertIn("place", page.places.text())

    def test_a_mood_is_chosen_and_its_numbers_changed(self):
        page = self.page("mood")
        pictures = list(page.pictures.values())
        self.bench.shown.emit()
        while any(b._bitmap is None or b._waits for b in pictures):
            QTest.qWait(20)
        first = pictures[0]._bitmap.packed
        self.bench.shown.emit()  # of the very same plan
        self.assertFalse(any(b._waits for b in pictures))
        self.assertEqual(len({b._bitmap.packed.tobytes() for b in pictures}), len(pictures))
        self.press(page.pictures["tender"])
        self.assertEqual(self.study.mood.name, "tender")
        self.assertTrue(page.pictures["tender"].isChecked() and pictures[0]._waits)
        while pictures[0]._waits:
            QTest.qWait(20)
        self.assertFalse(np.array_equal(pictures[0]._bitmap.packed, first))
        page.numbers.button.click()
        self.type(page.rows["key"][2], "20\r")
        self.assertEqual(self.study.mood.of["key"], (20, 92))
        self.assertIn("mood", [r.check for r in self.desk.judge.results])
        self.press(page.none)
        self.assertIsNone(self.study.mood)

    def test_a_colour_is_made_to_read_otherwise_and_zones_are_set(self):
        page = self.page("context")
        region = self.plan.regions[1]
        self.session.select(region.id)
        before = self.study.colours[region.id]
        self.press(page.ways["lighter"])
        self.assertGreater(self.study.colours[region.id].value, before.value)
        page.school.setCurrentIndex(1)
        page.school.activated.emit(1)
        self.assertEqual(self.study.zones[region.id].school, "three-bands")
        self.assertIn("nose and cheeks", page.zones.text())
        self.assertEqual(len(page.face._zones), 7)

    def test_rows_are_moved_named_noted_and_a_budget_proposes_merges(self):
        page = self.page("palette_page")
        rows = page.rows
        first = rows._rows[0].region
        QTest.mouseClick(rows, Qt.MouseButton.LeftButton, pos=QPoint(200, 10))
        self.assertEqual(self.session.selection, first)
        self.type(page.name, "deep\r")
        self.type(page.note, "from the tube\r")
        self.assertEqual(self.study.notes[first], "from the tube")
        self.assertEqual(next(r.name for r in self.plan.regions if r.id == first), "deep")
        self.press(page.lock)
        self.assertIn(first, self.study.locked)
        rows.setFocus()
        QTest.keyClick(rows, Qt.Key.Key_Down, Qt.KeyboardModifier.AltModifier)
        self.assertEqual(self.study.row_order[1], first)
        drag(rows, [QPointF(200, 10 + 24), QPointF(200, 100), QPointF(200, 110)])
        self.assertNotEqual(self.study.row_order[1], first)
        self.press(page.by_family)
        self.assertEqual(self.study.row_order, ())
        QGuiApplication.clipboard().setText("#a1b2c3")
        self.press(page.paste)
        self.assertEqual([s.hex for s in self.study.extras], ["#a1b2c3"])
        self.type(page.budget, "4\r")
        self.settle(fixes=True)
        found = next(r for r in self.desk.judge.results if r.check == "colour-budget")
        self.assertEqual((found.level, found.wanted), ("warning", 4))
        self.assertTrue(found.fixes)
        self.do(found.fixes[0].edit)
        self.assertLessEqual(self.desk.derived.needed, 4)


class Laid(OnTheBoat):
    step = "harmony"

    def setUp(self):
        super().setUp()
        self.page = self.bench.library
        self.bench.open_page(self.page)
        self.settle()

    def test_the_post_came_and_a_palette_is_laid_and_its_line_dragged(self):
        titles = [e.palette.title for e in self.page.entries]
        self.assertEqual(len(titles), 13)
        self.type(self.page.search, "toys")
        self.assertEqual([e.palette.title for e in self.page.entries], ["Tin toys"])
        self.press(self.page.lay)
        palette = self.study.palette
        self.assertEqual(palette.title, "Tin toys")
        region, at = next(iter(palette.of.items()))
        self.settle()
        mapping = self.page.mapping
        row = next(i for i, r in enumerate(mapping._regions) if r.region == region)
        to = (at + 1) % len(palette.colours)
        places = mapping.region_box(row).center(), mapping.colour_box(to).center()
        drag(mapping, list(places))
        self.assertEqual(self.study.palette.of[region], to)
        self.works.menus.run("undo")
        self.works.menus.run("undo")
        self.assertIsNone(self.study.palette)

    def test_a_file_a_picture_and_what_was_copied_come_in(self):
        made = Palette("gpl", "Stall", (("#102030", "a"), ("#e0d0c0", "b")))
        self.answers.path = self.folder / "stall.gpl"
        palettes.write(made, self.answers.path)
        self.page.opened.emit()
        self.settle()
        self.assertEqual(self.page.entry.palette.title, "Stall")
        self.answers.path = self.folder / "boat.png"
        self.page.opened.emit()
        self.settle()
        self.assertEqual(self.page.entry.palette.title, "boat")
        self.answers.path = self.answers.path.rename(self.folder / "sloop.gpl")
        self.page.opened.emit()
        self.settle()
        self.assertEqual(self.page.entry.palette.title, "sloop")
        QGuiApplication.clipboard().setText("#112233 and #445566")
        self.page.pasted.emit()
        self.settle()
        self.assertEqual(len(self.page.entry.palette.colours), 2)
        mime = QMimeData()
        rgb = np.full((40, 80, 3), 200, np.uint8)
        rgb[5:35, 5:35], rgb[5:35, 45:75] = (10, 20, 30), (200, 40, 50)
        image = Image.fromarray(rgb).convert("RGBA")
        shown = QImage(image.tobytes(), 80, 40, QImage.Format.Format_RGBA8888).copy()
        mime.setImageData(shown)
        QGuiApplication.clipboard().setMimeData(mime)
        self.page.pasted.emit()
        self.settle()
        found = [c for c, _ in self.page.entry.palette.colours]
        self.assertEqual(found, ["#0a141e", "#c82832"])
        self.press(self.page.remove)
        self.assertNotIn("copied picture", [e.palette.title for e in self.page.entries])

    def test_bad_palettes_are_one_line_and_the_plan_as_it_was(self):
        before = self.plan
        for data, says in ((b"nothing", "no palette"), (b"", "no colours")):
            path = self.folder / "bad.gpl"
            path.write_bytes(data)
            self.answers.path = path
            self.page.opened.emit()
            self.settle()
            self.assertIn(says, self.parts.notice.text())
        QGuiApplication.clipboard().setText("nothing")
        self.page.pasted.emit()
        self.settle()
        self.assertIn("no hex", self.parts.notice.text())
        self.assertIs(self.plan, before)

    def test_the_plans_own_palette_is_kept(self):
        self.press(self.page.keep)
        self.settle()
        found = Library(self.works.library.folder).entries("boat as planned")
        self.assertEqual(len(found), 1)
        self.assertEqual(len(found[0].palette.colours), len(self.plan.regions))
        self.assertEqual(self.works.library.deliver(datetime.date.today()), [])


class Axes(OnTheBoat):
    step = "harmony"

    def test_the_axis_of_a_chosen_gradient_is_dragged_on_the_stage(self):
        region = self.plan.regions[0]
        self.do(make_gradient(self.plan, region.id, region.name))
        self.session.select(region.id)
        self.settle()
        stage = self.parts.stage
        ends = stage.axis.ends(stage.frame())
        self.assertEqual(len(ends), 2)
        to = stage.from_picture(200, 20)
        steps = len(self.desk.history.past)
        drag(stage, [ends[0], to])
        axis = self.study.colours[region.id].axis
        self.assertAlmostEqual(axis[0], 200 / 240, delta=0.02)
        self.assertAlmostEqual(axis[1], 20 / 160, delta=0.02)
        self.assertEqual(len(self.desk.history.past), steps + 1)
        self.works.steps.open("values")
        self.settle()
        self.assertEqual(stage.axis.ends(stage.frame()), [])
