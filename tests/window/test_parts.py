"""Parts of the window on their own: the worker, the sight, names that find their places."""

import unittest
from unittest import mock

from PySide6.QtCore import QPointF, QRectF, QSizeF
from PySide6.QtWidgets import QApplication

from tests import scenes
from tests.window.driving import InWindow, wait
from umber_compass.window.application import make_application
from umber_compass.window.benches.values.chips import Chip
from umber_compass.window.benches.values.ladder import Ladder
from umber_compass.window.stage import lamp_marks
from umber_compass.window.stage.tags import Tag, place
from umber_compass.window.stage.zoom import Zoom

PICTURE, ROOM = QSizeF(1280, 960), QSizeF(640, 480)


class Grips(unittest.TestCase):
    """What is taken in hand stays under the hand."""

    def test_a_lamp_is_found_by_its_disc_and_no_further(self):
        frame = QRectF(100, 50, 640, 480)
        mark = lamp_marks.LampMark("key", "K", "#ffffff", (0.5, -0.4, 0.77), True)
        place = lamp_marks.at(mark, frame)
        for away, found in ((0, True), (17.5, True), (18.5, False), (40, False)):
            for way in (QPointF(away, 0), QPointF(0, -away)):
                hit = lamp_marks.hit([mark], place + way, frame)
                self.assertEqual(hit is not None and hit.mark is mark, found, (away, way))


class Seen(unittest.TestCase):
    def test_fit_inset_and_middle(self):
        sight = Zoom()
        self.assertEqual(sight.frame(PICTURE, ROOM), QRectF(0, 0, 640, 480))
        self.assertEqual(sight.frame(PICTURE, QSizeF(900, 480)).x(), 130)
        sight.inset = 0.125
        frame = sight.frame(PICTURE, ROOM)
        self.assertEqual((frame.x(), frame.width()), (64, 512))
        sight.inset, sight.margin = 0.0, 20
        self.assertEqual(sight.frame(PICTURE, ROOM).getRect()[1:], (20, 586 + 2 / 3, 440))

    def test_a_zoom_keeps_what_is_under_the_pointer(self):
        sight = Zoom()
        for at in (QPointF(200, 100), QPointF(500, 400), QPointF(320, 240)):
            before = sight.frame(PICTURE, ROOM)
            share = (at.x() - before.x()) / before.width(), (at.y() - before.y()) / before.height()
            sight.zoom_to(sight.scale(PICTURE, ROOM) * 1.6, at, PICTURE, ROOM)
            after = sight.frame(PICTURE, ROOM)
            self.assertAlmostEqual(after.x() + share[0] * after.width(), at.x(), places=3)
            self.assertAlmostEqual(after.y() + share[1] * after.height(), at.y(), places=3)

    def test_the_picture_is_never_panned_away(self):
        sight = Zoom()
        sight.zoom_to(2, QPointF(320, 240), PICTURE, ROOM)
        for by in (QPointF(1e5, 1e5), QPointF(-1e5, -1e5)):
            sight.pan(by, PICTURE, ROOM)
            frame = sight.frame(PICTURE, ROOM)
            self.assertTrue(frame.contains(QRectF(0, 0, 640, 480)))
        sight.zoom_to(0.1, QPointF(0, 0), PICTURE, ROOM)
        self.assertEqual(sight.frame(PICTURE, ROOM).center(), QPointF(320, 240))


class Names(unittest.TestCase):
    def placed(self, tags, covers=lambda plate, label: 0.0):
        sizes = [QSizeF(60, 18)] * len(tags)
        frame = QRectF(0, 0, 640, 480)
        return place(tags, sizes, frame, 0.5, frame, covers)

    def test_inside_where_there_is_room_else_beside_with_a_line(self):
        large, small = self.placed(
            [Tag(1, 400, 400, 200, "sea 45"), Tag(2, 900, 500, 12, "gull 95")]
        )
        self.assertEqual((large.plate.center(), large.line_to), (QPointF(200, 200), None))
        self.assertEqual(small.line_to, QPointF(450, 250))
        self.assertFalse(small.plate.contains(small.line_to))

    def test_what_would_hide_too_much_or_lies_out_of_sight_is_left_out(self):
        tags = [Tag(1, 400, 400, 5, "a"), Tag(2, 5000, 400, 5, "b")]
        self.assertEqual(self.placed(tags, lambda plate, label: 1.0), [])
        at_corner = self.placed([Tag(1, 2, 2, 5, "a")])
        self.assertTrue(QRectF(0, 0, 640, 480).contains(at_corner[0].plate))

    def test_names_never_lie_on_each_other(self):
        tags = [Tag(i, 300 + 9 * i, 300 + 5 * i, 8, str(i)) for i in range(12)]
        found = self.placed(tags)
        self.assertGreaterEqual(len(found), 8)
        for i, one in enumerate(found):
            self.assertFalse(any(one.plate.intersects(o.plate) for o in found[i + 1 :]))


class Chips(unittest.TestCase):
    def test_hundreds_of_chips_find_places_of_their_own(self):
        make_application()
        ladder = Ladder()
        ladder.resize(480, 500)
        chips = [
            Chip(f"r{i}", 0, f"r{i}", (i * 37) % 101, 1 / (i + 2), "#808080") for i in range(60)
        ]
        ladder.show_chips(
            chips, [0.01] * 100, {"dark": 20, "light": 80}, {"dark": 0, "light": 0}, ""
        )
        boxes = [b for b, _ in ladder.boxes()]
        gathered = sum(len(g.chips) for g in ladder.standing().gathered)
        self.assertEqual(len(boxes) + gathered, 60)
        for i, one in enumerate(boxes):
            self.assertFalse(any(one.intersects(o) for o in boxes[i + 1 :]), i)
        for box, chip in ladder.boxes():
            self.assertAlmostEqual(box.center().y(), ladder.scale.y_of(chip.value), places=6)


class Rooms(InWindow):
    def test_another_room_is_put_on_part_by_part_and_what_is_hidden_when_it_is_seen(self):
        self.open()
        put_on = self.window.dressing._put_on
        with mock.patch.object(self.window.dressing, "_put_on", side_effect=put_on) as worn:
            self.works.views.enter_room("night")
            self.assertEqual(worn.call_count, 1)  # the rest in turns of their own
            while self.window.dressing.turn.isActive():
                QApplication.processEvents()
            parts = [call.args[0] for call in worn.call_args_list]
            self.assertTrue(all(p.isVisible() for p in parts))
            ladder = self.parts.benches["values"]
            self.assertNotIn(ladder, parts)
            self.works.steps.open("values")
            self.assertIs(worn.call_args_list[-1].args[0], ladder)
        self.works.views.enter_room("gallery")
        self.settle()


class ManyRegions(InWindow):
    def test_names_of_a_large_sketch_scroll_into_sight(self):
        shapes = [
            (
                "rectangle",
                (12 * i, 12 * j, 12 * i + 11, 12 * j + 11),
                f"#{i * 12:02x}{j * 12:02x}{(i * j) % 250:02x}",
            )
            for i in range(12)
            for j in range(12)
        ]
        held = scenes.tempfile.TemporaryDirectory()
        self.addCleanup(held.cleanup)
        sketch = scenes.Path(held.name) / "many.png"
        sketch.write_bytes(scenes.encoded(scenes.draw(shapes, (144, 144), 1)))
        wait(self.desk.opened, lambda: self.works.files.open_path(sketch))
        self.works.steps.open("sketch")
        QApplication.processEvents()
        bench, regions = self.parts.benches["sketch"], self.desk.history.now.regions
        page, last = bench.plan_page, regions[-1].id
        self.assertTrue(page.area.verticalScrollBar().maximum() > 0)
        self.works.desk.session.select(last)
        self.assertTrue(bench.edit_name(last))
        seen = page.plan.visibleRegion().boundingRect()
        self.assertTrue(seen.contains(page.plan.box_of(last).center().toPoint()))
        self.assertEqual(page.panel.name.text(), regions[-1].name)
        page.panel.role.textActivated.emit("focus")
        self.assertEqual(self.desk.history.now.regions[-1].role, "focus")
        self.settle()
