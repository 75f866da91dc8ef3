"""Records in a folder: by name, the newest first, with the pictures they need."""

import os
import unittest

import msgspec

from tests import scenes
from umber_compass.formats import records
from umber_compass.formats.records import Lock, Record, Records


def record(title, pictures=("a",), time_s=1.0):
    return Record(pictures=pictures, title=title, time_s=time_s, plan=msgspec.Raw(b"{}"))


class Kept(scenes.InFolder):
    def setUp(self):
        super().setUp()
        self.kept = Records(self.folder / "state")

    def write(self, *name, time_s=1.0, pictures=("a",)):
        file = self.kept.file(*name)
        self.kept.write(
            file, record(name[-1], pictures, time_s), [(p, b"x" * 50) for p in pictures]
        )
        return file

    def test_each_has_a_file_of_its_name_in_its_folder_and_the_newest_stands_first(self):
        for i, name in enumerate(("one", "two", "three")):
            self.write("versions", "plan", name, time_s=float(i))
        self.write("versions", "other", "four")
        found = self.kept.entries("versions", "plan")
        self.assertEqual([e.record.title for e in found], ["three", "two", "one"])
        self.assertEqual([e.file.stem for e in found], ["three", "two", "one"])
        self.assertEqual(len(list(self.kept.files("versions"))), 4)
        self.assertEqual(self.kept.entries("nothing"), [])

    def test_a_picture_is_written_once_and_read_by_its_key(self):
        self.write("recovery", "one")
        at = self.folder / "state" / "pictures" / "a"
        os.utime(at, (0, 0))
        at.chmod(0o400)
        self.write("recovery", "two")
        self.assertEqual(self.kept.picture("a"), b"x" * 50)
        self.assertGreater(at.stat().st_mtime, 1e9)  # it is young again: a record needs it

    def test_the_oldest_go_first_and_with_them_what_only_they_need(self):
        for i in range(4):
            self.write("versions", str(i), pictures=("a", f"p{i}"))
        self.write("recovery", "now", pictures=("p0",))
        size = self.kept.file("versions", "0").stat().st_size
        for picture in (self.folder / "state" / "pictures").iterdir():
            os.utime(picture, (0, 0))
        self.kept.prune("versions", "recovery", 2 * size + 150)
        left = sorted(p.stem for p in self.kept.files("versions"))
        self.assertEqual(left, ["2", "3"])
        pictures = {p.name for p in (self.folder / "state" / "pictures").iterdir()}
        self.assertEqual(pictures, {"a", "p0", "p2", "p3"})

    def test_a_lock_is_held_until_it_is_released(self):
        file, lock = self.write("recovery", "one"), Lock()
        self.assertFalse(records.is_held(file))
        lock.hold(file)
        lock.hold(file)
        self.assertTrue(records.is_held(file))
        lock.release(file)
        self.assertFalse(records.is_held(file) or file.with_suffix(records.LOCK).exists())
        records.drop(file)
        self.assertFalse(file.exists())

    def test_what_is_no_whole_record_is_none(self):
        file = self.write("recovery", "one")
        for data in (b"", b"{}", file.read_bytes()[:-9], b"[" * 5000):
            file.write_bytes(data)
            self.assertIsNone(records.entry_of(file))
            self.assertEqual(records._needed(file), set())


if __name__ == "__main__":
    unittest.main()
