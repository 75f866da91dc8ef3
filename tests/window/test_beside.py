"""What stands beside the painting: log, fresh look, reminder of breaks, card and strip."""

import csv
import shutil
import subprocess
import sys
import tempfile
import textwrap
import unittest
from pathlib import Path
from unittest import mock

import numpy as np
from PySide6.QtCore import QEvent, QPointF, QTimer
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QAbstractItemView

from tests.window.driving import DEMO, InWindow, drag, look_is_over, mouse, wait
from umber_compass.formats.picture import png_bytes
from umber_compass.plan.changed_numbers import changed_numbers
from umber_compass.plan.practice_edits import set_practice
from umber_compass.plan.settings import change_setting
from umber_compass.steps.handoff.card import card
from umber_compass.steps.handoff.nearest_paint import nearest_paint
from umber_compass.window.beside.beside import Beside
from umber_compass.window.beside.pipette import NoPipetteError, pick_by_portal
from umber_compass.window.beside.references_beside import ReferencesBeside
from umber_compass.window.desk import breaks
from umber_compass.window.drawers.fresh_look import FreshLook
from umber_compass.window.drawers.log_table import WHAT, WHY
from umber_compass.window.works import breaks_of


class TestLog(InWindow):
    def setUp(self):
        super().setUp()
        self.open(DEMO)
        held = tempfile.TemporaryDirectory()
        self.addCleanup(held.cleanup)
        self.folder = Path(held.name)
        self.works.steps.toggle_drawer("log")
        self.log = self.parts.drawers["log"]
        self.do(change_setting("brief.width", 34))
        self.do(change_setting("purpose", "=2+3 on a stairwell"))

    def shown(self, column=WHAT):
        table = self.log.table
        return [table.index(i, column).data() for i in range(table.rowCount())]

    def test_decisions_are_listed_with_their_numbers(self):
        self.assertEqual(len(self.shown()), 2)
        self.assertIn("→ 34", self.shown()[1])
        self.log.search.setText("width")
        self.assertEqual(len(self.shown()), 1)
        self.log.search.setText("no such word")
        self.assertEqual(self.shown(), [])
        self.log.search.clear()
        self.assertIn("2 decisions", self.log.says.text())

    def test_a_reason_is_typed(self):
        where = self.log.table.index(0, WHY)
        self.log.list.setCurrentIndex(where)
        self.log.list.edit(where)
        self.assertEqual(self.log.list.state(), QAbstractItemView.State.EditingState)
        editor = self.log.list.indexWidget(where)
        editor.setText("it hangs there")
        self.log.list.commitData(editor)
        self.log.list.closeEditor(editor, editor_hint())
        self.assertEqual(self.works.journaling.journal.entries[1].why, "it hangs there")
        self.assertEqual(self.shown(WHY)[0], "it hangs there")
        self.assertTrue(self.desk.unsaved)

    def test_a_drag_is_one_decision(self):
        count = len(self.works.journaling.journal.entries)
        self.desk.begin_drag()
        for width in (40, 50, 60):
            self.do(change_setting("brief.width", width)._replace(merge="width"))
            self.assertEqual(len(self.works.journaling.journal.entries), count)
        self.desk.seal()
        self.assertEqual(len(self.works.journaling.journal.entries), count + 1)
        self.assertIn("34 → 60", self.shown()[0])

    def test_it_is_written_as_markdown_and_csv(self):
        self.works.journaling.say_why(0, "+1 wall")
        self.works.journaling.add_fresh_look(("the sun", "", "less red"))
        for name in ("log.md", "log.csv"):
            self.answers.path = self.folder / name
            wait(self.desk.orders.rested, self.log.write.click)
        said = (self.folder / "log.md").read_text()
        self.assertIn("why: +1 wall", said)
        self.assertIn("What did you see first? the sun", said)
        rows = list(csv.reader((self.folder / "log.csv").read_text().splitlines()))
        self.assertEqual(rows[0], ["time", "step", "study", "what", "why"])
        self.assertEqual(rows[1][4], "'+1 wall")
        self.assertFalse([c for row in rows for c in row if c.startswith(("=", "+", "-", "@"))])

    def test_a_fresh_look_is_kept(self):
        self.log.fresh.click()
        (dialog,) = self.window.findChildren(FreshLook)
        dialog.fields[1].setText("the roof merges")
        dialog.keep.click()
        (fresh,) = self.works.journaling.journal.fresh
        self.assertEqual(fresh.answers, ("", "the roof merges", ""))

    def test_numbers_of_a_change(self):
        plan = self.desk.history.now
        after = change_setting("brief.width", 12).apply(plan)
        self.assertEqual(changed_numbers(plan, after), "34 → 12")
        self.assertEqual(changed_numbers(plan, plan), "")
        self.assertEqual(changed_numbers(plan, change_setting("title", "Other").apply(plan)), "")


def editor_hint():
    from PySide6.QtWidgets import QAbstractItemDelegate

    return QAbstractItemDelegate.EndEditHint.NoHint


class TestBreaks(InWindow):
    def test_a_reminder_comes_only_where_it_is_wished_and_work_goes_on(self):
        now = [0.0]
        self.breaks = breaks_of(self.desk, self.works.remembered)
        self.breaks._clock = lambda: now[0]
        told = []
        self.desk.told.connect(lambda line, _: told.append(line))
        self.session.acted.emit()
        self.assertFalse(self.breaks.timer.isActive())
        with mock.patch.object(self.works.remembered, "word", lambda name: "on"):
            self.breaks.wish(True)
            self.assertTrue(self.breaks.timer.isActive())
            now[0] = breaks.AFTER_S + breaks.PAUSE_S + 1
            self.breaks.timer.timeout.emit()
            self.assertEqual(told, [], "nobody works")
            self.session.acted.emit()
            now[0] += breaks.AFTER_S
            self.breaks._last = now[0]
            self.breaks.timer.timeout.emit()
        self.assertIn("not medical advice", told[0])
        self.breaks.wish(False)
        self.assertFalse(self.breaks.timer.isActive())


class TestCard(InWindow):
    def setUp(self):
        super().setUp()
        self.open(DEMO)
        self.works.steps.open("handoff")
        self.bench = self.parts.benches["handoff"]
        self.bench.open_tab([b.text() for b in self.bench.pages.tabs.buttons].index("Card"))
        self.settle()

    def test_steps_are_ticked_and_kept(self):
        steps = card(self.desk.derived)
        keys = list(self.bench.card.boxes)
        self.assertEqual(keys, [s.key for s in steps])
        self.assertLess(keys.index("base-ground"), keys.index("base-focus"))
        self.assertLess(keys.index("shade"), keys.index("highlight"))
        self.bench.card.boxes["base-ground"].click()
        self.assertEqual(self.works.journaling.journal.done, ("base-ground",))
        self.assertIn(f"1 of {len(steps)}", self.bench.card.says.text())
        self.bench.card.boxes["base-ground"].click()
        self.assertEqual(self.works.journaling.journal.done, ())

    def test_the_practice_says_the_order(self):
        self.do(set_practice("grey-first"))
        self.settle()
        keys = list(self.bench.card.boxes)
        self.assertLess(keys.index("values"), keys.index("base-ground"))
        self.do(change_setting("light.on", False))
        self.settle()
        shade = next(s for s in card(self.desk.derived) if s.key == "shade")
        self.assertIn("darker steps", str(shade.title))
        self.assertTrue(all("−" in p.name for p in shade.paints))

    def test_a_click_copies(self):
        from umber_compass.window.benches.handoff.card_page import Paints

        row = self.bench.card.findChildren(Paints)[1]
        paint = row._paints[1]
        drag(row, [QPointF(35, 10)])
        self.assertEqual(QGuiApplication.clipboard().text(), paint.hex)


class TestReferencesBeside(InWindow):
    """Reference pictures in a window of their own, beside whatever bench is open."""

    def setUp(self):
        super().setUp()
        self.open(DEMO)
        held = tempfile.TemporaryDirectory()
        self.addCleanup(held.cleanup)
        self.folder = Path(held.name)
        self.works.menus.run("references-beside")
        self.window_of = self.desk.findChild(ReferencesBeside)
        self.seen = self.window_of.window

    def add(self, name, left, right):
        half = np.full((60, 80, 3), left, np.uint8)
        half[:, 40:] = right
        (self.folder / name).write_bytes(png_bytes(half))
        wait(self.desk.changed, lambda: self.works.references.add_path(self.folder / name))
        self.settle()

    def point(self, x, y, press=False):
        box = self.seen.picture.frame()
        place = QPointF(box.left() + x * box.width(), box.top() + y * box.height())
        if press:
            drag(self.seen.picture, [place])
        else:
            mouse(self.seen.picture, QEvent.Type.MouseMove, place)

    def test_a_colour_is_read_given_to_the_chosen_region_and_taken_back(self):
        self.assertIn("no reference pictures", self.seen.says.text())
        self.assertFalse(self.seen.picture.isVisible())
        self.add("sea.png", (20, 90, 120), (220, 200, 150))
        self.point(0.2, 0.5)
        self.assertIn("#145a78, 36 L*", self.seen.says.text())
        self.assertIn("copies", self.seen.says.text())
        self.point(0.2, 0.5, press=True)
        self.assertEqual(QGuiApplication.clipboard().text(), "#145a78")
        door = next(r for r in self.desk.derived.regions if r.name == "door")
        self.session.select(door.id)
        before = self.desk.derived.colours[door.id].first.hex
        self.point(0.8, 0.5, press=True)
        self.assertEqual(self.desk.derived.colours[door.id].first.hex, "#dcc896")
        self.works.menus.run("undo")
        self.assertEqual(self.desk.derived.colours[door.id].first.hex, before)

    def test_seen_mirrored_a_click_still_takes_what_lies_there(self):
        self.add("sea.png", (20, 90, 120), (220, 200, 150))
        for view, hex_ in (
            ("mirrored", "#dcc896"),
            ("upside-down", "#145a78"),
            ("grey", "#145a78"),
        ):
            with self.subTest(view):
                self.seen.view.setCurrentIndex(self.seen.view.findData(view))
                self.seen.ask()
                self.settle()
                self.point(0.2, 0.5)
                self.assertIn(hex_, self.seen.says.text())

    def test_the_one_that_has_come_is_shown_beside_every_bench(self):
        self.add("sea.png", (20, 90, 120), (220, 200, 150))
        self.add("wood.png", (120, 70, 40), (60, 30, 20))
        self.assertEqual(self.seen.which.currentText(), "wood")
        for step in ("values", "light"):
            self.works.steps.open(step)
            self.assertTrue(self.seen.isVisible())
        self.works.menus.run("references-beside")
        self.assertIsNone(self.window_of.window)
        self.works.steps.toggle_drawer("reference")
        self.settle()
        drawer = self.parts.drawers["reference"]
        drawer.beside.click()
        self.assertEqual(self.window_of.window.which.count(), 2)

    def test_a_picture_is_shown_before_it_is_read(self):
        self.add("sea.png", (20, 90, 120), (220, 200, 150))
        came = []
        self.works.references.seen.connect(lambda _: came.append("seen"))
        self.works.references.read.connect(lambda _: came.append("read"))
        wait(self.works.references.read, lambda: self.works.steps.toggle_drawer("reference"))
        self.assertEqual(came[:2], ["seen", "read"])


class TestStrip(InWindow):
    def setUp(self):
        super().setUp()
        self.open(DEMO)
        self.works.menus.run("beside")
        self.settle()
        self.beside = self.desk.findChild(Beside)
        self.strip = self.beside.strip

    def at(self, x, y):
        box = self.strip.picture.frame()
        return QPointF(box.left() + x * box.width(), box.top() + y * box.height())

    def test_pointing_names_a_colour_and_a_click_copies_it(self):
        region = next(r for r in self.desk.derived.regions if r.name == "wall")
        labels = self.desk.derived.drawing.labels
        rows, columns = np.nonzero(labels == region.label)
        middle = len(rows) // 3
        shape = labels.shape
        place = self.at((columns[middle] + 0.5) / shape[1], (rows[middle] + 0.5) / shape[0])
        mouse(self.strip.picture, QEvent.Type.MouseMove, place)
        self.assertIn("wall", self.strip.name.text())
        drag(self.strip.picture, [place])
        self.assertIn(QGuiApplication.clipboard().text(), self.strip.name.text())
        paints = [p for row in self.strip._rows for p in row._paints]
        self.assertGreater(len(paints), 8, "local, chart and ramp")

    def test_the_nearest_colour_of_the_plan(self):
        derived = self.desk.derived
        wall = next(r for r in derived.regions if r.name == "wall")
        own = derived.colours[wall.id].first.hex
        near = nearest_paint(derived, own)
        self.assertEqual((near.paint.hex, near.paint.name), (own, "wall"))
        self.assertLess(near.apart, 0.01)
        darker = nearest_paint(derived, "#050505", wall.id)
        self.assertIn("wall", darker.paint.name)
        self.assertLess(darker.lighter, 0)

    def test_its_step_is_ticked_and_the_next_one_comes(self):
        first = self.strip.step.text()
        self.strip.step.click()
        self.assertNotEqual(self.strip.step.text(), first)
        self.assertEqual(len(self.works.journaling.journal.done), 1)

    def test_a_picked_colour_is_named_or_why_not(self):
        picks = iter(["#2f7078", NoPipetteError("no colour was picked")])

        def pick():
            found = next(picks)
            if isinstance(found, Exception):
                raise found
            return found

        self.beside.pipette._pick = pick
        wait(self.beside.pipette.picked, self.strip.pick.click)
        self.assertIn("#2f7078", self.strip.name.text())
        near = nearest_paint(self.desk.derived, "#2f7078")
        self.assertIn(near.paint.name, self.strip.name.text())
        wait(self.beside.pipette.failed, self.strip.pick.click)
        self.assertIn("no colour was picked", self.strip.name.text())
        look_is_over()

    def test_it_follows_the_plan_and_closes(self):
        paints = [p.hex for row in self.strip._rows for p in row._paints]
        self.session.select(self.desk.derived.regions[0].id)
        self.assertNotEqual([p.hex for row in self.strip._rows for p in row._paints], paints)
        self.works.menus.run("beside")
        self.assertIsNone(self.beside.strip)
        self.do(change_setting("brief.width", 20))
        self.works.menus.run("beside")
        self.strip = self.beside.strip
        self.assertEqual(self.strip.findChildren(QTimer), [], "nothing runs while nothing happens")
        self.strip.close()
        self.assertIsNone(self.beside.strip)


class TestPipette(unittest.TestCase):
    def test_a_desktop_without_one_is_said(self):
        with (
            mock.patch.dict("os.environ", {"DBUS_SESSION_BUS_ADDRESS": "unix:path=/nowhere"}),
            self.assertRaisesRegex(NoPipetteError, "no pipette"),
        ):
            pick_by_portal()

    @unittest.skipUnless(shutil.which("dbus-run-session"), "needs the package dbus-bin or dbus")
    def test_a_colour_comes_from_the_portal(self):
        """A stand-in for the portal on a bus of its own."""
        for code, said in ((0, "#336699"), (1, "no colour was picked")):
            with self.subTest(code=code):
                done = subprocess.run(
                    ["dbus-run-session", "--", sys.executable, "-c", _PORTAL, str(code)],
                    capture_output=True,
                    text=True,
                    timeout=60,
                )
                self.assertEqual(done.stdout.strip(), said, done.stderr[-500:])


_PORTAL = textwrap.dedent(
    """
    import sys, threading
    from jeepney import HeaderFields, MessageType, new_method_return, new_signal, DBusAddress
    from jeepney import message_bus
    from jeepney.io.blocking import Proxy, open_dbus_connection
    from umber_compass.window.beside.pipette import NoPipetteError, pick_by_portal

    bus = open_dbus_connection("SESSION")
    Proxy(message_bus, bus).RequestName("org.freedesktop.portal.Desktop", 0)

    def serve():
        while True:
            asked = bus.receive()
            fields = asked.header.fields
            if asked.header.message_type is not MessageType.method_call:
                continue
            sender, token = fields[HeaderFields.sender], asked.body[1]["handle_token"][1]
            path = "/org/freedesktop/portal/desktop/request/%s/%s" % (
                sender[1:].replace(".", "_"), token)
            bus.send(new_method_return(asked, "o", (path,)))
            where = DBusAddress(path, interface="org.freedesktop.portal.Request")
            code = int(sys.argv[1])
            found = {"color": ("(ddd)", (0.2, 0.4, 0.6))} if code == 0 else {}
            bus.send(new_signal(where, "Response", "ua{sv}", (code, found)))

    threading.Thread(target=serve, daemon=True).start()
    try:
        print(pick_by_portal())
    except NoPipetteError as error:
        print(error)
    """
)
