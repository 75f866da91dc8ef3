"""Palettes: what we write we read, and one line for anything that is none."""

import datetime

import numpy as np

from tests import scenes
from umber_compass.colour.packed import pack
from umber_compass.document.library import POST, SHIPPED, Library
from umber_compass.formats import ggr, hex_list, palettes, soc, svg_gradient
from umber_compass.formats.palettes import Palette
from umber_compass.steps.harmony.palette_source import colours_of, kept_palette
from umber_compass.words import Refusal

COLOURS = (("#1a2b3c", "slate"), ("#ffffff", "white"), ("#000000", "10 # odd\tname"))


class Reading(scenes.InFolder):
    def test_what_is_written_is_read(self):
        made = Palette("gpl", "Ökonomie  of grey", COLOURS, "ours", ("cool", "rain"))
        path = self.folder / "x.gpl"
        palettes.write(made, path)
        found = palettes.read(path)
        self.assertEqual([c for c, _ in found.colours], [c for c, _ in COLOURS])
        self.assertEqual((found.source, found.tags), ("ours", ("cool", "rain")))
        self.assertEqual(found.colours[2][1], "10 # odd name")
        palettes.write(made, self.folder / "x.hex")
        plain = palettes.read(self.folder / "x.hex")
        self.assertEqual([c for c, _ in plain.colours], [c for c, _ in COLOURS])
        with self.assertRaisesRegex(Refusal, "no palette format"):
            palettes.write(made, self.folder / "x.txt")

    def test_old_and_odd_files_are_read(self):
        magic = "GIMP Palette"
        for text, wanted in (
            (f"{magic}\n0 0 0\n255 1 2 red one", ["#000000", "#ff0102"]),
            (f"{magic}\r\nName: x\r\nColumns: 4\r\n#c\r\n 1  2   3\tx\r\n\r\n", ["#010203"]),
            ("#abc\nAABBCC80\n\n; no\n// no\n0a0b0c ; yes", ["#aabbcc", "#aabbcc", "#0a0b0c"]),
            ("\ufeff112233\r445566", ["#112233", "#445566"]),
        ):
            found = palettes.parse(text.encode(), "x", "stem")
            self.assertEqual([c for c, _ in found.colours], wanted)
        self.assertEqual(palettes.parse(b"112233", "x", "stem").title, "stem")

    def test_a_colour_table_in_either_order_of_bytes_is_read(self):
        text = soc.text([("#102030", "slate"), ("#fffefd", "Weiß")], "ours")
        for order in ("utf-16-le", "utf-16-be"):
            marked = ("\ufeff" + text.replace("UTF-8", "UTF-16")).encode(order)
            found = palettes.parse(marked, "x.soc")
            self.assertEqual(found.colours, (("#102030", "slate"), ("#fffefd", "Weiß")))

    def test_bad_ones_are_refused_in_one_line(self):
        magic = "GIMP Palette\n"
        for data, says in (
            (b"", "no colours"),
            (magic.encode(), "no colours"),
            (f"{magic}256 0 0".encode(), "line 2"),
            (f"{magic}1 2".encode(), "line 2"),
            (f"{magic}\u0661 2 3".encode(), "line 2"),
            (b"112233\nzz", "line 2"),
            (b"\x89PNG\0", "no text palette"),
            (b"112233\n" * 70_000, "over 65,536"),
        ):
            with self.subTest(data=data[:20]), self.assertRaisesRegex(Refusal, says):
                palettes.parse(data, "x")
        with self.assertRaisesRegex(Refusal, "x.gpl"):
            palettes.read(self.folder / "x.gpl")

    def test_hexes_are_found_in_pasted_text(self):
        text = "use #A4B8C0, rgb e0d0c0; not 12345, #12 or word 1234567; #fff and 80402080"
        self.assertEqual(
            [c for c, _ in hex_list.pasted(text)], ["#a4b8c0", "#e0d0c0", "#ffffff", "#804020"]
        )
        with self.assertRaises(Refusal):
            palettes.from_text("nothing here")

    def test_ten_thousand_colours_are_thinned_to_those_that_lie_apart(self):
        many = [(f"#{i * 1677:06x}", "") for i in range(10_000)]
        kept = kept_palette("x", "", many)
        self.assertEqual(len(kept.colours), 256)
        self.assertEqual(len({s.hex for s in kept.colours}), 256)
        self.assertEqual(kept.colours[0].hex, "#000000")

    def test_swatches_are_read_exactly_and_a_painting_is_not_taken_for_such(self):
        rgb = np.full((80, 200, 3), 240, np.uint8)
        hexes = ("#12ab34", "#fe0190", "#3344cc")
        for i, text in enumerate(hexes):
            level = np.frombuffer(bytes.fromhex(text[1:]), np.uint8)
            rgb[10:70, 10 + 62 * i : 65 + 62 * i] = level
        self.assertEqual(colours_of(pack(rgb)), (list(hexes), True))
        noisy = np.random.default_rng(1).integers(0, 255, (60, 60, 3)).astype(np.uint8)
        found, exact = colours_of(pack(noisy))
        self.assertTrue(found and not exact)


class Kept(scenes.InFolder):
    def setUp(self):
        super().setUp()
        self.library = Library(self.folder / "palettes")

    def test_a_dozen_ship_and_every_one_can_be_laid(self):
        entries = self.library.entries()
        self.assertEqual((len(entries), self.library.faults), (12, []))
        for entry in entries:
            self.assertGreaterEqual(len(entry.kept().colours), 5)
            self.assertTrue(entry.palette.source and entry.palette.tags)
        with self.assertRaises(Refusal):
            self.library.remove(entries[0])

    def test_what_is_added_is_found_by_its_words_and_removed(self):
        made = Palette("gpl", "Tar and Feather", COLOURS, "a market stall", ("sea",))
        first, second = self.library.add(made), self.library.add(made)
        self.assertNotEqual(first, second)
        for words in ("tar", "MARKET sea", "slate"):
            self.assertIn(first, [e.path for e in self.library.entries(words)])
        self.assertEqual(self.library.entries("tar zebra"), [])
        for entry in self.library.entries("feather"):
            self.library.remove(entry)
        with self.assertRaisesRegex(Refusal, "not in the library"):
            self.library.find("Tar and Feather")

    def test_a_file_that_is_no_palette_is_left_out_and_said(self):
        self.library.add(Palette("gpl", "x", COLOURS))
        (self.library.folder / "bad.gpl").write_text("nothing")
        self.assertEqual(len(self.library.entries()), 13)
        self.assertEqual(len(self.library.faults), 1)

    def test_the_post_brings_one_at_once_and_one_a_week_and_none_twice(self):
        day = datetime.date(2026, 11, 26)
        waiting = len(list(POST.glob("*.gpl")))
        self.assertEqual(len(self.library.deliver(day)), 1)
        self.assertEqual(self.library.deliver(day + datetime.timedelta(6)), [])
        second = self.library.deliver(day + datetime.timedelta(7))
        self.assertEqual(len(second), 1)
        self.assertIn("made-up author", second[0].source)
        self.library.remove(self.library.find(second[0].title))
        rest = self.library.deliver(day + datetime.timedelta(7000))
        self.assertEqual(len(rest), waiting - 2)
        self.assertEqual(self.library.deliver(day + datetime.timedelta(9000)), [])
        (self.library.folder / "post-since.txt").write_text("rubbish")
        self.assertEqual(len(self.library.deliver(day)), 1)
        self.assertEqual(len(list(SHIPPED.glob("*.gpl"))), 12)


class Gradients(scenes.InFolder):
    HEXES = ("#1a1030", "#c8603c", "#fff6e0")

    def test_both_kinds_are_read_as_they_are_written(self):
        for text in (ggr.text("a & b", self.HEXES), svg_gradient.text("a & b", self.HEXES, "ours")):
            found = palettes.parse(text.encode(), "x")
            self.assertEqual(tuple(c for c, _ in found.colours), self.HEXES)
        one = palettes.parse(ggr.text("one", self.HEXES[:1]).encode(), "x")
        self.assertEqual({c for c, _ in one.colours}, {self.HEXES[0]})
        styled = b"""<svg xmlns="http://www.w3.org/2000/svg"><radialGradient id="a">
            <stop offset="0" style="stop-opacity:1; stop-color:#F00"/><stop offset="1"
            stop-color="#00ff80"/></radialGradient></svg>"""
        self.assertEqual(
            [c for c, _ in palettes.parse(styled, "x").colours], ["#ff0000", "#00ff80"]
        )

    def test_damaged_and_hostile_ones_are_one_line(self):
        head = "GIMP Gradient\nName: x\n"
        row = "0 .5 1 " + "1 " * 8 + "0 0\n"
        for data in (
            head, head + "1\n", head + "9999999\n" + row, head + "2\n" + row.replace(".5", "0.5"),
            head + "1\n0 1 nan 1 1 1 1 1 1 1 1 0 0\n", head + "1\n0 1 1e9 1 1 1 1 1 1 1 1 0 0\n",
            "<svg><linearGradient><stop stop-color='url(#a)'/></linearGradient></svg>",
            "<svg><linearGradient><stop stop-color='#ff0000'/>",
            "<!DOCTYPE x [<!ENTITY a '#fff'>]><svg><xGradient><stop stop-color='&a;'/></xGradient>",
            "<svg>" + "<g>" * 90 + "<xGradient><stop stop-color='#fff'/></xGradient>" + "</g>" * 90,
        ):  # fmt: skip
            with self.subTest(data[:60]), self.assertRaises(Refusal) as said:
                palettes.parse(data.encode(), "x")
            self.assertNotIn("\n", str(said.exception))
