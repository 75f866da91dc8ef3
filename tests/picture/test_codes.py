"""The flat picture as codes."""

import numpy as np
from PIL import Image

from tests import scenes
from umber_compass.colour.packed import unpack
from umber_compass.picture import codes
from umber_compass.plan import edits
from umber_compass.plan.model import Gradient, Planned
from umber_compass.steps.pipeline import picture
from umber_compass.steps.sketch import start as sketch
from umber_compass.steps.sketch.kinds import flats


class Codes(scenes.InFolder):
    def test_one_region_alone_gives_the_whole_paint(self):
        made, pipeline = self.bring_in()
        derived = pipeline.derive(made.plan)
        shown = picture(derived)
        for region in made.plan.regions:
            table = derived.table.copy()
            table[derived.codes.spans[region.label][0]] = (250, 3, 120)
            mask = codes.mask_of(
                derived.codes, made.pixels.drawing(made.plan.sketch).labels, region.label
            )
            alone = shown.copy()
            codes.paint_region(alone, derived.codes, table, mask, region.label)
            np.testing.assert_array_equal(alone, codes.paint(derived.codes, table))

    def test_a_gradient_runs_from_one_end_to_the_other(self):
        made, pipeline = self.bring_in()
        ends = [Planned(slot="A", value=v, chroma=0.05) for v in (30, 70)]
        for axis in ((0.5, 0, 0.5, 0.625), (0, 0, 1, 0.3)):
            gradient = Gradient(first=ends[0], second=ends[1], axis=axis)
            plan = edits.with_colours(made.plan, {"r1": gradient})
            derived = pipeline.derive(plan)
            begin, end = derived.codes.spans[1]
            values = derived.values.by_code[begin:end]
            self.assertTrue((np.diff(values) > -0.4).all())
            np.testing.assert_allclose([values[0], values[-1]], [30, 70], atol=0.4)
            shown = unpack(picture(derived))
            near = np.abs(shown[0, 0].astype(int) - derived.table[begin]).max()
            self.assertLessEqual(near, 2)

    def test_shared_borders_are_measured(self):
        made, pipeline = self.bring_in()
        derived = pipeline.derive(made.plan)
        labels = {r.id: r.label for r in made.plan.regions}
        pairs = {
            tuple(p): n
            for p, n in zip(
                derived.codes.grain.touching.tolist(),
                derived.codes.grain.touch_px.tolist(),
                strict=True,
            )
        }
        sea, sand = labels["r1"], labels["r2"]
        self.assertEqual(pairs[sea, sand], 240)

    def test_sharply_resized_flats_leave_no_specks_and_keep_their_colours(self):
        from scipy.ndimage import label

        large = Image.fromarray(scenes.draw(size=(240, 160), smooth=1)).resize((960, 640), 0)
        for how in (Image.Resampling.LANCZOS, Image.Resampling.BICUBIC):
            small = np.asarray(large.resize((400, 267), how))
            found = flats.split(small, None, "x")
            self.assertEqual(len(found.colours), 5)
            for colour in found.colours.astype(int):
                self.assertLessEqual(np.abs(scenes.FLATS - colour).max(axis=1).min(), 2)
            parts = [label(found.labels == i + 1)[1] for i in range(5)]
            self.assertLessEqual(max(parts), 2)

    def test_boxes(self):
        made, _ = self.bring_in()
        sand = sketch.boxes(made.pixels.labels(made.plan.sketch))[2]
        self.assertEqual(sand, (0, 100, 240, 60))
