"""A painting held against its plan by command."""

import numpy as np

from tests import scenes
from tests.cli.test_commands import answer, run
from umber_compass.colour.packed import unpack
from umber_compass.demo.plans import DEMOS
from umber_compass.document import open_plan
from umber_compass.formats.picture import png_bytes
from umber_compass.steps.pictures import picture
from umber_compass.steps.pipeline import Pipeline


class TestDrift(scenes.InFolder):
    def setUp(self):
        super().setUp()
        self.plan = scenes.small(DEMOS[0].plan)
        opened = open_plan(self.plan)
        derived = Pipeline(opened.pixels.drawings).derive(opened.plan)
        rgb = unpack(picture(derived)).astype(int)
        self.sea = next(r for r in derived.regions if r.name == "sea")
        rgb[derived.drawing.labels == self.sea.label] -= 26
        self.levels = np.clip(rgb, 0, 255).astype(np.uint8)

    def test_signed_and_by_region(self):
        (self.folder / "work.png").write_bytes(png_bytes(np.ascontiguousarray(self.levels)))
        said = answer("drift", self.plan, self.folder / "work.png")
        self.assertEqual(set(said["aligned"]), {"dx", "dy", "scale", "seen"})
        self.assertAlmostEqual(said["aligned"]["seen"], 1, delta=0.01)
        found = {r["region"]: r for r in said["regions"]}
        self.assertEqual([r for r in found if found[r]["drifted"]], [self.sea.id])
        self.assertLess(found[self.sea.id]["value"], -6)
        self.assertTrue({"value", "hue", "chroma"} <= set(found[self.sea.id]))
        self.assertEqual(
            {frozenset(c) for c in said["checks"]}
            - {frozenset(answer("checks", self.plan)["checks"][0])},
            set(),
            "told as every command tells checks",
        )

    def test_one_line_for_what_is_no_painting_of_it(self):
        rng = np.random.default_rng(2)
        (self.folder / "noise.png").write_bytes(
            png_bytes(rng.integers(0, 255, (200, 300, 3), np.uint8))
        )
        (self.folder / "half.png").write_bytes(png_bytes(np.ascontiguousarray(self.levels))[:900])
        for name, says in (
            ("noise.png", "does not show this sketch"),
            ("half.png", "half.png"),
            ("none.png", "none.png"),
        ):
            with self.subTest(name):
                code, _, err = run("drift", self.plan, self.folder / name)
                self.assertEqual(code, run("checks", self.folder / "none.umber")[0])
                self.assertEqual(len(err.strip().splitlines()), 1)
                self.assertIn(says, err)
