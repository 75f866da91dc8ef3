"""Damaged and hostile input, a few hundred of each class; thousands by `./umber fuzz`."""

import unittest

from tools import fuzz


class Fuzz(unittest.TestCase):
    def test_every_reader_answers_in_one_line(self):
        for reader, count in (
            ("pictures", 250),
            ("names", 200),
            ("plans", 400),
            ("kept", 400),
            ("batch", 300),
        ):
            with self.subTest(reader):
                self.assertEqual(list(fuzz.run(reader, count, 50_000)), [])

    def test_no_library_speaks_on_standard_error(self):
        self.assertEqual(fuzz.noise(120), "")
