"""Files: written and read back equal; cut short, hostile or full disks change nothing."""

import io
import json
import struct
import subprocess
import sys
import unittest
import zipfile
import zlib
from pathlib import Path
from unittest import mock

import numpy as np
from PIL import Image, ImageCms

from tests import scenes
from umber_compass import document
from umber_compass.formats import atomic, gpl, picture, plan_file
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


class Pictures(scenes.InFolder):
    def test_every_kind_becomes_srgb_bytes(self):
        rgb = scenes.draw()
        image = Image.fromarray(rgb)
        deep = Image.fromarray(np.asarray(image.convert("L")).astype(np.uint16) * 257)
        for name, kept, kind in (
            ("grey", image.convert("L"), "PNG"),
            ("grey 16", deep, "PNG"),
            ("grey tiff", deep, "TIFF"),
            ("palette", image.quantize(8), "PNG"),
            ("one bit", image.convert("1"), "BMP"),
            ("cmyk", image.convert("CMYK"), "JPEG"),
            ("webp", image, "WEBP"),
            ("one pixel", image.resize((1, 1)), "PNG"),
        ):
            with self.subTest(name):
                out = io.BytesIO()
                kept.save(out, kind)
                read = picture.decode(out.getvalue(), name)
                self.assertEqual((read.rgb.dtype, read.rgb.ndim), (np.uint8, 3))
                wanted = np.asarray(image.convert("L")) if "16" in name else None
                if wanted is not None:
                    np.testing.assert_array_equal(read.rgb[..., 0], wanted)

    def test_a_wrong_ending_does_not_matter(self):
        path = self.folder / "boat.bmp"
        path.write_bytes(self.sketch.read_bytes())
        np.testing.assert_array_equal(picture.read(path).rgb, scenes.draw())

    def test_a_profile_is_converted(self):
        image = Image.fromarray(scenes.draw())
        profile = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
        out = io.BytesIO()
        image.save(out, "PNG", icc_profile=profile)
        off = picture.decode(out.getvalue(), "x").rgb.astype(int) - scenes.draw()
        self.assertLessEqual(np.abs(off).max(), 1)
        image.save(out := io.BytesIO(), "PNG", icc_profile=b"not a profile")
        np.testing.assert_array_equal(picture.decode(out.getvalue(), "x").rgb, scenes.draw())

    def test_clear_parts_are_told(self):
        rgba = np.dstack([scenes.draw(), np.full((160, 240), 255, np.uint8)])
        rgba[:40, :, 3] = 0
        read = picture.decode(scenes.encoded(rgba), "x")
        self.assertTrue(read.clear[:40].all() and not read.clear[40:].any())

    def test_refusals_are_one_line(self):
        whole = self.sketch.read_bytes()
        ihdr = struct.pack(">IIBBBBB", 60_000, 60_000, 8, 2, 0, 0, 0)
        huge = (
            whole[:8]
            + struct.pack(">I", 13)
            + b"IHDR"
            + ihdr
            + struct.pack(">I", zlib.crc32(b"IHDR" + ihdr))
            + whole[33:]
        )
        for name, data, word in (
            ("text", b"hello", "not a picture"),
            ("empty", b"", "not a picture"),
            ("cut", whole[: len(whole) // 2], "not a picture"),
            ("huge", huge, "too large"),
            ("gif", scenes.encoded(scenes.draw(), "GIF"), "not a picture"),
        ):
            with self.subTest(name), self.assertRaisesRegex(Refusal, word) as said:
                picture.decode(data, "x.png")
            self.assertNotIn("\n", str(said.exception))

    def test_missing_folder_and_unreadable(self):
        for path, word in ((self.folder / "no.png", "no such file"), (self.folder, "is a folder")):
            with self.assertRaisesRegex(Refusal, word):
                picture.read(path)


class Palettes(unittest.TestCase):
    def test_rows_follow_the_format(self):
        text = gpl.text(
            "A\nname", [("#7a4fa0", "sea\tdark −1"), ("#000000", "x" * 300)], ["Source: own"]
        )
        lines = text.split("\n")
        self.assertEqual(lines[:4], [gpl.MAGIC, "Name: A name", "Columns: 0", "# Source: own"])
        self.assertEqual(lines[4], "122  79 160\tsea dark −1")
        self.assertLessEqual(max(len(x.encode()) for x in lines), 100)
        self.assertEqual(lines[-1], "")
        self.assertFalse(any(not x for x in lines[:-1]))


class Atomic(scenes.InFolder):
    def test_a_failed_fill_leaves_no_trace(self):
        path = self.folder / "a.txt"
        path.write_text("old")
        with self.assertRaises(ZeroDivisionError):
            atomic.write(path, lambda stream: stream.write(bytes(1 // 0)))
        self.assertEqual((path.read_text(), len(list(self.folder.iterdir()))), ("old", 2))

    def test_permissions_are_kept(self):
        path = self.folder / "a.txt"
        path.write_text("old")
        Path(path).chmod(0o640)
        atomic.write_bytes(path, b"new")
        self.assertEqual(Path(path).stat().st_mode & 0o777, 0o640)
