"""The study wall under a hand and from the keyboard."""

from unittest import mock

import numpy as np
from PIL import Image
from PySide6.QtCore import QEvent, QPointF
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from tests.window.driving import Qt, drag, mouse
from tests.window.test_values_focus import OnTheBoat
from umber_compass.plan.settings import change_setting
from umber_compass.plan.study_edits import duplicate_study
from umber_compass.steps.studies import growing
from umber_compass.window.desk.worker import Worker


class Wall(OnTheBoat):
    step = "studies"

    def setUp(self):
        super().setUp()
        self.wall, self.grid = self.parts.wall, self.parts.wall.grid
        self.shown = self.works.studies.shown

    def grow(self, *rules):
        for name, box in self.bench.rules.items():
            box.setChecked(name in rules)
        self.press(self.bench.grow)
        self.settle()

    def click(self, at, more=False):
        keys = Qt.KeyboardModifier.ControlModifier if more else Qt.KeyboardModifier.NoModifier
        place = self.grid.placing.boxes()[at].center().toPoint()
        QTest.mouseClick(self.grid, Qt.MouseButton.LeftButton, keys, place)
        self.settle()

    def px(self, at):
        return self.shown.cards.bitmap(self.plan.studies[at].id).packed.copy()

    def test_the_wall_takes_the_stages_place_and_gives_it_back(self):
        self.assertTrue(self.wall.isVisible() and not self.parts.stage.isVisible())
        self.assertFalse(self.parts.tray.isVisible() or self.parts.strip.isVisible())
        self.works.menus.run("alone")
        self.assertTrue(self.parts.stage.isVisible() and not self.wall.isVisible())
        self.works.menus.run("alone")
        self.assertTrue(self.wall.isVisible())
        self.works.steps.open("values")
        self.settle()
        self.assertTrue(self.parts.stage.isVisible() and self.parts.tray.isVisible())
        self.assertFalse(self.wall.isVisible())

    def test_six_are_grown_shown_and_measured_and_one_undo_takes_them(self):
        self.grow("turn", "ground", "strength")
        self.assertEqual(len(self.plan.studies), 7)
        self.assertIn("no two closer than", self.parts.notice.text())
        pictures = [self.px(i) for i in range(7)]
        for i, one in enumerate(pictures):
            self.assertFalse(any((one == other).all() for other in pictures[:i]))
        for one in self.plan.studies:
            self.assertIsNotNone(self.shown.cards.numbers(one.id))
            self.assertTrue(one.grown or one.id == "s1")
        before = self.shown.cards.numbers("s1").warnings
        self.works.desk.do(change_setting("budget", 3))
        self.settle()
        self.assertEqual(self.shown.cards.numbers("s1").warnings, before + 1)
        for _ in range(2):
            self.works.menus.run("undo")
        self.assertEqual(len(self.plan.studies), 1)
        self.type(self.bench.apart, "0.25\r")
        self.grow("turn", "ground")
        self.assertLess(len(self.plan.studies), 7)
        self.assertEqual(self.plan.overrides["studies.apart"], 0.25)
        self.grow()
        self.assertFalse(self.bench.grow.isEnabled())

    def test_a_chosen_card_is_turned_by_hand_and_no_other(self):
        self.grow("turn")
        before = [self.px(i) for i in range(3)]
        shown = self.study
        self.click(1)
        other = self.plan.studies[1]
        start = self.grid.placing.boxes()[1].center()
        steps = len(self.desk.history.past)
        drag(self.grid, [start, start + QPointF(30, 0), start + QPointF(60, 4)])
        self.settle()
        now = self.plan.studies[1]
        turn = (now.scheme.lead_deg - other.scheme.lead_deg) % 360
        self.assertAlmostEqual(turn, 30, delta=0.1)
        self.assertEqual(len(self.desk.history.past), steps + 1)
        self.assertIs(self.study, shown)
        after = [self.px(i) for i in range(3)]
        self.assertEqual([(a == b).all() for a, b in zip(before, after, strict=True)], [1, 0, 1])
        self.grid.setFocus()
        QTest.keyClick(self.grid, Qt.Key.Key_Period)
        more = (self.plan.studies[1].scheme.lead_deg - now.scheme.lead_deg) % 360
        self.assertAlmostEqual(more, 5, delta=0.1)

    def test_while_a_card_is_dragged_its_picture_follows(self):
        self.grow("turn")
        self.click(2)
        before = self.px(2)
        start = self.grid.placing.boxes()[2].center()
        mouse(self.grid, QEvent.Type.MouseButtonPress, start)
        with mock.patch.object(Worker, "ask") as asked:
            for by in (20, 40):
                mouse(self.grid, QEvent.Type.MouseMove, start + QPointF(by, 0))
        self.assertFalse((self.px(2) == before).all())
        self.assertEqual([c.args[0] for c in asked.call_args_list], [])
        mouse(self.grid, QEvent.Type.MouseButtonRelease, start + QPointF(40, 0))
        self.settle()

    def test_two_are_compared_in_every_way_and_the_seam_is_dragged(self):
        self.grow("ground", "turn")
        self.assertFalse(self.wall.modes["split"].isEnabled())
        self.click(0)
        self.click(2, more=True)
        compare = self.wall.compare
        for mode in ("side", "split", "fade"):
            self.press(self.wall.modes[mode])
            self.settle()
            self.assertTrue(compare.isVisible())
            self.assertEqual(compare.mode, mode)
        self.assertTrue(compare.clock.isActive())
        self.assertEqual(compare._elapsed % 50, 0)
        shares = []
        for elapsed in range(0, 8000, 50):
            compare._elapsed = elapsed
            shares.append(compare.shown)
        self.assertEqual((min(shares), max(shares)), (0, 1))
        self.assertLess(np.abs(np.diff(shares)).max(), 0.05)
        self.press(self.wall.modes["split"])
        self.assertFalse(compare.clock.isActive())
        box = compare._frame().pictures[0]
        drag(compare, [box.center(), QPointF(box.x() + box.width() * 0.25, box.center().y())])
        self.assertAlmostEqual(compare.seam, 0.25, delta=0.01)
        QTest.keyClick(compare, Qt.Key.Key_Right)
        self.assertAlmostEqual(compare.seam, 0.30, delta=0.01)
        self.assertEqual(compare._rows[0].title, "focus stands out")
        self.press(self.wall.back)
        self.assertTrue(self.grid.isVisible())
        self.click(3, more=True)
        self.assertTrue(self.wall.modes["side"].isEnabled())
        self.assertFalse(self.wall.modes["fade"].isEnabled())

    def test_cards_are_seen_another_way(self):
        self.grow("turn")
        plain = self.px(1)
        for i, name in ((1, "grey"), (3, "mirrored")):
            self.press(self.wall.looks.buttons[i])
            self.settle()
            seen = self.px(1)
            self.assertFalse((seen == plain).all(), name)
        np.testing.assert_array_equal(seen[:, ::-1], plain)

    def test_a_verdict_a_reason_a_title_and_a_note(self):
        self.grow("turn")
        self.click(1)
        self.type(self.bench.title, "Evening\r")
        self.press(self.bench.keep)
        self.type(self.bench.reason, "it carries from afar\r")
        self.type(self.bench.note, "try on paper\r")
        one = self.plan.studies[1]
        self.assertEqual(
            (one.title, one.verdict, one.reason, one.note),
            ("Evening", "kept", "it carries from afar", "try on paper"),
        )
        self.press(self.bench.keep)
        self.assertEqual(self.plan.studies[1].verdict, "")
        self.press(self.bench.current)
        self.assertEqual(self.study.title, "Evening")
        self.press(self.bench.copy)
        self.assertEqual(self.plan.studies[-1].title, "Evening 2")
        count = len(self.plan.studies)
        self.press(self.bench.remove)
        self.assertEqual(len(self.plan.studies), count - 1)

    def test_keys_and_menus_reach_all_of_it(self):
        self.grow("turn")
        self.grid.setFocus()
        QTest.keyClick(self.grid, Qt.Key.Key_Right)
        self.assertEqual(self.shown.chosen, [self.plan.studies[1].id])
        QTest.keyClick(self.grid, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
        self.assertEqual(len(self.shown.chosen), 2)
        QTest.keyClick(self.grid, Qt.Key.Key_Left)
        QTest.keyClick(self.grid, Qt.Key.Key_Return)
        self.assertEqual(self.plan.current_study, self.shown.chosen[0])
        for name, check in (
            ("study-keep", lambda s: s.verdict == "kept"),
            ("study-reject", lambda s: s.verdict == "rejected"),
        ):
            self.works.menus.run(name)
            self.assertTrue(check(self.shown.one), name)
        now = self.plan.current_study
        self.works.steps.open("values")
        self.works.menus.run("next-study")
        self.assertNotEqual(self.plan.current_study, now)
        self.works.menus.run("previous-study")
        self.assertEqual(self.plan.current_study, now)
        menu = self.works.studies.menu(now)
        self.assertEqual([a.text() for a in menu.actions() if a.isChecked()], ["Reject"])
        menu.deleteLater()

    def test_a_double_click_makes_current(self):
        self.grow("turn")
        self.click(3)
        mouse(self.grid, QEvent.Type.MouseButtonDblClick, self.grid.placing.boxes()[3].center())
        self.assertEqual(self.plan.current_study, self.plan.studies[3].id)

    def test_a_clients_sheet_is_written(self):
        self.answers.path = self.folder / "sheet"
        self.wall.sheet.menu().aboutToShow.emit()
        for action in self.wall.sheet.menu().actions():
            action.trigger()
            self.settle()
        sheet = Image.open(self.folder / "sheet.png")
        self.assertGreater(sheet.width, 600)
        self.assertIn("Wrote sheet.png", self.parts.notice.text())

    def test_what_cannot_be_is_one_line(self):
        self.works.menus.run("study-remove")
        self.assertIn("only study", self.parts.notice.text())
        with mock.patch.object(growing, "MOST_CANDIDATES", 0):
            self.grow("turn")
        self.assertIn("no other version", self.parts.notice.text())
        self.assertEqual(len(self.plan.studies), 1)

    def test_a_hundred_studies_are_refused(self):
        for _ in range(98):
            self.desk.do(duplicate_study(self.plan, "s1"))
        self.settle()
        QApplication.processEvents()
        self.grow("turn")
        self.assertEqual(len(self.plan.studies), 99)
        self.assertIn("at most 99", self.parts.notice.text())
