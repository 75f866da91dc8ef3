"""PNGs packed quickly: read back by Pillow and by a reader of our own tests."""

import io
import struct
import unittest
import zlib

import numpy as np
from PIL import Image

from umber_compass.formats.png_quick import png_of


class Quick(unittest.TestCase):
    def test_any_size_and_channels_come_back_as_they_were(self):
        rng = np.random.default_rng(3)
        for shape in (
            (1, 1),
            (1, 1, 4),
            (63, 5),
            (64, 7, 3),
            (65, 1, 4),
            (200, 33, 4),
            (3, 900, 3),
        ):
            pixels = rng.integers(0, 256, shape).astype(np.uint8)
            back = Image.open(io.BytesIO(png_of(pixels)))
            back.load()
            with self.subTest(shape=shape):
                np.testing.assert_array_equal(np.asarray(back), pixels)

    def test_a_view_of_a_picture_and_one_channel_in_three_axes(self):
        whole = np.arange(40 * 30 * 4, dtype=np.uint32).astype(np.uint8).reshape(40, 30, 4)
        back = np.asarray(Image.open(io.BytesIO(png_of(whole[5:20, 3:9]))))
        np.testing.assert_array_equal(back, whole[5:20, 3:9])
        grey = np.asarray(Image.open(io.BytesIO(png_of(whole[..., 1:2]))))
        np.testing.assert_array_equal(grey, whole[..., 1])

    def test_every_chunk_has_its_length_and_its_sum(self):
        data, kinds = png_of(np.zeros((9, 9, 3), np.uint8)), []
        self.assertEqual(data[:8], b"\x89PNG\r\n\x1a\n")
        at = 8
        while at < len(data):
            (length,) = struct.unpack(">I", data[at : at + 4])
            kind, body = data[at + 4 : at + 8], data[at + 8 : at + 8 + length]
            (told,) = struct.unpack(">I", data[at + 8 + length : at + 12 + length])
            self.assertEqual(told, zlib.crc32(kind + body))
            kinds.append(kind)
            at += 12 + length
        self.assertEqual(kinds, [b"IHDR", b"IDAT", b"IEND"])
