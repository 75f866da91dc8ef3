"""The sketch bench in the real window: names dragged, regions changed by hand, the file watched,
candidates, ways of reading, drawers."""

import unittest
from unittest import mock

import numpy as np
from PIL import Image
from PySide6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from bench import drawings
from tests import scenes
from tests.window.driving import DEMO, InWindow, drag, dropped, wait
from umber_compass import document
from umber_compass.plan.edits import study
from umber_compass.steps.sketch.compositions import COMPOSITIONS
from umber_compass.window.benches.sketch.sketch_bench import CANDIDATES, READING


class OnSketch(InWindow):
    def setUp(self):
        super().setUp()
        held = scenes.tempfile.TemporaryDirectory()
        self.addCleanup(held.cleanup)
        self.folder = scenes.Path(held.name)
        self.file = self.folder / "boat.png"
        self.file.write_bytes(scenes.encoded(scenes.draw()))
        wait(self.desk.opened, lambda: self.works.files.open_path(self.file))
        self.settle()
        self.bench = self.parts.benches["sketch"]
        self.page = self.bench.plan_page
        self.stage = self.parts.stage

    @property
    def plan(self):
        return self.desk.history.now

    def id_of(self, colour):
        derived = self.desk.derived
        wanted = tuple(int(colour[i : i + 2], 16) for i in (1, 3, 5))
        levels = {
            r.id: tuple(int(derived.colours[r.id].first.hex[i : i + 2], 16) for i in (1, 3, 5))
            for r in derived.regions
        }
        return min(
            levels, key=lambda i: sum(abs(a - b) for a, b in zip(levels[i], wanted, strict=True))
        )

    def place(self, x, y):
        """A place of the sketch, px, on the stage."""
        return self.stage.from_picture(x, y)

    def chip(self, region):
        return self.page.plan.box_of(region).center()

    def changed(self, act):
        """Do something whose edit comes from the worker."""
        before = self.plan
        act()
        for _ in range(400):
            if self.plan is not before:
                break
            QTest.qWait(10)
        self.assertIsNot(self.plan, before, self.parts.notice.text())
        self.settle()


class Plan(OnSketch):
    def test_a_name_dragged_to_another_row_takes_its_role_and_undo_takes_it_back(self):
        sail = self.id_of(scenes.SAIL)
        rows = {r.role: r for r in self.page.plan.rows}
        self.assertEqual(list(rows), ["ground", "middle ground", "figure", "focus", "line"])
        self.assertNotEqual(self.role(sail), "focus")
        target = rows["focus"].box.center()
        drag(self.page.plan, [self.chip(sail), self.chip(sail) + QPointF(9, 9), target])
        self.assertEqual(self.role(sail), "focus")
        self.works.menus.run("undo")
        self.assertNotEqual(self.role(sail), "focus")

    def role(self, region):
        return next(r.role for r in self.plan.regions if r.id == region)

    def test_within_a_row_what_stands_right_lies_in_front(self):
        for region in (self.id_of(scenes.SAIL), self.id_of(scenes.HULL)):
            self.session.select(region)
            QTest.keyClick(self.page.plan, Qt.Key.Key_3)
        row = next(r for r in self.page.plan.rows if r.role == "figure")
        ids = [c.region.id for c in row.chips]
        first, last = row.chips[0].box, row.chips[-1].box
        drag(
            self.page.plan,
            [first.center(), first.center() + QPointF(9, 0), last.center() + QPointF(30, 0)],
        )
        row = next(r for r in self.page.plan.rows if r.role == "figure")
        self.assertEqual([c.region.id for c in row.chips], [*ids[1:], ids[0]])
        fronts = {r.id: r.front for r in self.plan.regions}
        self.assertGreater(fronts[ids[0]], fronts[ids[-1]])

    def test_several_are_chosen_and_changed_at_once(self):
        sail, hull = self.id_of(scenes.SAIL), self.id_of(scenes.HULL)
        QTest.mouseClick(self.page.plan, Qt.MouseButton.LeftButton, pos=self.chip(sail).toPoint())
        QTest.mouseClick(
            self.page.plan,
            Qt.MouseButton.LeftButton,
            Qt.KeyboardModifier.ShiftModifier,
            self.chip(hull).toPoint(),
        )
        self.assertEqual(set(self.session.chosen), {sail, hull})
        self.assertIn("2 chosen", self.page.panel.head.text())
        self.session.select_too(sail)
        self.assertEqual(self.session.chosen, (hull,))
        self.session.select_too(sail)
        self.assertEqual(self.session.chosen, (sail, hull))
        self.page.panel.material.textActivated.emit("satin")
        self.assertEqual({r.material for r in self.plan.regions if r.id in (sail, hull)}, {"satin"})
        self.press(self.page.panel.buttons["surface"])
        sharing = {r.id: r.shares_form_with for r in self.plan.regions}
        self.assertEqual({sharing[sail], sharing[hull]}, {None, self.session.selection})
        self.press(self.page.panel.buttons["family"])
        slots = {study(self.plan).colours[i].slot for i in (sail, hull)}
        self.assertEqual(len(slots), 1)

    def test_names_and_roles_are_typed_one_after_the_other(self):
        QTest.keyClick(self.stage, Qt.Key.Key_N)
        named = []
        for i in range(3):
            one = self.session.selection
            self.page.panel.name.selectAll()
            QTest.keyClicks(self.page.panel.name, f"thing {i}")
            QTest.keyClick(self.page.panel.name, Qt.Key.Key_Return)
            self.page.panel.role.setCurrentText("middle ground")
            QTest.keyClick(self.page.panel.role, Qt.Key.Key_Return)
            named.append(one)
        self.assertEqual(len(set(named)), 3)
        by_id = {r.id: r for r in self.plan.regions}
        self.assertEqual([by_id[i].name for i in named], ["thing 0", "thing 1", "thing 2"])
        self.assertEqual({by_id[i].role for i in named}, {"middle ground"})
        self.assertTrue(all(by_id[i].named for i in named))

    def test_a_region_is_found_by_typing(self):
        name = next(r.name for r in self.plan.regions if r.id == self.id_of(scenes.SUN))
        QTest.keyClicks(self.page.finding, name[:4])
        self.assertTrue(self.session.selection)
        chosen = next(r.name for r in self.plan.regions if r.id == self.session.selection)
        self.assertIn(name[:4], chosen)


class Hands(OnSketch):
    def test_a_frame_on_the_picture_chooses_what_it_holds(self):
        drag(self.stage, [self.place(60, 5), self.place(80, 30), self.place(160, 98)])
        self.assertEqual(
            set(self.session.chosen), {self.id_of(scenes.SAIL), self.id_of(scenes.HULL)}
        )
        drag(self.stage, [self.place(200, 30)])
        self.assertEqual(self.session.chosen, (self.id_of(scenes.SUN),))

    def test_merging_is_one_step_and_other_decisions_stay(self):
        sail, hull = self.id_of(scenes.SAIL), self.id_of(scenes.HULL)
        self.session.select_several((sail, hull))
        count = len(self.plan.regions)
        colour = study(self.plan).colours[sail]
        self.changed(lambda: self.works.menus.run("merge"))
        self.assertEqual(len(self.plan.regions), count - 1)
        self.assertEqual(study(self.plan).colours[sail], colour)
        self.assertEqual(self.works.marks.region_at(110, 80), sail)
        self.works.menus.run("undo")
        self.settle()
        self.assertEqual(self.works.marks.region_at(110, 80), hull)

    def test_a_region_is_split_by_a_line_drawn_across_it(self):
        sea = self.id_of(scenes.SEA)
        self.session.select(sea)
        self.works.region_commands.on_stage.begin_line()
        self.changed(
            lambda: drag(self.stage, [self.place(40, 2), self.place(40, 50), self.place(40, 97)])
        )
        left, right = self.works.marks.region_at(10, 20), self.works.marks.region_at(90, 20)
        self.assertNotEqual(left, right)
        self.assertIn(sea, (left, right))
        self.assertEqual(self.stage.hand.mode, "frame")

    def test_a_line_that_splits_nothing_says_so(self):
        self.session.select(self.id_of(scenes.SUN))
        plan = self.plan
        self.works.region_commands.on_stage.begin_line()
        drag(self.stage, [self.place(10, 120), self.place(10, 130), self.place(10, 150)])
        self.settle()
        self.assertIs(self.plan, plan)
        self.assertIn("not split", self.parts.notice.text())
        self.works.region_commands.on_stage.begin_giving()
        self.assertEqual(self.stage.hand.mode, "give")
        QTest.keyClick(self.stage, Qt.Key.Key_Escape)
        self.assertEqual(self.stage.hand.mode, "frame")

    def test_an_outline_makes_a_region_and_a_brush_widens_and_narrows_it(self):
        sea = self.id_of(scenes.SEA)
        count, px = len(self.plan.regions), self.share_of(sea)
        self.works.menus.run("outline")
        ring = [(20, 20), (60, 20), (60, 40), (20, 40)]
        self.changed(lambda: drag(self.stage, [self.place(*p) for p in ring]))
        fresh = self.session.selection
        self.assertEqual((len(self.plan.regions), self.stage.hand.mode), (count + 1, "frame"))
        self.assertEqual(self.works.marks.region_at(40, 30), fresh)
        self.assertLess(self.share_of(sea), px)
        held = self.share_of(fresh)
        self.works.menus.run("widen")
        QTest.keyClick(self.stage, Qt.Key.Key_Up)
        self.assertIn("Brush", self.parts.notice.text())
        self.changed(lambda: drag(self.stage, [self.place(40, 44), self.place(58, 46)]))
        self.assertGreater(self.share_of(fresh), held)
        self.assertEqual(self.stage.hand.mode, "widen")  # more strokes may come
        self.works.menus.run("narrow")
        wide = self.share_of(fresh)
        self.changed(lambda: drag(self.stage, [self.place(22, 30), self.place(30, 30)]))
        self.assertLess(self.share_of(fresh), wide)
        QTest.keyClick(self.stage, Qt.Key.Key_Escape)
        self.assertEqual(self.stage.hand.mode, "frame")
        for _ in range(3):
            self.works.menus.run("undo")
        self.settle()
        self.assertEqual((len(self.plan.regions), self.share_of(sea)), (count, px))

    def share_of(self, region):
        return self.desk.derived.shares[region]

    def test_hands_are_in_the_menu_of_a_region(self):
        from umber_compass.window.widgets.under import Under

        self.session.select_several((self.id_of(scenes.SAIL), self.id_of(scenes.HULL)))
        menu = self.works.context.menu(Under(self.id_of(scenes.HULL)))
        texts = {a.text(): a for m in menu.findChildren(type(menu)) for a in m.actions()}
        self.assertTrue(texts["Merge the chosen regions"].isEnabled())
        texts["metal"].trigger()
        self.assertEqual(sum(r.material == "metal" for r in self.plan.regions), 2)


class Watched(OnSketch):
    def rewrite(self, rgb, by_rename=True):
        if by_rename:
            other = self.folder / ".new"
            other.write_bytes(scenes.encoded(rgb))
            other.replace(self.file)
        else:
            self.file.write_bytes(scenes.encoded(rgb))

    def test_a_changed_file_is_taken_in_and_decisions_stay(self):
        sail = self.id_of(scenes.SAIL)
        self.session.select(sail)
        self.page.panel.edit_name()
        QTest.keyClicks(self.page.panel.name, "mainsail")
        QTest.keyClick(self.page.panel.name, Qt.Key.Key_Return)
        shapes = (*scenes.BOAT, ("rectangle", (10, 120, 60, 150), "#103a20"))
        self.changed(lambda: self.rewrite(scenes.draw(shapes)))
        names = {r.id: r.name for r in self.plan.regions}
        self.assertEqual((names[sail], len(names)), ("mainsail", 6))
        self.assertIn("1 new", self.parts.notice.text())
        self.assertTrue(self.page.notes.isVisible())
        self.works.menus.run("undo")
        self.assertEqual(len(self.plan.regions), 5)

    def test_a_file_that_changed_while_its_plan_was_closed_is_said_to_have(self):
        kept = self.folder / "kept.umber"
        wait(self.desk.filed, lambda: self.works.files.documents.save(kept))
        self.open(DEMO)
        self.rewrite(scenes.draw((*scenes.BOAT, ("rectangle", (10, 120, 60, 150), "#103a20"))))
        count = len(document.open_plan(kept).plan.regions)
        wait(self.desk.told, lambda: self.open(kept))
        self.settle()
        self.assertIn("changed since", self.parts.notice.text())
        self.assertEqual(len(self.plan.regions), count, "it is taken in when that is wished")

    def test_a_file_that_goes_or_is_broken_says_so_and_the_plan_stays(self):
        plan, watch = self.plan, self.works.sketches.watching
        with (
            mock.patch.object(watch.files.again, "start", watch.files.again.timeout.emit),
            mock.patch.object(watch.files.settled, "start", watch.files.settled.timeout.emit),
        ):
            self.file.write_bytes(scenes.encoded(scenes.draw())[:400])
            line = wait(watch.failed)[0]
            self.assertIn("boat.png", line)
            self.assertIs(self.plan, plan)
            wait(watch.failed, self.file.unlink)
        self.assertIn("gone", self.parts.notice.text())
        self.assertIs(self.plan, plan)
        self.rewrite(scenes.draw((*scenes.BOAT, ("rectangle", (10, 120, 60, 150), "#103a20"))))
        self.changed(lambda: self.works.menus.run("read-again"))
        self.assertEqual(len(self.plan.regions), 6)

    def test_a_grey_thumbnail_replaced_by_flats_keeps_its_values(self):
        grey = scenes.draw()
        lum = (grey @ np.array([0.3, 0.6, 0.1])).astype(np.uint8)
        shade = np.linspace(-6, 6, 160)[:, None]
        noise = np.random.default_rng(0).normal(0, 1.5, lum.shape)
        shaded = np.clip(lum + shade + noise, 0, 255).astype(np.uint8)
        path = self.folder / "grey.png"
        Image.fromarray(np.repeat(shaded[..., None], 3, axis=2)).resize((720, 480)).save(path)
        wait(self.desk.opened, lambda: self.works.files.open_path(path, kind="grey"))
        self.settle()
        self.assertIsNotNone(self.desk.derived.drawing.shades)
        values = {r.id: study(self.plan).colours[r.id].value for r in self.plan.regions}
        self.answers.path = self.file
        self.changed(lambda: self.press(self.bench.replace))
        self.assertIsNotNone(self.desk.derived.drawing.shades)  # the light and dark stay
        kept = [r.id for r in self.plan.regions if r.id in values]
        self.assertGreaterEqual(len(kept), 3)
        for region in kept:
            self.assertEqual(study(self.plan).colours[region].value, values[region])
        self.assertGreater(max(study(self.plan).colours[r].chroma for r in kept), 0.04)

    def test_a_second_picture_gives_its_shading_or_its_regions(self):
        light = np.linspace(60, 230, 240)[None] * np.ones((160, 1))
        path = self.folder / "light.png"
        Image.fromarray(light.astype(np.uint8)).resize((480, 320)).save(path)
        files = QMimeData()
        files.setUrls([QUrl.fromLocalFile(str(path))])
        before = self.plan.regions
        self.answers.second = "cancel"
        self.window.dropEvent(dropped(files))
        self.assertIs(self.plan.regions, before)
        self.answers.second = "shading"
        self.changed(lambda: self.window.dropEvent(dropped(files)))
        self.assertEqual([r.id for r in self.plan.regions], [r.id for r in before])
        grey = self.desk.derived.drawing.shades.grey
        self.assertLess(grey[:, : grey.shape[1] // 8].mean() + 100, grey[:, -20:].mean())
        self.answers.path = self.file
        self.changed(lambda: self.works.menus.run("take-regions"))
        self.assertIsNotNone(self.desk.derived.drawing.shades)
        self.assertEqual({r.id for r in self.plan.regions}, {r.id for r in before})


class Reading(OnSketch):
    def test_another_way_is_looked_at_and_taken(self):
        path = self.folder / "grey.png"
        Image.fromarray(drawings.grey_thumbnail(9, 4, (480, 360), 8).rgb).save(path)
        wait(self.desk.opened, lambda: self.works.files.open_path(path))
        self.settle()
        self.assertEqual(self.plan.sketch.kind, "grey")
        reading = self.bench.reading
        wait(self.works.splitting.previewed, lambda: self.bench.open_tab(READING))
        self.assertRegex(reading.count.text(), r"^\d+ regions")
        wait(
            self.works.splitting.previewed,
            lambda: reading._fields["groups"].setValue(2),
        )
        few = int(reading.count.text().split()[0])
        self.assertLess(few, len(self.plan.regions))
        self.changed(lambda: self.press(reading.take))
        self.assertEqual(len(self.plan.regions), few)
        self.assertEqual(self.plan.sketch.settings, {"groups": 2})

    def test_the_artists_shading_is_switched_and_softened(self):
        path = self.folder / "grey.png"
        Image.fromarray(drawings.grey_thumbnail(9, 4, (480, 360), 8).rgb).save(path)
        wait(self.desk.opened, lambda: self.works.files.open_path(path))
        self.settle()
        self.bench.open_tab(READING)
        reading = self.bench.reading

        def spread():
            packed = self.desk.live.bitmap.packed & 0xFF
            label = self.desk.derived.drawing.labels
            low, high = np.percentile(packed[label == 1], (20, 80))
            return float(high - low)

        full = spread()
        reading.shading.strength.setValue(50)
        self.assertLess(spread(), 0.75 * full)
        reading.shading.on.click()
        self.assertLess(spread(), 0.3 * full)
        self.assertFalse(reading.shading.strength.isEnabled())
        self.settle()

    def test_a_closed_gap_is_opened_by_a_click_on_the_stage(self):
        path = self.folder / "lines.png"
        Image.fromarray(drawings.line_art(11, "gaps", (640, 480), 8).rgb).save(path)
        wait(self.desk.opened, lambda: self.works.files.open_path(path))
        self.settle()
        self.assertEqual(self.plan.sketch.kind, "lines")
        self.bench.open_tab(READING)
        self.settle()
        own = self.stage.necks
        reading = self.bench.reading
        wait(self.works.splitting.previewed, lambda: reading._fields["gap"].setValue(11))
        self.assertLess(len(self.stage.looked_gaps), len(own))
        wait(self.works.splitting.previewed, lambda: reading._fields["gap"].setValue(17))
        self.assertIsNone(self.stage.looked_gaps)
        closed = next(n for n in own if n.closed)
        count = len(self.plan.regions)
        width, height = self.plan.sketch.size
        at = self.place((closed.x0 + closed.x1) / 2 * width, (closed.y0 + closed.y1) / 2 * height)
        self.changed(lambda: drag(self.stage, [at]))
        self.assertEqual(len(self.plan.regions), count - 1)
        self.assertFalse(self.plan.sketch.necks[closed.number].closed)


class Candidates(OnSketch):
    def test_several_sketches_stay_in_one_plan_and_one_is_chosen(self):
        other = self.folder / "other.png"
        other.write_bytes(scenes.encoded(scenes.draw(scenes.BOAT[:3])))
        self.answers.path = other
        self.bench.open_tab(CANDIDATES)
        self.changed(lambda: self.press(self.bench.candidates.add))
        for _ in range(300):
            if len(self.bench.candidates.cards) == 2:
                break
            QTest.qWait(10)
        cards = self.bench.candidates.cards
        self.assertEqual([c.text() for c in cards], ["boat.png", "other.png"])
        self.changed(cards[1].click)
        self.assertEqual((self.plan.sketch.file_name, len(self.plan.regions)), ("other.png", 3))
        self.assertEqual([c.sketch.file_name for c in self.plan.candidates], ["boat.png"])
        saved = self.folder / "both.umber"
        wait(self.desk.filed, lambda: self.works.files.documents.save(saved))
        wait(self.desk.opened, lambda: self.works.files.open_path(saved))
        self.settle()
        self.assertEqual([c.sketch.file_name for c in self.plan.candidates], ["boat.png"])


class Drawers(OnSketch):
    def test_the_brief_says_where_each_number_comes_from(self):
        self.works.menus.run("brief")
        drawer = self.parts.drawers["brief"]
        self.assertIs(self.parts.stack.currentWidget(), drawer)
        at = drawer.use.findData("poster")
        drawer.use.activated.emit(at)
        self.assertEqual(drawer.width_cm.value(), 60)
        self.assertIn("poster", drawer.from_width.text())
        drawer.width_cm.setValue(90)
        self.assertEqual((self.plan.brief.width_cm, drawer.from_width.text()), (90, "set here"))
        drawer.notes.setFocus()
        QTest.keyClicks(drawer.notes, "Blue only.")
        drawer.title.setFocus()
        self.assertEqual(self.plan.brief.notes, "Blue only.")
        self.settle()

    def test_a_practice_reorders_the_route_and_changes_its_numbers(self):
        self.works.menus.run("practice")
        drawer = self.parts.drawers["practice"]
        for name, button in drawer.pictures.items():
            self.press(button)
            self.assertEqual(self.plan.practice, name)
        self.press(drawer.pictures["grey-first"])
        self.assertEqual(self.plan.practice, "grey-first")
        stops = list(self.parts.route.stops.values())
        order = [s.key for s in sorted(stops, key=lambda s: s.y())]
        QApplication.processEvents()
        order = [s.key for s in sorted(stops, key=lambda s: s.y())]
        self.assertEqual(order[1:3], ["values", "harmony"])
        self.assertEqual(drawer._fields["figure-merges.note"].value(), 18)
        self.settle()
        self.assertTrue(any(label.text() for label in drawer._now.values()))

    def test_a_picture_is_kept_read_compared_and_picked_from(self):
        self.works.menus.run("reference")
        drawer = self.parts.drawers["reference"]
        files = QMimeData()
        files.setUrls([QUrl.fromLocalFile(str(self.file))])
        wait(self.works.references.read, lambda: drawer.dropEvent(dropped(files)))
        self.assertEqual([r.title for r in self.plan.references], ["boat"])
        self.assertIn("swatches, read exactly", drawer.how.text())
        self.session.select(self.id_of(scenes.SAIL))
        frame = drawer.picture.frame()
        at = QPoint(int(frame.width() * 0.1), int(frame.height() * 0.9))
        QTest.mouseClick(drawer.picture, Qt.MouseButton.LeftButton, pos=at)
        shown = self.desk.derived.colours[self.session.selection].first.hex
        apart = [
            abs(int(shown[i : i + 2], 16) - int(scenes.SAND[i : i + 2], 16)) for i in (1, 3, 5)
        ]
        self.assertLess(max(apart), 3)
        mime = QMimeData()
        mime.setImageData(QImage(str(self.file)))
        drawer._take(mime)
        self.settle()
        saved = self.folder / "with.umber"
        wait(self.desk.filed, lambda: self.works.files.documents.save(saved))
        wait(self.desk.opened, lambda: self.works.files.open_path(saved))
        self.settle()
        self.assertEqual(len(self.plan.references), 2)
        self.press(drawer.remove)
        self.assertEqual(len(self.plan.references), 1)
        self.settle()

    def test_a_composition_is_begun_from_the_start_page(self):
        name = next(iter(COMPOSITIONS))
        wait(self.desk.opened, lambda: self.works.start.composed.emit(name))
        self.settle()
        self.assertEqual(self.plan.sketch.kind, "none")
        self.assertTrue(all(r.named for r in self.plan.regions))

    def test_sprites_are_shown_at_whole_multiples(self):
        rgb = np.zeros((24, 24, 3), np.uint8)
        rgb[:12], rgb[6:18, 6:18] = (40, 60, 120), (220, 180, 60)
        path = self.folder / "sprite.png"
        path.write_bytes(scenes.encoded(rgb))
        wait(self.desk.opened, lambda: self.works.files.open_path(path))
        self.settle()
        from umber_compass.plan.practice_edits import set_practice

        self.assertTrue(self.stage.zoom.whole)  # from the first sight, by any practice
        self.do(set_practice("sprite"))
        self.settle()
        scale = self.stage.scale
        self.assertEqual(scale, int(scale))
        shown = self.stage.grab().toImage()
        colours = set()
        frame = self.stage.frame()
        for i in range(60):
            at = frame.topLeft() + QPointF(frame.width() * (i + 0.5) / 60, frame.height() / 2)
            colours.add(shown.pixelColor(at.toPoint()).name())
        self.assertLessEqual(len(colours), 3)


if __name__ == "__main__":
    unittest.main()
