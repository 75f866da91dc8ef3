"""What is kept between openings: read back equal, never in the way."""

from unittest import mock

import numpy as np

from tests import scenes
from umber_compass.formats import cache


class Kept(scenes.InFolder):
    def setUp(self):
        super().setUp()
        self.cache = cache.Cache(self.folder / "kept")
        self.arrays = {"a": np.arange(6, dtype=np.int32).reshape(2, 3), "b": np.float16([1.5])}

    def test_arrays_come_back_equal(self):
        self.assertFalse(self.cache.take_damage())
        self.assertIsNone(self.cache.load("one"))
        self.cache.store("one", self.arrays)
        found = self.cache.load("one")
        for name, array in self.arrays.items():
            np.testing.assert_array_equal(found[name], array)
            self.assertEqual(found[name].dtype, array.dtype)

    def test_a_damaged_entry_is_dropped_and_noted_once(self):
        for spoil in (lambda d: d[:40], lambda d: b"", lambda d: b"PK" + d[9:], lambda d: d[:-9]):
            self.cache.store("one", self.arrays)
            path = next(self.cache.folder.iterdir())
            path.write_bytes(spoil(path.read_bytes()))
            self.assertIsNone(self.cache.load("one"))
            self.assertEqual((self.cache.take_damage(), self.cache.take_damage()), (True, False))
            self.assertFalse(path.exists())

    def test_pickles_are_never_read(self):
        self.cache.folder.mkdir()
        np.savez(self.cache.folder / "one.npz", a=np.array([{"x": 1}], dtype=object))
        self.assertIsNone(self.cache.load("one"))

    def test_the_oldest_go_first(self):
        import os

        for i in range(cache._KEPT + 3):
            self.cache.store(f"e{i}", self.arrays)
            path = self.cache.folder / f"e{i}.kept"
            os.utime(path, (i, i))
        self.cache.store("last", self.arrays)
        names = {p.stem for p in self.cache.folder.iterdir()}
        self.assertEqual((len(names), "e0" in names, "last" in names), (cache._KEPT, False, True))

    def test_a_folder_that_cannot_be_written_is_no_reason_to_stop(self):
        (self.folder / "kept").write_text("a file")
        self.cache.store("one", self.arrays)
        with mock.patch("umber_compass.formats.atomic.write_data", side_effect=OSError(28, "full")):
            cache.Cache(self.folder / "other").store("one", self.arrays)
        self.assertIsNone(self.cache.load("one"))

    def test_keys_part_what_is_joined(self):
        self.assertNotEqual(cache.key_of("ab", "c"), cache.key_of("a", "bc"))
        self.assertEqual(cache.key_of("ab", b"c"), cache.key_of("ab", b"c"))
