"""First colours in the window: a line drawing, a face clicked, six cards, what is liked kept, one
taken; and the colour field."""

import tempfile
from pathlib import Path
from unittest import mock

from PySide6.QtCore import QEvent, QMimeData, QPointF, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from bench.uncoloured import PORTRAIT
from tests import scenes
from tests.window.driving import InWindow, dropped, mouse, wait
from umber_compass.plan.edits import study
from umber_compass.window.wall import touched_cards
from umber_compass.window.wall.card import BELOW

SMALL = PORTRAIT._replace(size=(410, 520))
FACE, COAT, GROUND = (0.5, 0.42), (0.25, 0.9), (0.03, 0.2)


class OnTheWall(InWindow):
    def setUp(self):
        super().setUp()
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.sketch = self.folder / "portrait.png"
        self.sketch.write_bytes(scenes.encoded(SMALL.lines()))
        self.open(self.sketch)
        self.grid = self.parts.wall.grid

    @property
    def plan(self):
        return self.desk.history.now

    @property
    def strip(self):
        return self.works.first.strip

    def propose(self):
        """Press what is offered on the bench, and wait for six."""
        bench = self.parts.benches["sketch"]
        self.assertTrue(bench.offer.isVisibleTo(bench))
        self.press(bench.offer)
        self.settle()

    def waiting(self):
        return [s for s in self.plan.studies if s.proposal]

    def place(self, at, where):
        """A place of a card's picture on the grid."""
        box = self.grid.placing.boxes()[at]
        high = box.height() - BELOW
        return QPointF(box.x() + where[0] * box.width(), box.y() + where[1] * high)

    def click(self, at, where):
        place = self.place(at, where)
        mouse(self.grid, QEvent.Type.MouseButtonPress, place)
        mouse(self.grid, QEvent.Type.MouseButtonRelease, place)
        self.settle()

    def hexes(self, one):
        shown = self.desk.live.pipeline.derive(self.plan, one.id)
        return {r: c.first.hex for r, c in shown.colours.items()}

    def region_at(self, where):
        labels = self.desk.derived.drawing.labels
        label = labels[int(where[1] * labels.shape[0]), int(where[0] * labels.shape[1])]
        return next(r for r in self.plan.regions if r.label == label)


class FirstMinute(OnTheWall):
    def test_a_face_six_cards_a_coat_kept_the_rest_tried_one_taken(self):
        self.propose()
        self.assertEqual((self.session.step, len(self.waiting())), ("studies", 6))
        self.assertTrue(self.strip.isVisibleTo(self.parts.wall))
        self.assertIn("a guess", self.strip.first.text())
        # What is seen first, and that it is skin: each answer proposes anew.
        picture = self.strip.drawing
        box = picture._box()
        at = QPointF(box.x() + FACE[0] * box.width(), box.y() + FACE[1] * box.height())
        mouse(picture, QEvent.Type.MouseButtonPress, at)
        self.assertEqual(self.region_at(FACE).role, "focus")
        self.press(self.strip.is_focus.buttons["skin"])
        self.assertEqual(self.region_at(FACE).material, "skin")
        wait(self.works.first.proposing.renewed)
        self.settle()
        self.assertEqual(len(self.waiting()), 6)
        self.assertNotIn("a guess", self.strip.first.text())
        # The coat of the third card is liked.
        third = self.waiting()[2]
        coat = self.region_at(COAT)
        liked = self.hexes(third)[coat.id]
        self.assertFalse(self.strip.rest.isEnabled())
        self.click(3, COAT)
        self.assertEqual(self.plan.first.kept[coat.id], liked)
        self.assertTrue(self.grid._faces[3].kept)
        self.press(self.strip.rest)
        self.settle()
        self.assertEqual({self.hexes(s)[coat.id] for s in self.waiting()}, {liked})
        self.assertNotIn(third.id, [s.id for s in self.waiting() if s.colours == third.colours])
        # One is taken with a double click, which likes nothing.
        kept = dict(self.plan.first.kept)
        place = self.place(2, GROUND)
        for kind in ("MouseButtonPress", "MouseButtonRelease", "MouseButtonDblClick"):
            mouse(self.grid, getattr(QEvent.Type, kind), place)
        self.settle()
        self.assertEqual(self.plan.first.kept, kept)
        now = study(self.plan)
        self.assertFalse(now.proposal)
        self.assertEqual(self.hexes(now)[coat.id], liked)
        self.assertFalse(self.desk.derived.uncoloured)
        # Proposals made anew leave it alone; undo takes them back in one step.
        self.press(self.strip.others)
        self.settle()
        self.assertIn(now.id, [s.id for s in self.plan.studies])

    def test_one_press_is_one_step_and_more_like_one_keeps_its_scheme(self):
        self.propose()
        before = [s.id for s in self.plan.studies]
        self.works.menus.run("undo")
        self.assertEqual(len(self.plan.studies), 1)
        self.works.menus.run("redo")
        self.assertEqual([s.id for s in self.plan.studies], before)
        one = self.waiting()[1]
        self.works.studies.shown.choose([one.id])
        self.works.menus.run("first-like")
        self.settle()
        self.assertTrue(all(s.scheme == one.scheme for s in self.waiting()))

    def test_every_control_of_the_strip_is_a_step_of_the_plan(self):
        self.works.menus.run("step-studies")
        self.settle()
        strip = self.strip
        for name in ("dusk", "noon"):
            self.press(strip.lights.buttons[name])
        self.assertEqual(self.plan.first.lights, ("dusk",))
        self.press(strip.lights.buttons["dusk"])
        self.assertEqual(self.plan.first.lights, ("dusk",))  # one stays
        self.press(strip.skins["brown"])
        strip.area_told.emit(strip.areas[0].region, "sky")
        ground = strip.grounds[1]
        was = next(r.role for r in self.plan.regions if r.id == ground.region)
        self.press(ground)
        strip.more_button.setChecked(True)
        strip.strength.setValue(140)
        strip.warm.setValue(80)
        strip.budget.setValue(5)
        strip.key.activated.emit(strip.key.findData("low"))
        told = self.plan.first
        self.assertEqual((told.skin, told.strength, told.warm), ("brown", 1.4, 0.8))
        self.assertEqual((told.key, self.plan.budget), ("low", 5))
        by_id = {r.id: r for r in self.plan.regions}
        self.assertEqual(by_id[strip.areas[0].region].material, "sky")
        self.assertNotEqual(by_id[ground.region].role == "ground", was == "ground")
        self.assertEqual(self.waiting(), [])  # nothing is proposed before it is asked for
        for _ in range(4):
            self.works.menus.run("undo")
        self.assertEqual(strip.warm.value(), -10)

    def test_a_kept_colour_is_carried_to_another_card(self):
        self.propose()
        self.click(1, COAT)
        coat, ground = self.region_at(COAT), self.region_at(GROUND)
        liked = self.plan.first.kept[coat.id]
        carried = []
        with mock.patch.object(touched_cards, "carry", lambda _, colour: carried.append(colour)):
            mouse(self.grid, QEvent.Type.MouseButtonPress, self.place(1, COAT))
            mouse(self.grid, QEvent.Type.MouseMove, self.place(2, GROUND))
            mouse(self.grid, QEvent.Type.MouseButtonRelease, self.place(2, GROUND))
        self.assertEqual(carried, [liked])
        mime = QMimeData()
        mime.setData("application/x-umber-swatch", liked.encode())
        self.grid.dropEvent(dropped(mime, self.place(2, GROUND).toTuple()))
        self.assertEqual(self.hexes(self.waiting()[1])[ground.id], liked)

    def test_the_drawing_is_picked_by_keys_and_a_line_is_refused(self):
        self.works.menus.run("step-studies")
        self.settle()
        picture = self.strip.drawing
        picture.setFocus()
        QTest.keyClick(picture, Qt.Key.Key_Left)
        QTest.keyClick(picture, Qt.Key.Key_Return)
        self.assertEqual(sum(r.role == "focus" for r in self.plan.regions), 1)
        line = next(r for r in self.plan.regions if r.role == "line")
        labels = self.desk.derived.drawing.labels
        y, x = (labels == line.label).nonzero()
        self.works.first.answers.pick_focus(
            float(x[0] + 0.5) / labels.shape[1], float(y[0] + 0.5) / labels.shape[0]
        )
        self.assertIn("click inside an area", self.parts.notice.text())


class Field(InWindow):
    """The colour field."""

    def setUp(self):
        super().setUp()
        self.open()
        self.works.colouring.open((self.region("coat").id,))
        self.field = self.works.colouring.field
        self.addCleanup(self.field.close)

    def hex_of(self, name):
        return self.desk.derived.colours[self.region(name).id].first.hex

    def test_a_double_click_on_the_picture_opens_it(self):
        self.field.close()
        stage, coat = self.parts.stage, self.region("coat")
        labels = self.desk.derived.drawing.labels
        y, x = (labels == coat.label).nonzero()
        at = stage.from_picture(float(x[len(x) // 2]), float(y[len(y) // 2]))
        mouse(stage, QEvent.Type.MouseButtonDblClick, at)
        self.assertTrue(self.field.isVisible())
        self.assertEqual(self.field.name.text(), "coat")

    def test_plane_ring_numbers_and_swatches_give_it(self):
        before = self.desk.derived.colours[self.region("coat").id].first
        mouse(self.field.plane, QEvent.Type.MouseButtonPress, QPointF(60, 40))
        mouse(self.field.plane, QEvent.Type.MouseMove, QPointF(60, 120))
        mouse(self.field.plane, QEvent.Type.MouseButtonRelease, QPointF(60, 120))
        now = self.desk.derived.colours[self.region("coat").id].first
        self.assertAlmostEqual(now.value, 100 * (1 - 120 / self.field.plane.height()), delta=1)
        self.assertAlmostEqual(now.hue, before.hue, delta=2)
        self.works.menus.run("undo")  # a drag is one step
        self.assertEqual(self.hex_of("coat"), before.hex)
        angle = self.field.ring._needles["A"]
        self.field.ring.wanted.emit(angle)
        self.field.value.setValue(40)
        self.assertAlmostEqual(
            self.desk.derived.colours[self.region("coat").id].first.value, 40, delta=0.6
        )
        self.field.hex.setText("#336699")
        self.field.hex.setModified(True)
        self.field.hex.take()
        self.assertEqual(self.hex_of("coat"), "#336699")
        self.field.hex.setText("teal")
        self.field.hex.setModified(True)
        self.field.hex.take()
        self.assertIn("not a colour", self.parts.notice.text())
        self.assertEqual(self.hex_of("coat"), "#336699")
        self.assertIn("#336699", self.works.colouring._recent)
        self.field.share.setValue(50)
        self.field._take("#000000")
        self.assertLess(self.desk.derived.colours[self.region("coat").id].first.value, 35)

    def test_hue_only_keeps_the_value_and_several_take_one_colour(self):
        before = self.desk.derived.colours[self.region("coat").id].first
        self.field.only_hue.setChecked(True)
        self.field._want("#d0302c")
        now = self.desk.derived.colours[self.region("coat").id].first
        self.assertAlmostEqual(now.value, before.value, delta=0.6)
        both = (self.region("coat").id, self.region("awning").id)
        self.works.colouring.open(both)
        self.assertEqual(self.field.name.text(), "2 regions")
        self.field._want("#446688")
        self.assertEqual({self.hex_of("coat"), self.hex_of("awning")}, {"#446688"})

    def test_nothing_chosen_is_said(self):
        self.field.close()
        self.session.select("")
        self.works.colouring.open()
        self.assertFalse(self.field.isVisible())
        self.assertIn("Choose a region", self.parts.notice.text())
        self.assertIsNone(QApplication.activePopupWidget())
