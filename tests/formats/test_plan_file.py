"""Plan files: read back equal, of every schema there was; cut, hostile or bent ones refused."""

import io
import json
import math
import unittest
import zipfile
from pathlib import Path
from unittest import mock

import numpy as np
from msgspec.structs import replace

from tests import scenes
from umber_compass import document
from umber_compass.formats import picture, plan_file, thumbnail, upgrades
from umber_compass.plan import edits
from umber_compass.plan.light_edits import rig_of
from umber_compass.plan.model import SCHEMA, Candidate, Gradient, Pinned, Ramp
from umber_compass.words import Refusal

PLANS = Path(__file__).parent / "plans"


def zipped(entries, how=zipfile.ZIP_DEFLATED):
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", how) as archive:
        for name, data in entries:
            archive.writestr(name, data)
    return out.getvalue()


class Past(unittest.TestCase):
    """A fixture of every past version is kept and opened for ever."""

    def test_schema_1(self):
        with zipfile.ZipFile(PLANS / "schema-1.umber") as archive:
            tree = json.loads(archive.read("plan.json"))
            labels = archive.read("regions.png")
        self.assertEqual(tree["schema"], 1)
        opened = document.open_plan(PLANS / "schema-1.umber")
        plan, now = opened.plan, edits.study(opened.plan)
        self.assertEqual((plan.schema, plan.title), (SCHEMA, "Boat of schema 1"))
        self.assertEqual((plan.overrides, now.scheme.shares), ({"extremes.note": 30}, {"A": 0.5}))
        self.assertEqual([r.name for r in plan.regions][:1], ["open sea"])
        self.assertEqual(plan.regions[2].form, "flat")
        self.assertEqual(now.recipes, {"r2": Ramp(recipe="hsb-sum", darker=2)})
        self.assertIsInstance(now.colours["r1"], Gradient)
        self.assertIsInstance(now.colours["r4"], Pinned)
        key = rig_of(plan).key
        self.assertEqual((key.name, key.strength, key.direction), ("key", 77, (0.6, 0, 0.8)))
        self.assertEqual(rig_of(plan).ambient.hex, "#8090c0")
        wanted = picture.read_labels(labels, plan.sketch.size, "x")
        np.testing.assert_array_equal(opened.pixels.labels(plan.sketch), wanted)
        self.assertEqual(plan.candidates, ())

    def test_schema_2(self):
        """Lit as it was: softly, without shadows, bounce, highlights and the rim of crevices."""
        opened = document.open_plan(PLANS / "schema-2.umber")
        rig = edits.study(opened.plan).rig
        self.assertEqual((opened.plan.schema, opened.plan.title), (SCHEMA, "Boat of schema 2"))
        self.assertEqual((rig.on, rig.key.strength, rig.crevice), (True, 77, upgrades.HALO))
        self.assertEqual((rig.way, rig.shadows, rig.highlights), ("soft", False, False))
        self.assertEqual((rig.ambient.bounce, rig.glow.strength, rig.reaches_far), (0, 0, True))
        self.assertIn("lit as it was", opened.says)
        self.assertEqual(document.open_plan(PLANS / "schema-1.umber").plan.scene.things, None)

    def test_there_is_a_step_from_every_schema_and_a_file_of_each(self):
        self.assertEqual(sorted(upgrades.UPGRADES), list(range(1, SCHEMA)))
        kept = sorted(int(p.stem.split("-")[1]) for p in PLANS.glob("schema-*.umber"))
        self.assertEqual(kept, list(range(1, SCHEMA)))


class PlanFiles(scenes.InFolder):
    def setUp(self):
        super().setUp()
        self.made, _ = self.bring_in()
        self.path = self.folder / "boat.umber"
        document.save(self.made.plan, self.made.pixels, self.path)
        self.data = self.path.read_bytes()
        with zipfile.ZipFile(self.path) as archive:
            self.entries = {n: archive.read(n) for n in archive.namelist()}
        self.sketch_entry = f"sketches/{self.made.plan.sketch.hash}"
        self.labels_entry = f"labels/{self.made.plan.sketch.labels}.png"

    def with_entries(self, **changes):
        return zipped({**self.entries, **changes}.items())

    def changed(self, **changes):
        tree = json.loads(self.entries["plan.json"])
        for key, value in changes.items():
            at = tree
            *way, last = key.split("__")
            for name in way:
                at = at[int(name)] if name.isdigit() else at[name]
            at[last] = value
        return self.with_entries(**{"plan.json": json.dumps(tree)})

    def test_what_a_file_holds_is_put_together_from_its_parts(self):
        whole = plan_file.read(self.path)
        pictures = {**whole.sketches, **whole.labels}
        again = plan_file.held_of(whole.plan, pictures, whole.thumbnail, "x")
        self.assertEqual(again[:3], whole[:3])
        self.assertEqual(again.thumbnail, whole.thumbnail)
        self.assertEqual(plan_file.plan_of(plan_file.json_of(whole.plan), "x"), whole.plan)
        for key in pictures:
            with self.assertRaisesRegex(Refusal, "not the one it was made for"):
                plan_file.held_of(whole.plan, {**pictures, key: b"x"}, b"", "x")

    def test_read_is_what_was_written(self):
        again = document.open_plan(self.path)
        self.assertEqual(again.plan, self.made.plan)
        sketch = again.plan.sketch
        self.assertEqual(again.pixels.sketches[sketch.hash], self.sketch.read_bytes())
        labels = self.made.pixels.labels(self.made.plan.sketch)
        np.testing.assert_array_equal(again.pixels.labels(sketch), labels)
        document.save(again.plan, again.pixels, self.path)
        self.assertEqual(self.path.read_bytes(), self.data)

    def test_what_no_plan_holds_is_refused_in_one_line(self):
        many = json.loads(self.entries["plan.json"])
        many["regions"] = [
            {**many["regions"][0], "id": f"r{i}", "label": i + 1} for i in range(2500)
        ]
        for colours in (s["colours"] for s in many["studies"]):
            one = colours["r1"]
            colours.clear()
            colours.update({f"r{i}": one for i in range(2500)})
        lzma = io.BytesIO()
        with zipfile.ZipFile(lzma, "w", zipfile.ZIP_LZMA) as archive:
            for name, data in self.entries.items():
                archive.writestr(name, data)
        for data, word in (
            (self.with_entries(**{"plan.json": "{}"}), "names no schema"),
            (self.with_entries(**{"plan.json": "[" * 3000}), "not valid"),
            (self.changed(regions__0__front=2**70), "not valid"),
            (self.with_entries(**{"plan.json": json.dumps(many)}), "damaged"),
            (lzma.getvalue(), "packed in a way"),
        ):
            with self.subTest(word), self.assertRaisesRegex(Refusal, word) as refused:
                plan_file.parse(data, "x")
            self.assertNotIn("\n", str(refused.exception))
        path = self.folder / "lzma.umber"
        path.write_bytes(lzma.getvalue())
        self.assertEqual(thumbnail.read(path), b"")

    def test_all_entries_together_are_bounded(self):
        bound = sum(map(len, self.entries.values()))
        with mock.patch("umber_compass.formats.plan_file.MOST_BYTES", bound):
            plan_file.parse(self.data, "x")
        with (
            mock.patch("umber_compass.formats.plan_file.MOST_BYTES", bound - 1),
            self.assertRaisesRegex(Refusal, "larger than any"),
        ):
            plan_file.parse(self.data, "x")

    def test_its_entries_are_named_and_mimetype_is_first_and_stored(self):
        with zipfile.ZipFile(self.path) as archive:
            first, *rest = archive.infolist()
        self.assertEqual((first.filename, first.compress_type), ("mimetype", zipfile.ZIP_STORED))
        self.assertEqual(self.data[38:62], b"application/x-umber-plan")
        names = [e.filename for e in rest]
        self.assertEqual(
            names,
            ["plan.json", "journal.json", self.sketch_entry, self.labels_entry, "thumbnail.png"],
        )
        self.assertEqual({e.date_time for e in rest}, {(1980, 1, 1, 0, 0, 0)})

    def test_several_sketches_are_kept_with_what_was_decided_for_each(self):
        plan = self.made.plan
        other = scenes.encoded(scenes.draw(size=(120, 80)))
        labels = np.ones((80, 120), np.uint16)
        pixels = self.made.pixels
        sketch = replace(
            plan.sketch,
            hash=pixels.add_sketch(other),
            labels=pixels.add_labels(labels),
            size=(120, 80),
        )
        study = replace(edits.study(plan), colours={"r1": edits.study(plan).colours["r1"]})
        aside = Candidate(
            id="c1",
            sketch=sketch,
            regions=plan.regions[:1],
            studies=(study,),
            current_study=study.id,
        )
        both = replace(plan, candidates=(aside,))
        document.save(both, pixels, self.path)
        again = document.open_plan(self.path)
        self.assertEqual(again.plan, both)
        np.testing.assert_array_equal(again.pixels.labels(sketch), labels)
        self.assertEqual(again.pixels.sketches[sketch.hash], other)
        for bad, word in (
            (replace(both, candidates=(aside, aside)), "candidates"),
            (replace(both, candidates=(replace(aside, current_study="x"),)), "current study"),
        ):
            document.save(bad, pixels, self.path)
            with self.assertRaisesRegex(Refusal, word):
                document.open_plan(self.path)

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
        entries = list(self.entries.items())
        without = [(n, d) for n, d in entries if n != self.labels_entry]
        for name, data, word in (
            ("not a zip", b"GIF89a....", "no plan"),
            ("another zip", zipped([("a.txt", b"hello")]), "no mimetype"),
            ("other mimetype", self.with_entries(mimetype=b"application/x"), "no plan"),
            ("path outside", zipped([*entries, ("../../etc/x", b"")]), "outside"),
            ("windows path", zipped([*entries, ("a\\..\\x", b"")]), "outside"),
            ("absolute path", zipped([*entries, ("/etc/x", b"")]), "outside"),
            ("bomb", self.with_entries(**{"plan.json": b"0" * 40_000_000}), "larger"),
            ("many", zipped([*entries, *((str(i), b"") for i in range(300))]), "too many"),
            ("other sketch", self.with_entries(**{self.sketch_entry: b"x"}), "not the one"),
            ("other labels", self.with_entries(**{self.labels_entry: b"x"}), "not the one"),
            ("no labels", zipped(without), "no labels"),
        ):
            with self.subTest(name), self.assertRaisesRegex(Refusal, word):
                plan_file.parse(data, "x.umber")
        plan_file.parse(zipped([*entries, ("x", b"left alone")]), "x.umber")

    def test_an_entry_that_is_there_twice_is_refused(self):
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w") as archive, self.assertWarns(UserWarning):
            for name, data in [*self.entries.items(), ("plan.json", b"{}")]:
                archive.writestr(name, data)
        with self.assertRaisesRegex(Refusal, "repeated"):
            plan_file.parse(out.getvalue(), "x.umber")

    def test_labels_beyond_the_regions_are_refused(self):
        labels = self.made.pixels.labels(self.made.plan.sketch).copy()
        for most, fine in ((5, True), (6, False)):
            labels[0, 0] = most
            pixels = self.made.pixels
            sketch = replace(self.made.plan.sketch, labels=pixels.add_labels(labels.copy()))
            plan = replace(self.made.plan, sketch=sketch)
            held = pixels.held_with(plan, b"")
            plan_file.write(self.path, held)
            if fine:
                self.assertEqual(plan_file.read(self.path).plan, plan)
            else:
                with self.assertRaisesRegex(Refusal, "do not fit its picture"):
                    plan_file.read(self.path)

    def test_wrong_newer_or_inconsistent_schema(self):
        lamp = {"name": "key"}
        for change, word in (
            ({"schema": SCHEMA + 1}, "newer version"),
            ({"schema": "1"}, "names no schema"),
            ({"schema": True}, "names no schema"),
            ({"schema": 0}, "names no schema"),
            ({"title": 5}, "not valid"),
            ({"studies__0__scheme__lead_deg": 1e9}, "not valid"),
            ({"studies__0__scheme__name": "nine-hues"}, "scheme"),
            ({"studies__0__recipes": {"r1": {"recipe": "no-such"}}}, "recipe"),
            ({"studies__0__recipes": {"r9": {"recipe": "straight"}}}, "do not match"),
            ({"studies__0__rig": {"lamps": [lamp, lamp]}}, "lamps"),
            ({"studies__0__rig": {"lamps": []}}, "not valid"),
            ({"studies__0__wishes": {"bands": {"edges": [70, 30], "shares": [0, 0, 1]}}}, "rise"),
            ({"studies__0__wishes": {"bands": {"edges": [-3], "shares": [0, 1]}}}, "not valid"),
            ({"studies__0__wishes": {"bands": {"edges": [math.nan], "shares": [0, 1]}}}, "valid"),
            ({"studies__0__wishes": {"bands": {"edges": [30], "shares": [1]}}}, "not valid"),
            ({"studies__0__wishes": {"order": ["r1", "r1"]}}, "twice"),
            ({"studies__0__wishes": {"order": ["r9"]}}, "does not have"),
            ({"studies__0__wishes": {"of": {"a b": {}}}}, "not valid"),
            ({"studies__0__focus": {"regions": ["r9"]}}, "does not have"),
            ({"studies__0__focus": {"point": {"x": 2, "y": 0, "radius": 1}}}, "not valid"),
            ({"studies__0__falloff": {"hue": {"near": [9, 3], "far": [0, 1]}}}, "lower edge"),
            ({"studies__0__locked": ["r9"]}, "does not have"),
            ({"current_study": "s9"}, "current study"),
            ({"regions__1__id": "r1"}, "told apart"),
            ({"regions__1__label": 1}, "told apart"),
            ({"regions__1__front": 2**70}, "not valid"),
            ({"studies__0__colours": {}}, "do not match"),
            ({"practice": "unknown"}, "practice"),
            ({"overrides": {"extremes.dark": 900}}, "out of range"),
            ({"overrides": {"extremes.purple": 1}}, "out of range"),
            ({"sketch__size": [10, 10]}, "regions"),
            ({"sketch__size": [10_001, 10_000]}, "over 100 megapixels"),
            ({"sketch__kind": "smoke"}, "kind of sketch"),
            ({"sketch__labels": "0" * 64}, "no labels"),
            ({"sketch": {}}, "not valid"),
        ):
            with self.subTest(change), self.assertRaisesRegex(Refusal, word):
                document.from_file(plan_file.parse(self.changed(**change), "x.umber"), "x.umber")
        for text in (b"[]", b"{}", b"null", b'{"schema": 1}', b'{"schema": 1, "sketch": 3}'):
            with self.subTest(text), self.assertRaises(Refusal):
                plan_file.parse(self.with_entries(**{"plan.json": text}), "x.umber")
