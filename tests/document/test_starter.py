"""The layered starter file, composed here by the standard's formulas alone; palettes of a hand-off
read by readers that are not ours."""

import io
import json
import re
import zipfile
from configparser import ConfigParser
from unittest import mock
from xml.etree import ElementTree

import numpy as np
from PIL import Image

from tests import scenes
from umber_compass import document
from umber_compass.colour.difference import ciede2000
from umber_compass.colour.packed import unpack
from umber_compass.colour.spaces import cielab, decode
from umber_compass.formats import palettes
from umber_compass.formats.openraster_flat import flat
from umber_compass.plan.harmony_edits import set_colour
from umber_compass.plan.light_edits import add_lamp, light_on
from umber_compass.plan.scene_edits import add_thing
from umber_compass.plan.settings import change_setting
from umber_compass.steps.handoff.material_layers import from_back
from umber_compass.steps.handoff.palette import KINDS, MORE
from umber_compass.steps.handoff.preview import preview, shown
from umber_compass.words import Refusal

BLENDS = {
    "svg:src-over": lambda b, s: s,
    "svg:src-atop": lambda b, s: s,
    "svg:multiply": lambda b, s: b * s,
    "svg:screen": lambda b, s: b + s - b * s,
    "svg:color-dodge": lambda b, s: np.where(
        b <= 0, 0, np.where(s >= 1, 1, np.minimum(1, b / np.maximum(1 - s, 1e-9)))
    ),
}


def composed(archive, element, canvas, base=None):
    """W3C Compositing and Blending: an element of a stack over what lies below it; where `base` is
    given, the layers of that name are painted with it."""
    if element.get("visibility") == "hidden":
        return canvas
    mode = element.get("composite-op")
    source = np.zeros_like(canvas)
    if element.tag == "stack":
        for child in reversed(list(element)):
            source = composed(archive, child, source, base)
    else:
        with Image.open(io.BytesIO(archive.read(element.get("src")))) as image:
            pixels = np.asarray(image.convert("RGBA")) / 255
        x, y = int(element.get("x")), int(element.get("y"))
        if base is not None and element.get("name") == "base":
            there = np.s_[y : y + pixels.shape[0], x : x + pixels.shape[1]]
            pixels = np.dstack([base[there], pixels[..., 3:]])
        source[y : y + pixels.shape[0], x : x + pixels.shape[1]] = pixels
    alpha, below = source[..., 3:], canvas[..., 3:]
    if mode == "svg:dst-in":
        return np.concatenate([canvas[..., :3], below * alpha], axis=2)
    mixed = (1 - below) * source[..., :3] + below * BLENDS[mode](canvas[..., :3], source[..., :3])
    if mode == "svg:src-atop":
        colour, whole = alpha * below * mixed + canvas[..., :3] * below * (1 - alpha), below
    else:
        colour = alpha * mixed + (1 - alpha) * below * canvas[..., :3]
        whole = alpha + below * (1 - alpha)
    return np.concatenate([np.where(whole > 0, colour / np.maximum(whole, 1e-9), 0), whole], axis=2)


def opened(path):
    """The composition of a file, its merged picture, levels (h, w, 4), and its stack."""
    with zipfile.ZipFile(path) as archive:
        first = archive.infolist()[0]
        assert (first.filename, first.compress_type) == ("mimetype", 0)
        assert archive.read("mimetype") == b"image/openraster"
        image = ElementTree.fromstring(archive.read("stack.xml"))
        canvas = np.zeros((int(image.get("h")), int(image.get("w")), 4))
        for child in reversed(list(image.find("stack"))):
            canvas = composed(archive, child, canvas)
        with Image.open(io.BytesIO(archive.read("mergedimage.png"))) as merged:
            return np.round(canvas * 255), np.asarray(merged.convert("RGBA")), image


class Written(scenes.InFolder):
    def setUp(self):
        super().setUp()
        self.sketch.write_bytes(scenes.encoded(scenes.draw(smooth=2)))
        self.made, self.pipeline = self.bring_in()
        plan = add_lamp("second").apply(light_on(self.made.plan))
        roles = {1: "figure", 2: "focus"}
        for i, role in roles.items():
            plan = change_setting("region.REGION.role", role, plan.regions[-i].id).apply(plan)
        last = plan.regions[-1].id
        self.plan = change_setting("region.REGION.material", "satin", last).apply(plan)

    def write(self, plan, *kinds):
        files = document.hand_off(plan, self.made.pixels, self.folder / "out", kinds, force=True)
        return dict(zip(kinds, files, strict=True))


class Starter(Written):
    def test_its_layers_give_the_lit_picture_and_the_merged_one_is_theirs(self):
        files = self.write(self.plan, "ora", "lit")
        found, merged, image = opened(files["ora"])
        self.assertLessEqual(np.abs(found - merged).max(), 1)
        lit = np.asarray(Image.open(files["lit"]).convert("RGB"))
        apart = ciede2000(*(cielab(decode(p[..., :3] / 255)) for p in (found, lit)))
        self.assertLess(apart.mean(), 0.6)
        self.assertLess(np.percentile(apart, 95), 1.2)
        names = [layer.get("name") for layer in image.iter("layer")]
        self.assertTrue({"shade", "key", "second", "grey check", "palette", "edge"} <= set(names))
        groups = [g.get("name") for g in image.find("stack") if g.tag == "stack"]
        self.assertEqual(set(groups), {r.name for r in self.plan.regions})
        ours = np.asarray(flat(files["ora"].read_bytes(), "it")).astype(int)
        self.assertLess(np.abs(ours - merged).mean(), 1)

    def test_its_light_holds_for_other_colours(self):
        plain = self.write(self.plan, "ora")["ora"]
        other = self.plan
        for region, value in zip(self.plan.regions, (30.0, 62.0, 45.0, 55.0), strict=False):
            edit = scenes.planned(value=value)
            other = set_colour(region.id, edit, scenes.NOTHING).apply(other)
        fixed = self.pipeline.derive(self.plan, works=True).lit.lights.exposure
        other = change_setting("light.exposure", fixed).apply(other)
        files = self.write(other, "lit", "flat")
        lit, flat = (np.asarray(Image.open(files[k]).convert("RGB")) / 255 for k in ("lit", "flat"))
        with zipfile.ZipFile(plain) as archive:
            image = ElementTree.fromstring(archive.read("stack.xml"))
            canvas = np.zeros((*flat.shape[:2], 4))
            for child in reversed(list(image.find("stack"))):
                if child.tag == "stack":  # its base painted with the other palette
                    canvas = composed(archive, child, canvas, flat)
        apart = ciede2000(cielab(decode(canvas[..., :3])), cielab(decode(lit)))
        self.assertLess(np.median(apart), 1.5)

    def test_materials_go_on_beneath_what_lies_before_them_without_a_gap(self):
        dark = change_setting("light.on", False).apply(self.plan)
        files = self.write(dark, "ora", "flat")
        found, _, image = opened(files["ora"])
        flat = np.asarray(Image.open(files["flat"]).convert("RGB"))
        self.assertLess(np.percentile(np.abs(found[..., :3] - flat).max(axis=2), 99.5), 4)
        self.assertTrue((found[..., 3] == 255).all())
        self.assertNotIn("shade", [layer.get("name") for layer in image.iter("layer")])
        with zipfile.ZipFile(files["ora"]) as archive:
            front = list(image.find("stack"))[2]
            rest = np.zeros(found.shape)
            for child in reversed(list(image.find("stack"))[3:]):
                rest = composed(archive, child, rest)
        self.assertEqual(front.tag, "stack")
        gone = found[..., 3] - rest[..., 3] * 255
        with zipfile.ZipFile(files["ora"]) as archive:
            src = front.findall("layer")[1]
            alpha = np.asarray(Image.open(io.BytesIO(archive.read(src.get("src")))))[..., 3]
        self.assertLess((gone > 0).sum(), (alpha > 0).sum())  # its rim is painted below it too

    def layers(self, path, group):
        """Its pictures by name, levels (h, w, 4), of one group."""
        with zipfile.ZipFile(path) as archive:
            image = ElementTree.fromstring(archive.read("stack.xml"))
            (stack,) = [s for s in image.iter("stack") if s.get("name") == group]
            return {
                layer.get("name"): np.asarray(
                    Image.open(io.BytesIO(archive.read(layer.get("src")))).convert("RGBA")
                )
                for layer in stack.iter("layer")
            }

    def test_repaintable_ones_are_one_colour_with_a_mask_and_come_near_enough(self):
        plan = change_setting("layers.light", "repaintable").apply(self.plan)
        files = self.write(plan, "ora", "lit")
        found, merged, image = opened(files["ora"])
        self.assertLessEqual(np.abs(found - merged).max(), 1)
        lit = np.asarray(Image.open(files["lit"]).convert("RGB"))
        apart = ciede2000(*(cielab(decode(p[..., :3] / 255)) for p in (found, lit)))
        self.assertLess(apart.mean(), 2)
        self.assertLess(np.percentile(apart, 95), 5.5)
        masks = 0
        for region in self.plan.regions:
            layers = self.layers(files["ora"], region.name)
            for name in {"shade", "key", "second"} & set(layers):
                there = layers[name][layers[name][..., 3] > 0]
                self.assertEqual(len(np.unique(there[:, :3], axis=0)), 1, (region.name, name))
                masks += len(np.unique(there[:, 3])) > 20
        self.assertGreater(masks, 2)
        self.assertNotIn("for these", "".join(la.get("name") for la in image.iter("layer")))

    def test_light_may_lie_above_all_and_does_where_layers_would_be_too_many(self):
        above = change_setting("layers.clipped", False).apply(self.plan)
        for plan, most in ((above, 1500), (self.plan, 5)):
            with mock.patch("umber_compass.document.starter._MOST_CLIPPED", most):
                files = self.write(plan, "ora", "lit")
            found, merged, image = opened(files["ora"])
            self.assertLessEqual(np.abs(found - merged).max(), 1)
            outer = [c.get("name") for c in image.find("stack") if c.tag == "layer"]
            self.assertLessEqual({"shade", "key", "second"}, set(outer))
            self.assertNotIn("edge", [la.get("name") for la in image.iter("layer")])
            lit = np.asarray(Image.open(files["lit"]).convert("RGB"))
            apart = ciede2000(*(cielab(decode(p[..., :3] / 255)) for p in (found, lit)))
            self.assertLess(np.percentile(apart, 95), 1.2)

    def gathered(self, regions):
        """The file's groups, the topmost first, where regions are told to be one thing: held to
        the same picture as when they are handed over one by one."""
        pieces = self.pipeline.derive(self.plan, works=True).pieces
        own = np.isin(pieces.label, [r.label for r in regions])
        places = tuple(pieces.place(i) for i in np.flatnonzero(own))
        told = add_thing((), places, "boat", "floor").apply(self.plan)
        before = opened(self.write(told, "ora")["ora"])
        plan = change_setting("layers.things", True).apply(told)
        found, merged, image = opened(self.write(plan, "ora")["ora"])
        self.assertLessEqual(np.abs(found - merged).max(), 1)
        self.assertLessEqual(np.abs(merged - before[1]).max(), 1)
        things = preview(self.pipeline.derive(plan, works=True)).thing_of
        return [s for s in image.find("stack") if s.tag == "stack"], things

    def test_materials_of_a_thing_lie_in_a_group_and_the_picture_is_the_same(self):
        regions = self.plan.regions[-3:]
        outer, things = self.gathered(regions)
        (held,) = (s for s in outer if s.find("stack") is not None)
        self.assertEqual(held.get("name"), "boat")
        self.assertEqual({s.get("name") for s in held.findall("stack")}, {r.name for r in regions})
        self.assertEqual(things, {r.id: "boat" for r in regions})
        self.assertEqual(len(outer), len(self.plan.regions) - 2)

    def test_what_lies_between_the_materials_of_a_thing_keeps_its_place(self):
        order = from_back(self.pipeline.derive(self.plan, works=True))
        outer, things = self.gathered([order[0], order[-1]])
        self.assertEqual([s.get("name") for s in reversed(outer)], [r.name for r in order])
        self.assertEqual(things, {})

    def test_materials_grow_as_far_as_told(self):
        dark = change_setting("light.on", False).apply(self.plan)
        sizes = []
        for px in (0, 3, 9):
            plan = change_setting("layers.grown", px).apply(dark)
            path = self.write(plan, "ora")["ora"]
            sizes.append(
                sum(
                    int((self.layers(path, r.name)["base"][..., 3] > 127).sum())
                    for r in plan.regions
                )
            )
        self.assertLess(sizes[0], sizes[1])
        self.assertLess(sizes[1], sizes[2])

    def test_the_preview_is_the_file_and_layers_can_be_left_out(self):
        derived = self.pipeline.derive(self.plan, works=True)
        found = preview(derived)
        self.assertLess(found.off[0], 0.6)
        self.assertLess(found.off[1], 1.2)
        every = {"grey check"}
        lit = np.abs(unpack(shown(found, every)).astype(int) - unpack(found.lit))
        self.assertLess(np.percentile(lit, 95), 3)
        dark = unpack(shown(found, {*every, *found.lights, *(la.name for la in found.above)}))
        self.assertLess(np.abs(dark.astype(int) - unpack(found.flat)).mean(), 2)
        first = found.materials[-1].region.id
        gone = unpack(shown(found, {*every, first}))
        self.assertGreater(np.abs(gone.astype(int) - unpack(shown(found, every))).max(), 20)
        grey = unpack(shown(found, set())).astype(int)
        self.assertLess((grey.max(axis=2) - grey.min(axis=2)).max(), 2)


class Palettes(Written):
    def test_every_format_holds_the_same_colours_for_a_reader_that_is_not_ours(self):
        files = self.write(self.plan, "gpl", *MORE)
        rows = re.findall(r"^ *(\d+) +(\d+) +(\d+)\t(.*)$", files["gpl"].read_text(), re.M)
        hexes = [f"#{int(r):02x}{int(g):02x}{int(b):02x}" for r, g, b, _ in rows]
        self.assertEqual(["#" + x for x in files["hex"].read_text().split()], hexes)
        lines = files["pal"].read_bytes().decode().split("\r\n")
        self.assertEqual(lines[:3], ["JASC-PAL", "0100", str(len(hexes))])
        self.assertEqual([tuple(x.split()) for x in lines[3:-1]], [r[:3] for r in rows])
        table = ElementTree.fromstring(files["soc"].read_bytes())
        draw = "{urn:oasis:names:tc:opendocument:xmlns:drawing:1.0}"
        self.assertEqual([e.get(draw + "color") for e in table], hexes)
        css = ConfigParser(delimiters=(":",), comment_prefixes=("/*", ":root", "}"))
        css.read_string("[x]\n" + files["css"].read_text())
        self.assertEqual([v.rstrip(";") for v in css["x"].values()], hexes)
        tokens = json.loads(files["tokens"].read_text())
        found = {
            t["$extensions"]["org.umber-compass"]["order"]: t["$value"]
            for group in tokens.values() if isinstance(group, dict)
            for name, t in group.items() if not name.startswith("$")
        }  # fmt: skip
        self.assertEqual([found[i]["hex"] for i in sorted(found)], hexes)
        np.testing.assert_allclose(
            np.array(found[1]["components"]) * 255, [int(x) for x in rows[0][:3]], atol=1e-3
        )
        sheet = ElementTree.fromstring(files["svg"].read_bytes())
        svg = "{http://www.w3.org/2000/svg}"
        self.assertEqual([r.get("fill") for r in sheet.iter(svg + "rect")][1:], hexes)
        picture = np.asarray(Image.open(files["png"]))
        seen = {"#" + bytes(p).hex() for p in picture.reshape(-1, 3)[::7].tolist()}
        self.assertTrue(set(hexes) <= seen)
        head, name, count, *stops = files["ggr"].read_text().splitlines()
        self.assertEqual((head, name[:5], int(count)), ("GIMP Gradient", "Name:", len(stops)))
        numbers = np.array([[float(n) for n in s.split()] for s in stops])
        self.assertEqual((numbers[0, 0], numbers[-1, 2], numbers.shape[1]), (0, 1, 13))
        np.testing.assert_allclose(numbers[1:, 0], numbers[:-1, 2])
        for kind in ("hex", "pal", "soc", "css", "tokens", "gpl"):
            self.assertEqual([c for c, _ in palettes.read(files[kind]).colours], hexes, kind)

    def test_files_without_a_mark_are_known_by_what_they_hold(self):
        with mock.patch("umber_compass.document.handed_off.state_folder", lambda: self.folder):
            out = self.folder / "out"
            document.hand_off(self.plan, self.made.pixels, out, ["hex", "pal"])
            document.hand_off(self.plan, self.made.pixels, out, ["hex", "pal"])
            file = out / KINDS["hex"].format(stem="boat")
            file.write_text("ff0000\n")
            with self.assertRaisesRegex(Refusal, "already exists"):
                document.hand_off(self.plan, self.made.pixels, out, ["hex", "pal"])
            self.assertEqual(file.read_text(), "ff0000\n")

    def test_every_kind_is_written_over_itself(self):
        with mock.patch("umber_compass.document.handed_off.state_folder", lambda: self.folder):
            for _ in range(2):
                files = document.hand_off(
                    self.plan, self.made.pixels, self.folder / "out", list(KINDS)
                )
            self.assertEqual(len(files), len(KINDS))

    def test_damaged_and_hostile_ones_are_refused_in_one_line(self):
        bomb = b'<!DOCTYPE x [<!ENTITY a "b">]><color-table>&a;</color-table>'
        for data in (
            b"JASC-PAL\r\n0100\r\n3\r\n1 2 3\r\n", b"JASC-PAL\n0100\nmany\n1 2 3\n", bomb,
            b"<color-table><color color='red'/></color-table>", b"<color-table/>",
            b'{"a": {"$type": "color", "$value": NaN}}', b'{"a": 1, "a": 2}', b"{" * 300, b"{}",
            b'{"a": {"$type": "color", "$value": "red"}}',
            b":root { --x: red; }",
        ):  # fmt: skip
            with self.subTest(data[:40]), self.assertRaises(Refusal) as said:
                palettes.parse(data, "x.pal")
            self.assertNotIn("\n", str(said.exception))
        odd = b'{"a": {"$type": "color", "$value": "#ff0000", "$extensions": [1]}}'
        self.assertEqual(palettes.parse(odd, "x").colours, (("#ff0000", "a"),))
