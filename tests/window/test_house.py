"""The window's tables and its manners: one row a bench, one record an action, one place a truth."""

import contextlib
import threading
from functools import partial
from unittest import mock

import numpy as np
from msgspec.structs import replace
from PySide6.QtCore import QEvent, Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLabel, QMenu

from tests import scenes
from tests.window.driving import InWindow, drag, mouse, wait
from umber_compass import document
from umber_compass.plan import edits
from umber_compass.plan.edits import Edit
from umber_compass.plan.harmony_edits import turn_lead
from umber_compass.plan.light_edits import rig_of, with_rig
from umber_compass.plan.rig import Lamp
from umber_compass.steps.checks import Result
from umber_compass.window.bench.bench import Bench
from umber_compass.window.bench.row import BenchParts, BenchRow
from umber_compass.window.benches import BENCHES
from umber_compass.window.benches.harmony.dial import reach
from umber_compass.window.desk.jobs import job
from umber_compass.window.desk.moments import preview
from umber_compass.window.frame.checks import SHOWN
from umber_compass.window.stage.step_marks import Marks
from umber_compass.window.widgets import theme
from umber_compass.window.widgets.actions import Action, Actions
from umber_compass.window.widgets.under import Under
from umber_compass.words import words


class AirBench(Bench):
    """A bench that is there for these tests only."""

    def __init__(self):
        super().__init__("Air")
        self.shown = []
        self.field = QLabel("air")
        self.field.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.column.addWidget(self.field)

    def show_derived(self, derived, selected):
        self.shown.append((derived.plan.title, selected))

    def first_focus(self):
        return self.field


PARTS = BenchParts(
    AirBench,
    lambda derived, selected: Marks({r.id: f"{r.name} far" for r in derived.regions[:2]}),
)
ROW = BenchRow("air", "Air", 5, __name__, ("squint", "flat", "grey", "small"))


class Tables(InWindow):
    def setUp(self):
        with mock.patch.dict(BENCHES, {"air": ROW}):
            super().setUp()
        kept = mock.patch.dict(BENCHES, {"air": ROW})
        kept.start()
        self.addCleanup(kept.stop)

    def test_a_bench_is_added_by_its_row_alone(self):
        self.open()
        QTest.mouseClick(self.parts.route.stops["air"], Qt.MouseButton.LeftButton)
        bench = self.parts.benches["air"]
        self.assertIs(self.parts.stack.currentWidget(), bench)
        self.assertEqual(bench.shown[-1], ("Lighthouse Bakery", ""))
        self.assertEqual([t.view for t in self.parts.strip.tiles], list(ROW.views))
        action = self.works.menus.of["step-air"]
        self.assertEqual((action.text(), action.shortcut().toString()), ("Air", "Alt+5"))
        self.settle()
        said = {t.text for t in self.parts.stage._tags}
        names = [r.name for r in self.desk.history.now.regions[:2]]
        self.assertEqual(said, {f"{n} far" for n in names})
        bench.edit_wanted.emit(turn_lead(12))
        self.assertEqual(edits.study(self.desk.history.now).scheme.lead_deg, 12)
        bench.chosen.emit(self.region("sea").id)
        self.assertEqual(bench.shown[-1][1], self.region("sea").id)
        self.works.steps.open("harmony")
        action.trigger()
        self.assertEqual(self.session.step, "air")

    def test_a_bench_is_made_when_first_opened_and_knows_what_was_before(self):
        self.open()
        stack, files = self.parts.stack, self.works.files.handing_off

        def made():
            return [type(stack.widget(i)).__name__ for i in range(stack.count())]

        self.assertEqual(made(), ["HarmonyBench"])
        files.choose_folder("elsewhere")
        self.works.menus.run("room-night")
        self.works.steps.open("handoff")
        self.assertEqual(made(), ["HarmonyBench", "HandoffBench"])
        bench = self.parts.benches["handoff"]
        self.assertEqual(bench.folder.text(), "elsewhere")
        self.assertEqual(bench.styleSheet(), theme.sheet())
        bench.copied.emit("#123456")
        self.assertIn("#123456", self.parts.notice.text())
        self.works.steps.open("harmony")
        self.works.menus.run("room-gallery")
        self.assertEqual(made(), ["HarmonyBench", "HandoffBench"])

    def test_a_job_leaves_a_drag_alone_and_is_answered_for_its_own_document(self):
        self.open()
        seen, drags = [], []

        def work(plan, pixels, tick):
            drags.append(self.session.dragging)
            return plan.title

        self.desk.begin_drag()
        wait(
            self.desk.orders.rested,
            lambda: job(self.desk, "x", work, lambda made, _: seen.append(made), "x"),
        )
        self.assertEqual((seen, drags), (["Lighthouse Bakery"], [True]))
        self.assertTrue(self.session.dragging)
        job(self.desk, "x", work, lambda made, _: seen.append(made), "x")
        before, self.desk.pixels = self.desk.pixels, document.Pixels()
        self.settle()
        self.desk.pixels = before
        self.assertEqual(len(seen), 1)
        self.desk.seal()

    def test_an_action_called_twice_is_an_error_and_order_makes_groups(self):
        menus = Actions(self.window)
        one = Action("x", "X", lambda: None, ("Odd/a",))
        menus.fill([one, one._replace(name="y"), one._replace(name="z", places=("Odd/b",))])
        marks = [a.isSeparator() for a in menus._menus["Odd"].actions()]
        self.assertEqual(marks, [False, False, True, False])
        with self.assertRaisesRegex(ValueError, "called x"):
            menus.fill([one])
        with self.assertRaises(KeyError):
            menus.register(one._replace(name="w", when="never said"))
        undo = menus.register(one._replace(name="w"))
        undo()
        self.assertNotIn("w", menus.specs)
        menus.register(one._replace(name="w"))

    def test_an_action_does_the_same_in_every_place_where_it_is_found(self):
        self.open()
        self.session.select(self.region("sea").id)
        menus, found = self.works.menus, {}
        for name, menu in menus._menus.items():
            found[name] = menu
        for name in {p.menu for s in menus.specs.values() for p in s.found_in} - set(found):
            found[name] = QMenu(self.window)
            menus.add_to(found[name], name)
        for name, spec in list(menus.specs.items()):
            self.assertTrue(spec.found_in, name)
            for place in spec.found_in:
                held = found[place.menu]
                if place.within:
                    held = next(a.menu() for a in held.actions() if a.text() == place.within)
                (mine,) = [a for a in held.actions() if a.text() == spec.words]
                with self.subTest(name, place=place), mock.patch.dict(menus.conditions):
                    menus.conditions[spec.when] = lambda: True
                    done = []
                    menus.specs[name] = spec._replace(run=partial(done.append, 1))
                    mine.setEnabled(True)
                    mine.trigger()
                    menus.specs[name] = spec
                    self.assertEqual(done, [1])
        for name in set(found) - set(menus._menus):
            found[name].deleteLater()

    def test_what_cannot_be_done_is_paler_in_a_region_s_menu(self):
        self.open()
        menu = self.works.context.menu(Under(self.region("sea").id))
        shapes = next(a.menu() for a in menu.actions() if a.text() == "Edit shape")
        shapes.adjustSize()
        seen = shapes.grab().toImage().convertToFormat(QImage.Format.Format_Grayscale8)

        def darkest(action):
            box = shapes.actionGeometry(action).adjusted(20, 3, -4, -3)
            return min(
                seen.pixelColor(x, y).lightness()
                for x in range(box.left(), box.right())
                for y in range(box.top(), box.bottom())
            )

        off = [darkest(a) for a in shapes.actions() if not a.isEnabled()]
        on = [darkest(a) for a in shapes.actions() if a.isEnabled() and a.text()]
        self.assertTrue(off)
        self.assertGreater(min(off), max(on) + 40)
        menu.deleteLater()

    def test_what_needs_a_plan_is_off_without_one(self):
        menus = self.works.menus
        for name in (
            "save",
            "undo",
            "pin",
            "next-region",
            "view-1",
            "zoom-in",
            "practice",
            "step-values",
        ):
            self.assertFalse(menus.of[name].isEnabled(), name)
            menus.run(name)
        for name in ("new", "open", "demo", "quit", "paste", "room-night"):
            self.assertTrue(menus.of[name].isEnabled(), name)
        self.open()
        self.assertTrue(menus.of["save"].isEnabled() and menus.of["practice"].isEnabled())
        self.assertFalse(menus.of["pin"].isEnabled() or menus.of["undo"].isEnabled())
        self.session.select(self.region("sea").id)
        self.do(turn_lead(12))
        self.assertTrue(menus.of["pin"].isEnabled() and menus.of["undo"].isEnabled())


class Notices(InWindow):
    def test_a_refusal_stays_until_the_next_act_and_progress_stands_beside_it(self):
        self.open()
        notice = self.parts.notice
        self.desk.told.emit("x.umber: could not be written", True)
        self.desk.worker.slow.emit("judge", "Looking for fixes", 0.6)
        self.desk.told.emit("Copied #102030", False)
        stage = self.parts.stage
        mouse(stage, QEvent.Type.MouseMove, stage.from_picture(300, 30), Qt.MouseButton.NoButton)
        self.assertEqual(notice.text(), "▲  x.umber: could not be written")
        self.assertEqual(notice.progress.text(), "Looking for fixes … 60%")
        self.desk.worker.rested.emit()
        self.assertFalse(notice.progress.isVisible())
        self.assertTrue(notice.text().startswith("▲"))
        self.desk.told.emit("another", True)
        self.assertEqual(notice.text(), "▲  another")
        self.do(turn_lead(12))
        self.assertEqual(notice.text(), "")
        self.desk.told.emit("Copied #102030", False)
        self.assertEqual(notice.text(), "Copied #102030")
        for act in (
            lambda: self.works.steps.open("values"),
            lambda: self.session.select(self.region("sea").id),
            self.desk.undo,
            self.desk.redo,
        ):
            self.desk.told.emit("no", True)
            act()
            self.assertFalse(notice.text().startswith("▲"))

    def test_an_edit_that_is_not_possible_is_one_line_and_changes_nothing(self):
        self.open()
        plan = self.desk.history.now
        self.do(Edit(words("x"), lambda p: edits.with_scheme(p, lead_deg=360.0)))
        self.assertIn("not possible", self.parts.notice.text())
        self.assertIs(self.desk.history.now, plan)
        self.assertIsNone(preview(self.desk, Edit(words("x"), lambda p: replace(p, title=""))))

    def test_stop_is_for_what_runs_and_a_file_is_never_half_written(self):
        self.open()
        notice = self.parts.notice
        for kind, stops in (("buffers", True), ("save", False), ("handoff", True)):
            self.desk.worker.slow.emit(kind, "x", 0.0)
            self.assertEqual((notice.stop.isVisible(), notice.progress.text()), (stops, "x …"))
        stopped = []
        notice.stopped.connect(stopped.append)
        self.press(notice.stop)
        self.assertEqual(stopped, ["handoff"])


class Answers(InWindow):
    """Answers that come too late are not shown."""

    def setUp(self):
        super().setUp()
        self.open()

    @contextlib.contextmanager
    def held(self, name):
        """A function of the worker's, held up until it is let go; says when it is begun."""
        begun, opened = threading.Event(), threading.Event()
        module, _, attribute = name.rpartition(".")
        real = getattr(__import__(module, fromlist=["x"]), attribute)

        def slow(*given, **named):
            begun.set()
            opened.wait(20)
            return real(*given, **named)

        with mock.patch(name, slow):
            yield begun, opened
            opened.set()
            self.settle()

    def test_fixes_of_a_plan_that_is_gone(self):
        self.do(turn_lead(20))
        with self.held("umber_compass.window.desk.judge.judge") as (begun, opened):
            wait(self.desk.judge.judging.timeout)
            begun.wait(10)
            with mock.patch.object(self.desk.worker, "_is_wanted", return_value=True):
                self.do(turn_lead(200))
                now = self.desk.judge.results
                seen = []
                self.desk.judge.judged.connect(lambda: seen.append(self.desk.judge.results))
                self.desk.judge._take((object(), "harmony", ["old"]))
            self.assertIs(self.desk.judge.results, now)
            opened.set()
            self.settle(fixes=True)
        self.assertTrue(seen)
        self.assertTrue(all(isinstance(r, Result) for r in self.desk.judge.results))

    def test_an_exact_picture_of_a_plan_that_is_gone(self):
        live = self.desk.live
        with self.held("umber_compass.window.desk.live_picture.exact_picture") as (begun, opened):
            self.do(turn_lead(20))
            live.sharpening.stop()
            live._sharpen()
            request = self.desk.worker._newest["exact"]
            begun.wait(10)
            self.do(turn_lead(200))
            live.sharpening.stop()
            shown = live.bitmap
            request.answer(np.zeros_like(shown.packed))
            self.assertIs(live.bitmap, shown)
            opened.set()

    def test_nothing_works_on_for_a_plan_that_is_gone_while_the_hand_moves(self):
        for kind, begin in (("judge", self.desk.judge._judge), ("exact", self.desk.live._sharpen)):
            for drags in (True, False):
                with self.subTest(kind, drags=drags):
                    begin()
                    old = self.desk.worker._newest[kind]
                    if drags:
                        self.desk.begin_drag()
                    self.do(turn_lead(20 if drags else 40))
                    self.assertIsNot(self.desk.worker._newest.get(kind), old)
                    self.desk.seal()
                    self.settle()

    def test_no_exact_picture_comes_in_while_something_is_dragged(self):
        live = self.desk.live
        live._sharpen()
        request = self.desk.worker._newest["exact"]
        self.desk.begin_drag()
        shown = live.bitmap
        request.answer(np.zeros_like(shown.packed))
        self.assertIs(live.bitmap, shown)
        self.desk.seal()
        self.settle()

    def test_edits_made_while_saving_are_unsaved(self):
        with scenes.tempfile.TemporaryDirectory() as name:
            path = scenes.Path(name) / "a.umber"
            self.do(turn_lead(20))
            saved = self.desk.history.now
            with self.held("umber_compass.document.save") as (begun, opened):
                self.works.files.documents.save(path)
                begun.wait(10)
                self.do(turn_lead(200))
                opened.set()
                while self.desk.path != path:
                    wait(self.desk.worker.idle)
            self.assertTrue(self.desk.unsaved)
            self.assertIn(" * ", self.window.windowTitle())
            self.assertEqual(document.open_plan(path).plan, saved)
            self.works.files.save()
            self.settle()
            self.assertFalse(self.desk.unsaved)

    def test_small_views_are_asked_for_only_where_something_changed(self):
        asked = []
        real = self.desk.worker.ask

        def ask(kind, *more, **named):
            asked.append(kind)
            real(kind, *more, **named)

        self.works.small_views.ask()  # the exact picture came since
        self.settle()
        with mock.patch.object(self.desk.worker, "ask", ask):
            wanted = []
            self.parts.strip.wanted.connect(lambda: wanted.append(1))
            self.parts.strip.show_views(self.parts.strip.views())
            self.works.steps.open("ramps")
            self.works.small_views.ask()
            self.works.small_views.ask()
            self.assertEqual((wanted, asked.count("views")), ([], 0))
            self.works.steps.open("light")
            self.assertEqual((len(wanted), asked.count("views")), (1, 1))
            self.do(turn_lead(20))
            self.works.small_views.ask()
            self.assertEqual(asked.count("views"), 2)
        self.settle()


class Hands(InWindow):
    def setUp(self):
        super().setUp()
        self.open()
        self.stage = self.parts.stage

    def test_the_mirrored_view_is_read_px_by_px(self):
        labels = self.desk.derived.drawing.labels
        at = self.works.marks.region_at
        self.session.put_on_stage("mirrored")
        width = labels.shape[1]
        row = int(np.flatnonzero((labels[:, 1:] != labels[:, :-1]).any(axis=1))[100])
        edges = np.flatnonzero(labels[row, 1:] != labels[row, :-1])
        for x in (*edges[:6], *edges[:6] + 1, 0, width - 1):
            there = edits.region_of_label(self.desk.history.now, int(labels[row, x])).id
            for part in (0.01, 0.5, 0.99):
                self.assertEqual(at(width - 1 - int(x) + part, row + 0.5), there, x)
        self.session.put_on_stage("small")
        self.assertEqual(at(300.0, 30.0), "")
        self.session.put_on_stage("")
        self.assertEqual(at(-1.0, -1.0), "")
        self.assertEqual(at(5000.0, 3.0), "")

    def test_arrow_keys_step_a_lamp_by_one_and_with_shift_by_ten(self):
        self.works.steps.open("light")
        row = self.parts.benches["light"].lamps.rows["ambient"]
        for modifier, by in (
            (Qt.KeyboardModifier.NoModifier, 1),
            (Qt.KeyboardModifier.ShiftModifier, 10),
        ):
            before = rig_of(self.desk.history.now).ambient.strength
            QTest.keyClick(row, Qt.Key.Key_Right, modifier)
            self.assertAlmostEqual(rig_of(self.desk.history.now).ambient.strength - before, by)

    def test_the_ladder_has_white_at_the_top(self):
        self.works.steps.open("values")
        QApplication.processEvents()
        scale = self.parts.benches["values"].ladder.scale
        self.assertEqual((scale.y_of(100), scale.y_of(0)), (10, scale.height - 10))
        for value in (0, 33, 100):
            self.assertAlmostEqual(scale.value_at(scale.y_of(value)), value)
        self.assertEqual((scale.value_at(-50), scale.value_at(9999)), (100, 0))

    def test_a_lamp_may_be_as_strong_as_a_plan_holds_and_a_turn_is_typed(self):
        self.works.steps.open("light")
        page = self.parts.benches["light"].lamps
        page._set_strength("key", 1000.0)
        self.assertEqual(rig_of(self.desk.history.now).key.strength, 1000)
        page._set_strength("key", 1001.0)
        self.assertEqual(rig_of(self.desk.history.now).key.strength, 1000)
        page._set_strength("terminator", 140.0)
        self.assertEqual(rig_of(self.desk.history.now).terminator.strength, 100)
        self.session.select(self.region("sea").id)
        bar = self.parts.benches["values"].page.bar
        self.works.steps.open("values")
        bar.turn.setValue(12.5)
        solid = edits.study(self.desk.history.now).colours[self.region("sea").id]
        self.assertEqual(solid.hue_offset_deg, 12.5)
        self.works.steps.open("ramps")
        self.settle()
        ramps = self.parts.benches["ramps"]
        ramps.recipe.fields["degrees"].setValue(21)
        self.settle()
        found = edits.study(self.desk.history.now).recipes[self.region("sea").id]
        self.assertEqual(found.degrees, 21)
        self.assertEqual(ramps.rows[self.region("sea").id, 0]._line.steps.ramp, found)

    def test_a_petal_dragged_clockwise_turns_its_family_clockwise(self):
        rose = self.parts.benches["harmony"].rose
        petal = max(rose._parts.petals, key=lambda p: p.chroma * (p.slot == "B"))
        region = petal.region
        before = self.desk.derived.colours[region].first.hue
        far = reach(petal, rose.dial.inner) - 4
        drag(rose, [rose.dial.at(petal.angle, far), rose.dial.at(petal.angle + 12, far)])
        after = self.desk.derived.colours[region].first.hue
        now = next(p for p in rose._parts.petals if p.region == region)
        self.assertGreater((after - before + 180) % 360 - 180, 1)
        self.assertAlmostEqual((now.angle - petal.angle + 180) % 360 - 180, 12, delta=6)

    def test_every_lamp_of_a_plan_stands_on_the_stage_and_in_the_list(self):
        rig = rig_of(self.desk.history.now)
        rim = Lamp(name="rim", rank=2, hex="#ff8080", direction=(0.0, -0.6, 0.8))
        self.do(Edit(words("x"), lambda p: with_rig(p, replace(rig, lamps=(*rig.lamps, rim)))))
        self.works.steps.open("light")
        self.settle()
        page = self.parts.benches["light"].lamps
        self.assertEqual(
            list(page.rows), ["key", "rim", "ambient", "terminator", "crevice", "glow"]
        )
        self.assertEqual(
            [(m.name, m.letter) for m in self.stage.lamps], [("key", "K"), ("rim", "R")]
        )
        key = rig_of(self.desk.history.now).key.direction
        self.stage.lamp_moved.emit("rim", (0.6, 0.0, 0.8))
        now = rig_of(self.desk.history.now)
        self.assertEqual((now.lamp("rim").direction, now.key.direction), ((0.6, 0.0, 0.8), key))
        page._choose("rim")
        page.lamp_bar.soft.setValue(70)
        page._switch("rim")
        now = rig_of(self.desk.history.now)
        self.assertEqual((now.lamp("rim").softness, now.lamp("rim").on), (0.7, False))
        self.assertEqual(now.key.softness, rig.key.softness)
        with scenes.tempfile.TemporaryDirectory() as name:
            path = scenes.Path(name) / "two.umber"
            self.works.files.documents.save(path)
            self.settle()
            self.assertEqual(document.open_plan(path).plan, self.desk.history.now)

    def test_three_checks_are_shown_and_the_rest_folded(self):
        rows = [
            Result("extremes", "warning", (f"r{i}",), i, 1, "%", words("t"), words("x"))
            for i in range(5)
        ]
        checks = self.parts.checks
        for count, shown, folded in ((2, 2, ""), (3, 3, ""), (5, 3, "2 more")):
            checks.show_results(rows[:count])
            self.assertEqual(len(checks.rows), shown)
            self.assertEqual(checks._rest.isVisibleTo(checks), bool(folded))
            if folded:
                self.assertEqual(checks._rest.text(), folded)
        checks._rest.click()
        self.assertEqual(len(checks.rows), 5)
        checks._rest.click()
        self.assertEqual((len(checks.rows), SHOWN), (3, 3))
