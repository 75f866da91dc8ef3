"""Layered files: read with their names and order; refused in one line when damaged or hostile."""

import io
import subprocess
import sys
import zipfile
from unittest import mock

import numpy as np
from PIL import Image

from tests import scenes
from umber_compass import document
from umber_compass.formats import openraster, picture
from umber_compass.formats.openraster_flat import flat
from umber_compass.words import Refusal

XML = """<image version="0.0.5" w="60" h="40"><stack>
<layer name="pin" src="data/pin.png" x="{x}" y="8"/>
<stack name="coat" opacity="0.9">
 <layer name="button" src="data/pin.png" x="30" y="20"/>
 <layer name="cloth" src="data/cloth.png" x="20" y="10"/>
</stack>
<layer name="notes" src="data/cloth.png" visibility="hidden"/>
<layer name="paper" src="data/paper.png" opacity="1.0" composite-op="svg:multiply"/>
</stack></image>"""


def png(size, colour):
    out = io.BytesIO()
    Image.new("RGBA", size, colour).save(out, "PNG")
    return out.getvalue()


def layered(xml=None, more=(), without=(), how=zipfile.ZIP_DEFLATED):
    """An OpenRaster file's bytes."""
    parts = {
        "stack.xml": (xml or XML.format(x="-4")).encode(),
        "data/pin.png": png((10, 10), "#d04040"),
        "data/cloth.png": png((30, 24), "#3050a0"),
        "data/paper.png": png((60, 40), "#e0d8c8"),
        **dict(more),
    }
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", how) as archive:
        archive.writestr(zipfile.ZipInfo("mimetype"), openraster.MIME)
        for name, data in parts.items():
            if name not in without:
                archive.writestr(name, data)
    return out.getvalue()


class Reading(scenes.InFolder):
    def setUp(self):
        super().setUp()
        self.ora = self.folder / "coat.ora"

    def bring(self, data, **told):
        self.ora.write_bytes(data)
        return document.bring_in(self.ora, settings=told)

    def test_layers_that_darken_are_lines_or_shade_and_modes_are_composed(self):
        ink = np.full((40, 60, 4), 255, np.uint8)
        ink[18:20, 4:56, :3] = ink[4:36, 28:30, :3] = 10  # on white, to be multiplied
        shade = np.full((40, 60, 4), 255, np.uint8)
        shade[:, 30:, :3] = 100
        glow = np.zeros((40, 60, 4), np.uint8)
        glow[:8, :8] = (60, 60, 60, 255)
        layers = (
            ("glow", "plus", glow),
            ("Line art", "multiply", ink),
            ("shade", "multiply", shade),
        )
        rows = "".join(
            f'<layer name="{n}" src="data/{i}.png" composite-op="svg:{m}"/>'
            for i, (n, m, _) in enumerate(layers)
        )
        rows += '<layer name="paper" src="data/paper.png"/>'
        xml = f'<image w="60" h="40"><stack>{rows}</stack></image>'
        more = {}
        for i, (_, _, pixels) in enumerate(layers):
            out = io.BytesIO()
            Image.fromarray(pixels).save(out, "PNG")
            more[f"data/{i}.png"] = out.getvalue()
        data = layered(xml, more.items())
        made = self.bring(data)
        told = {r.name: r.role for r in made.plan.regions}
        self.assertEqual(told, {"paper": "ground", "Line art": "line"})
        seen = np.asarray(flat(data, "x"))[..., :3].astype(int)
        paper = np.array([0xE0, 0xD8, 0xC8])
        np.testing.assert_allclose(seen[30, 50], paper * 100 / 255, atol=1)
        np.testing.assert_allclose(seen[2, 2], np.minimum(paper + 60, 255), atol=1)
        np.testing.assert_array_equal(seen[30, 10], paper)

    def test_groups_are_laid_together_by_themselves_and_masks_cut_only_their_own(self):
        def plane(colour, box):
            pixels = np.zeros((40, 60, 4), np.uint8)
            pixels[box] = colour
            out = io.BytesIO()
            Image.fromarray(pixels).save(out, "PNG")
            return out.getvalue()

        whole, left, spot = np.s_[:, :], np.s_[:, :30], np.s_[10:20, 10:40]
        more = {
            "data/red.png": plane((200, 40, 40, 255), whole),
            "data/half.png": plane((255, 255, 255, 128), left),
            "data/spot.png": plane((0, 0, 0, 255), spot),
            "data/small.png": png((6, 5), (0, 0, 0, 255)),
        }

        def seen(opacity, outer="", small=False):
            mask = 'data/small.png" x="20" y="10' if small else "data/spot.png"
            xml = f"""<image w="60" h="40"><stack>
              <stack name="g" isolation="isolate" opacity="{opacity}" {outer}>
                <layer name="mask" src="{mask}" composite-op="svg:dst-in"/>
                <layer name="light" src="data/half.png" composite-op="svg:multiply"/>
                <layer name="base" src="data/red.png"/>
              </stack>
              <layer name="paper" src="data/paper.png"/></stack></image>"""
            return np.asarray(flat(layered(xml, more.items()), "x")).astype(int)

        paper = np.array([0xE0, 0xD8, 0xC8])
        shown = seen(1)
        np.testing.assert_array_equal(shown[2, 2, :3], paper)  # the mask cuts the group alone
        np.testing.assert_array_equal(shown[15, 35], (200, 40, 40, 255))
        np.testing.assert_allclose(
            seen(0.5)[15, 35, :3], (paper + np.array([200, 40, 40])) / 2, atol=1
        )
        dark = seen(1, 'composite-op="svg:multiply"')
        np.testing.assert_allclose(dark[15, 35, :3], paper * (200, 40, 40) / 255, atol=1)
        shown = seen(1, small=True)  # a mask that is smaller than what it cuts
        np.testing.assert_array_equal(shown[14, 24], (200, 40, 40, 255))
        for y, x in ((2, 2), (9, 20), (15, 20), (14, 27), (39, 59)):
            np.testing.assert_array_equal(shown[y, x, :3], paper)
        with mock.patch("umber_compass.formats.openraster_flat._MOST_HELD", 100):
            self.assertRaisesRegex(Refusal, "too large within each other", seen, 1)

    def test_layers_and_groups_become_named_regions_from_back_to_front(self):
        made = self.bring(layered())
        self.assertEqual(made.plan.sketch.kind, "layers")
        by_front = sorted(made.plan.regions, key=lambda r: r.front)
        self.assertEqual([r.name for r in by_front], ["paper", "coat", "pin"])
        self.assertTrue(all(r.named for r in by_front))
        labels = made.pixels.labels(made.plan.sketch)
        at = {r.label: r.name for r in made.plan.regions}
        places = ((8, 2), (10, 22), (22, 32), (1, 1))
        self.assertEqual([at[int(labels[p])] for p in places], ["pin", "coat", "coat", "paper"])
        self.assertIn("layered file", made.says)

    def test_groups_are_opened_as_far_as_told(self):
        made = self.bring(layered(), depth=1)
        names = {r.name for r in made.plan.regions}
        self.assertEqual(names, {"paper", "cloth", "button", "pin"})

    def test_it_is_flattened_as_it_lies_and_a_saved_plan_opens(self):
        data = layered()
        shown = picture.decode(data, "x")
        self.assertEqual(shown.packed.shape, (40, 60))
        self.assertEqual(picture.size_of(data, "x"), (60, 40))
        self.assertEqual(int(shown.packed[10, 2]), 0xD04040)
        self.assertIsNotNone(picture.alpha_of(data, "x"))
        made = self.bring(data)
        path = self.folder / "coat.umber"
        document.save(made.plan, made.pixels, path)
        again = document.open_plan(path)
        self.assertEqual(again.plan, made.plan)

    def test_what_is_damaged_or_hostile_is_one_line(self):
        link = zipfile.ZipInfo("data/link.png")
        link.external_attr = 0o120777 << 16
        deep = "<stack>" * 70 + "</stack>" * 70
        bomb = '<!DOCTYPE a [<!ENTITY x "y">]>' + XML.format(x="0")
        outside = io.BytesIO(layered())
        with zipfile.ZipFile(outside, "a") as archive:
            archive.writestr("../evil.png", b"x")
        linked = io.BytesIO(layered())
        with zipfile.ZipFile(linked, "a") as archive:
            archive.writestr(link, b"/etc/passwd")
        for data, line in (
            (layered()[:300], "cut short|broken"),
            (layered(without=("data/cloth.png",)), "has no picture"),
            (layered(without=("stack.xml",)), "cut short|broken"),
            (layered("<image"), "cannot be read"),
            (layered(XML.format(x="0") + "<!--" + "x" * 5_000_000 + "-->"), "larger than any"),
            (layered(bomb), "cannot be read"),
            (layered(f'<image w="9" h="9">{deep}</image>'), "too deep"),
            (layered('<image w="9" h="9"></image>'), "no layers"),
            (layered('<image w="0" h="-3"><stack/></image>'), "cannot be taken"),
            (layered('<image w="40000" h="40000"><stack/></image>'), "cannot be taken"),
            (layered(XML.format(x="999999999")), "too far outside"),
            (layered(more={"data/pin.png": b"no png"}.items()), "layer button cannot be read"),
            (layered('<image w="9" h="9"><stack/></image>'), "none of its layers"),
            (outside.getvalue(), "outside the file"),
            (linked.getvalue(), "never are"),
            (layered(how=zipfile.ZIP_BZIP2), "never are"),
        ):
            with self.subTest(line), self.assertRaisesRegex(Refusal, line) as caught:
                self.bring(data)
            self.assertEqual(str(caught.exception).count("\n"), 0)

    def test_a_large_canvas_costs_what_its_layers_cover(self):
        xml = (
            '<image w="5000" h="4000"><stack><layer name="dot" src="data/pin.png"/></stack></image>'
        )
        self.ora.write_bytes(layered(xml))
        code = (
            "import resource, sys\n"
            "from pathlib import Path\n"
            "from umber_compass import document\n"
            f"made = document.bring_in(Path({str(self.ora)!r}))\n"
            "print(len(made.plan.regions), resource.getrusage(resource.RUSAGE_SELF).ru_maxrss)"
        )
        said = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True)
        regions, most = map(int, said.stdout.split())
        self.assertEqual(regions, 1)
        self.assertLess(most, 400_000)  # KiB; 1.3 million before

    def test_sizes_and_places_are_taken_up_to_their_bounds(self):
        xml = '<image w="{}" h="{}"><stack><layer src="data/pin.png" x="{}"/></stack></image>'
        for w, h, x, good in (
            (32767, 1, "0", True),
            (1, 32767, "0", True),
            (32768, 1, "0", False),
            (10000, 10000, "0", True),
            (10001, 10000, "0", False),
            (60, 40, "65536", True),
            (60, 40, "65537", False),
            (60, 40, "000000012", True),
            (60, 40, "0000000012", False),
        ):
            data = layered(xml.format(w, h, x))
            with self.subTest((w, h, x)):
                if good:
                    self.assertEqual(openraster.read(data, "x").size, (w, h))
                else:
                    self.assertRaises(Refusal, openraster.read, data, "x")

    def test_reading_can_be_stopped_between_layers(self):
        told = []
        self.ora.write_bytes(layered())
        document.bring_in(self.ora, tick=told.append)
        self.assertGreaterEqual(told.count(-1), 4)

    def test_layers_of_another_size_or_place_are_clipped(self):
        xml = XML.format(x="55").replace('y="8"', 'y="-6"')
        made = self.bring(layered(xml, {"data/paper.png": png((25, 25), "#e0d8c8")}.items()))
        labels = made.pixels.labels(made.plan.sketch)
        self.assertEqual(labels.shape, (40, 60))
        self.assertEqual(int(labels[39, 1]), 0)
        pin = next(r for r in made.plan.regions if r.name == "pin")
        self.assertEqual(np.count_nonzero(labels == pin.label), 5 * 4)

    def test_what_is_nearly_clear_owns_nothing_in_a_faint_group_too(self):
        faint = XML.format(x="-4").replace('opacity="0.9"', 'opacity="0.3"')
        for depth in (0, 1):
            names = {r.name for r in self.bring(layered(faint), depth=depth).plan.regions}
            self.assertEqual("coat" in names or "cloth" in names, depth == 1)

    def test_odd_numbers_and_names_do_no_harm(self):
        xml = XML.format(x="1e1").replace('name="pin"', 'name="  a &#10; b "')
        xml = xml.replace('opacity="0.9"', 'opacity="nan"')
        made = self.bring(layered(xml))
        self.assertIn("a b", {r.name for r in made.plan.regions})
