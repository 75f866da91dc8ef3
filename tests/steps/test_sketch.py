"""A sketch brought in: names, roles, the first plan."""

import unittest

import numpy as np

from tests import scenes
from umber_compass.colour.measured import measure, measure_hex
from umber_compass.colour.packed import unpack
from umber_compass.plan import edits
from umber_compass.steps.harmony import colour_words
from umber_compass.steps.harmony.scheme import slot_hues
from umber_compass.steps.pictures import picture
from umber_compass.steps.pipeline import Pipeline
from umber_compass.steps.sketch import naming, roles, start
from umber_compass.steps.sketch.kinds import KINDS
from umber_compass.words import Refusal


class Names(unittest.TestCase):
    def test_a_colour_is_called_by_its_hue_and_shade(self):
        for colour, name in (
            ("#d0302a", "red"),
            ("#2f7580", "teal"),
            ("#808080", "grey"),
            ("#ffffff", "white"),
            ("#050505", "black"),
            ("#e0ac8c", "apricot"),
            ("#1d2b4a", "navy"),
            ("#9fb08a", "sage"),
        ):
            with self.subTest(colour):
                self.assertEqual(colour_words.colour_name(measure_hex(colour)), name)

    def test_names_are_words_and_all_different(self):
        rng = np.random.default_rng(4)
        plain = total = 0
        for count in (1, 8, 24, 40, 120):
            colours = [measure(c) for c in rng.random((count, 3))]
            names = naming.region_names(colours, rng.random(count).tolist())
            self.assertEqual(len(set(names)), count)
            self.assertFalse([n for n in names if any(c.isdigit() for c in n)])
            if count <= 40:
                plain += sum(" " not in n for n in names)
                total += count
        self.assertGreater(plain / total, 0.45)

    def test_the_largest_takes_its_word_and_a_word_runs_from_dark_to_light(self):
        greys = [measure_hex(c) for c in ("#7b7b7b", "#6f6f6f", "#868686", "#646464", "#929292")]
        names = naming.region_names(greys, [9.0, 5.0, 4.0, 3.0, 2.0])
        order = ["deep", "dark", "", "light", "pale"]
        for word in {n.split()[-1] for n in names}:
            own = [i for i in range(5) if names[i].split()[-1] == word]
            own = [i for i in own if names[i].removesuffix(word).strip() in order]
            own.sort(key=lambda i: greys[i].value)
            ranks = [order.index(names[i].removesuffix(word).strip()) for i in own]
            self.assertEqual(ranks, sorted(ranks), names)

    def test_regions_of_one_colour_are_told_apart_by_place(self):
        same = [measure_hex("#2f7580"), measure_hex("#d0302a"), measure_hex("#2f7680")]
        for places, names in (
            ([(0.8, 0.5), (0.5, 0.5), (0.2, 0.5)], ["right teal", "red", "left teal"]),
            ([(0.5, 0.1), (0.5, 0.5), (0.5, 0.9)], ["upper teal", "red", "lower teal"]),
        ):
            self.assertEqual(naming.region_names(same, [1.0, 1.0, 1.0], places), names)


class Roles(unittest.TestCase):
    def roles(self, *shapes, size=(240, 160)):
        drawn = scenes.draw(shapes, size, 1)
        _, labels = np.unique(drawn.reshape(-1, 3), axis=0, return_inverse=True)
        colours = [
            measure_hex("#" + bytes(c).hex()) for c in np.unique(drawn.reshape(-1, 3), axis=0)
        ]
        found = roles.guess_roles((labels + 1).reshape(size[1], size[0]).astype(np.uint16), colours)
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

    def test_a_large_thing_on_plain_ground_is_figure(self):
        found = self.roles(
            ("rectangle", (0, 0, 240, 160), "#8090a0"), ("rectangle", (60, 40, 160, 120), "#c04040")
        )
        self.assertEqual(found["#c04040"], "figure")


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
        made, _ = self.bring_in()
        self.assertEqual((made.plan.sketch.kind, made.plan.sketch.size), ("flats", (240, 160)))
