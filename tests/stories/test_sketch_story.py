"""From a file of any kind to named regions with roles, through the window, by keys and mouse; saved
and opened again."""

import time
import unittest

from PIL import Image
from PySide6.QtCore import QMimeData, Qt, QUrl
from PySide6.QtTest import QTest

from bench import drawings
from bench.hands import SORTS
from tests import scenes
from tests.formats.test_openraster import layered
from tests.window.driving import InWindow, drag, dropped, wait
from umber_compass.cli.plans import as_regions
from umber_compass.colour.packed import unpack
from umber_compass.demo.plans import DEMOS
from umber_compass.document import bring_in, open_plan

_MINUTE = 60.0  # s of hands-on work, of which a test's hand takes a small part


class FromFile(InWindow):
    def setUp(self):
        super().setUp()
        held = scenes.tempfile.TemporaryDirectory()
        self.addCleanup(held.cleanup)
        self.folder = scenes.Path(held.name)

    def files(self):
        """A file of each kind, and the kind it should be taken for."""
        made = {
            "flats": scenes.draw(),
            "lines": drawings.line_art(31, "gaps", (640, 480), 9).rgb,
            "grey": drawings.grey_thumbnail(31, 4, (640, 480), 9).rgb,
            "painting": drawings.painting(31, (640, 480), 8).rgb,
        }
        for kind, rgb in made.items():
            path = self.folder / f"{kind}.png"
            Image.fromarray(rgb).save(path)
            yield kind, path
        path = self.folder / "layers.ora"
        path.write_bytes(layered())
        yield "layers", path

    def name_all(self, most):
        """Name regions one by one as a hand at the keys would; gives how many were."""
        panel = self.parts.benches["sketch"].plan_page.panel
        QTest.keyClick(self.parts.stage, Qt.Key.Key_N)
        count = 0
        while self.session.selection and count < most:
            one = next(r for r in self.desk.history.now.regions if r.id == self.session.selection)
            if one.named:
                break
            QTest.keyClicks(panel.name, f"named {count}") if panel.name.hasFocus() else (
                panel.name.selectAll(),
                QTest.keyClicks(panel.name, f"named {count}"),
            )
            QTest.keyClick(panel.name, Qt.Key.Key_Return)
            QTest.keyClick(panel.role, Qt.Key.Key_Return)
            count += 1
        return count

    def test_each_kind_goes_from_file_to_named_regions_with_roles(self):
        for kind, path in self.files():
            with self.subTest(kind):
                begin = time.monotonic()
                wait(
                    self.desk.opened,
                    lambda p=path, k=kind: self.works.files.open_path(p, kind=k),
                )
                self.settle()
                self.assertEqual(self.session.step, "sketch")
                said = as_regions(bring_in(path, kind=kind))["regions"]
                plan = self.desk.history.now
                self.assertEqual([r["name"] for r in said], [r.name for r in plan.regions])
                self.assertEqual([r["role"] for r in said], [r.role for r in plan.regions])
                many = sum(not r.named for r in plan.regions)
                self.assertEqual(self.name_all(60), many)
                page = self.parts.benches["sketch"].plan_page
                one = page.plan.rows[0].chips[0] if page.plan.rows[0].chips else None
                if one is not None:
                    target = page.plan.rows[3].box.center()
                    drag(page.plan, [one.box.center(), one.box.center() + target / 50, target])
                    roles = {r.id: r.role for r in self.desk.history.now.regions}
                    self.assertEqual(roles[one.region.id], "focus")
                plan = self.desk.history.now
                self.assertTrue(all(r.named for r in plan.regions))
                saved = self.folder / f"{kind}.umber"
                wait(self.desk.filed, lambda s=saved: self.works.files.documents.save(s))
                self.assertEqual(open_plan(saved).plan, plan)
                self.assertLess(time.monotonic() - begin, _MINUTE)

    def test_a_photographed_drawing_is_tidied_and_takes_the_light_of_a_grey_study(self):
        photograph = self.folder / "left-page.png"
        Image.fromarray(unpack(SORTS["photograph"](9).packed)).save(photograph)
        wait(self.desk.opened, lambda: self.works.files.open_path(photograph))
        self.settle()
        plan = self.desk.history.now
        self.assertEqual(plan.sketch.kind, "lines")
        self.assertEqual({r.name.split()[0] for r in plan.regions if r.role != "line"}, {"area"})
        many = len(plan.regions)
        self.act(self.parts.benches["sketch"].plan_page.join.click)
        joined = self.desk.history.now
        self.assertLess(len(joined.regions), many)
        stage = self.parts.stage
        self.works.menus.run("outline")
        ring = [(60, 40), (150, 30), (160, 110), (70, 120)]
        self.act(lambda: drag(stage, [stage.from_picture(*p) for p in ring]))
        self.assertEqual(len(self.desk.history.now.regions), len(joined.regions) + 1)
        study = self.folder / "grey-study.png"
        Image.fromarray(unpack(SORTS["soft grey"](9).packed)).resize((480, 360)).save(study)
        self.answers.second = "shading"
        files = QMimeData()
        files.setUrls([QUrl.fromLocalFile(str(study))])
        self.act(lambda: self.window.dropEvent(dropped(files)))
        self.assertIsNotNone(self.desk.derived.drawing.shades)
        self.assertEqual(len(self.desk.history.now.regions), len(joined.regions) + 1)
        saved = self.folder / "page.umber"
        wait(self.desk.filed, lambda: self.works.files.documents.save(saved))
        self.assertEqual(open_plan(saved).plan, self.desk.history.now)
        for _ in range(3):
            self.works.menus.run("undo")
        self.assertEqual(self.desk.history.now.regions, plan.regions)

    def act(self, do):
        """Something whose edit comes from the worker."""
        before = self.desk.history.now
        do()
        while self.desk.history.now is before:
            wait(self.desk.worker.idle)
        self.settle()

    def test_every_demo_opens_named_and_can_be_worked_on(self):
        for demo in DEMOS:
            with self.subTest(demo.name):
                self.open(demo.plan)
                plan = self.desk.history.now
                self.assertTrue(all(r.name for r in plan.regions))
                self.assertTrue({"ground", "focus"} <= {r.role for r in plan.regions})
                self.works.steps.open("sketch")
                self.session.select(plan.regions[0].id)
                QTest.keyClick(self.parts.benches["sketch"].plan_page.plan, Qt.Key.Key_2)
                self.assertEqual(self.desk.history.now.regions[0].role, "middle ground")
                self.settle()


if __name__ == "__main__":
    unittest.main()
