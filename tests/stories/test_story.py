"""The whole way in one sitting: open the demo, turn, drag, fix, look back, undo, choose, save,
close, reopen, hand off - with the mouse and with the keyboard, offscreen and in a real window."""

import os
import shutil
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from tests.window.driving import DEMO, FULL, InWindow, drag, wait
from umber_compass import document
from umber_compass.cli import judging, plans
from umber_compass.plan import edits
from umber_compass.window.benches.light.light_bench import CHART
from umber_compass.window.main_window import MainWindow
from umber_compass.window.stage import lamp_marks

REAL = os.environ.get("UMBER_STORY_SCREEN") == "1"
SKY = (600, 60)


class Story(InWindow):
    def setUp(self):
        super().setUp()
        held = tempfile.TemporaryDirectory()
        self.addCleanup(held.cleanup)
        self.folder = Path(held.name)

    def click(self, widget, at=None):
        place = (at or QPointF(widget.rect().center())).toPoint()
        QTest.mouseClick(widget, Qt.MouseButton.LeftButton, pos=place)

    def test_with_the_mouse(self):
        self.open(FULL)
        first = self.pixel(*SKY)
        rose = self.parts.benches["harmony"].rose
        drag(rose, [rose.dial.at(216 + d, rose.dial.radius - 6) for d in range(0, 70, 5)])
        turned = self.pixel(*SKY)
        self.assertNotEqual(turned, first)
        self.click(self.parts.route.stops["values"], QPointF(22, 28))
        self.settle()
        ladder = self.parts.benches["values"].ladder
        box = next(b for b, c in ladder.boxes() if c.name == "roof")
        drag(ladder, [box.center() + QPointF(0, d) for d in (0, -4, -12)])
        roof = self.colour("roof").value
        self.assertGreater(roof, 33)
        self.settle(fixes=True)
        row = next(r for r in self.parts.checks.rows if r.result.level == "warning")
        self.click(row.button)
        self.settle()
        self.assertEqual(self.parts.route.stops["values"].warnings, 0)
        QTest.keyPress(self.window, Qt.Key.Key_B)
        QTest.keyRelease(self.window, Qt.Key.Key_B)
        self.works.menus.of["undo"].trigger()
        self.settle()
        self.assertEqual(self.parts.route.stops["values"].warnings, 1)
        self.click(self.parts.route.stops["ramps"], QPointF(22, 28))
        self.settle()
        ramps = self.parts.benches["ramps"]
        self.click(ramps.rows[self.region("sea").id, 0], QPointF(20, 20))
        self.click(ramps.recipe.recipes["straight"])
        self.answers.path = self.folder / "mine.umber"
        wait(self.desk.worker.idle, self.works.menus.of["save"].trigger)
        plan = self.desk.history.now
        self.assertEqual(document.open_plan(self.answers.path).plan, plan)
        self.window.close()
        self.window.deleteLater()
        self.window = MainWindow(self.answers)
        self.take()
        self.window.show()
        self.open(self.answers.path)
        self.assertEqual(self.desk.history.now, plan)
        self.assertAlmostEqual(self.colour("roof").value, roof, places=6)
        self.click(self.parts.route.stops["handoff"], QPointF(22, 28))
        self.type(self.parts.benches["handoff"].folder, str(self.folder / "out"))
        wait(self.desk.worker.idle, lambda: self.click(self.parts.benches["handoff"].write))
        self.assertEqual(
            sorted(p.name for p in (self.folder / "out").iterdir()),
            [
                f"lighthouse-bakery{x}"
                for x in ("-chart.gpl", "-flat.png", "-layers.ora", "-lit.png", ".gpl")
            ],
        )

    def test_hue_value_and_lamp_are_dragged_and_the_exact_picture_follows(self):
        self.open(DEMO)
        self.assert_exact()
        rose, stage = self.parts.benches["harmony"].rose, self.parts.stage
        drag(rose, [rose.dial.at(216 + d, rose.dial.radius - 6) for d in range(0, 40, 8)])
        self.assert_exact()
        self.click(self.parts.route.stops["values"], QPointF(22, 28))
        ladder = self.parts.benches["values"].ladder
        box = next(b for b, c in ladder.boxes() if c.name == "coat")
        drag(ladder, [box.center() - QPointF(0, d) for d in (0, 20, 45)])
        self.assert_exact()
        self.click(self.parts.route.stops["light"], QPointF(22, 28))
        self.settle()
        frame, steps = stage.frame(), len(self.desk.history.past)
        start = lamp_marks.at(stage.lamps[0], frame)
        way = [start, start + QPointF(60, 20), start + QPointF(180, 90)]
        drag(stage, way)
        self.assertEqual(len(self.desk.history.past), steps + 1)
        placed = lamp_marks.at(stage.lamps[0], stage.frame())
        self.assertLess((placed - way[-1]).manhattanLength(), 2)
        self.assert_exact()
        self.click(self.parts.benches["light"].pages.tabs.buttons[CHART])
        self.settle()
        chart = self.parts.benches["light"].chart
        self.click(chart, chart.box(3, 2).center())
        self.assertEqual(QGuiApplication.clipboard().text(), chart.colour(3, 2).hex)
        for _ in range(3):
            self.works.menus.of["undo"].trigger()
        self.assertEqual(self.desk.history.now, self.desk.first)
        self.assert_exact()

    def test_with_the_keyboard_alone(self):
        self.open(DEMO)
        key, alt, control = (
            QTest.keyClick,
            Qt.KeyboardModifier.AltModifier,
            Qt.KeyboardModifier.ControlModifier,
        )
        shift = Qt.KeyboardModifier.ShiftModifier
        key(self.parts.benches["harmony"].rose, Qt.Key.Key_Right, shift)
        self.assertEqual(edits.study(self.desk.history.now).scheme.lead_deg, 226)
        self.window.activateWindow()
        self.keys(Qt.Key.Key_3, alt)
        self.assertEqual(self.session.step, "values")
        ladder = self.parts.benches["values"].ladder
        key(ladder, Qt.Key.Key_PageUp)
        chosen = self.session.selection
        before = self.desk.derived.colours[chosen].ends
        key(ladder, Qt.Key.Key_Up)
        self.assertNotEqual(self.desk.derived.colours[chosen].ends, before)
        self.settle(fixes=True)
        row = next(r for r in self.parts.checks.rows if r.result.level == "warning")
        key(row.button, Qt.Key.Key_Space)
        self.settle()
        self.assertEqual(self.parts.route.stops["values"].warnings, 0)
        self.keys(Qt.Key.Key_Z, control)
        self.settle()
        self.assertEqual(self.parts.route.stops["values"].warnings, 1)
        self.keys(Qt.Key.Key_Z, control | shift)
        self.keys(Qt.Key.Key_7, alt)
        key(self.parts.benches["ramps"].recipe.recipes["hsb-sum"], Qt.Key.Key_Space)
        recipes = edits.study(self.desk.history.now).recipes
        self.assertEqual({r: x.recipe for r, x in recipes.items()}, {chosen: "hsb-sum"})
        self.answers.path = self.folder / "keys.umber"
        wait(self.desk.worker.idle, lambda: self.keys(Qt.Key.Key_S, control))
        self.assertTrue(self.answers.path.exists())
        self.keys(Qt.Key.Key_8, alt)
        self.type(self.parts.benches["handoff"].folder, str(self.folder / "out"))
        wait(
            self.desk.worker.idle,
            lambda: key(self.parts.benches["handoff"].write, Qt.Key.Key_Space),
        )
        self.assertEqual(len(list((self.folder / "out").iterdir())), 5)

    def warned(self, step):
        return [r for r in self.parts.checks.rows if r.result.level == "warning"]

    def test_from_warnings_to_a_picture_that_reads_with_the_mouse(self):
        """Values, then focus: every warning is mended where it is said, and the picture reads."""
        self.open(FULL)
        for step in ("values", "focus"):
            self.click(self.parts.route.stops[step], QPointF(22, 28))
            self.settle(fixes=True)
            self.assertTrue(self.warned(step))
            for _ in range(5):
                if self.warned(step):
                    self.click(self.warned(step)[0].button)
                    self.settle(fixes=True)
            self.assertEqual(self.warned(step), [])
        attention = self.desk.derived.attention
        self.assertTrue(attention.leads(89))
        self.assertGreaterEqual(attention.lead, 1.12)
        self.assertIn(attention.places.order[0], attention.focus)
        bench = self.parts.benches["focus"]
        self.assertIn(f"{attention.lead:.2f}", bench.says.text())  # and can be said why
        self.answers.path = self.folder / "reads.umber"
        wait(self.desk.worker.idle, self.works.menus.of["save"].trigger)
        args = mock.Mock(plan=str(self.answers.path), output=str(self.folder / "x.umber"))
        said = {
            (c["check"], tuple(c["regions"])): c["measured"] for c in plans.checks(args)["checks"]
        }
        for result in self.desk.judge.results:
            self.assertAlmostEqual(said[result.check, result.regions], result.measured, places=4)
        self.assertAlmostEqual(judging.focus(args)["lead"], attention.lead, places=6)

    def test_from_warnings_to_a_picture_that_reads_with_the_keyboard(self):
        self.open(DEMO)
        alt, key = Qt.KeyboardModifier.AltModifier, QTest.keyClick
        for number, step in ((Qt.Key.Key_3, "values"), (Qt.Key.Key_4, "focus")):
            self.keys(number, alt)
            self.settle(fixes=True)
            for _ in range(5):
                if self.warned(step):
                    key(self.warned(step)[0].button, Qt.Key.Key_Space)
                    self.settle(fixes=True)
            self.assertEqual(self.warned(step), [])
        chart = self.parts.benches["focus"].chart
        key(chart, Qt.Key.Key_Down)
        self.assertTrue(self.session.selection)
        focus = edits.study(self.desk.history.now).focus
        key(chart, Qt.Key.Key_Return)
        self.assertNotEqual(edits.study(self.desk.history.now).focus, focus)

    def keys(self, key, modifiers):
        """A shortcut, as the window's action takes it: without a window manager no window is
        active, so Qt would not look for shortcuts."""
        from PySide6.QtGui import QKeySequence

        wanted = QKeySequence(int(modifiers.value) | int(key))
        action = next(a for a in self.works.menus.of.values() if a.shortcut() == wanted)
        self.assertTrue(action.isEnabled())
        action.trigger()
        QApplication.processEvents()


@unittest.skipIf(REAL, "this is the real window")
class OnAScreen(unittest.TestCase):
    def test_the_same_story_in_a_real_window(self):
        server = shutil.which("Xvfb")
        if server is None:
            self.skipTest("Xvfb is not installed; ./umber test installs it or names the command")
        read, write = os.pipe()
        screen = subprocess.Popen(
            [server, "-displayfd", str(write), "-screen", "0", "1400x900x24", "-nolisten", "tcp"],
            pass_fds=[write],
            stderr=subprocess.DEVNULL,
        )
        try:
            os.close(write)
            number = os.read(read, 16).decode().strip()
            environment = {
                **os.environ,
                "DISPLAY": f":{number}",
                "QT_QPA_PLATFORM": "xcb",
                "UMBER_STORY_SCREEN": "1",
            }
            story = "tests.stories.test_story.Story.test_with_the_mouse"
            said = subprocess.run(
                [sys.executable, "-m", "tests", story],
                env=environment,
                capture_output=True,
                text=True,
                timeout=240,
            )
            self.assertEqual(said.returncode, 0, said.stderr[-3000:])
        finally:
            os.close(read)
            screen.terminate()
            screen.wait()
