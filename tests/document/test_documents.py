"""A plan with its pixels: saved, opened, handed off."""

import io
import json
import subprocess
import sys
import zipfile
from unittest import mock

import numpy as np
from PIL import Image

from tests import scenes
from umber_compass import document
from umber_compass.formats import gpl, picture, plan_file
from umber_compass.words import Refusal


def zipped(entries):
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in entries:
            archive.writestr(name, data)
    return out.getvalue()


class PlanFiles(scenes.InFolder):
    def setUp(self):
        super().setUp()
        made, _ = self.bring_in()
        self.path = self.folder / "boat.umber"
        document.save(made.plan, made.pixels, self.path)
        self.made, self.data = made, self.path.read_bytes()
        with zipfile.ZipFile(self.path) as archive:
            self.entries = {n: archive.read(n) for n in archive.namelist()}

    def changed(self, **changes):
        tree = json.loads(self.entries["plan.json"])
        for key, value in changes.items():
            at = tree
            *way, last = key.split("__")
            for name in way:
                at = at[int(name)] if name.isdigit() else at[name]
            at[last] = value
        return zipped([*({**self.entries, "plan.json": json.dumps(tree)}).items()])

    def test_read_is_what_was_written(self):
        again = document.open_plan(self.path)
        self.assertEqual(again.plan, self.made.plan)
        self.assertEqual(again.pixels.sketches[again.plan.sketch.hash], self.sketch.read_bytes())
        np.testing.assert_array_equal(
            again.pixels.labels(again.plan.sketch), self.made.pixels.labels(self.made.plan.sketch)
        )
        self.assertEqual(Image.open(io.BytesIO(again.thumbnail)).size, (240, 160))
        document.save(again.plan, again.pixels, self.path)
        self.assertEqual(self.path.read_bytes(), self.data)

    def test_mimetype_is_first_and_stored(self):
        first = zipfile.ZipFile(self.path).infolist()[0]
        self.assertEqual((first.filename, first.compress_type), ("mimetype", zipfile.ZIP_STORED))
        self.assertEqual(self.data[38:66], b"application/x-umber-plan" + self.data[62:66])

    def test_cut_short_anywhere_is_one_line(self):
        for share in np.linspace(0, 0.999, 40):
            with self.subTest(share=share), self.assertRaises(Refusal) as said:
                plan_file.parse(self.data[: int(len(self.data) * share)], "boat.umber")
            self.assertNotIn("\n", str(said.exception))

    def test_a_flipped_byte_never_gets_past_as_a_crash(self):
        for at in range(0, len(self.data), 211):
            bent = bytearray(self.data)
            bent[at] ^= 0x5A
            try:
                plan_file.parse(bytes(bent), "boat.umber")
            except Refusal as error:
                self.assertNotIn("\n", str(error))

    def test_hostile_archives(self):
        bomb = zipped([*self.entries.items(), ("x", b"")]).replace(b"plan.json", b"plan.json")
        big = dict(self.entries) | {"plan.json": b"0" * 40_000_000}
        for name, data, word in (
            ("not a zip", b"GIF89a....", "no plan"),
            ("another zip", zipped([("a.txt", b"hello")]), "no mimetype"),
            (
                "other mimetype",
                zipped([*({**self.entries, "mimetype": b"application/x"}).items()]),
                "no plan",
            ),
            ("path outside", zipped([*self.entries.items(), ("../../etc/x", b"")]), "outside"),
            ("absolute path", zipped([*self.entries.items(), ("/etc/x", b"")]), "outside"),
            ("bomb", zipped([*big.items()]), "larger"),
            (
                "many",
                zipped([*self.entries.items(), *((str(i), b"") for i in range(99))]),
                "too many",
            ),
            ("other sketch", zipped([*({**self.entries, "sketch": b"x"}).items()]), "not the one"),
            (
                "no regions",
                zipped([(n, d) for n, d in self.entries.items() if n != "regions.png"]),
                "regions.png",
            ),
        ):
            with self.subTest(name), self.assertRaisesRegex(Refusal, word):
                plan_file.parse(data, "x.umber")
        plan_file.parse(bomb, "x.umber")

    def test_wrong_newer_or_inconsistent_schema(self):
        for change, word in (
            ({"schema": 2}, "newer version"),
            ({"schema": "1"}, "names no schema"),
            ({"schema": True}, "names no schema"),
            ({"title": 5}, "not valid"),
            ({"studies__0__scheme__lead_deg": 1e9}, "not valid"),
            ({"studies__0__scheme__name": "nine-hues"}, "scheme"),
            ({"studies__0__recipes": {"r1": {"recipe": "no-such"}}}, "recipe"),
            ({"current_study": "s9"}, "current study"),
            ({"regions__1__id": "r1"}, "told apart"),
            ({"studies__0__colours": {}}, "do not match"),
            ({"practice": "unknown"}, "practice"),
            ({"overrides": {"extremes.dark": 900}}, "out of range"),
            ({"sketch__size": [10, 10]}, "regions"),
        ):
            with self.subTest(change), self.assertRaisesRegex(Refusal, word):
                held = plan_file.parse(self.changed(**change), "x.umber")
                document.from_file(held, "x.umber")

    def test_a_full_disk_leaves_the_old_file(self):
        full = OSError(28, "No space left on device")
        with (
            mock.patch("os.fsync", side_effect=full),
            self.assertRaisesRegex(Refusal, "no space left"),
        ):
            document.save(self.made.plan, self.made.pixels, self.path)
        self.assertEqual(self.path.read_bytes(), self.data)
        self.assertEqual(sorted(p.name for p in self.folder.iterdir()), ["boat.png", "boat.umber"])

    def test_killed_in_the_middle_of_saving_leaves_the_old_file(self):
        code = (
            "import os, sys, pathlib\nfrom umber_compass import document\n"
            "os.fsync = lambda n: os._exit(9)\np = pathlib.Path(sys.argv[1])\n"
            "document.save(document.open_plan(p), p)"
        )
        ended = subprocess.run([sys.executable, "-c", code, str(self.path)], check=False)
        self.assertEqual((ended.returncode, self.path.read_bytes()), (9, self.data))

    def test_hand_off_writes_ours_over_ours_and_nothing_over_others(self):
        out = self.folder / "out"
        files = document.hand_off(self.made.plan, self.made.pixels, out, ["gpl", "flat"])
        self.assertEqual([f.name for f in files], ["boat.gpl", "boat-flat.png"])
        document.hand_off(self.made.plan, self.made.pixels, out, ["gpl", "flat"])
        np.testing.assert_allclose(
            picture.read(files[1]).rgb.astype(int), scenes.draw().astype(int), atol=6
        )
        files[0].write_text("mine")
        with self.assertRaisesRegex(Refusal, "there already"):
            document.hand_off(self.made.plan, self.made.pixels, out, ["gpl", "flat"])
        self.assertEqual(files[0].read_text(), "mine")
        document.hand_off(self.made.plan, self.made.pixels, out, ["gpl"], force=True)
        self.assertTrue(files[0].read_text().startswith(gpl.MAGIC))

    def test_saving_into_a_folder_that_is_not_there(self):
        with self.assertRaisesRegex(Refusal, "could not be written"):
            document.save(self.made.plan, self.made.pixels, self.folder / "gone" / "x.umber")
