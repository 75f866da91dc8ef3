"""A sprite within its sixteen colours, seen on a tube, handed off in layers and repainted."""

import io
import tempfile
import zipfile
from pathlib import Path
from xml.etree import ElementTree

import numpy as np
from PIL import Image
from PySide6.QtCore import QPointF, Qt
from PySide6.QtTest import QTest

from tests.document.test_starter import composed, opened
from tests.window.driving import InWindow, wait
from umber_compass.colour.packed import unpack
from umber_compass.demo.plans import find

SPRITE = find("lantern-hedgehog").plan


class Sprite(InWindow):
    def test_ramps_within_the_budget_then_layers_that_are_repainted(self):
        self.open(SPRITE)
        QTest.mouseClick(
            self.parts.route.stops["ramps"],
            Qt.MouseButton.LeftButton,
            pos=QPointF(22, 28).toPoint(),
        )
        self.settle()
        bench = self.parts.benches["ramps"]
        self.press(bench.recipe.recipes["cool-warm"])
        self.settle(fixes=True)
        (row,) = [r for r in self.parts.checks.rows if r.result.check == "step-budget"]
        self.assertEqual(row.result.level, "warning")
        self.press(row.button)  # let all steps share 16 colours
        self.settle()
        self.assertTrue(bench.within.isChecked())
        count = int(bench._count.text().split()[0])
        self.assertLessEqual(count, 16)
        self.session.show_view("ramp-view")
        self.settle()
        stage = self.works.director._seen.packed
        self.assertLessEqual(len(np.unique(unpack(stage).reshape(-1, 3), axis=0)), 16)
        self.session.show_view("tube")
        self.settle()
        tube = unpack(self.works.director._seen.packed).astype(int)
        self.assertGreater(np.abs(np.diff(tube.sum(axis=2), axis=0)).mean(), 1)  # scan lines
        self.session.show_view("")
        with tempfile.TemporaryDirectory() as name:
            self.hand_off_and_repaint(Path(name))

    def hand_off_and_repaint(self, folder):
        self.works.steps.open("handoff")
        bench = self.parts.benches["handoff"]
        self.type(bench.folder, str(folder))
        wait(self.desk.worker.idle, lambda: self.press(bench.write))
        self.settle()
        (file,) = folder.glob("*.ora")
        found, merged, image = opened(file)
        self.assertLessEqual(np.abs(found - merged).max(), 1)
        names = {g.get("name") for g in image.find("stack") if g.tag == "stack"}
        self.assertEqual(names, {r.name for r in self.desk.history.now.regions})
        with zipfile.ZipFile(file) as archive:
            blue = np.full((*found.shape[:2], 3), (0.2, 0.3, 0.8))
            canvas = np.zeros(found.shape)
            for child in reversed(list(image.find("stack"))):
                if child.tag == "stack":
                    canvas = composed(archive, child, canvas, blue)
            with Image.open(io.BytesIO(archive.read("mergedimage.png"))) as picture:
                self.assertEqual(picture.size, (32, 32))
            written = ElementTree.tostring(image, encoding="unicode")
            self.assertEqual(written.count('name="base"'), len(names))
        self.assertLess(np.abs(canvas[..., :3] - (0.2, 0.3, 0.8)).max(), 0.01)  # all is repainted
