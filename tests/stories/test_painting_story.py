"""From the plan to the easel and back: the sheet is written, the painting watched and told where it
is off, the card ticked, the picture looked at anew, three pages seen as one arc, all of it kept."""

import shutil
import subprocess
import tempfile
from pathlib import Path

import numpy as np
from PIL import Image

from bench.paintings import drifting
from tests import scenes
from tests.window.driving import FULL, InWindow, wait
from umber_compass.demo.plans import DEMOS
from umber_compass.window.drawers.fresh_look import FreshLook
from umber_compass.window.story.telling import StoryTelling


class Painting(InWindow):
    def page(self, title):
        titles = [b.text() for b in self.bench.pages.tabs.buttons]
        self.press(self.bench.pages.tabs.buttons[titles.index(title)])
        self.settle()

    def test_beside_the_painting(self):
        with tempfile.TemporaryDirectory() as name:
            self.folder = Path(name)
            plan = self.folder / "bakery.umber"
            shutil.copy(FULL, plan)
            wait(self.desk.opened, lambda: self.works.files.open_path(plan))
            self.settle()
            self.works.steps.open("handoff")
            self.bench = self.parts.benches["handoff"]
            self.write_the_sheet()
            self.paint_a_little_wrong()
            self.tick_the_card()
            self.look_anew()
            self.see_three_pages(plan)
            self.come_back(plan)

    def write_the_sheet(self):
        self.page("Plan sheet")
        sheet = self.folder / "sheet.pdf"
        self.answers.path = sheet
        wait(self.desk.orders.rested, lambda: self.press(self.bench.plan_sheet.write))
        self.assertTrue(sheet.read_bytes().startswith(b"%PDF"))
        if shutil.which("pdftotext"):
            said = subprocess.run(["pdftotext", sheet, "-"], capture_output=True, text=True).stdout
            self.assertIn("Lighthouse Bakery", said)

    def paint_a_little_wrong(self):
        self.page("Painting")
        file = self.folder / "work in progress.jpg"
        Image.fromarray(drifting(self.desk.derived, 0.0)).save(file, quality=95)
        self.answers.path = file
        page = self.bench.painting
        wait(self.works.watch.found, lambda: self.press(page.browse))
        self.settle()
        self.assertEqual(page.rows, [], page.says.text())
        fresh = self.folder / "part.jpg"
        wrong = np.ascontiguousarray(drifting(self.desk.derived, 1.0)[:, 64:])  # and cropped
        Image.fromarray(wrong).resize((1800, 1420)).save(fresh, quality=95)
        wait(self.works.watch.found, lambda: fresh.replace(file))
        self.settle()
        names = {r.id: r.name for r in self.desk.derived.regions}
        worst = [names[r.region] for r in page.rows]
        self.assertEqual(worst[0], "sea")
        self.assertIn("wall", worst)
        self.assertIn("regions have drifted", page.says.text())
        self.assertIn("darks", page.says.text())
        self.press(page.rows[0].accept)
        wait(self.works.watch.found)
        self.settle()
        self.assertNotIn("r2", [r.region for r in page.rows], "the sea is planned as painted now")

    def tick_the_card(self):
        self.page("Card")
        boxes = list(self.bench.card.boxes.values())
        for box in boxes[:3]:
            self.press(box)
        self.assertIn(f"3 of {len(boxes)}", self.bench.card.says.text())

    def look_anew(self):
        self.works.steps.toggle_drawer("log")
        log = self.parts.drawers["log"]
        self.assertIn("as it is painted", log.table.index(0, 2).data())
        self.press(log.fresh)
        (dialog,) = self.window.findChildren(FreshLook)
        dialog.fields[2].setText("quieter clouds")
        self.press(dialog.keep)

    def see_three_pages(self, plan):
        wait(self.works.files.documents.saved, lambda: self.works.files.documents.save(plan))
        self.works.menus.run("story")
        telling = self.desk.findChild(StoryTelling)
        wait(self.desk.orders.rested)
        self.answers.paths = [scenes.small(d.plan) for d in DEMOS[1:3]]
        wait(self.desk.orders.rested, lambda: self.press(telling.window.add))
        self.assertEqual(len(telling.window.pages), 3)
        self.assertTrue(telling.window.says.text())
        telling.window.reject()

    def come_back(self, plan):
        self.open(plan)
        journal = self.works.journaling.journal
        self.assertEqual(len(journal.looks), 2, "one for each save")
        self.assertEqual(journal.fresh[0].answers[2], "quieter clouds")
        self.assertEqual(len(journal.done), 3)
        self.assertIn("as it is painted", journal.entries[-1].text)
