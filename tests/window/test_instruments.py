"""What every instrument does alike under a hand: a grip does not jump, only the left button holds,
letting go ends a drag once, a tooltip is its own."""

import unittest
from unittest import mock

from PySide6.QtCore import QEvent, QPoint, QPointF, QRectF, Qt
from PySide6.QtGui import QHelpEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QToolTip

from tests.window.driving import FULL, InWindow, mouse
from umber_compass.plan.harmony_edits import turn_lead
from umber_compass.plan.settings import change_setting
from umber_compass.steps.harmony.scheme_edits import choose_scheme
from umber_compass.window.application import make_application
from umber_compass.window.benches.harmony.dial import RING
from umber_compass.window.widgets.instrument import Instrument

PRESS, MOVE = QEvent.Type.MouseButtonPress, QEvent.Type.MouseMove
RELEASE = QEvent.Type.MouseButtonRelease


class Knob(Instrument):
    """One thing that stands at 50, 50 and is held within 10 px."""

    def __init__(self):
        super().__init__("Knob", (100, 100))
        self.resize(100, 100)
        self.at, self.log = QPointF(50, 50), []
        self.began.connect(lambda: self.log.append("began"))
        self.ended.connect(lambda: self.log.append("ended"))

    def paint(self, painter):
        painter.fillRect(QRectF(self.at.x() - 5, self.at.y() - 5, 10, 10), Qt.GlobalColor.black)

    def grip(self, place):
        return "it" if (place - self.at).manhattanLength() <= 10 else None

    def stands(self, held):
        return self.at

    def dragged(self, held, hand):
        self.at = hand.place

    def dropped(self, held, hand):
        self.log.append("dropped")

    def stepped(self, right, up, hand):
        self.log.append((right, up, hand.shift))
        return bool(right)

    def turned_page(self, by):
        self.log.append(by)
        return True

    def taken(self):
        self.log.append("taken")
        return True

    def says(self, place):
        return "the knob" if self.grip(place) else ""


class Alike(unittest.TestCase):
    def setUp(self):
        self.application = make_application()
        self.knob = Knob()
        self.addCleanup(self.knob.deleteLater)

    def test_what_is_held_keeps_its_distance_from_the_hand(self):
        mouse(self.knob, PRESS, QPointF(54, 47))
        self.assertEqual(self.knob.at, QPointF(50, 50))
        mouse(self.knob, MOVE, QPointF(74, 57))
        self.assertEqual(self.knob.at, QPointF(70, 60))
        mouse(self.knob, RELEASE, QPointF(74, 57))
        mouse(self.knob, MOVE, QPointF(20, 20))
        self.assertEqual(self.knob.at, QPointF(70, 60))
        self.knob.let_go()
        self.assertEqual(self.knob.log, ["began", "dropped", "ended"])

    def test_only_the_left_button_holds_and_nothing_beside_it(self):
        for place, button in (((50, 50), Qt.MouseButton.RightButton), ((90, 90), None)):
            mouse(self.knob, PRESS, QPointF(*place), *([button] if button else []))
            mouse(self.knob, MOVE, QPointF(30, 30))
            mouse(self.knob, RELEASE, QPointF(30, 30))
        self.assertEqual((self.knob.at, self.knob.log), (QPointF(50, 50), []))

    def test_another_button_let_go_does_not_end_what_the_left_one_holds(self):
        mouse(self.knob, PRESS, QPointF(50, 50))
        mouse(self.knob, RELEASE, QPointF(50, 50), Qt.MouseButton.RightButton)
        mouse(self.knob, MOVE, QPointF(60, 50))
        self.assertEqual((self.knob.at, self.knob.log), (QPointF(60, 50), ["began"]))
        mouse(self.knob, RELEASE, QPointF(60, 50))

    def test_keys_and_cursor_and_tooltip(self):
        keys = Qt.Key
        for key in (keys.Key_Left, keys.Key_Up, keys.Key_PageDown, keys.Key_Space, keys.Key_A):
            QTest.keyClick(self.knob, key)
        QTest.keyClick(self.knob, keys.Key_Right, Qt.KeyboardModifier.ShiftModifier)
        wanted = [(-1, 0, False), (0, 1, False), -1, "taken", (1, 0, True)]
        self.assertEqual(self.knob.log, wanted)
        mouse(self.knob, MOVE, QPointF(50, 50))
        self.assertEqual(self.knob.cursor().shape(), Qt.CursorShape.SizeVerCursor)
        mouse(self.knob, MOVE, QPointF(5, 5))
        self.assertEqual(self.knob.cursor().shape(), Qt.CursorShape.ArrowCursor)
        self.knob.setToolTip("all of it")
        with mock.patch.object(QToolTip, "showText") as shown:
            for x in (50, 5):
                self.knob.event(QHelpEvent(QEvent.Type.ToolTip, QPoint(x, x), QPoint(x, x)))
        self.assertEqual([c.args[1] for c in shown.call_args_list], ["the knob", "all of it"])


class OnTheBenches(InWindow):
    """Whatever part of a grip is taken, nothing moves until the hand does."""

    def held(self, widget, place, shown):
        before = shown()
        mouse(widget, PRESS, place)
        mouse(widget, MOVE, place)
        after = shown()
        mouse(widget, RELEASE, place)
        self.desk.seal()
        return before, after

    def test_no_grip_jumps(self):
        self.open(FULL)
        self.do(choose_scheme("neighbours"))
        rose = self.parts.benches["harmony"].rose
        for slot in ("A", "B"):
            at = rose.dial.at(rose._parts.needles[slot], rose.dial.radius - RING / 2)
            place = at + QPointF(4, 3)
            one, two = self.held(rose, place, lambda: self.desk.derived.scheme)
            self.assertAlmostEqual(one.lead_deg, two.lead_deg, places=6, msg=slot)
            self.assertAlmostEqual(one.spread_deg, two.spread_deg, places=6, msg=slot)
        self.works.steps.open("values")
        self.settle()
        bench = self.parts.benches["values"]
        box = next(b for b, c in bench.ladder.boxes() if not c.locked)
        for widget, place, shown in (
            (bench.ladder, box.center() + QPointF(0, 6), lambda: self.desk.derived.planned),
            (
                bench.page.bands,
                QPointF(20, self.edge() + 4),
                lambda: self.desk.derived.wishes.bands,
            ),
        ):
            one, two = self.held(widget, place, shown)
            self.assertEqual(one, two)
        self.settle()

    def edge(self):
        column = self.parts.benches["values"].page.bands
        return column.stands(0).y()

    def test_a_spread_follows_past_where_it_is_least(self):
        self.open(FULL)
        self.do(choose_scheme("neighbours"))
        self.do(turn_lead(350.0))
        self.do(change_setting("scheme.spread", 20.0))
        rose = self.parts.benches["harmony"].rose
        far = rose.dial.radius - RING / 2
        mouse(rose, PRESS, rose.dial.at(rose._parts.needles["B"], far))
        for angle in (8, 2, 358, 340, 300, 250):
            mouse(rose, MOVE, rose.dial.at(angle, far))
            self.assertLess(self.desk.derived.scheme.spread_deg, 21, angle)
        mouse(rose, RELEASE, rose.dial.at(250, far))
        self.desk.seal()
        self.settle()
