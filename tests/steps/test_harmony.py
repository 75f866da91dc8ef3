"""Schemes: found in pictures, chosen, turned."""

import unittest

import numpy as np

from umber_compass.colour.spaces import hue_distance
from umber_compass.colour.wheels import WHEELS, hue_at
from umber_compass.plan import edits, harmony_edits
from umber_compass.plan.model import Pinned, Planned
from umber_compass.steps.harmony import colours as colouring
from umber_compass.steps.harmony import scheme as harmony
from umber_compass.steps.harmony.schemes import SCHEMES


class Harmony(unittest.TestCase):
    def scheme(self, name, wheel="painter", lead=200.0):
        spec = SCHEMES[name]
        return harmony.Scheme(
            wheel=wheel, name=name, lead_deg=lead, spread_deg=float(spec.spread_deg)
        )

    def test_every_scheme_is_found_again_in_its_own_picture(self):
        for name, spec in SCHEMES.items():
            for wheel in WHEELS:
                scheme = self.scheme(name, wheel)
                angles = harmony.needle_angles(scheme)
                slots = [n.slot for n in spec.needles]
                area = np.array([0.6] + [0.4 / len(slots)] * (len(slots) - 1))
                hues = np.array([float(hue_at(wheel, angles[s])) for s in slots])
                found = harmony.fit_picture(hues, np.full(len(slots), 0.12), area, wheel).scheme
                with self.subTest(scheme=name, wheel=wheel):
                    self.assertEqual(found.name, name)
                    self.assertLess(abs(float(hue_distance(found.lead_deg, 200))), 12)

    def test_a_sparing_accent_counts_and_greys_do_not(self):
        hues = hue_at("painter", np.array([200.0, 200, 20, 90]))
        found = harmony.fit_picture(
            hues, np.array([0.05, 0.05, 0.2, 0.001]), np.array([0.5, 0.3, 0.02, 0.18])
        )
        self.assertEqual(found.scheme.name, "opposites")

    def test_a_grey_picture_still_has_a_scheme(self):
        found = harmony.fit_picture(np.zeros(2), np.zeros(2), np.ones(2))
        self.assertEqual(found.scheme.name, "one-hue")

    def test_stray_is_measured_from_the_arcs_edge(self):
        scheme = self.scheme("opposites", "perceptual", 100.0)
        for hue, stray in ((100, 0), (118, 0), (125, 7), (280, 0), (255, 7)):
            self.assertAlmostEqual(
                harmony.stray_deg(harmony.slot_hues(scheme), hue, 18)[0], stray, places=3
            )

    def test_changing_the_scheme_leaves_every_colour_a_slot(self):
        for old in SCHEMES:
            for new in SCHEMES:
                plan = _plan(
                    self.scheme(old),
                    [Planned(slot=n.slot, value=50, chroma=0.1) for n in SCHEMES[old].needles],
                )
                after = edits.study(harmony.choose_scheme(new).apply(plan))
                self.assertLessEqual(
                    {c.slot for c in after.colours.values()}, {n.slot for n in SCHEMES[new].needles}
                )

    def test_another_wheel_keeps_the_leading_hue(self):
        plan = _plan(self.scheme("triad"), [Planned(slot="A", value=50, chroma=0.1)])
        for wheel in WHEELS:
            after = edits.study(harmony.choose_wheel(wheel).apply(plan)).scheme
            before = harmony.slot_hues(self.scheme("triad"))["A"]
            self.assertAlmostEqual(
                float(hue_distance(harmony.slot_hues(after)["A"], before)), 0, delta=0.2
            )

    def test_turning_moves_planned_and_tinted_grey_and_leaves_pinned(self):
        colours = [
            Planned(slot="A", value=50, chroma=0.1),
            Planned(slot="grey", value=40, chroma=0.012, hue_offset_deg=5),
            Pinned(hex="#c08060"),
        ]
        plan = _plan(self.scheme("opposites"), colours)
        turned = edits.study(harmony_edits.turn_lead(20).apply(plan))
        before = colouring.region_colours(edits.study(plan).scheme, edits.study(plan).colours)
        after = colouring.region_colours(turned.scheme, turned.colours)
        self.assertGreater(
            abs(float(hue_distance(before["r1"].first.hue, after["r1"].first.hue))), 90
        )
        self.assertGreater(
            abs(float(hue_distance(before["r2"].first.hue, after["r2"].first.hue))), 60
        )
        self.assertEqual(after["r3"].first.hex, "#c08060")
        self.assertAlmostEqual(after["r1"].first.value, 50, delta=0.4)


def _plan(scheme, colours):
    from umber_compass.plan.model import Plan, Region, Sketch, Study

    made = {f"r{i + 1}": c for i, c in enumerate(colours)}
    regions = tuple(Region(id=r, label=i + 1, name=r, role="figure") for i, r in enumerate(made))
    kept = Sketch(file_name="x.png", hash="0" * 64, size=(8, 8), kind="flats")
    study = Study(id="s1", title="x", scheme=scheme, colours=made)
    return Plan(title="x", current_study="s1", sketch=kept, regions=regions, studies=(study,))
