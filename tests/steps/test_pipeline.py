"""Stages: found again, worked out once, shared."""

from tests import scenes
from umber_compass.plan import harmony_edits, sketch_edits


class Pipelines(scenes.InFolder):
    def test_the_same_plan_gives_the_very_same_objects_and_a_title_recomputes_nothing(self):
        made, pipeline = self.bring_in()
        first = pipeline.derive(made.plan)
        again = pipeline.derive(sketch_edits.set_title("Other").apply(made.plan))
        for name in ("codes", "colours", "table", "values", "shares", "rules"):
            self.assertIs(getattr(first, name), getattr(again, name), name)
        turned = pipeline.derive(harmony_edits.turn_lead(10).apply(made.plan))
        self.assertIs(turned.codes, first.codes)
        self.assertIsNot(turned.table, first.table)
        self.assertFalse(turned.table.flags.writeable)

    def test_histogram_and_extremes_are_shares_of_the_picture(self):
        made, pipeline = self.bring_in()
        values = pipeline.derive(made.plan).values
        self.assertAlmostEqual(float(values.histogram.sum()), 1)
        self.assertAlmostEqual(
            values.extremes,
            float(values.histogram[:20].sum() + values.histogram[80:].sum()),
            places=6,
        )
