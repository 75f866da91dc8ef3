"""Reference pictures: read back by an independent reader, of the size and kind that was asked."""

import io

import numpy as np
from PIL import Image, ImageCms

from tests import scenes
from tests.cli.test_commands import answer, run
from tests.window.driving import DEMO, InWindow, wait
from umber_compass.document import open_plan
from umber_compass.document.references_out import Wish, reference_paths, write_references
from umber_compass.plan.settings import change_setting
from umber_compass.words import Refusal


def opened(path):
    """A picture, its file closed again."""
    with Image.open(path) as image:
        image.load()
        return image


class TestReferences(scenes.InFolder):
    def setUp(self):
        super().setUp()
        self.opened = open_plan(DEMO)

    def written(self, wish, force=False):
        return write_references(self.opened.plan, self.opened.pixels, self.folder, wish, force)

    def test_each_is_what_it_says(self):
        wish = Wish(("flat", "lit", "grey", "plaster", "palette"), 400)
        found = dict(zip(wish.kinds, map(opened, self.written(wish)), strict=True))
        for kind in ("flat", "lit", "grey", "plaster"):
            self.assertEqual(found[kind].width, 400, kind)
            self.assertIn("srgb", found[kind].info, kind)
        self.assertGreater(found["palette"].width, 400)
        levels = {k: np.asarray(f.convert("RGB")).astype(int) for k, f in found.items()}
        self.assertEqual(np.ptp(levels["grey"], axis=2).max(), 0)
        self.assertGreater(np.abs(levels["flat"] - levels["lit"]).mean(), 3)
        self.assertLess(
            np.ptp(levels["plaster"], axis=2).mean(), np.ptp(levels["lit"], axis=2).mean()
        )
        self.assertEqual(len(list(self.folder.glob("*-reference-*"))), 5)

    def test_a_jpeg_is_tagged_and_ours(self):
        (path,) = self.written(Wish(("lit",), 320, True))
        profile = opened(path).info["icc_profile"]
        said = ImageCms.getProfileDescription(ImageCms.ImageCmsProfile(io.BytesIO(profile)))
        self.assertIn("sRGB", said)
        self.written(Wish(("lit",), 320, True))  # ours is replaced

    def test_what_cannot_be_is_said_and_nothing_is_written(self):
        off = change_setting("light.on", False).apply(self.opened.plan)
        for plan, wish, says in (
            (off, Wish(("flat", "lit")), "needs the light"),
            (self.opened.plan, Wish(("sepia",)), "is no reference"),
            (self.opened.plan, Wish(("flat",), 12), "64 to 8192"),
            (self.opened.plan, Wish(()), "choose one"),
        ):
            with self.subTest(says), self.assertRaisesRegex(Refusal, says):
                write_references(plan, self.opened.pixels, self.folder, wish)
        wish = Wish(("grey",))
        path = reference_paths(self.opened.plan, self.folder, wish)["grey"]
        path.write_bytes(b"somebody else's")
        with self.assertRaisesRegex(Refusal, "not written by this program"):
            self.written(wish)
        self.assertEqual(path.read_bytes(), b"somebody else's")
        self.written(wish, force=True)
        self.assertEqual(opened(path).format, "PNG")

    def test_by_command(self):
        said = answer("references", DEMO, "-o", self.folder, "--kinds", "grey", "--width", 200)
        self.assertEqual(opened(said["files"][0]).width, 200)
        code, _, err = run("references", DEMO, "-o", self.folder, "--kinds", "sepia")
        self.assertNotEqual(code, 0)
        self.assertIn("sepia", err)


class TestReferencesPage(InWindow):
    def test_they_are_written_by_a_click_and_others_stay(self):
        self.open()
        self.works.steps.open("handoff")
        bench = self.parts.benches["handoff"]
        page = bench.references
        folder = scenes.Path(self.enterContext(scenes.tempfile.TemporaryDirectory()))
        self.works.files.handing_off.choose_folder(str(folder))
        self.assertIn(str(folder), page.says.text())
        page.own.setChecked(False)
        page.width_px.setValue(240)
        page.kind.buttons["jpeg"].click()
        wait(self.desk.orders.rested, page.write.click)
        names = sorted(p.name for p in folder.iterdir())
        self.assertEqual([n.rpartition("-")[2] for n in names], ["240.jpg", "240.jpg"])
        (folder / names[0]).write_bytes(b"mine")
        wait(self.desk.orders.rested, page.write.click)
        self.assertEqual((folder / names[0]).read_bytes(), b"mine")
        self.answers.may_replace = True
        wait(self.desk.orders.rested, page.write.click)
        self.assertNotEqual((folder / names[0]).read_bytes(), b"mine")
        for box in page.boxes.values():
            box.setChecked(False)
        self.assertFalse(page.write.isEnabled())
