"""The command line's contract: keys, exit codes, one line for every mistake."""

import contextlib
import io
import json
import os
import subprocess
import sys
from pathlib import Path
from unittest import mock

import numpy as np
from PIL import Image

from bench import drawings
from bench.uncoloured import PORTRAIT
from tests import scenes
from umber_compass.cli import plans
from umber_compass.cli.run import _answer_line, main
from umber_compass.colour import spaces
from umber_compass.demo.plans import DEMOS
from umber_compass.steps.harmony.scheme import slot_hues
from umber_compass.steps.pipeline import Derived


def run(*given, text=""):
    """Exit code, standard output, standard error."""
    out, err = io.StringIO(), io.StringIO()
    with (
        contextlib.redirect_stdout(out),
        contextlib.redirect_stderr(err),
        mock.patch("sys.stdin", io.StringIO(text)),
    ):
        code = main([str(g) for g in given])
    return code, out.getvalue(), err.getvalue()


def answer(*given):
    code, out, err = run(*given, "--json")
    assert code == 0, err
    return json.loads(out)


class Colours(scenes.InFolder):
    def test_colour(self):
        said = answer("colour", "#7a4fa0")
        self.assertEqual(
            set(said), {"hex", "value", "luminance", "oklab", "oklch", "lab", "hsb", "angle"}
        )
        self.assertAlmostEqual(said["value"], 41.64, delta=0.02)
        grey = answer("colour", "#808080")
        self.assertIsNone(grey["oklch"]["h"])
        self.assertEqual(set(grey["angle"].values()), {None})

    def test_difference_is_second_minus_first(self):
        said = answer("difference", "#404040", "#808080")
        self.assertGreater(said["value"], 20)
        self.assertIsNone(said["hue"])
        self.assertEqual(answer("difference", "#7a4fa0", "#7a4fa0")["ciede2000"], 0)

    def test_blend(self):
        self.assertEqual(
            answer("blend", "#808080", "#ff0000", "--mode", "multiply", "--opacity", "0.5")["hex"],
            "#804040",
        )

    def test_harmony_keeps_value_and_takes_angles_from_the_wheel(self):
        said = answer("harmony", "#7a4fa0", "--scheme", "triad", "--wheel", "light")
        angles = [s["angle"] for s in said["slots"]]
        np.testing.assert_allclose(np.diff(angles) % 360, 120)
        for slot in said["slots"]:
            measured = answer("colour", slot["hex"])
            self.assertAlmostEqual(measured["value"], 41.6, delta=0.5)
            self.assertAlmostEqual(measured["angle"]["light"], slot["angle"], delta=1.5)
        plan = scenes.plan_of([], scenes.scheme("triad", "light", angles[0]))
        hues = slot_hues(plan.studies[0].scheme)
        for slot in said["slots"]:  # the very hues that a plan has there
            self.assertAlmostEqual(slot["hue"], hues[slot["slot"]], delta=1)
        self.assertEqual(said["slots"][0]["hex"], "#7a4fa0")

    def test_ramp(self):
        said = answer(
            "ramp",
            "#7a4fa0",
            "--recipe",
            "cool-warm",
            "--darker",
            2,
            "--lighter",
            1,
            "--spacing",
            12,
        )
        self.assertEqual(len(said["steps"]), 4)
        self.assertEqual(said["steps"][2]["hex"], "#7a4fa0")
        self.assertAlmostEqual(said["steps"][3]["value"] - said["steps"][2]["value"], 12, delta=0.5)


class Mistakes(scenes.InFolder):
    def test_each_is_one_line_with_its_exit_code(self):
        gone = self.folder / "gone.umber"
        for given, code in (
            (["colour", "red"], 1),
            (["colour"], 2),
            (["ramp", "#ffffff", "--recipe", "magic"], 2),
            (["ramp", "#ffffff", "--darker", "nan"], 2),
            (["blend", "#fff", "#000", "--opacity", "7"], 2),
            (["harmony", "#fff", "--scheme", "nine"], 2),
            (["nonsense"], 2),
            ([], 2),
            (["checks", gone], 1),
            (["checks", self.sketch], 1),
            (["new", gone, "-o", "x.umber"], 1),
            (["new", self.sketch, "-o", self.folder / "none" / "x.umber"], 1),
            (["new", self.sketch, "-o", self.folder / "x.umber", "--focus", "a,b"], 2),
            (["new", self.sketch, "-o", self.folder / "x.umber", "--focus", "999,2"], 1),
            (["demo", "no-such", "--list", "--wrong"], 2),
        ):
            with self.subTest(given):
                got, out, err = run(*given)
                self.assertEqual((got, out), (code, ""))
                self.assertRegex(err, r"\Aumber-compass: [^\n]+\n\Z")

    def test_in_a_process_there_is_no_traceback(self):
        said = subprocess.run(
            [sys.executable, "-m", "umber_compass", "checks", str(self.sketch)],
            capture_output=True,
            text=True,
        )
        self.assertEqual((said.returncode, said.stderr.count("\n")), (1, 1))

    def test_batch_never_ends_early(self):
        lines = [
            '["colour", "#ff0000"]',
            "{not json",
            '["colour"]',
            '["batch"]',
            "7",
            '["colour", "x"]',
            '["--help"]',
            '["blend", "--", "#7a4fa0", "--"]',
            '["ramp", "#7a4fa0", "--recipe", "straight"]',
        ]
        code, out, _ = run("batch", text="\n".join(lines) + "\n\n")
        said = [json.loads(x) for x in out.splitlines()]
        self.assertEqual((code, len(said)), (0, len(lines)))
        self.assertEqual(
            [("error" in s) for s in said], [False, True, True, True, True, True, True, True, False]
        )
        self.assertNotIn("failed inside", out)

    def test_a_batch_says_what_failed_inside_and_goes_on(self):
        with mock.patch("umber_compass.document.open_plan", side_effect=LookupError("odd")):
            said = _answer_line('["regions", "x.umber"]')
        self.assertRegex(said["error"], "regions: failed inside .LookupError: odd")


class Process(scenes.InFolder):
    """What only a process of its own shows."""

    def run_with(self, *given, **more):
        command = [sys.executable, "-m", "umber_compass", *given]
        return subprocess.run(command, stderr=subprocess.PIPE, check=False, timeout=60, **more)

    def test_a_batch_goes_on_after_lines_that_are_no_text(self):
        given = (
            b'["colour","#fff"]',
            b"\xff\xfe",
            b'["regions","a\\u0000b"]',
            b'["new","\\ud800","-o","x"]',
            b'["colour","#000"]',
        )
        done = self.run_with("batch", input=b"\n".join(given), stdout=subprocess.PIPE)
        said = [json.loads(x) for x in done.stdout.splitlines()]
        self.assertEqual((done.returncode, done.stderr), (0, b""))
        self.assertEqual(["error" in x for x in said], [False, True, True, True, False])

    def test_an_output_that_is_full_is_one_line(self):
        with Path("/dev/full").open("wb") as full:
            done = self.run_with("colour", "#fff", "--json", stdout=full)
        self.assertEqual((done.returncode, done.stderr.count(b"\n")), (1, 1))
        self.assertIn(b"no space", done.stderr)

    def test_names_that_are_no_text_go_in_and_out(self):
        odd, plan = (self.folder / os.fsdecode(n) for n in (b"s\xe9a.png", b"p\xff.umber"))
        odd.write_bytes(self.sketch.read_bytes())
        done = self.run_with("new", odd, "-o", plan, "--json", stdout=subprocess.PIPE)
        self.assertEqual((done.returncode, len(json.loads(done.stdout)["regions"])), (0, 5))
        done = self.run_with("checks", plan, stdout=subprocess.PIPE)
        self.assertEqual(done.returncode, 0)
        done = self.run_with("render", plan, "-o", f"{odd}x", "--json", stdout=subprocess.PIPE)
        self.assertEqual(json.loads(done.stdout)["file"], f"{odd}x")
        done = self.run_with("checks", f"{plan}x", stdout=subprocess.PIPE)
        self.assertEqual((done.returncode, done.stderr.count(b"\n")), (1, 1))


class Plans(scenes.InFolder):
    def setUp(self):
        super().setUp()
        self.plan = self.folder / "boat.umber"
        self.said = answer("new", self.sketch, "-o", self.plan, "--focus", "120,50")

    def test_regions_and_labels(self):
        labels = self.folder / "labels.png"
        said = answer("regions", self.plan, "--labels", labels)
        readings = self.said.pop("harmony")
        self.assertEqual(said["regions"], self.said["regions"])
        self.assertEqual(
            [set(r) for r in readings],
            [{"scheme", "nearest", "wheel", "angle", "fit", "as_likely"}] * 3,
        )
        keys = {"id", "label", "name", "role", "material", "family", "share", "hex", "value", "box"}
        self.assertTrue(all(keys <= set(r) for r in said["regions"]))
        self.assertAlmostEqual(sum(r["share"] for r in said["regions"]), 1)
        image = Image.open(labels)
        self.assertEqual((image.mode, image.size), ("I;16", (240, 160)))
        self.assertEqual({r["label"] for r in said["regions"]}, set(np.unique(np.asarray(image))))

    def test_checks_fix_render_handoff(self):
        said = answer("checks", self.plan)["checks"]
        self.assertTrue(
            all(
                set(c)
                >= {"check", "level", "regions", "measured", "wanted", "unit", "text", "fixes"}
                for c in said
            )
        )
        fixed = answer("fix", self.plan, "-o", self.folder / "fixed.umber")
        count = [sum(c["level"] == "warning" for c in x) for x in (said, fixed["checks"])]
        self.assertEqual(bool(fixed["taken"]), count[1] < count[0])
        for view in ("flat", "grey", "squint", "mirrored", "small"):
            out = self.folder / f"{view}.png"
            answer("render", self.plan, "-o", out, "--view", view, "--width", 120)
            self.assertEqual(Image.open(out).size, (120, 80))
        files = answer("handoff", self.plan, "-o", self.folder / "out")["files"]
        self.assertEqual([f.rsplit("/", 1)[1] for f in files[:2]], ["boat.gpl", "boat-flat.png"])
        self.assertEqual(len(files), 12)
        rows = [x for x in Path(files[0]).read_text().splitlines() if x[0] in " 0123456789"]
        names = [x.split("\t")[1].rsplit(" ", 1)[0] for x in rows]
        self.assertEqual(len(dict.fromkeys(names)) * 6, len(rows))
        self.assertEqual(
            run("handoff", self.plan, "-o", self.folder / "out", "--formats", "xyz")[0], 1
        )

    def test_a_view_is_clear_where_what_it_shows_is(self):
        rgba = np.dstack([scenes.draw(), np.full((160, 240), 255, np.uint8)])
        rgba[:100, :60, 3] = 0
        self.sketch.write_bytes(scenes.encoded(rgba))
        answer("new", self.sketch, "-o", self.plan)
        out = self.folder / "seen.png"
        for view, clear in (("flat", np.s_[:, :60]), ("mirrored", np.s_[:, 180:])):
            answer("render", self.plan, "-o", out, "--view", view)
            alpha = np.asarray(Image.open(out))[:100, :, 3]
            self.assertEqual((alpha[clear].max(), (alpha == 0).mean()), (0, 0.25), view)

    def test_chart_of_a_plan_with_and_without_a_light(self):
        keys = {
            "local", "lit", "halftone", "terminator", "core-shadow", "cast-shadow", "crevice",
        }  # fmt: skip
        said = answer("chart", self.plan)
        self.assertEqual(
            {m["region"] for m in said["materials"]}, {r["id"] for r in self.said["regions"]}
        )
        for material in said["materials"]:
            columns = material["columns"]
            self.assertEqual(set(columns), keys)
            values = [columns[k]["value"] for k in ("lit", "halftone", "core-shadow", "crevice")]
            self.assertEqual(values, sorted(values, reverse=True))
            self.assertIsNone(material["rest"])  # no forms, so nothing is held to anything
            linear = [
                spaces.luminance(spaces.decode(spaces.parse_hex(columns[k]["hex"])))
                for k in ("core-shadow", "crevice")
            ]
            if linear[1] > 0.01:  # of what closeness takes, crevices count 28 %
                self.assertAlmostEqual(linear[1] / linear[0], 1 - 0.28 * 0.75, delta=0.03)
        demo = answer("chart", DEMOS[0].plan)
        self.assertEqual([m["name"] for m in demo["materials"] if "second" in m], ["sky"])
        self.assertEqual(demo["anchor"], "mean")
        self.assertIn("lit #", run("chart", self.plan)[1])

    def test_the_light_is_handed_off_when_it_is_on_or_asked_for(self):
        out = self.folder / "lit"
        files = answer("handoff", self.plan, "-o", out, "--formats", "lit,chart")["files"]
        self.assertEqual([Path(f).name for f in files], ["boat-lit.png", "boat-chart.gpl"])
        rows = [x for x in Path(files[1]).read_text().splitlines() if "\t" in x]
        self.assertEqual(len(rows), 7 * len(self.said["regions"]))
        self.assertTrue(rows[0].endswith(" local") and rows[6].endswith(" crevice"))
        chart = answer("chart", self.plan)["materials"]
        shown = {c["hex"] for m in chart for c in m["columns"].values()}
        levels = ["#" + bytes(map(int, x.split("\t")[0].split())).hex() for x in rows]
        self.assertEqual(set(levels), shown)
        demo = answer("handoff", DEMOS[0].plan, "-o", self.folder / "demo")["files"]
        self.assertEqual(len(demo), 14)

    def test_forms_are_built_once_for_a_hand_off_and_only_for_the_light(self):
        for formats, times in (("gpl,flat", 0), ("gpl,flat,lit,chart", 1)):
            with mock.patch.object(Derived.built, "work", wraps=Derived.built.work) as built:
                answer("handoff", DEMOS[0].plan, "-o", self.folder / formats, "--formats", formats)
            self.assertEqual(built.call_count, times)

    def test_decisions_by_name(self):
        out = self.folder / "set.umber"
        said = answer("set", self.plan, "title=Dusk", "region.r1.value=31", "-o", out)
        self.assertEqual(set(said), {"checks"})
        self.assertEqual(answer("checks", out), said)
        values = {r["id"]: r["value"] for r in answer("regions", out)["regions"]}
        self.assertAlmostEqual(values["r1"], 31, delta=0.4)
        keys = {k["key"]: k for k in answer("set", "--keys", out)["keys"]}
        self.assertEqual(keys["title"]["now"], "Dusk")
        row = keys["region.r1.value"]
        self.assertEqual(set(row), {"key", "type", "unit", "range", "now", "text"})
        self.assertEqual((row["type"], row["unit"], row["range"]), ("number", "L*", [0, 100]))
        self.assertEqual(keys["rule.extremes.dark"]["range"], [0, 50])
        general = {k["key"]: k["now"] for k in answer("set", "--keys")["keys"]}
        self.assertIn(("lamp.LAMP.strength", None), general.items())
        before = out.read_bytes()
        for given in (("region.r1.value=900",), ("nonsense=1",), ("title=a", "region.r9.value=1")):
            code, _, err = run("set", self.plan, *given, "-o", out)
            self.assertEqual((code, err.count("\n"), out.read_bytes()), (1, 1, before))
        self.assertEqual(run("set", self.plan, "-o", out)[0], 1)

    def test_the_kind_of_sketch_is_taken_or_refused(self):
        out = self.folder / "kind.umber"
        self.assertEqual(
            answer("new", self.sketch, "-o", out, "--from", "flats")["regions"][0]["id"], "r1"
        )
        self.assertEqual(run("new", self.sketch, "-o", out, "--from", "smoke")[0], 2)

    def test_sketches_are_read_as_told_replaced_and_composed(self):
        out = self.folder / "new.umber"
        said = answer("new", "table-group", "--from", "none", "-o", out)
        self.assertEqual((said["kind"], said["regions"][0]["named"]), ("none", True))
        names = [c["name"] for c in answer("compositions")["compositions"]]
        self.assertIn("table-group", names)
        grey = self.folder / "grey.png"
        grey.write_bytes(scenes.encoded(drawings.grey_thumbnail(41, 3, (480, 360), 8).rgb))
        told = answer("new", grey, "-o", out, "--from", "grey", "--with", "groups=2")
        free = answer("new", grey, "-o", out, "--from", "grey")
        self.assertLess(len(told["regions"]), len(free["regions"]))
        self.assertEqual((free["kind"], free["shaded"]), ("grey", True))
        for wrong in ("groups=99", "groups=x", "gap=3", "nonsense"):
            code, _, err = run("new", grey, "-o", out, "--from", "grey", "--with", wrong)
            self.assertEqual((code, err.count("\n")), (1, 1), wrong)
        done = answer("replace", self.plan, self.sketch, "-o", out)
        self.assertEqual((done["new"], done["gone"], done["doubtful"]), ([], [], []))
        self.assertEqual(
            [r["name"] for r in done["regions"]], [r["name"] for r in self.said["regions"]]
        )
        self.assertEqual(run("replace", self.plan, self.folder / "no.png", "-o", out)[0], 1)

    def test_others_files_are_named_with_what_to_do(self):
        out = self.folder / "hand"
        answer("handoff", self.plan, "-o", out, "--formats", "gpl")
        (out / "boat.gpl").write_text("mine")
        code, _, err = run("handoff", self.plan, "-o", out, "--formats", "gpl")
        self.assertEqual((code, (out / "boat.gpl").read_text()), (1, "mine"))
        self.assertIn("--force", err)
        answer("handoff", self.plan, "-o", out, "--formats", "gpl", "--force")
        self.assertNotEqual((out / "boat.gpl").read_text(), "mine")

    def test_balance_focus_read_and_what_is_wished(self):
        ids = {r["hex"]: r["id"] for r in self.said["regions"]}
        sea, hull = ids[scenes.SEA], ids[scenes.HULL]
        merged, even = self.folder / "merged.umber", self.folder / "even.umber"
        answer(
            "set", self.plan, f"region.{hull}.value=45", f"region.{sea}.role=ground",
            f"region.{hull}.role=figure", "wish.order.regions=" + ",".join((hull, sea)),
            "wish.halves=off", "wish.extremes=lock", f"focus={hull}", "-o", merged,
        )  # fmt: skip
        said = answer("balance", merged, "-o", even)
        self.assertEqual(set(said), {"moved", "dropped", "conflict", "change"})
        self.assertEqual((said["dropped"], said["conflict"]), ([], []))
        self.assertTrue(all(set(m) == {"region", "from", "to"} for m in said["moved"]))
        now = {r["id"]: r["value"] for r in answer("regions", even)["regions"]}
        for move in said["moved"]:
            self.assertAlmostEqual(now[move["region"]], move["to"])
        levels = {c["check"]: c["level"] for c in answer("checks", even)["checks"]}
        self.assertEqual((levels["figure-merges"], levels["order-broken"]), ("fine", "fine"))
        seen = answer("focus", even)
        self.assertEqual(seen["focus"], {"regions": [hull], "point": None})
        pulls = [r["pull"] for r in seen["regions"]]
        self.assertEqual(pulls, sorted(pulls, reverse=True))
        self.assertEqual(len(pulls), 5)
        mine = next(r for r in seen["regions"] if r["region"] == hull)
        others = max(r["pull"] for r in seen["regions"] if r["region"] != hull)
        self.assertAlmostEqual(seen["lead"], mine["pull"] / others)
        self.assertTrue(all(0 <= p["x"] <= 1 and 0 <= p["y"] <= 1 for p in seen["places"]))
        answer("set", even, "focus=0.5,0.5,0.1", "-o", even)
        self.assertEqual(answer("focus", even)["focus"]["point"], [0.5, 0.5, 0.1])
        locked = [f"region.{r}.lock=on" for r in now]
        answer("set", merged, *locked, "-o", merged)
        held = answer("balance", merged, "-o", even)
        self.assertEqual(held["moved"], [])
        self.assertTrue(held["dropped"] and held["conflict"])

    def test_read_says_what_a_picture_shows(self):
        said = answer("read", self.sketch)
        self.assertEqual(
            set(said),
            {
                "size",
                "values",
                "palette",
                "harmony",
                "attention",
                "temperature",
                "strong_share",
                "strong_by_hue",
            },
        )
        self.assertEqual(said["size"], [240, 160])
        self.assertAlmostEqual(sum(said["values"]["histogram"]), 1)
        self.assertAlmostEqual(sum(c["share"] for c in said["palette"]), 1, delta=0.01)
        self.assertEqual({c["hex"] for c in said["palette"][:2]}, {scenes.SEA, scenes.SAND})
        self.assertAlmostEqual(sum(said["temperature"].values()), 1)
        self.assertLessEqual(said["values"]["p5"], said["values"]["median"])
        grey = self.folder / "grey.png"
        grey.write_bytes(scenes.encoded(np.full((20, 20, 3), 128, np.uint8)))
        self.assertEqual(answer("read", grey)["attention"], {"x": None, "y": None})
        self.assertEqual(run("read", self.folder / "gone.png")[0], 1)

    def test_every_view_renders(self):
        for view in plans.CHOICES["view"]:
            out = self.folder / f"{view}.png"
            answer("render", self.plan, "-o", out, "--view", view)
            self.assertEqual(Image.open(out).size, (240, 160), view)

    def test_a_press_of_ones_own_is_shown_and_belongs_with_its_view_alone(self):
        profile = self.folder / "shop.icc"
        profile.write_bytes(scenes.wide_press())
        shown = []
        for more in ((), ("--profile", profile)):
            out = self.folder / "print.png"
            answer("render", self.plan, "-o", out, "--view", "print", *more)
            shown.append(np.asarray(Image.open(out)).astype(int))
        flat = self.folder / "flat.png"
        answer("render", self.plan, "-o", flat)
        there = np.asarray(Image.open(flat)).astype(int)
        self.assertGreater(np.abs(shown[0] - there).mean(), 4)
        self.assertLess(np.abs(shown[1] - there).mean(), 2)
        said = run("render", self.plan, "-o", out, "--view", "grey", "--profile", profile)
        self.assertEqual((said[0], "--view print" in said[2]), (1, True))

    def test_wishes_that_cannot_be_are_one_line(self):
        for change in (
            "wish.bands.edges=70,30", "wish.bands.edges=nan", "wish.bands.edges=-4,50",
            "wish.bands.shares=0.9,0.8", "wish.order.regions=r1,r1", "wish.order.regions=gone",
            "focus=0.5,0.5,0", "focus=2,0.5,0.1", "wish.lead=0.2", "wish.gone=on", "wish.key=dim",
            "wish.lines=4", "region.r1.lock=maybe", "wish.parting.r1.r2=12",
        ):  # fmt: skip
            code, _, said = run("set", self.plan, change, "-o", self.folder / "x.umber")
            self.assertEqual((code, said.count("\n")), (1, 1), change)
        self.assertFalse((self.folder / "x.umber").exists())

    def test_an_output_that_fails_leaves_what_was_there(self):
        out = self.folder / "kept.umber"
        out.write_bytes(b"mine")
        self.assertEqual(run("new", self.folder / "gone.png", "-o", out)[0], 1)
        self.assertEqual(out.read_bytes(), b"mine")

    def test_demo_list_and_save(self):
        names = [d["name"] for d in answer("demo", "--list")["demos"]]
        self.assertEqual(names[:2], ["lighthouse-bakery", "kettle-weather"])
        files = answer("demo", "--save", self.folder / "demo")["files"]
        self.assertEqual(len(files), 2 * len(names))
        self.assertGreater(len(answer("regions", files[1])["regions"]), 20)
        small = scenes.small(DEMOS[0].plan)
        warned = {c["check"] for c in answer("checks", small)["checks"] if c["level"] == "warning"}
        self.assertEqual(warned, {"hue-off-scheme", "figure-merges", "competes", "focus-leads"})
        self.assertEqual(
            [
                c
                for c in answer("fix", small, "-o", self.folder / "f.umber")["checks"]
                if c["level"] == "warning"
            ],
            [],
        )


class Studies(scenes.InFolder):
    def setUp(self):
        super().setUp()
        self.plan = self.folder / "boat.umber"
        answer("new", self.sketch, "-o", self.plan)

    def test_studies_are_grown_written_and_kept(self):
        out, more = self.folder / "out", self.folder / "more.umber"
        said = answer("studies", self.plan, "-o", out, "--count", 3, "--save", more)
        self.assertEqual(len(said["studies"]), 3)
        for row in said["studies"]:
            self.assertLessEqual({"file", "title", "warnings", "notes"}, set(row))
            with Image.open(row["file"]) as picture:
                self.assertEqual(picture.size, (240, 160))
        again = answer("studies", self.plan, "-o", out, "--count", 3)
        self.assertEqual(
            [r["title"] for r in again["studies"]], [r["title"] for r in said["studies"]]
        )
        last = said["studies"][-1]["id"]
        kept = self.folder / "kept.umber"
        changes = (f"study.current={last}", "study.verdict=kept", "study.reason=far off")
        answer("set", more, *changes, "study.title=Dusk", "study.mood=tender", "-o", kept)
        now = {k["key"]: k["now"] for k in answer("set", "--keys", kept)["keys"]}
        self.assertEqual(now["study.verdict"], "kept")
        self.assertEqual((now["study.title"], now["study.mood"]), ("Dusk", "tender"))
        checks = answer("checks", kept)["checks"]
        self.assertIn("mood", {c["check"] for c in checks})

    def test_a_budget_and_a_slot_by_name_and_what_cannot_be(self):
        other = self.folder / "x.umber"
        answer("set", self.plan, "budget=3", "slot.A.chroma=0.5", "slot.A.arc=30", "-o", other)
        now = {k["key"]: k["now"] for k in answer("set", "--keys", other)["keys"]}
        self.assertEqual((now["budget"], now["slot.A.chroma"], now["slot.A.arc"]), (3, 0.5, 30))
        answer("set", other, "budget=none", "scheme.name=free", "-o", other)
        now = {k["key"]: k["now"] for k in answer("set", "--keys", other)["keys"]}
        self.assertEqual((now["budget"], now["scheme.name"]), ("none", "free"))
        for given, says in (
            (("set", self.plan, "study.current=s9", "-o", other), "no study"),
            (("set", self.plan, "study.mood=cross", "-o", other), "no choice"),
            (("set", self.plan, "budget=0", "-o", other), "not between"),
            (("studies", self.plan, "-o", self.folder / "o", "--rules", "x"), "no rule"),
            (("studies", self.plan, "-o", self.folder / "o", "--rules", "lights"), "no other"),
            (("palette", self.folder / "none.gpl"), "no such file"),
        ):
            code, _, err = run(*given)
            self.assertEqual((code, err.count("\n")), (1, 1), err)
            self.assertIn(says, err)

    def test_a_foreign_picture_is_not_written_over(self):
        out = self.folder / "out"
        out.mkdir()
        foreign = out / "boat-study-1.png"
        foreign.write_bytes(b"mine")
        code, _, err = run("studies", self.plan, "-o", out)
        self.assertEqual((code, foreign.read_bytes()), (1, b"mine"))
        self.assertIn("--force", err)
        self.assertEqual(list(out.iterdir()), [foreign])

    def test_a_palette_is_read_and_written_again(self):
        path, other = self.folder / "p.hex", self.folder / "p.gpl"
        path.write_text("#102030\nabc\n")
        said = answer("palette", path, "-o", other)
        self.assertEqual([c["hex"] for c in said["colours"]], ["#102030", "#aabbcc"])
        again = answer("palette", other)
        self.assertEqual((again["format"], again["title"]), ("gpl", "p"))
        self.assertEqual([c["hex"] for c in again["colours"]], ["#102030", "#aabbcc"])
        self.assertTrue(answer("palette", self.sketch)["colours"])
        before = other.read_bytes()
        code, _, err = run("palette", self.plan, "-o", other)
        self.assertEqual((code, other.read_bytes()), (1, before), err)


class First(scenes.InFolder):
    def setUp(self):
        super().setUp()
        self.plan = self.folder / "portrait.umber"
        sketch = self.folder / "portrait.png"
        piece = PORTRAIT._replace(size=(300, 380))
        sketch.write_bytes(scenes.encoded(piece.lines()))
        answer("new", sketch, "-o", self.plan)

    def test_six_are_proposed_as_pictures_and_kept_ones_are_exact(self):
        out = self.folder / "out"
        saved = self.folder / "with.umber"
        said = answer(
            "first", self.plan, "-o", out, "--focus", "150,140", "--material", "r1=plaster",
            "--light", "dusk", "--key", "low", "--count", "3", "--save", saved,
        )  # fmt: skip
        self.assertEqual(set(said), {"studies", "nearest", "says"})
        self.assertEqual(len(said["studies"]), 3)
        for row in said["studies"]:
            self.assertEqual((row["light"], row["key"]), ("dusk", "low"))
            with Image.open(row["file"]) as written:
                self.assertEqual(written.size, (300, 380))
            self.assertTrue({"title", "scheme", "lead", "warnings", "notes"} <= set(row))
        regions = {r["id"]: r for r in answer("regions", self.plan)["regions"]}
        self.assertEqual(set(said["studies"][0]["colours"]), set(regions))
        told = self.folder / "told.umber"
        answer("set", saved, f"study.current={said['studies'][0]['id']}", "-o", told)
        again = answer("first", told, "-o", out, "--keep", "r1,r2", "--seed", "5", "--count", "2")
        for row in again["studies"]:
            for region in ("r1", "r2"):
                self.assertEqual(row["colours"][region], said["studies"][0]["colours"][region])

    def test_what_cannot_be_is_one_line(self):
        for given, code, why in (
            (("--focus", "0.5,0.4"), 2, "is a share"),
            (("--focus", "5000,10"), 1, "outside"),
            (("--material", "r1=cheese"), 1, "names no material"),
            (("--material", "nobody=skin"), 1, "is no region"),
            (("--light", "tea"), 1, "is no light"),
            (("--key", "tea"), 2, "invalid choice"),
            (("--keep", "r1,nobody"), 1, "is no region"),
        ):
            with self.subTest(given):
                found, out, err = run("first", self.plan, "-o", self.folder / "no", *given)
                self.assertEqual((found, out, err.count("\n")), (code, "", 1))
                self.assertIn(why, err)
