"""The plan sheet: what stands on it, that nothing leaves the page, and what may be left out."""

import base64
import datetime
import io
import itertools
import re
import unittest
from xml.etree import ElementTree

import numpy as np
from msgspec.structs import replace
from PIL import Image

from tests import scenes
from umber_compass import document
from umber_compass.cli.run import main
from umber_compass.document.plan_sheet import CHOICES, PAPERS, Wish, plan_sheet
from umber_compass.formats.svg_page import Box, Page, cut, width_of, wrapped
from umber_compass.plan.edits import study
from umber_compass.plan.light_edits import light_on
from umber_compass.plan.settings import change_setting

SVG, LINK = "{http://www.w3.org/2000/svg}", "{http://www.w3.org/1999/xlink}href"
EVERYTHING = Wish()
DAY = datetime.date(2026, 3, 4)
LONG = "The client wants room for two lines of text above the roof and no red anywhere. " * 9


class Sheet(scenes.InFolder):
    def setUp(self):
        super().setUp()
        self.made, self.pipeline = self.bring_in(focus=(197, 30))
        plan = light_on(self.made.plan)
        for key, value in (("brief.notes", LONG), ("brief.use", "spread"), ("purpose", "a <test>")):
            plan = change_setting(key, value).apply(plan)
        self.plan = change_setting("title", "Boat & “buoy”").apply(plan)

    def sheet(self, wish=EVERYTHING, plan=None):
        derived = self.pipeline.derive(plan or self.plan, works=True).think()
        return ElementTree.fromstring(plan_sheet(derived, wish, DAY))

    def said(self, root):
        return [t.text for t in root.iter(f"{SVG}text")]

    def test_all_of_a_plan_is_on_it(self):
        root = self.sheet()
        said = " ".join(self.said(root))
        for words in ("Boat & “buoy”", "a <test>", "4 March 2026", "Values", "Ramps", "In light",
                      "Open checks", "key", "ambient", "Spread, 42 cm", "Grey"):  # fmt: skip
            self.assertIn(words, said)
        for region in self.plan.regions:
            self.assertIn(region.name, said)
        fills = {r.get("fill") for r in root.iter(f"{SVG}rect")}
        derived = self.pipeline.derive(self.plan)
        self.assertLessEqual({c.first.hex for c in derived.colours.values()}, fills)
        self.assertLessEqual({r.local.hex for r in derived.chart}, fills)
        pictures = [i.get(LINK) for i in root.iter(f"{SVG}image")]
        self.assertEqual(len(pictures), 3)
        shown = Image.open(io.BytesIO(base64.b64decode(pictures[0].partition(",")[2])))
        self.assertGreaterEqual(max(shown.size), 720)  # a small sketch is enlarged by whole px

    def test_nothing_leaves_the_page_whatever_is_on_it(self):
        upright = self.plan.sketch.size
        for paper, up, without in itertools.product(PAPERS, (False, True), ((), *CHOICES)):
            wish = Wish(paper, up, frozenset([without] if without else []))
            root = self.sheet(wish)
            width, height = map(float, root.get("viewBox").split()[2:])
            self.assertEqual((width < height, sorted((width, height))), (up, sorted(PAPERS[paper])))
            with self.subTest(wish=wish):
                for text in root.iter(f"{SVG}text"):
                    size, weight = float(text.get("font-size")), int(text.get("font-weight"))
                    wide, x = width_of(text.text, size, weight), float(text.get("x"))
                    left = {"start": x, "middle": x - wide / 2, "end": x - wide}
                    at = left[text.get("text-anchor")]
                    self.assertTrue(60 < at < at + wide < width - 60, text.text)
                    self.assertTrue(60 < float(text.get("y")) < height - 60, text.text)
                for shape in (*root.iter(f"{SVG}rect"), *root.iter(f"{SVG}image")):
                    x, y = (float(shape.get(k, 0)) for k in "xy")
                    self.assertLess(x + float(shape.get("width")), width + 1)
                    self.assertLess(y + float(shape.get("height")), height + 1)
        self.assertGreater(upright[0], upright[1])

    def test_parts_are_left_out_and_a_client_sees_no_numbers_and_no_checks(self):
        heads = {"scheme": "Free", "values": "Values", "chart": "In light", "ramps": "Ramps",
                 "rig": "Light", "checks": "Open checks", "notes": "Brief"}  # fmt: skip
        for name, head in heads.items():
            said = self.said(self.sheet(Wish(without=frozenset({name}))))
            if name != "scheme":
                self.assertFalse([s for s in said if (s.startswith(head) and name != "rig")
                                  or s == head], name)  # fmt: skip
        self.assertEqual(len(list(self.sheet(Wish(without=frozenset({"pictures"}))).iter(
            f"{SVG}image"))), 1)  # fmt: skip
        plain = self.said(self.sheet(Wish(client=True, without=frozenset({"notes"}))))
        self.assertFalse([s for s in plain if re.search(r"\d", s) and s != "4 March 2026"])
        self.assertNotIn("Open checks", plain)
        now = study(self.plan)
        noted = replace(self.plan, studies=(replace(now, note="ask for more money"),))
        for client in (False, True):
            short = change_setting("brief.notes", "").apply(noted)
            said = self.said(self.sheet(Wish(client=client), short))
            self.assertEqual("ask for more money" in " ".join(said), not client)

    def test_kept_versions_stand_below_with_their_reasons(self):
        now = study(self.plan)
        kept = replace(now, id="s2", title="Colder", verdict="kept", reason="the sail glows")
        plan = replace(self.plan, studies=(now, kept, replace(kept, id="s3", verdict="rejected")))
        root = self.sheet(plan=plan)
        said = self.said(root)
        self.assertEqual((said.count("Colder"), "the sail glows" in said), (1, True))
        self.assertEqual(len(list(root.iter(f"{SVG}image"))), 4)
        many = replace(plan, studies=(now, *(replace(kept, id=f"k{i}") for i in range(5))))
        self.assertIn("Kept, 3 of 5", self.said(self.sheet(plan=many)))

    def test_without_a_light_there_is_no_chart_and_no_rig(self):
        said = self.said(self.sheet(plan=self.made.plan))
        self.assertNotIn("In light and shade", said)
        self.assertNotIn("Light", said)


class Command(scenes.InFolder):
    def test_a_sheet_is_written_and_what_cannot_be_is_one_line(self):
        made, _ = self.bring_in()
        plan, out = self.folder / "a.umber", self.folder / "s.svg"
        document.save(made.plan, made.pixels, plan)
        given = ["sheet", str(plan), "-o", str(out), "--upright", "--without", "ramps,checks"]
        self.assertEqual(main([*given, "--paper", "Letter"]), 0)
        root = ElementTree.parse(out).getroot()
        self.assertEqual((root.get("width"), root.get("height")), ("215.9mm", "279.4mm"))
        out.unlink()
        for bad in (["-o", str(out), "--without", "rampz"], ["-o", str(out.with_suffix(".pdf"))]):
            self.assertEqual(main(["sheet", str(plan), *bad]), 1)
        self.assertEqual([p for p in self.folder.iterdir() if p.name.startswith("s.")], [])


class Words(unittest.TestCase):
    def test_lines_fit_and_all_words_come_in_order(self):
        lines = wrapped(LONG, 700, 30, 99)
        self.assertTrue(all(width_of(line, 30) <= 700 for line in lines))
        self.assertEqual(" ".join(lines).split(), LONG.split())
        self.assertTrue(wrapped(LONG, 700, 30, 3)[-1].endswith("…"))
        self.assertEqual(len(wrapped("x" * 400, 200, 30, 5)), 1)
        self.assertEqual(cut("short", 500, 30), "short")
        self.assertLessEqual(width_of(cut(LONG, 333, 30), 30), 333)

    def test_what_is_typed_cannot_break_the_file(self):
        page = Page(100, 100, "</title>&\x00")
        page.text(1, 1, "<b>&\x07")
        page.image(Box(0, 0, 1, 1), b"x", 'a"b')
        root = ElementTree.fromstring(page.svg())
        self.assertEqual(root.find(f"{SVG}text").text.strip(), "<b>&")
        self.assertTrue(np.isfinite(float(root.get("viewBox").split()[2])))
