"""The light bench and the stage in full, driven as a hand would."""

import tempfile
from pathlib import Path

import numpy as np
from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from tests import scenes
from tests.scenes import NOTHING
from tests.window.driving import DEMO, FULL, InWindow, drag, mouse, wait
from umber_compass.colour.temperature import hex_of_kelvin
from umber_compass.document import Kept
from umber_compass.formats import cache
from umber_compass.formats.cache import Cache
from umber_compass.plan import edits
from umber_compass.plan.light_edits import rig_of, set_ambient, set_lamp
from umber_compass.steps.light.contrast import contrast_of
from umber_compass.steps.light.lamps import angles_of
from umber_compass.window.benches.light.light_bench import CHART, LOOK, THINGS, VOLUMES
from umber_compass.window.main_window import MainWindow
from umber_compass.window.stage import lamp_marks


class Light(InWindow):
    def setUp(self):
        super().setUp()
        self.open()
        self.works.steps.open("light")
        self.settle()
        self.bench, self.stage = self.parts.benches["light"], self.parts.stage

    @property
    def rig(self):
        return rig_of(self.desk.history.now)

    def test_the_key_stands_where_the_hand_puts_it_also_behind(self):
        frame = self.stage.frame()
        self.assertGreater(frame.left(), 30)
        start = lamp_marks.at(self.stage.lamps[0], frame)
        for away, off in ((QPointF(0, 0), 0), (QPointF(frame.width() / 2, 0), 90)):
            drag(self.stage, [start, frame.center() + away])
            self.assertAlmostEqual(angles_of(self.rig.key.direction).off_deg, off, delta=1)
            start = lamp_marks.at(self.stage.lamps[0], frame)
        drag(self.stage, [start, frame.center() + QPointF(frame.width() * 0.62, 0)])
        self.assertLess(self.rig.key.direction[2], -0.7)
        self.assertIn("behind", self.bench.says.text())
        before = self.rig.key.direction
        QTest.keyClick(self.stage, Qt.Key.Key_Up, Qt.KeyboardModifier.ShiftModifier)
        self.assertLess(self.rig.key.direction[1], before[1])

    def test_rows_fields_and_switches_change_the_lamps(self):
        row = self.bench.lamps.rows["ambient"]
        bar = row.bar()
        drag(row, [bar.center(), QPointF(bar.left() + bar.width() * 0.8, bar.center().y())])
        self.assertAlmostEqual(self.rig.ambient.strength, 160, delta=1)
        self.assertEqual(len(self.desk.history.past), 1)
        QTest.keyClick(row, Qt.Key.Key_Right)
        self.assertAlmostEqual(self.rig.ambient.strength, 161, delta=1)
        self.bench.lamps.lamp_bar.hue.setValue(30)
        self.assertEqual(self.bench.lamps.lamp, "ambient")
        self.assertGreater(int(self.rig.ambient.hex[1:3], 16), int(self.rig.ambient.hex[5:7], 16))
        for text, there in (("#88aaff", "#88aaff"), ("nonsense", "#88aaff")):
            self.type(self.bench.lamps.lamp_bar.hex, text)
            QTest.keyClick(self.bench.lamps.lamp_bar.hex, Qt.Key.Key_Return)
            self.assertEqual(
                (self.rig.ambient.hex, self.bench.lamps.lamp_bar.hex.text()), (there, there)
            )
        QTest.keyClick(row, Qt.Key.Key_Space)
        self.assertFalse(self.rig.ambient.on)
        self.bench.lamps._choose("key")
        for field, number in (
            (self.bench.lamps.lamp_bar.round, 90),
            (self.bench.lamps.lamp_bar.off, 90),
        ):
            field.setValue(number)
        np.testing.assert_allclose(self.rig.key.direction, (1, 0, 0), atol=1e-3)
        self.bench.lamps.lamp_bar.soft.setValue(80)
        self.assertEqual(self.rig.key.softness, 0.8)
        for name in ("terminator", "crevice"):
            QTest.keyClick(self.bench.lamps.rows[name], Qt.Key.Key_Right)
        self.assertEqual((self.rig.terminator.strength, self.rig.crevice), (9, 29))

    def test_a_colour_of_the_chart_is_corrected_by_hand_and_given_up(self):
        self.bench.open_tab(CHART)
        self.settle()
        chart, bar = self.bench.chart, self.bench.cell_bar
        row = next(i for i, r in enumerate(chart.rows) if "lit" in r.places)
        column = 1 + [p.name for p in chart.places].index("core-shadow")
        drag(chart, [chart.box(row, column).center()])
        region, made = chart.rows[row].region, chart.rows[row].places["core-shadow"].hex
        for text, there in (("nonsense", made), ("#7A3050", "#7a3050")):
            self.type(bar.hex, text)
            QTest.keyClick(bar.hex, Qt.Key.Key_Return)
            self.settle()
            self.assertEqual(chart.rows[row].places["core-shadow"].hex, there)
        self.assertEqual(chart.rows[row].by_hand, {"core-shadow"})
        self.bench.lamps.edit_wanted.emit(set_lamp("key", NOTHING, hex="#40ff40"))
        self.settle()
        self.assertEqual(chart.rows[row].places["core-shadow"].hex, "#7a3050")
        self.press(bar.back)
        self.settle()
        self.assertNotIn("core-shadow", chart.rows[row].by_hand)
        self.assertNotEqual(chart.rows[row].places["core-shadow"].hex, "#7a3050")
        self.assertEqual(edits.study(self.desk.history.now).chart, {})
        self.assertEqual(region, chart.rows[row].region)

    def test_own_rigs_stand_beside_the_eight_and_are_forgotten(self):
        self.bench.open_tab(LOOK)
        self.settle()
        rigs = self.bench.look.rigs
        many = len(rigs.rigs)
        self.assertFalse(rigs.forget.isEnabled())
        self.bench.edit_wanted.emit(set_lamp("key", NOTHING, hex="#40ff40"))
        self.type(rigs.name, "Green room")
        self.press(rigs.keep)
        self.assertEqual(len(rigs.rigs), many + 1)
        rigs.rigs["ferry-moon"].click()
        self.settle()
        self.assertNotEqual(self.rig.key.hex, "#40ff40")
        own = next(b for b in rigs.rigs.values() if b.text() == "Green room")
        own.click()
        self.settle()
        self.assertEqual(self.rig.key.hex, "#40ff40")
        self.press(rigs.forget)
        self.assertEqual((len(rigs.rigs), rigs.forget.isEnabled()), (many, False))

    def test_a_spot_is_put_widened_seen_alone_and_kept_off_a_region(self):
        more = self.bench.lamps.more_bar
        self.assertFalse(more.spot.isVisible())
        self.bench.lamps.more["spot"].click()
        self.settle()
        self.assertEqual((self.bench.lamps.lamp, more.spot.isVisible()), ("spot", True))
        frame, before = self.stage.frame(), self.pixel(120, 330)
        mark = next(m for m in self.stage.lamps if m.name == "spot")
        middle = lamp_marks.at(mark, frame)
        away = QPointF(frame.width() * -0.3, frame.height() * 0.2)
        drag(self.stage, [middle, middle + away])
        pool = self.rig.lamp("spot").pool
        self.assertAlmostEqual(pool.x, 0.2, delta=0.01)
        self.assertAlmostEqual(pool.y, 0.7, delta=0.01)
        rim = middle + away + QPointF(pool.radius * frame.width(), 0)
        drag(self.stage, [rim, rim + QPointF(frame.width() * 0.1, 0)])
        self.assertAlmostEqual(self.rig.lamp("spot").pool.radius, 0.3, delta=0.01)
        self.assertEqual(self.rig.lamp("spot").pool.x, pool.x)
        self.settle()
        self.assertNotEqual(self.pixel(120, 330), before)
        more.fall.setValue(10)
        self.assertEqual(self.rig.lamp("spot").pool.fall, 0.1)
        whole = self.pixel(560, 60)
        self.press(more.alone)
        self.assertEqual(self.session.held, "lamp-spot")
        self.assertNotEqual(self.pixel(560, 60), whole)
        self.bench.lamps._choose("ambient")
        self.assertEqual(self.session.held, "ambient-only")
        self.works.steps.open("values")
        self.assertEqual((self.session.held, more.alone.isChecked()), ("", False))
        self.works.steps.open("light")
        self.bench.lamps._choose("key")
        region = self.desk.derived.regions[0].id
        self.session.select(region)
        self.settle()
        self.press(more.lights)
        self.assertEqual(self.rig.key.spares, (region,))
        self.press(more.lights)
        self.assertEqual(self.rig.key.spares, ())
        more.kelvin.setValue(2800)
        self.assertEqual(self.rig.key.hex, hex_of_kelvin(2800))

    def test_off_is_flat_and_on_is_lit_again(self):
        lit = self.pixel(320, 220)
        self.press(self.bench.switch)
        self.assertFalse(self.rig.on)
        self.assertEqual((self.stage.lamps, self.desk.derived.lit), ([], None))
        self.works.menus.run("hold-key-only")
        self.assertFalse(self.works.menus.of["hold-key-only"].isChecked())
        self.assertIn("light is off", self.parts.notice.text())
        self.assertNotEqual(self.pixel(320, 220), lit)
        self.press(self.bench.switch)
        self.assert_exact()

    def test_parts_of_the_light_while_a_key_is_held_and_as_views(self):
        whole, seen = self.pixel(320, 220), {}
        for key in (Qt.Key.Key_L, Qt.Key.Key_A, Qt.Key.Key_K, Qt.Key.Key_F):
            QTest.keyPress(self.stage, key)
            seen[key] = self.pixel(320, 220)
            QTest.keyRelease(self.stage, key)
            self.assertEqual(self.pixel(320, 220), whole)
        self.assertEqual(len({*seen.values(), whole}), 5)
        tiles = self.parts.strip.tiles
        self.assertEqual([t.text() for t in tiles[:2]], ["Lights off", "Ambient only"])
        tiles[2].click()
        self.assertEqual(self.session.view, "key-only")
        self.assertNotEqual(self.pixel(320, 220), whole)
        self.works.menus.run("picture")
        self.works.steps.open("values")
        self.assertEqual(tiles[1].text(), "Grey")

    def test_the_chart_is_in_the_picture_and_keys_copy_it(self):
        self.bench.open_tab(CHART)
        self.settle()
        chart = self.bench.chart
        chart.setFocus()
        right = Qt.Key.Key_Right
        for key in (Qt.Key.Key_Down, right, right, Qt.Key.Key_Return):
            QTest.keyClick(chart, key)
        self.assertEqual(QApplication.clipboard().text(), chart.colour(1, 2).hex)
        self.assertEqual(self.session.selection, chart.rows[1].region)
        self.assertIn(f"Copied {chart.colour(1, 2).hex}", self.parts.notice.text())

    def test_a_form_is_told_and_the_picture_is_built_anew(self):
        self.bench.open_tab(THINGS)
        self.session.select(self.region("crate").id)
        before = self.desk.derived.buffers
        self.bench.things.grounds.form_bar.form.textActivated.emit("round")
        self.assertEqual(self.region("crate").form, "round")
        self.assertIs(self.desk.derived.buffers, before)
        self.assert_exact()
        self.assertIsNot(self.desk.derived.buffers, before)
        bar = self.bench.things.grounds.form_bar
        bar.shared.activated.emit(bar.shared.findText("door"))
        self.assertEqual(self.region("crate").shares_form_with, self.region("door").id)
        self.press(bar.back)
        self.assertIsNotNone(self.region("crate").front)
        self.assert_exact()

    def test_how_light_is_drawn_and_what_the_exposure_holds(self):
        self.bench.open_tab(LOOK)
        look = self.bench.look
        before = self.pixel(320, 220)
        for way in ("two-tones", "three-tones", "soft", "painter"):
            self.press(look.way.buttons[way])
            self.assertEqual(self.rig.way, way)
        self.press(look.switches["shadows"])
        self.assertIsNone(self.desk.derived.shadows)
        self.press(look.switches["shadows"])
        look.contrast.setValue(30)
        self.assertAlmostEqual(contrast_of(self.rig), 30, delta=0.1)
        self.press(look.anchor.buttons["lit"])
        self.assertEqual(self.rig.anchor, "lit")
        now = self.desk.derived.lit.lights.exposure
        self.press(look.exposed.buttons["off"])
        self.assertAlmostEqual(self.rig.fixed, now, places=3)
        self.do(set_lamp("key", NOTHING, strength=self.rig.key.strength / 10))
        self.do(set_ambient(NOTHING, strength=self.rig.ambient.strength / 10))
        self.settle()
        self.assertIn("whatever the lamps do", look.did.text())
        self.assertLess(self.desk.derived.values.by_code.mean(), 45)  # dark, as it was asked
        self.press(look.exposed.buttons["planned"])
        self.press(look.rigs.rigs["footlights"])
        self.assertEqual([x.name for x in self.rig.lamps], ["key", "rim"])
        self.assertEqual(self.rig.way, "painter")
        self.assertNotEqual(self.pixel(320, 220), before)
        self.assert_exact()

    def test_lamps_are_added_swapped_and_taken_away(self):
        lamps = self.bench.lamps
        for name in ("second", "rim", "fill"):
            self.press(lamps.more[name])
        self.assertEqual([x.name for x in self.rig.lamps], ["key", "second", "rim", "fill"])
        key, second = self.rig.lamp("key").hex, self.rig.lamp("second").hex
        self.press(lamps.swaps["colours"])
        self.assertEqual((self.rig.lamp("key").hex, self.rig.lamp("second").hex), (second, key))
        self.press(lamps.swaps["ranks"])
        self.assertEqual(self.rig.key.name, "second")
        self.press(lamps.remove)
        self.assertNotIn("fill", [x.name for x in self.rig.lamps])
        self.press(lamps.swaps["ambient"])
        self.assertEqual(self.rig.ambient.hex, key)

    def test_a_guess_of_a_thing_is_mended_on_the_stage(self):
        """The foot line dragged, a piece taken out and in, the horizon moved, all undone."""
        self.bench.open_tab(THINGS)
        self.settle()
        page, stage = self.bench.things, self.stage
        self.assertTrue(stage.things.is_open)
        things = {t.name: t for t in self.desk.derived.standing.things}
        self.assertEqual(things["coat"].placed.on, "floor")
        page.choose(things["coat"].id)
        frame = stage.frame()
        before = self.desk.derived.shadows.floor.copy()
        handle = stage.things._handles(things["coat"], frame)["foot"]
        drag(stage, [handle, handle - QPointF(0, 8), handle - QPointF(0, 20)])
        told = next(t for t in self.desk.history.now.scene.things if t.name == "coat")
        self.assertAlmostEqual(told.foot, things["coat"].placed.foot - 20 / frame.height(), 2)
        self.assertTrue((self.desk.derived.shadows.floor != before).any())
        count = len(self.desk.derived.standing.things)
        self.assertEqual(len(self.desk.history.now.scene.things), count)
        self.press(page.pieces)
        apron = next(m for m in things["coat"].members if self._is(m, "apron"))
        x, y = self.desk.derived.pieces.place(apron)
        place = QPointF(frame.x() + x * frame.width(), frame.y() + y * frame.height())
        selection = self.session.selection
        for inside in (False, True):
            QTest.mouseClick(stage, Qt.MouseButton.LeftButton, pos=place.toPoint())
            self.settle()
            own = next(t for t in self.desk.derived.standing.things if t.name == "coat")
            self.assertEqual(apron in own.members, inside)
        self.assertEqual(self.session.selection, selection)
        self.press(page.pieces)
        horizon = self.desk.derived.standing.stage.horizon
        knob = QPointF(frame.right() - 18, frame.y() + horizon * frame.height())
        drag(stage, [knob, knob - QPointF(0, 30)])
        self.assertIsNotNone(self.desk.history.now.scene.horizon)
        page.on.chosen.emit("air")
        own = next(t for t in self.desk.derived.standing.things if t.name == "coat")
        self.assertEqual(own.placed.on, "air")
        self.press(page.again)
        self.assertIsNone(self.desk.history.now.scene.things)
        self.works.steps.open("values")
        self.assertFalse(stage.things.is_open)

    def _is(self, piece, name):
        return self.desk.derived.pieces.label[piece] == self.region(name).label

    def test_a_head_is_turned_and_seen_from_the_lamp(self):
        self.bench.open_tab(VOLUMES)
        self.settle()
        page = self.bench.volumes
        seen = {}
        for name, act in (
            ("first", lambda: None),
            ("turned", lambda: QTest.keyClick(page.view, Qt.Key.Key_Right)),
            ("from the lamp", page.from_lamp.click),
            ("figure", page.buttons["figure"].click),
        ):
            act()
            page.view._draw()
            seen[name] = page.view._bitmap.packed.tobytes()
        self.assertEqual(len(set(seen.values())), 4)
        page.buttons["volumes"].click()
        self.assertIs(page.stack.currentWidget(), page.volumes)

    def test_slow_work_is_said_and_can_be_stopped(self):
        notice = self.parts.notice
        self.desk.worker.slow.emit("buffers", "Building forms", 0.4)
        self.assertEqual(notice.progress.text(), "Building forms … 40%")
        self.assertTrue(notice.stop.isVisible())
        began = []

        def work(tick):
            began.append(1)
            for i in range(100_000):
                tick(i / 100_000)
                QTest.qSleep(1)

        failed = []
        self.desk.worker.ask("buffers", work, lambda _: None, failed.append, "Building forms")
        wait(self.desk.worker.slow)
        self.press(notice.stop)
        while self.desk.worker.busy:
            wait(self.desk.worker.idle)
        self.assertEqual(([type(f).__name__ for f in failed], len(began)), (["Stopped"], 1))
        self.assertFalse(notice.stop.isVisible())


class Zooming(InWindow):
    def setUp(self):
        super().setUp()
        self.open(FULL)
        self.stage = self.parts.stage

    def wheel(self, at, turns):
        event = QWheelEvent(
            QPointF(at),
            self.stage.mapToGlobal(QPointF(at)),
            QPoint(),
            QPoint(0, 120 * turns),
            Qt.MouseButton.NoButton,
            Qt.KeyboardModifier.NoModifier,
            Qt.ScrollPhase.NoScrollPhase,
            False,
        )
        QApplication.sendEvent(self.stage, event)

    def test_the_wheel_zooms_round_the_pointer_and_pans_keep_the_picture(self):
        at = self.stage.from_picture(660, 560)
        self.wheel(at, 4)
        self.assertGreater(self.stage.scale * 100, 110)
        np.testing.assert_allclose(self.stage.to_picture(at), (660, 560), atol=1.5)
        mouse(self.stage, QEvent.Type.MouseButtonPress, at, Qt.MouseButton.MiddleButton)
        mouse(self.stage, QEvent.Type.MouseMove, at + QPointF(40, 10), Qt.MouseButton.MiddleButton)
        mouse(
            self.stage,
            QEvent.Type.MouseButtonRelease,
            at + QPointF(40, 10),
            Qt.MouseButton.MiddleButton,
        )
        np.testing.assert_allclose(self.stage.to_picture(at + QPointF(40, 10)), (660, 560), atol=2)
        self.stage.pan(QPointF(-9000, -9000))
        corner = QPointF(self.stage.width() - 1, self.stage.height() - 1)
        np.testing.assert_allclose(self.stage.to_picture(corner), (1279, 959), atol=3)
        self.works.menus.run("zoom-one")
        self.assertAlmostEqual(self.stage.scale * 100, 100, delta=0.1)
        self.assertEqual(self.parts.notice.text(), "Shown at 100 % of its actual size")
        self.works.menus.run("zoom-fit")
        self.assertEqual(self.stage.frame().center(), self.stage.rect().toRectF().center())
        for _ in range(60):
            self.works.menus.run("zoom-in")
        self.assertEqual(self.stage.zoom.factor, 16)
        for _ in range(99):
            self.works.menus.run("zoom-out")
        self.assertEqual(self.stage.zoom.factor, 0.05)

    def test_space_drags_and_names_stay_clear_of_what_they_name(self):
        self.works.menus.run("zoom-one")
        before = self.stage.to_picture(QPointF(100, 100))
        QTest.keyPress(self.stage, Qt.Key.Key_Space)
        drag(self.stage, [QPointF(200, 200), QPointF(170, 180)])
        QTest.keyRelease(self.stage, Qt.Key.Key_Space)
        after = self.stage.to_picture(QPointF(100, 100))
        np.testing.assert_allclose(np.subtract(after, before), (30, 20), atol=1)
        self.works.menus.run("zoom-fit")
        self.works.steps.open("values")
        self.settle()
        places = self.works.marks._places
        placed = self.stage._places(self.stage.frame())
        self.assertGreater(len(placed), 12)
        scale = self.stage.frame().width() / 1280
        for tag in placed:
            radius = places.places[tag.label][2] * scale
            if tag.line_to is None:
                self.assertLess(tag.plate.height() / 2, radius * 1.2)
            else:
                self.assertFalse(tag.plate.contains(tag.line_to))
            others = [p.plate for p in placed if p is not tag]
            self.assertFalse(any(tag.plate.intersects(o) for o in others))

    def test_the_picture_alone_and_back(self):
        self.works.menus.run("alone")
        QApplication.processEvents()
        self.assertGreater(self.stage.width(), 1200)
        self.assertFalse(self.parts.route.isVisible())
        QTest.keyClick(self.stage, Qt.Key.Key_Escape)
        QApplication.processEvents()
        self.assertTrue(self.parts.route.isVisible())
        self.assertLess(self.stage.width(), 700)


class KeptForms(InWindow):
    def setUp(self):
        super().setUp()
        held = tempfile.TemporaryDirectory()
        self.addCleanup(held.cleanup)
        self.cache = Cache(Path(held.name))
        self.desk.live.kept = Kept(self.cache)

    def again(self):
        self.window.close()
        self.window.deleteLater()
        self.window = MainWindow(self.answers, self.cache)
        self.take()
        self.window.show()

    def test_forms_are_kept_and_a_damaged_copy_is_made_anew_and_said_once(self):
        self.open(DEMO)
        first = self.desk.live.bitmap.packed.copy()
        entries = sorted(self.cache.folder.iterdir())
        self.assertEqual(len(entries), 2)
        self.again()
        self.open(DEMO)
        np.testing.assert_array_equal(self.desk.live.bitmap.packed, first)
        for path in entries:
            path.write_bytes(path.read_bytes()[:-40] + b"x" * 40)
        told = []
        self.again()
        self.desk.told.connect(lambda line, refused: told.append(line))
        self.open(DEMO)
        np.testing.assert_array_equal(self.desk.live.bitmap.packed, first)
        self.assertEqual(sum("damaged" in line for line in told), 1)
        self.assertEqual(sorted(self.cache.folder.iterdir()), entries)

    def test_arrays_that_do_not_fit_are_not_taken(self):
        self.open(DEMO)
        first = self.desk.live.bitmap.packed.copy()
        for path in self.cache.folder.iterdir():
            arrays = dict(cache.unpacked(path.read_bytes()))
            for name in ("code", "place"):
                if name in arrays:
                    arrays[name] = arrays[name] + 10**9
            path.write_bytes(cache.packed(arrays))
        self.again()
        self.open(DEMO)
        np.testing.assert_array_equal(self.desk.live.bitmap.packed, first)

    def test_a_small_and_a_wide_sketch_are_lit(self):
        for size in ((40, 30), (8000, 60)):
            sketch = Path(self.cache.folder.parent) / f"{self.cache.folder.name}-{size[0]}.png"
            self.addCleanup(sketch.unlink)
            shapes = (
                ("rectangle", (0, 0, *size), scenes.SEA),
                ("ellipse", (size[0] * 0.3, 4, size[0] * 0.6, size[1] - 4), scenes.SUN),
            )
            sketch.write_bytes(scenes.encoded(scenes.draw(shapes, size, 2)))
            self.open(sketch)
            self.works.menus.run("step-light")
            self.parts.benches["light"].switch.setChecked(True)
            if self.desk.derived.lit is None:
                wait(self.desk.live.rebuilt)
            self.settle()
            says = self.desk.derived.rig.on, self.parts.notice.text()
            self.assertIsNotNone(self.desk.derived.lit, says)
            self.assertLessEqual(max(self.desk.live.bitmap.packed.shape), 1600)
