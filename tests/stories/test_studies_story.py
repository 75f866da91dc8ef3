"""From a flats sketch of arbitrary colours to six versions, a reason, a file, and back: by hand,
and the same by the command line."""

import tempfile
from pathlib import Path

from msgspec.structs import replace
from PySide6.QtCore import QPointF
from PySide6.QtTest import QTest

from tests import generated, scenes
from tests.cli.test_commands import answer
from tests.window.driving import InWindow, Qt, drag, wait
from umber_compass.plan.edits import study
from umber_compass.steps.studies.grow_rule import ground_value
from umber_compass.steps.studies.growing import doubled, linears_of
from umber_compass.steps.studies.rules import FIRST


class Studies(InWindow):
    def setUp(self):
        super().setUp()
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        index, colours = generated.scene(11, 9)
        self.sketch = self.folder / "chance.png"
        self.sketch.write_bytes(scenes.encoded(generated.shrunk(index, colours)))
        self.file = self.folder / "chance.umber"

    @property
    def plan(self):
        return self.desk.history.now

    def key(self, key, *modifiers):
        keys = Qt.KeyboardModifier.NoModifier
        for one in modifiers:
            keys |= one
        QTest.keyClick(self.parts.wall.grid, key, keys)
        self.settle()

    def test_six_versions_a_reason_and_back(self):
        self.open(self.sketch)
        self.works.menus.run("step-studies")
        self.settle()
        bench, wall = self.parts.benches["studies"], self.parts.wall
        self.assertEqual(bench.chosen_rules(), list(FIRST))
        self.press(bench.grow)
        self.settle()
        self.assertEqual(len(self.plan.studies), 7)
        shares = dict(self.desk.derived.shares)
        grounds = [
            ground_value(replace(self.plan, current_study=s.id), shares)
            for s in self.plan.studies[1:]
        ]
        self.assertTrue(min(grounds) < 40 and max(grounds) > 62, grounds)
        labs = [doubled(x) for x in linears_of(self.plan.studies, list(shares))]
        for i, one in enumerate(labs):
            for other in labs[:i]:
                self.assertGreater(abs(one - other).max(), 0.05)
        # Which leads, in numbers.
        grid = wall.grid
        grid.setFocus()
        self.key(Qt.Key.Key_Right)
        self.key(Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
        self.assertEqual(len(self.works.studies.shown.chosen), 2)
        self.press(wall.modes["side"])
        self.settle()
        self.assertTrue(all("…" not in r.texts for r in wall.compare._rows))
        self.press(wall.back)
        self.key(Qt.Key.Key_Left)
        self.press(bench.keep)
        self.type(bench.reason, "reads from across the room\r")
        kept = self.works.studies.shown.one
        self.assertEqual((kept.verdict, kept.reason), ("kept", "reads from across the room"))
        box = grid.placing.boxes()[self.plan.studies.index(kept)].center()
        drag(grid, [box, box + QPointF(15, 0), box + QPointF(24, 0)])
        self.settle()
        turned = next(s for s in self.plan.studies if s.id == kept.id)
        self.assertNotEqual(turned.scheme, kept.scheme)
        grid.setFocus()
        self.key(Qt.Key.Key_Return)
        self.assertEqual(study(self.plan).id, kept.id)
        self.works.steps.open("harmony")
        self.settle()
        shown = self.parts.benches["harmony"].wheel_page.lead.value()
        self.assertAlmostEqual(shown, turned.scheme.lead_deg, delta=0.6)
        self.answers.path = self.file
        wait(self.desk.filed, lambda: self.works.menus.run("save"))
        before = self.plan
        self.open(self.file)
        self.assertEqual(self.plan, before)
        grown = answer("studies", self.sketch_plan(), "-o", self.folder / "out")["studies"]
        self.assertEqual([s.title for s in before.studies[1:]], [r["title"] for r in grown])

    def sketch_plan(self):
        """The same sketch as the command line brings it in."""
        path = self.folder / "fresh.umber"
        answer("new", self.sketch, "-o", path)
        return path
