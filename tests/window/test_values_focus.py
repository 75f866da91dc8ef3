"""The values and focus benches under a hand and from the keyboard."""

from unittest import mock

from PySide6.QtCore import QEvent, QPoint, QPointF
from PySide6.QtGui import QCursor, QEnterEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from tests import scenes
from tests.window.driving import InWindow, Qt, drag, wait
from umber_compass.cli import judging as commands
from umber_compass.plan.edits import study
from umber_compass.plan.focus_edits import set_focus
from umber_compass.plan.wishes import Falloff
from umber_compass.steps.values.bands import KEYS
from umber_compass.window.commands.focusing import TURN_MS
from umber_compass.window.stage.fading import FADE_MS
from umber_compass.window.widgets import value_words
from umber_compass.window.widgets.why import WhyButton
from umber_compass.words import words


class OnTheBoat(InWindow):
    """A small picture, so that nothing has to be waited for."""

    step = "values"

    def setUp(self):
        super().setUp()
        self.folder = scenes.Path(self.enterContext(scenes.tempfile.TemporaryDirectory()))
        path = self.folder / "boat.png"
        path.write_bytes(scenes.encoded(scenes.draw()))
        self.addCleanup(value_words.choose, "light")
        self.open(path)
        self.works.steps.open(self.step)
        self.settle()
        self.bench = self.parts.benches[self.step]
        self.names = {r.name: r for r in self.plan.regions}

    @property
    def plan(self):
        return self.desk.history.now

    @property
    def study(self):
        return study(self.plan)

    def enter(self, widget, leave=False):
        if leave:
            QApplication.sendEvent(widget, QEvent(QEvent.Type.Leave))
        else:
            at = QPointF(3, 3)
            QApplication.sendEvent(widget, QEnterEvent(at, at, at))


class Values(OnTheBoat):
    def test_a_key_an_edge_and_a_share(self):
        for name, key in KEYS.items():
            self.press(self.bench.keys.buttons[name])
            self.assertEqual(self.study.wishes.bands, key.bands)
        column = self.bench.page.bands
        y = self.bench.ladder.scale.y_of(key.bands.edges[0])
        drag(column, [QPointF(20, y + d) for d in (0, 10, 20, 30)])
        edges = self.study.wishes.bands.edges
        self.assertLess(edges[0], key.bands.edges[0] - 3)
        self.assertEqual(edges[1], key.bands.edges[1])
        self.works.menus.run("undo")
        self.assertEqual(self.study.wishes.bands, key.bands)
        column.setFocus()
        QTest.keyClick(column, Qt.Key.Key_PageUp)
        QTest.keyClick(column, Qt.Key.Key_Up)
        self.assertEqual(self.study.wishes.bands.edges[1], key.bands.edges[1] + 1)
        self.bench.page._wish_share(0, 0.3)
        self.assertAlmostEqual(sum(self.study.wishes.bands.shares), 1)
        self.bench.page.band_menu.menu().actions()[3].trigger()
        self.assertEqual(len(self.study.wishes.bands.shares), 5)
        self.assertEqual(len(column.fields), 5)

    def test_the_order_is_dragged_stepped_and_let_go(self):
        order = self.bench.page.order
        shown = [r for r, _ in order.boxes()]
        self.assertEqual(self.study.wishes.order, ())
        first, last = order.boxes()[0][1].center(), order.boxes()[-1][1].center()
        drag(order, [first, QPointF(last.x() - 5, last.y()), QPointF(last.x() + 30, last.y())])
        self.assertEqual(self.study.wishes.order, (*shown[1:], shown[0]))
        self.assertTrue(self.bench.page.wish_order.isChecked())
        self.settle()
        self.assertIn(
            "order-broken", [r.check for r in self.desk.judge.results if r.level == "warning"]
        )
        order.setFocus()
        QTest.keyClick(order, Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier)
        self.assertEqual(self.study.wishes.order[-2], shown[0])
        QTest.keyClick(order, Qt.Key.Key_Delete)
        self.assertNotIn(shown[0], self.study.wishes.order)
        self.bench.page.apart.wanted.emit(20.0)
        self.assertEqual(self.study.wishes.of["order"].number, 20)
        self.press(self.bench.page.wish_order)
        self.assertEqual(self.study.wishes.order, ())

    def test_a_locked_chip_stays_and_a_family_moves_together(self):
        ladder = self.bench.ladder
        box, chip = ladder.boxes()[0]
        self.session.select(chip.region)
        self.press(self.bench.page.bar.lock)
        self.assertEqual(self.study.locked, (chip.region,))
        before = self.study.colours
        drag(ladder, [box.center(), box.center() + QPointF(0, 30)])
        ladder.setFocus()
        QTest.keyClick(ladder, Qt.Key.Key_Up)
        self.assertEqual(self.study.colours, before)
        self.assertFalse(self.bench.page.bar.value.isEnabled())
        self.press(self.bench.page.bar.lock)
        self.bench.ladder.family_moved.emit(chip.family, 6)
        mine = [r for r, c in before.items() if getattr(c, "slot", "") == chip.family]
        self.assertTrue(mine)
        for region in mine:
            self.assertAlmostEqual(
                self.study.colours[region].value, min(before[region].value + 6, 100)
            )

    def merge(self):
        """A hull that merges with the sea, as the figure it is."""
        sea, hull = self.region_at(10, 10), self.region_at(110, 85)
        self.bench.page._move(hull, 0, self.desk.derived.colours[sea].mean_value + 3)
        self.settle()
        return sea, hull

    def region_at(self, x, y):
        return self.works.marks.region_at(x, y)

    def test_balance_is_looked_at_before_it_is_taken(self):
        self.merge()
        bar, ladder = self.bench.page.balance, self.bench.ladder
        plan, tiles = self.plan, self.parts.strip.tiles
        grey = next(t for t in tiles if t.view == "grey")
        before = grey._image.copy()
        self.enter(bar.button)
        wait(bar._timer.timeout)
        self.settle()
        self.assertTrue(ladder._ghosts)
        self.assertIsNotNone(self.works.director.peeked)
        self.assertNotEqual(grey._image, before)
        self.assertIs(self.plan, plan)
        self.enter(bar.button, leave=True)
        self.settle()
        self.assertEqual((ladder._ghosts, self.works.director.peeked), ({}, None))
        self.assertEqual(grey._image, before)
        self.press(bar.button)
        self.settle()
        self.assertNotEqual(self.plan, plan)
        left = [
            r
            for r in self.desk.judge.results
            if r.check == "figure-merges" and r.level == "warning"
        ]
        self.assertEqual(left, [])
        self.works.menus.run("undo")
        self.assertEqual(self.plan, plan)

    def test_balance_says_what_cannot_be_and_lets_go_of_it(self):
        self.merge()
        for region in self.plan.regions:
            self.session.select(region.id)
            self.press(self.bench.page.bar.lock)
        self.press(self.bench.page.balance.button)
        self.settle()
        self.assertIn("cannot be met", self.bench.page.balance.says.text())
        menus, make = [], self.bench.page.balance.menu_of
        self.bench.page.balance.menu_of = lambda found: menus.append(make(found)) or menus[-1]
        popup = "umber_compass.window.benches.values.balance_bar.QMenu.popup"
        with mock.patch(popup):
            self.press(self.bench.page.balance.why)
            self.settle()
        (menu,) = menus
        offered = [a for a in menu.actions() if a.isEnabled() and not a.isSeparator()]
        self.assertTrue(offered)
        offered[0].trigger()
        self.assertEqual([w.on for w in self.study.wishes.of.values()], [False])

    def test_every_wish_has_a_switch_a_lock_and_a_why(self):
        self.press(self.bench.pages.tabs.buttons[2])
        page = self.bench.wishes
        for name, box in page.switches.items():
            was = self.desk.derived.wishes.of[name].on
            box.click()
            self.assertEqual(self.desk.derived.wishes.of[name].on, not was, name)
            page.locks[name].click()
            self.assertTrue(self.desk.derived.wishes.locked(name), name)
        self.type(page.fields["halves"], "33")
        QTest.keyClick(page.fields["halves"], Qt.Key.Key_Return)
        self.press(page.restore)
        self.assertEqual(self.study.wishes.of, {})
        why = page.findChildren(WhyButton)
        self.assertEqual(len(why), len(page.switches))
        why[0].open()
        self.assertTrue(why[0].card.isVisible())
        why[0].card.close()

    def test_values_are_read_as_the_artist_prefers(self):
        says = self.bench.says.text()
        for name in ("dark", "steps"):
            value_words.choose(name)
            self.bench.page.read_anew.emit()
            self.assertNotEqual(self.bench.says.text(), says)
        self.assertEqual(
            [value_words.value_text(v) for v in (0, 9.9, 10, 100)], ["1", "1", "2", "10"]
        )
        value_words.choose("dark")
        self.assertEqual(value_words.value_text(30), "70")

    def test_groups_go_to_the_stage(self):
        for action in self.bench.page.stage_menu.menu().actions():
            action.trigger()
        self.bench.page.staged.emit("groups-2")
        self.assertEqual(self.session.view, "groups-2")
        QApplication.processEvents()
        self.assertEqual(len({self.pixel(x, y) for x in (5, 100, 200) for y in (5, 80, 150)}), 2)
        self.bench.page.staged.emit("")
        self.assertEqual(self.session.view, "")

    def test_balance_says_what_the_command_line_says(self):
        self.merge()
        path = self.folder / "merged.umber"
        self.answers.path = path
        self.works.files.save_as()
        self.settle()
        args = mock.Mock(plan=str(path), output=str(self.folder / "b.umber"))
        said = commands.balance(args)
        self.press(self.bench.page.balance.button)
        self.settle()
        values = {r: c.mean_value for r, c in self.desk.derived.colours.items()}
        for moved in said["moved"]:
            self.assertAlmostEqual(values[moved["region"]], moved["to"], places=6)


class Focus(OnTheBoat):
    step = "focus"

    def attention(self):
        self.settle()
        return self.desk.derived.attention

    def test_what_pulls_is_shown_chosen_and_made_the_focus(self):
        chart, names = self.bench.chart, {r.id: r.name for r in self.plan.regions}
        bars = chart.shown()
        self.assertEqual([b.total for b in bars], sorted((b.total for b in bars), reverse=True))
        QTest.mouseClick(chart, Qt.MouseButton.LeftButton, pos=QPoint(40, 36))
        self.assertEqual(self.session.selection, bars[1].region)
        chart.setFocus()
        QTest.keyClick(chart, Qt.Key.Key_Up)
        self.assertEqual(self.session.selection, bars[0].region)
        QTest.keyClick(chart, Qt.Key.Key_Return)
        self.assertEqual(self.study.focus.regions[-1], bars[0].region)
        self.press(self.bench.set_button)
        self.assertNotIn(bars[0].region, self.study.focus.regions)
        self.press(self.bench.roles_button)
        self.assertIsNone(self.study.focus)
        self.assertTrue(names)
        self.assertEqual(len(self.parts.stage.focus_marks.places), 3)

    def test_e_takes_what_is_pointed_at_and_shift_e_the_place(self):
        stage = self.parts.stage
        sun = self.works.marks.region_at(197, 31)
        QCursor.setPos(stage.mapToGlobal(stage.from_picture(197, 31).toPoint()))
        with mock.patch.object(stage, "underMouse", return_value=True):
            self.works.menus.of["focus-here"].trigger()
            self.assertEqual(self.study.focus.regions[-1], sun)
            self.works.menus.of["focus-point"].trigger()
        point = self.study.focus.point
        self.assertAlmostEqual(point.x, 197 / 240, delta=0.02)
        self.assertAlmostEqual(point.y, 31 / 160, delta=0.02)
        label = next(r.label for r in self.plan.regions if r.id == sun)
        self.assertEqual(self.attention().focus, (label,))
        (ring,) = self.parts.stage.focus_marks.rings
        self.assertAlmostEqual(ring.rx, point.radius)
        self.session.select("")
        with mock.patch.object(stage, "underMouse", return_value=False):
            before = self.plan
            self.works.focusing.here()
            self.works.focusing.point()
        self.assertIs(self.plan, before)
        self.assertIn("Point at a place", self.parts.notice.text())

    def test_a_fix_makes_the_focus_lead_and_says_the_same_as_the_command_line(self):
        hull = self.works.marks.region_at(110, 85)
        self.session.select(hull)
        self.press(self.bench.set_button)
        self.settle(fixes=True)
        result = next(r for r in self.desk.judge.results if r.check == "focus-leads")
        self.assertEqual(result.level, "warning")
        self.parts.checks.taken.emit(result.fixes[0])
        self.assertGreaterEqual(self.attention().lead, 1.2)
        path = self.folder / "led.umber"
        self.answers.path = path
        self.works.files.save_as()
        self.settle()
        said = commands.focus(mock.Mock(plan=str(path)))
        self.assertAlmostEqual(said["lead"], self.attention().lead)
        pulls = {b.region: b.total for b in self.bench.chart.shown()}
        for row in said["regions"]:
            self.assertAlmostEqual(row["pull"], pulls.get(row["region"], row["pull"]))
            self.assertAlmostEqual(
                row["pull"], sum(row[p] for p in ("value", "hue", "chroma", "detail"))
            )

    def test_the_band_is_dragged_stepped_seen_and_applied(self):
        self.session.select(self.works.marks.region_at(110, 85))
        self.press(self.bench.set_button)
        self.settle()
        chart = self.bench.falloff.chart
        corner = chart.corners()["far", 1]
        drag(chart, [corner, corner + QPointF(0, 8), corner + QPointF(0, 20)])
        wish = self.study.falloff["chroma"]
        self.assertLess(wish.far[1], 0.08)
        chart.setFocus()
        for _ in range(2):
            QTest.keyClick(chart, Qt.Key.Key_PageDown)
        QTest.keyClick(chart, Qt.Key.Key_Up)
        self.bench.falloff.chart.shaped.emit(Falloff(near=(0, 0.05), far=(0, 0.01)))
        self.settle()
        plan = self.plan
        self.enter(self.bench.falloff.apply)
        timer = next(
            c for c in self.bench.falloff.apply.children() if type(c).__name__ == "Looking"
        )._timer
        wait(timer.timeout)
        self.settle()
        self.assertIsNotNone(self.works.director.peeked)
        self.press(self.bench.falloff.apply)
        self.settle()
        self.assertIsNone(self.works.director.peeked)
        self.assertNotEqual(self.plan, plan)
        self.press(self.bench.falloff.kinds["contrast"])
        self.assertEqual(chart._of, "contrast")

    def test_groups_follow_a_bar_that_springs_back(self):
        self.press(self.bench.pages.tabs.buttons[1])
        page = self.bench.deep
        bar = page.bars["ground", "value"]
        ground = [r.id for r in self.plan.regions if r.role == "ground"]
        before = {r: self.study.colours[r].value for r in ground}
        middle = QPointF(bar.width() / 2, 12)
        drag(bar, [middle, middle - QPointF(10, 0), middle - QPointF(30, 0)])
        by = {round(self.study.colours[r].value - before[r], 3) for r in ground}
        self.assertEqual(len(by), 1)
        self.assertLess(by.pop(), -3)
        self.assertEqual(bar._now, 0)
        self.works.menus.run("undo")
        self.assertEqual({r: self.study.colours[r].value for r in ground}, before)
        bar.setFocus()
        for _ in range(2):
            QTest.keyClick(bar, Qt.Key.Key_Right)
        self.assertAlmostEqual(self.study.colours[ground[0]].value - before[ground[0]], 4, places=3)
        air = page.air
        at = QPointF(6, 12)
        drag(air, [at, at + QPointF(40, 0), at + QPointF(90, 0)])
        self.assertNotEqual(self.study.colours[ground[0]].value, before[ground[0]] + 4)

    def test_w_takes_channels_away_in_turn_and_slowly(self):
        fading, focusing = self.parts.stage.fading, self.works.focusing
        self.assertGreaterEqual(TURN_MS, 1000)  # well under three changes a second
        self.assertLess(FADE_MS, TURN_MS)
        QTest.keyPress(self.window, Qt.Key.Key_W)
        seen = []
        for _ in range(4):
            seen.append(fading.image.copy())
            focusing.turning.stop()
            focusing._next()
        QTest.keyRelease(self.window, Qt.Key.Key_W)
        self.assertIsNone(fading.image)
        places = [(i.pixel(i.width() - 20, 20), i.pixel(40, 20)) for i in seen]
        self.assertGreater(len(set(places)), 2)
        self.assertEqual(self.session.view, "")
        self.assertFalse(focusing.turning.isActive())

    def test_without_a_focus_it_says_so_and_what_to_do(self):
        self.do(set_focus((), words("x")))
        self.settle()
        self.assertEqual(self.bench.says.text(), "no focus is set")
        self.assertFalse(self.bench.falloff.apply.isEnabled())
        (said,) = [r for r in self.desk.judge.results if r.check == "focus-leads"]
        self.assertIn("press E", str(said.text))
        self.assertEqual(self.parts.stage.focus_marks.rings, ())
