"""Files: written and read back equal; cut short, hostile or full disks change nothing."""

import io
import os
import struct
import subprocess
import sys
import unittest
import zlib
from pathlib import Path
from unittest import mock

import numpy as np
from PIL import Image, ImageCms

from tests import scenes
from umber_compass import document
from umber_compass.colour.packed import CLEAR
from umber_compass.formats import atomic, gpl, picture
from umber_compass.words import Refusal


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

    def test_what_is_brought_in_opens_again_for_every_format_and_way_it_was_held(self):
        rgb, saved = scenes.draw(size=(60, 40)), self.folder / "x.umber"
        for kind in ("TIFF", "PNG", "JPEG", "WEBP"):
            for way in range(1, 9):
                exif = Image.Exif()
                exif[0x0112] = way
                path = self.folder / f"{way}.{kind.lower()}"
                Image.fromarray(rgb).save(path, kind, exif=exif)
                with self.subTest(kind, way=way):
                    made = document.bring_in(path)
                    self.assertEqual(made.plan.sketch.size, (40, 60) if way > 4 else (60, 40))
                    document.save(made.plan, made.pixels, saved)
                    self.assertEqual(document.open_plan(saved).plan, made.plan)

    def test_a_lab_picture_is_taken_whatever_profile_it_carries(self):
        rgb = Image.new("RGB", (4, 3), "#c04020")
        profiles = [ImageCms.createProfile(n) for n in ("sRGB", "LAB")]
        lab = ImageCms.applyTransform(rgb, ImageCms.buildTransform(*profiles, "RGB", "LAB"))
        for profile in (
            None,
            b"x" * 200,
            *(ImageCms.ImageCmsProfile(p).tobytes() for p in profiles),
        ):
            out = io.BytesIO()
            lab.save(out, "TIFF", icc_profile=profile)
            off = picture.decode(out.getvalue(), "x").rgb.astype(int) - (0xC0, 0x40, 0x20)
            self.assertLessEqual(np.abs(off).max(), 3)

    def test_a_wrong_ending_does_not_matter(self):
        path = self.folder / "boat.bmp"
        path.write_bytes(self.sketch.read_bytes())
        np.testing.assert_array_equal(picture.read(path).rgb, scenes.draw())

    def test_a_profile_is_converted(self):
        """Of a screen whose red and blue are swapped: what it calls red is blue in sRGB."""
        rgb = np.uint8([[[200, 40, 90], [10, 160, 220]]])
        swapped = bytearray(ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes())
        for one, other in ((b"rXYZ", b"qXYZ"), (b"bXYZ", b"rXYZ"), (b"qXYZ", b"bXYZ")):
            at = swapped.index(one)
            swapped[at : at + 4] = other
        data = scenes.encoded(rgb, icc_profile=bytes(swapped))
        off = picture.decode(data, "x").rgb.astype(int) - rgb[..., ::-1]
        self.assertLessEqual(np.abs(off).max(), 3)
        plain = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
        for profile in (plain, b"not a profile", None):
            same = picture.decode(scenes.encoded(rgb, icc_profile=profile), "x").rgb
            self.assertLessEqual(np.abs(same.astype(int) - rgb).max(), 1)

    def test_a_photographs_turn_is_made(self):
        """EXIF orientation 6: the camera was turned, its first row is the right column."""
        rgb = np.zeros((20, 30, 3), np.uint8)
        rgb[:, :6] = (250, 10, 10)
        exif = Image.Exif()
        for turn, shape, at in (
            (1, (20, 30), np.s_[:, :5]),
            (3, (20, 30), np.s_[:, -5:]),
            (6, (30, 20), np.s_[:5]),
            (8, (30, 20), np.s_[-5:]),
        ):
            exif[0x0112] = turn
            read = picture.decode(scenes.encoded(rgb, "PNG", exif=exif.tobytes()), "x")
            self.assertEqual(read.rgb.shape[:2], shape)
            self.assertTrue((read.rgb[at][..., 0] > 200).all(), turn)

    def test_clear_parts_are_told(self):
        rgba = np.dstack([scenes.draw(), np.full((160, 240), 255, np.uint8)])
        rgba[:40, :, 3] = 0
        read = picture.decode(scenes.encoded(rgba), "x")
        np.testing.assert_array_equal(read.packed == CLEAR, rgba[..., 3] == 0)

    def test_only_the_head_tells_the_size_as_it_is_shown(self):
        exif = Image.Exif()
        exif[0x0112] = 6
        data = scenes.encoded(scenes.draw(), exif=exif.tobytes())
        with mock.patch.object(Image.Image, "load", side_effect=AssertionError("decoded")):
            self.assertEqual(picture.size_of(data, "x"), (160, 240))

    def test_a_large_picture_is_brought_in_within_bounds(self):
        """Of 25 megapixels, in a process of its own: 16 bytes a px beside what it starts with."""
        path = self.folder / "large.png"
        Image.new("RGB", (5000, 5000), scenes.SEA).save(path)
        code = (
            "import resource, sys; from pathlib import Path; from umber_compass import document\n"
            "peak = lambda: resource.getrusage(resource.RUSAGE_SELF).ru_maxrss * 1024\n"
            "begin = peak(); document.bring_in(Path(sys.argv[1])); print(peak() - begin)"
        )
        said = subprocess.run([sys.executable, "-c", code, path], capture_output=True, check=True)
        self.assertLess(int(said.stdout), 16 * 25_000_000)

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


LONG = [
    gpl.Row("#000000", start + "ü" * 90 + end, which)
    for start, end in (("old", " wall"), ("old", " hall"))
    for which in ("−1", "core shadow")
]


class Palettes(unittest.TestCase):
    def test_rows_follow_the_format(self):
        text = gpl.text(
            "A\nname",
            [gpl.Row("#7a4fa0", "sea\tdark", "−1"), *LONG],
            ["Source: own"],
        )
        lines = text.split("\n")
        self.assertEqual(lines[:4], [gpl.MAGIC, "Name: A name", "Columns: 0", "# Source: own"])
        self.assertEqual(lines[4], "122  79 160\tsea dark −1")
        self.assertLessEqual(max(len(x.encode()) for x in lines), 100)
        names = [x.split("\t")[1] for x in lines[5:-1]]
        self.assertEqual(len(set(names)), 4)  # the step is never lost, nor which of two it is
        self.assertTrue(all(n.endswith(r.which) for n, r in zip(names, LONG, strict=True)))
        self.assertEqual(lines[-1], "")
        self.assertFalse(any(not x for x in lines[:-1]))


class Atomic(scenes.InFolder):
    def test_a_failed_fill_leaves_no_trace(self):
        path = self.folder / "a.txt"
        path.write_text("old")
        with self.assertRaises(ZeroDivisionError):
            atomic.write(path, lambda stream: stream.write(bytes(1 // 0)))
        self.assertEqual((path.read_text(), len(list(self.folder.iterdir()))), ("old", 2))

    def test_what_goes_wrong_inside_is_not_told_of_the_name(self):
        with self.assertRaisesRegex(ValueError, "inside"):
            atomic.write(self.folder / "a.txt", mock.Mock(side_effect=ValueError("inside")))

    def test_it_is_flushed_to_disk_before_it_takes_the_others_place(self):
        path, order = self.folder / "a.txt", []
        path.write_text("old")
        with (
            mock.patch("os.fsync", side_effect=lambda n: order.append(("flush", path.read_text()))),
            mock.patch.object(
                Path, "replace", autospec=True, side_effect=lambda *a: order.append("rename")
            ),
        ):
            atomic.write_data(path, b"new")
        self.assertEqual(order, [("flush", "old"), "rename"])

    def test_what_was_there_stays_where_the_disk_is_full(self):
        path = self.folder / "a.txt"
        path.write_text("old")
        with (
            mock.patch("os.fsync", side_effect=OSError(28, "No space left on device")),
            self.assertRaisesRegex(Refusal, "no space left"),
        ):
            atomic.write_data(path, b"new")
        self.assertEqual(path.read_text(), "old")
        self.assertEqual(len(list(self.folder.iterdir())), 2)

    def test_permissions_are_kept_and_new_files_follow_the_umask(self):
        path = self.folder / "a.txt"
        path.write_text("old")
        path.chmod(0o640)
        atomic.write_data(path, b"new")
        self.assertEqual(path.stat().st_mode & 0o777, 0o640)
        before = os.umask(0o027)
        self.addCleanup(os.umask, before)
        with mock.patch("os.umask", side_effect=AssertionError("the whole process has one")):
            atomic.write_data(self.folder / "b.txt", b"new")
        self.assertEqual((self.folder / "b.txt").stat().st_mode & 0o777, 0o640)

    def test_what_is_half_written_is_open_to_nobody_else(self):
        path, seen = self.folder / "private", []
        path.write_bytes(b"old")
        path.chmod(0o600)

        def fill(stream):
            part = next(p for p in self.folder.iterdir() if p.suffix == ".part")
            seen.append(part.stat().st_mode & 0o777)

        atomic.write(path, fill)
        self.assertEqual((seen, path.stat().st_mode & 0o777), ([0o600], 0o600))

    def test_a_link_that_leads_nowhere_stays_a_link(self):
        path = self.folder / "self"
        path.symlink_to(path)
        with self.assertRaisesRegex(Refusal, "leads nowhere"):
            atomic.write_data(path, b"x")
        self.assertTrue(path.is_symlink())
        away = self.folder / "away"
        away.symlink_to(self.folder / "to be made")
        atomic.write_data(away, b"x")
        self.assertTrue(away.is_symlink() and away.read_bytes() == b"x")

    def test_a_link_is_followed_and_other_names_are_kept(self):
        path, link, twin = (self.folder / n for n in ("a.txt", "link.txt", "twin.txt"))
        path.write_text("old and long")
        link.symlink_to("a.txt")
        atomic.write_data(link, b"newer")
        self.assertEqual((link.is_symlink(), path.read_text()), (True, "newer"))
        os.link(path, twin)
        atomic.write_data(link, b"new")
        self.assertTrue(link.is_symlink())
        self.assertEqual([p.read_text() for p in (path, link, twin)], ["new"] * 3)
        full = OSError(28, "No space left on device")
        with (
            mock.patch("os.posix_fallocate", side_effect=full),
            self.assertRaisesRegex(Refusal, "no space"),
        ):
            atomic.write_data(path, b"newest")
        self.assertEqual(twin.read_text(), "new")
        self.assertEqual(len(list(self.folder.iterdir())), 4)

    def test_pipes_devices_and_read_only_files_are_refused_and_nothing_is_waited_for(self):
        pipe, kept = self.folder / "pipe", self.folder / "kept.txt"
        os.mkfifo(pipe)
        kept.write_text("old")
        kept.chmod(0o444)
        for path, word in (
            (pipe, "no regular file"),
            (kept, "read-only"),
            (self.folder, "a folder"),
        ):
            with self.assertRaisesRegex(Refusal, word):
                atomic.write_data(path, b"new")
        self.assertTrue(pipe.is_fifo() and kept.read_text() == "old")
        for path in (pipe, Path("/dev/zero")):
            with self.assertRaisesRegex(Refusal, "device or a pipe"):
                atomic.read(path, 10)
            self.assertEqual(atomic.beginning(path, 10), b"")

    def test_what_a_killed_process_left_is_cleared_and_nothing_else(self):
        gone = subprocess.Popen(["true"])
        gone.wait()
        tail = f"{gone.pid}-{'0' * 12}.part"
        dead = self.folder / f".plan.umber-{atomic._HOST}-{tail}"
        others = [
            self.folder / f".plan.umber-{atomic._HOST}-{os.getpid()}-{'0' * 12}.part",
            self.folder / f".plan.umber-{'0' * 8}-{tail}",  # another machine's
            self.folder / ".plan.umber-x.part",
        ]
        for path in (dead, *others):
            path.write_text("x")
        atomic.write_data(self.folder / "other.txt", b"new")
        self.assertFalse(dead.exists())
        self.assertTrue(all(p.exists() for p in others))

    def test_several_files_are_written_or_none(self):
        paths = [self.folder / n for n in ("a.txt", "b.txt")]
        paths[0].write_text("old")

        def full(stream):
            raise OSError(28, "No space left on device")

        with self.assertRaisesRegex(Refusal, "b.txt.*no space"):
            atomic.write_all({paths[0]: lambda s: s.write(b"new"), paths[1]: full})
        self.assertEqual((paths[0].read_text(), paths[1].exists()), ("old", False))
        self.assertEqual(len(list(self.folder.iterdir())), 2)

    def test_names_that_are_no_text_or_no_names(self):
        odd = self.folder / os.fsdecode(b"s\xe9a.png")
        odd.write_bytes(self.sketch.read_bytes())
        atomic.write_data(odd, picture.read(odd).data)
        self.assertEqual(odd.read_bytes(), self.sketch.read_bytes())
        for name in ("a\0b", "\ud800"):
            with self.assertRaises(Refusal):
                atomic.read(self.folder / name, 10)
            with self.assertRaises(Refusal):
                atomic.write_data(self.folder / name, b"")

    def test_reading_is_bounded_and_says_what_is_wrong(self):
        path = self.folder / "a.txt"
        path.write_bytes(b"12345")
        self.assertEqual(atomic.read(path, 5), b"12345")
        for what, most, word in (
            (path, 4, "more than"),
            (self.folder, 9, "is a folder"),
            (self.folder / "no", 9, "no such file"),
        ):
            with self.assertRaisesRegex(Refusal, word):
                atomic.read(what, most)
