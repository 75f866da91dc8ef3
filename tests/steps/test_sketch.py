"""A sketch brought in: names, roles, the first plan."""

import unittest

import numpy as np

from tests import scenes
from umber_compass.colour.measured import measure_hex
from umber_compass.colour.packed import unpack
from umber_compass.plan import edits
from umber_compass.steps.harmony.scheme import slot_hues
from umber_compass.steps.pipeline import Pipeline, picture
from umber_compass.steps.sketch import naming, start
from umber_compass.steps.sketch.kinds import AUTO, KINDS, kind_of_sketch
from umber_compass.words import Refusal


class Names(unittest.TestCase):
    def test_a_colour_is_called_by_its_hue_and_shade(self):
        for colour, name in (
            ("#d0302a", "red"),
            ("#d03050", "rose"),
            ("#e07aa8", "pink"),
            ("#ff9fd0", "pale pink"),
            ("#2f7580", "blue-green"),
            ("#123a40", "dark blue-green"),
            ("#808080", "grey"),
            ("#ffffff", "white"),
            ("#050505", "black"),
        ):
            with self.subTest(colour):
                self.assertEqual(naming.colour_name(measure_hex(colour)), name)

    def test_a_hue_under_five_degrees_is_the_last_of_the_circle(self):
        base = measure_hex("#d03040")._replace(value=55.0)
        for hue, name in (
            (0.0, "pink"),
            (4.9, "pink"),
            (5.0, "rose"),
            (22.0, "red"),
            (359, "pink"),
        ):
            self.assertEqual(naming.colour_name(base._replace(hue=hue)), name)

    def test_same_names_are_numbered_and_others_not(self):
        colours = [measure_hex(c) for c in ("#2f7580", "#d0302a", "#2f7680")]
        self.assertEqual(naming.region_names(colours), ["blue-green 1", "red", "blue-green 2"])


class Roles(unittest.TestCase):
    def roles(self, *shapes, size=(240, 160)):
        drawn = scenes.draw(shapes, size, 1)
        _, labels = np.unique(drawn.reshape(-1, 3), axis=0, return_inverse=True)
        colours = [
            measure_hex("#" + bytes(c).hex()) for c in np.unique(drawn.reshape(-1, 3), axis=0)
        ]
        found = start.guess_roles((labels + 1).reshape(size[1], size[0]).astype(np.uint16), colours)
        return {c.hex: r for c, r in zip(colours, found, strict=True)}

    def test_ground_figure_middle_ground_and_line(self):
        found = self.roles(
            ("rectangle", (0, 0, 240, 160), "#8090a0"),
            ("rectangle", (0, 150, 10, 160), "#a08060"),
            ("ellipse", (60, 40, 100, 90), "#c04040"),
            ("rectangle", (20, 20, 220, 22), "#101010"),
            ("rectangle", (20, 120, 220, 122), "#e0e0e0"),
        )
        self.assertEqual(found["#8090a0"], "ground")
        self.assertEqual(found["#a08060"], "middle ground")
        self.assertEqual(found["#c04040"], "figure")
        self.assertEqual(found["#101010"], "line")
        self.assertEqual(found["#e0e0e0"], "figure")  # thin, but no dark

    def test_a_large_region_off_the_frame_is_ground_all_the_same(self):
        found = self.roles(
            ("rectangle", (0, 0, 240, 160), "#8090a0"), ("rectangle", (60, 40, 160, 120), "#c04040")
        )
        self.assertEqual(found["#c04040"], "ground")


class FirstPlan(scenes.InFolder):
    def test_an_unchanged_plan_gives_the_picture_back(self):
        made, pipeline = self.bring_in()
        shown = unpack(picture(pipeline.derive(made.plan))).astype(int)
        off = np.abs(shown - scenes.draw()).max(axis=2)
        self.assertGreater((off == 0).mean(), 0.97)
        self.assertLessEqual(np.percentile(off, 99.9), 4)

    def test_roles_names_and_focus(self):
        made, _ = self.bring_in(focus=(197, 30))
        by_hex = {c: r for r, c in zip(made.plan.regions, self.hexes(made), strict=True)}
        self.assertEqual(by_hex[scenes.SUN].role, "focus")
        self.assertEqual(by_hex[scenes.SEA].role, "ground")
        self.assertEqual(by_hex[scenes.HULL].role, "figure")
        self.assertEqual(len({r.name for r in made.plan.regions}), 5)
        with self.assertRaisesRegex(Refusal, "focus"):
            self.bring_in(focus=(900, 30))

    def hexes(self, made):
        colours = Pipeline(made.pixels.drawings).derive(made.plan).colours
        return [colours[r.id].first.hex for r in made.plan.regions]

    def test_colours_are_said_in_the_schemes_terms(self):
        made, _ = self.bring_in()
        study = edits.study(made.plan)
        hues = slot_hues(study.scheme)
        for colour in study.colours.values():
            self.assertIn(colour.slot, hues)
        self.assertEqual(
            sorted(self.hexes(made)),
            sorted([scenes.SEA, scenes.SAND, scenes.HULL, scenes.SAIL, scenes.SUN]),
        )

    def test_the_title_is_the_files_name_as_a_person_would_write_it(self):
        for name, title in (
            ("a-boat_at sea.v2.png", "A boat at sea.v2"),
            (".png", "Untitled"),
            ("ßoat.png", "SSoat"),
            ("x" * 400 + ".png", "X" + "x" * 199),
        ):
            self.assertEqual(start.title_from(name), title)
            self.assertLessEqual(len(start.title_from("ŉ" * 200 + ".png")), 200)

    def test_kinds(self):
        self.assertEqual({k: s.name for k, s in KINDS.items()}, {k: k for k in KINDS})
        self.assertIs(kind_of_sketch(AUTO), kind_of_sketch("flats"))
        made, _ = self.bring_in()
        self.assertEqual((made.plan.sketch.kind, made.plan.sketch.size), ("flats", (240, 160)))
