"""What is painted while something is dragged: the stage's own px, once; and many of a kind
gathered."""

import unittest

import numpy as np
from PySide6.QtCore import QEvent, QPointF, QRectF
from PySide6.QtGui import QFontMetricsF
from PySide6.QtWidgets import QApplication

from tests.window.driving import FULL, InWindow, wait
from umber_compass.colour.packed import unpack
from umber_compass.plan.harmony_edits import turn_lead
from umber_compass.plan.light_edits import set_lamp
from umber_compass.plan.settings import change_setting
from umber_compass.steps.checks import CHECKS, Result
from umber_compass.steps.checks.judging import measure_all
from umber_compass.steps.pictures import picture
from umber_compass.window.application import make_application
from umber_compass.window.benches.values.chips import Chip
from umber_compass.window.benches.values.ladder import Ladder
from umber_compass.window.desk.turns import Part
from umber_compass.window.widgets.theme import font
from umber_compass.words import words

PLACES = ((600, 60), (640, 440), (1000, 440), (300, 700))


class OnTheStagesPx(InWindow):
    def setUp(self):
        super().setUp()
        self.open(FULL)
        self.ready()
        self.stage = self.parts.stage

    def ready(self):
        """Until what is seen is made ready for a drag."""
        self.settle()
        preparing, grids = self.works.director.preparing, self.desk.live.grids
        while preparing.isActive() or not grids.suit(self.desk.derived):
            wait(preparing.timeout, preparing.start)
            self.settle()

    def turn(self, angle):
        self.do(turn_lead(angle))
        QApplication.processEvents()

    def assert_seen(self, places=PLACES):
        """The stage shows the plan's picture at some places, though it is nowhere at full size."""
        whole = unpack(picture(self.desk.derived)).astype(int)
        for x, y in places:
            there = whole[y - 3 : y + 4, x - 3 : x + 4].reshape(-1, 3)
            shown = self.pixel(x, y)
            seen = np.array([int(shown[i : i + 2], 16) for i in (1, 3, 5)])
            self.assertTrue((seen >= there.min(axis=0) - 3).all(), (x, y, seen))
            self.assertTrue((seen <= there.max(axis=0) + 3).all(), (x, y, seen))

    def test_a_drag_paints_them_alone_and_the_whole_picture_comes_when_it_is_asked_for(self):
        for rig_on in (True, False):
            if not rig_on:
                self.do(change_setting("light.on", False))
                self.ready()
            self.desk.begin_drag()
            for angle in (40.0, 100.0):
                self.turn(angle)
                part = self.stage._part
                self.assertIsNotNone(part, rig_on)
                self.assertEqual(
                    (self.stage._image.width(), self.stage._image.height()),
                    (part.columns, part.rows),
                )
                self.assertLessEqual(part.columns, self.stage.width())
                whole = (part.left, part.top, part.width, part.height)
                np.testing.assert_allclose(whole, (0, 0, 1280, 960), atol=2.5)
                self.assertTrue(self.desk.live._stale)
                self.assert_seen()
            small = self.works.small_views
            small.ask()
            self.assertTrue(self.desk.live._stale)  # small views have a grid of their own
            np.testing.assert_array_equal(self.desk.live.bitmap.packed, picture(self.desk.derived))
            self.desk.seal()
            self.settle()
            self.assertIsNone(self.stage._part)
            self.assert_exact()
            self.ready()

    def test_zoomed_in_it_is_a_part_of_the_picture_and_a_new_zoom_is_shown_at_once(self):
        self.stage.zoom_to(2.0, QPointF(300, 200))
        self.ready()
        self.desk.begin_drag()
        self.turn(80.0)
        part = self.stage._part
        self.assertEqual((part.columns, part.rows), (part.width, part.height))
        self.assertLess(part.columns, self.stage.picture.width() / 2)
        middle = self.stage.to_picture(QPointF(300, 200))
        self.assert_seen([(int(middle[0]), int(middle[1]))])
        self.stage.zoom_to(None)
        QApplication.processEvents()
        self.assert_seen()
        self.desk.seal()
        self.ready()

    def test_a_view_on_the_stage_follows_a_drag_too(self):
        self.session.put_on_stage("grey")
        self.ready()
        self.desk.begin_drag()
        self.turn(10.0)
        self.assertTrue(self.desk.live._stale)
        shown = self.pixel(640, 440)
        self.assertEqual(shown[1:3], shown[3:5])
        self.turn(200.0)
        self.assertTrue(self.desk.live._stale)
        self.desk.seal()
        self.ready()

    def test_a_move_is_painted_once_and_a_lamp_with_its_picture(self):
        self.works.steps.open("light")
        self.ready()
        self.desk.begin_drag()
        for x in (0.2, 0.5):
            frames = self.stage.frames
            self.do(set_lamp("key", words("x"), "direction key", direction=(x, -0.4, 0.7)))
            at = self.stage.lamps[0].direction
            self.assertAlmostEqual(at[0] / at[1], x / -0.4, places=6)
            while self.desk.turns.timer.isActive():
                wait(self.desk.turns.timer.timeout)
            for _ in range(4):
                QApplication.processEvents()
            self.assertEqual(self.stage.frames, frames + 1)
        self.desk.seal()
        self.settle()

    def test_checks_are_counted_now_and_then_in_a_drag_and_are_right_when_it_ends(self):
        judge, came, turns = self.desk.judge, [], self.desk.turns
        plain = turns.follow
        turns.follow = lambda part: came.append(part) or plain(part)
        self.desk.begin_drag()
        before = judge.results
        judge._counted.start()  # as if they had been counted just now
        self.do(turn_lead(120.0))
        while self.desk.turns.timer.isActive():
            wait(self.desk.turns.timer.timeout)
        self.assertEqual(set(came), set(Part))
        self.assertIs(judge.results, before)
        judge._counted.invalidate()  # as if that were long ago
        while judge.results is before:
            judge.count_some()
        self.assertIn("hue-off-scheme", [r.check for r in judge.results])
        self.assertTrue(judge._behind)
        self.desk.seal()
        found = [(r.key, r.measured) for r in judge.results if not CHECKS[r.check].looks]
        self.assertEqual(found, [(r.key, r.measured) for r in measure_all(self.desk.derived)])
        self.assertFalse(judge._behind)
        self.settle()

    def test_what_takes_long_does_not_move_the_picture(self):
        before = self.stage.geometry()
        self.parts.notice.go_on("judge", "Looking for fixes", 0.2)
        QApplication.processEvents()
        self.assertTrue(self.parts.notice.stop.isVisible())
        self.assertEqual(self.stage.geometry(), before)
        self.parts.notice.end()

    def test_room_for_lamps_is_as_much_as_they_need_and_none_on_other_steps(self):
        self.works.steps.open("values")
        plain = self.stage.frame().width()
        self.works.steps.open("light")
        self.do(set_lamp("key", words("x"), direction=(-0.5, -0.3, 0.6)))
        near = self.stage.frame().width()
        self.assertGreater(near, plain - 60)
        self.do(set_lamp("key", words("x"), direction=(-0.8, 0.0, -0.5)))
        behind = self.stage.frame().width()
        self.assertLess(behind, near - 40)
        self.works.views.set_alone(True)
        self.assertGreater(self.stage.frame().width(), near)
        self.works.views.set_alone(False)
        self.settle()

    def test_many_of_a_kind_are_one_line_that_opens(self):
        def result(check, level, i):
            return Result(check, level, (f"r{i}", "r99"), i, 15, "L*", words(f"t{i}"), words("x"))

        checks = self.parts.checks
        some = [result("figure-merges", "warning", i) for i in range(31)]
        alone = [result("extremes", "note", 50)]
        checks.show_results([*some, *alone])
        self.assertEqual([r.line.of for r in checks.rows], [31, 1])
        said = [x.text() for x in checks.rows[0].findChildren(type(self.parts.title))]
        self.assertEqual(said[0], "31 figures merge with what is behind them")
        self.assertEqual(said[1], "worst: t0")
        checks.rows[0].opener.click()
        self.assertEqual([r.result for r in checks.rows], [some[0], *some, *alone])
        QApplication.processEvents()
        self.assertLess(checks._area.height(), self.window.height() * 0.4)
        checks.rows[0].opener.click()
        self.assertEqual(len(checks.rows), 2)
        checks.look_at("figure-merges", "r7")
        self.assertIn(some[7], [r.result for r in checks.rows])
        checks.look_at("figure-merges", "none")
        checks.show_results(some[:2])
        self.assertEqual([r.line.of for r in checks.rows], [1, 1])
        self.settle()


class Gathering(unittest.TestCase):
    def setUp(self):
        make_application()
        self.ladder = Ladder()
        self.ladder.resize(480, 500)
        self.addCleanup(QApplication.sendPostedEvents, None, QEvent.Type.DeferredDelete)
        self.addCleanup(self.ladder.deleteLater)

    def show(self, count, selected=""):
        chips = [
            Chip(f"r{i}", 0, f"a name {i}", (i * 37) % 101, 1 / (i + 2), "#808080")
            for i in range(count)
        ]
        limits, shares = {"dark": 20, "light": 80}, {"dark": 0.1, "light": 0.2}
        self.ladder.show_chips(chips, [0.01] * 100, limits, shares, selected)
        return chips

    def whole(self, box, chip):
        """A chip with its name."""
        return box.adjusted(0, 0, 6 + QFontMetricsF(font(12)).horizontalAdvance(chip.name), 0)

    def test_chips_that_would_run_over_the_edge_gather_and_words_are_kept_clear(self):
        chips = self.show(300)
        found = self.ladder.standing()
        gathered = [c for g in found.gathered for c in g.chips]
        there = [c.region for c in gathered] + [c.region for _, c in found.chips]
        self.assertEqual(sorted(there), sorted(c.region for c in chips))
        wholes = [self.whole(b, c) for b, c in found.chips]
        self.assertLessEqual(max(b.right() for b in wholes), found.right)
        self.assertLessEqual(max(g.box.right() for g in found.gathered), self.ladder.width())
        clear = self.ladder._words_at(found.right)
        for i, one in enumerate(wholes):
            self.assertFalse(any(one.intersects(QRectF(o)) for o in (*wholes[i + 1 :], *clear)))
        for group in found.gathered:
            for chip in group.chips:
                y = self.ladder.scale.y_of(chip.value)
                self.assertLess(abs(y - group.box.center().y()), 20)

    def test_few_are_not_gathered_and_a_chosen_one_comes_out(self):
        self.show(12)
        self.assertEqual(self.ladder.standing().gathered, [])
        self.show(300)
        group = self.ladder.standing().gathered[0]
        hidden = group.chips[-1]
        self.assertIs(self.ladder.group_at(group.box.center()), group)
        chosen = []
        self.ladder.chosen.connect(chosen.append)
        menu = self.ladder.menu_of(group)
        self.assertEqual(len(menu.actions()), len(group.chips))
        self.assertIn(hidden.name, menu.actions()[-1].text())
        menu.actions()[-1].trigger()
        self.assertEqual(chosen, [hidden.region])
        self.show(300, hidden.region)
        self.assertIn(hidden.region, [c.region for _, c in self.ladder.boxes()])
        self.assertIn(f"{len(group.chips)} more", self.ladder.says(group.box.center()))
