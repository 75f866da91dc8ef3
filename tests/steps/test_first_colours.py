"""First colours: six proposals of a drawing that has none, what is told is held, what is kept
stays."""

import unittest

import numpy as np
from msgspec.structs import replace

from bench.first_colours import opened, told
from bench.uncoloured import OWL, PORTRAIT, STILL
from tests import scenes
from umber_compass.colour.measured import measure_hex
from umber_compass.colour.packed import unpack
from umber_compass.colour.spaces import cielab, decode
from umber_compass.plan.edits import study, with_scheme
from umber_compass.plan.first import First
from umber_compass.plan.first_edits import keep_colours, see_first, set_lights
from umber_compass.plan.model import Pinned
from umber_compass.plan.study_edits import choose_study, renew_proposals
from umber_compass.plan.wish_edits import lock
from umber_compass.steps.first.fewer import fewer
from umber_compass.steps.first.lights import in_light
from umber_compass.steps.first.materials import MATERIALS, material_of
from umber_compass.steps.first.propose import propose
from umber_compass.steps.first.search import Mix
from umber_compass.steps.first.task import SKINS, task_of
from umber_compass.steps.focus.calm import calm
from umber_compass.steps.harmony.colours import region_colours
from umber_compass.steps.harmony.edits import give_hue, give_several, pin_to
from umber_compass.steps.harmony.fields import other_patches, vary
from umber_compass.steps.harmony.living import held, turn_lead
from umber_compass.steps.harmony.mapping import map_palette
from umber_compass.steps.harmony.picking import BEYOND, colour_at, mixed, plane, with_saturation
from umber_compass.steps.harmony.touching import Touching
from umber_compass.steps.harmony.zones import place_zones, set_zones, upright_axis
from umber_compass.steps.pictures import picture
from umber_compass.steps.pipeline import Pipeline
from umber_compass.steps.studies.growing import grow
from umber_compass.steps.values.pushes import PARTS, move_part, part_figures, stretch_part
from umber_compass.words import Refusal

SMALL = PORTRAIT._replace(size=(410, 520))


class Drawn(unittest.TestCase):
    """A drawing brought in, and what is proposed for it."""

    def take(self, piece=SMALL, greys=False, says=True, **first):
        found = opened(piece, greys)
        plan = replace(found.plan, first=First(**first))
        if says:
            plan = told(plan, piece, found.pixels.labels(plan.sketch))
        self.pipeline = Pipeline(found.pixels.drawings)
        return self.pipeline.derive(plan)

    def shown(self, derived, one):
        plan = replace(derived.plan, studies=(one,), current_study=one.id)
        return self.pipeline.derive(plan)

    def hexes(self, derived, one):
        return {r: c.first.hex for r, c in self.shown(derived, one).colours.items()}

    def made_of(self, derived, material):
        return [r.id for r in derived.regions if r.material == material]


class Proposals(Drawn):
    def test_six_that_differ_lead_and_are_the_same_for_the_same_plan(self):
        derived = self.take()
        found = propose(derived)
        self.assertEqual(len(found.studies), 6)
        self.assertGreater(found.nearest, 0.03)
        leads = [self.shown(derived, s).think().attention.lead for s in found.studies]
        self.assertGreaterEqual(sum(lead >= 1.2 for lead in leads), 5, leads)
        again = propose(derived)
        self.assertEqual(
            [self.hexes(derived, s) for s in found.studies],
            [self.hexes(derived, s) for s in again.studies],
        )
        other = propose(self.pipeline.derive(replace(derived.plan, first=First(seed=2))))
        self.assertNotEqual(
            self.hexes(derived, found.studies[0]), self.hexes(derived, other.studies[0])
        )

    def test_a_face_is_found_and_has_one_skin_in_all_six(self):
        found = opened(SMALL)
        labels = found.pixels.labels(found.plan.sketch)
        whole = told(found.plan, SMALL, labels)
        face = next(r.id for r in whole.regions if r.role == "focus")
        truth = {r.id: r.material for r in whole.regions}
        plan = see_first(found.plan, face, material="skin").apply(found.plan)
        self.pipeline = Pipeline(found.pixels.drawings)
        derived = self.pipeline.derive(plan)
        task = task_of(derived.think(), {})
        known = {
            r.id: task.things.material[t]
            for r, t in zip(derived.regions, task.things.of, strict=True)
        }
        for material in ("hair", "skin", "lips"):
            mine = [r for r, m in truth.items() if m == material]
            right = [r for r in mine if known[r] == material]
            self.assertGreaterEqual(len(right), 0.6 * len(mine), material)
        hues = []
        for one in propose(derived).studies:
            seen = self.shown(derived, one).colours[face].first
            hues.append(seen.hue)
            self.assertLess(abs(seen.value - SKINS["light"][0]), 18)
            self.assertLess(seen.chroma, MATERIALS["skin"].noon.high_chroma + 0.02)
        self.assertLess(max(hues) - min(hues), 14)
        dark = self.pipeline.derive(replace(plan, first=First(skin="dark")))
        self.assertLess(self.shown(dark, propose(dark).studies[0]).colours[face].first.value, 56)

    def test_what_is_kept_is_exact_and_the_rest_is_other(self):
        derived = self.take(says=False)
        before = propose(derived)
        one = self.hexes(derived, before.studies[1])
        largest = sorted(derived.shares, key=lambda r: -derived.shares[r])
        kept = {r: one[r] for r in largest[:3]}
        after = propose(derived, kept=kept, known=before.studies)
        for made in after.studies:
            shown = self.hexes(derived, made)
            self.assertEqual({r: shown[r] for r in kept}, kept)
        free = 1 - sum(derived.shares[r] for r in kept)
        self.assertGreater(after.nearest, 0.04 * free)
        plan = keep_colours(kept, scenes.NOTHING).apply(derived.plan)
        self.assertEqual(plan.first.kept, kept)
        again = propose(self.pipeline.derive(plan)).studies[0]
        self.assertEqual({r: self.hexes(derived, again)[r] for r in kept}, kept)

    def test_told_materials_have_their_colours_in_each_light(self):
        for light, low, high in (("noon", 218, 262), ("night", 258, 290)):
            derived = self.take(OWL._replace(size=(500, 400)), lights=(light,))
            (sky,) = self.made_of(derived, "sky")[:1]
            for one in propose(derived).studies:
                seen = self.shown(derived, one).colours[sky].first
                self.assertTrue(low - 16 <= seen.hue <= high + 16 or seen.chroma < 0.03, light)
                bright = seen.value > 60
                self.assertEqual(bright, light == "noon", (light, seen.value))

    def test_every_light_that_is_wanted_is_among_the_six(self):
        every = ("noon", "overcast", "dusk", "night", "festive")
        derived = self.take(STILL._replace(size=(275, 215)), lights=every)
        self.assertEqual({way.light for way in propose(derived).ways}, set(every))

    def test_values_are_kept_or_their_order_is(self):
        still = STILL._replace(size=(550, 430))
        derived = self.take(still, greys=True, says=False)  # greys keep their values unasked
        before = {r: c.mean_value for r, c in derived.colours.items()}
        for one in propose(derived).studies:
            for r, c in self.shown(derived, one).colours.items():
                self.assertAlmostEqual(c.mean_value, before[r], delta=0.6)
        kept = {max(derived.shares, key=derived.shares.get): "#406030"}
        for one in propose(derived, kept=kept).studies:
            shown = self.hexes(derived, one)
            self.assertEqual({r: shown[r] for r in kept}, kept)
        ordered = self.take(still, greys=True, says=False, values="order")
        rank = sorted(before, key=before.get)
        moved = 0.0
        for one in propose(ordered).studies:
            shown = [self.shown(ordered, one).colours[r].mean_value for r in rank]
            self.assertGreater(min(np.diff(shown)), -0.6)
            moved = max(moved, *(abs(shown[i] - before[r]) for i, r in enumerate(rank)))
        self.assertGreater(moved, 8)

    def test_a_budget_of_two_is_kept_and_more_like_one_has_its_scheme(self):
        derived = self.take(says=False)
        two = self.pipeline.derive(replace(derived.plan, budget=2))
        for one in propose(two).studies:
            self.assertLessEqual(self.shown(two, one).needed, 2)
        first = propose(derived).studies[0]
        for one in propose(derived, like=first).studies:
            self.assertEqual(one.scheme, first.scheme)

    def test_stronger_is_stronger_and_warmer_is_warmer(self):
        def chroma(**first):
            derived = self.take(says=False, **first)
            rows = [self.shown(derived, s) for s in propose(derived).studies]
            strong = [sum(d.shares[r] * c.first.chroma for r, c in d.colours.items()) for d in rows]
            return np.mean(strong), np.mean([d.temperature.warm for d in rows])

        self.assertGreater(chroma(strength=1.5)[0], 1.25 * chroma(strength=0.5)[0])
        self.assertGreater(chroma(warm=1.0)[1], chroma(warm=0.0)[1] + 0.3)


class BadInput(Drawn):
    def test_what_cannot_be_is_said_in_a_line(self):
        derived = self.take(says=False)
        plan = derived.plan
        for region in plan.regions:
            plan = lock(region.id, True, region.name).apply(plan)
        with self.assertRaisesRegex(Refusal, "free one"):
            propose(self.pipeline.derive(plan))

    def test_grounds_alone_and_one_region_are_proposed_for(self):
        derived = self.take(says=False)
        grounds = tuple(replace(r, role="ground") for r in derived.regions)
        found = propose(self.pipeline.derive(replace(derived.plan, regions=grounds)))
        self.assertEqual(len(found.studies), 6)
        self.assertIn("Nothing looks like a focus", str(found.notes[0]))
        folder = scenes.InFolder("setUp")
        folder.setUp()
        self.addCleanup(folder.doCleanups)
        folder.sketch.write_bytes(scenes.encoded(np.full((80, 120, 3), 150, np.uint8)))
        made, pipeline = folder.bring_in()
        self.assertEqual(len(propose(pipeline.derive(made.plan)).studies), 6)

    def test_a_line_as_focus_a_lock_against_its_material_and_a_scheme_without_a_hue(self):
        derived = self.take()
        line = next(r for r in derived.regions if r.role == "line")
        plan = see_first(derived.plan, line.id).apply(derived.plan)
        notes = propose(self.pipeline.derive(plan)).notes
        self.assertIn("is a line", str(notes[0]))
        face = next(r for r in derived.regions if r.material == "skin" and r.role == "focus")
        plan = pin_to(face.id, "#20c040", face.name).apply(derived.plan)
        found = propose(self.pipeline.derive(plan))
        self.assertIn("seldom has that colour", str(found.notes[0]))
        for one in found.studies:
            self.assertEqual(self.hexes(derived, one)[face.id], "#20c040")
        plan = replace(derived.plan, first=First(scheme="wheel"))
        plan = with_scheme(plan, name="one-hue", lead_deg=200.0, chosen=True)
        found = propose(self.pipeline.derive(plan))
        self.assertRegex(str(found.notes[-1]), "has no hue for .*; .* would")
        self.assertEqual({s.scheme.lead_deg for s in found.studies}, {200.0})

    def test_an_unknown_light_is_refused(self):
        with self.assertRaisesRegex(Refusal, "take noon, overcast"):
            set_lights(["noon", "tea"])


class Kept(Drawn):
    """What is one colour stays, what is skin stays skin."""

    def setUp(self):
        self.derived = self.take()
        self.one = propose(self.derived).studies[0]
        self.plan = replace(self.derived.plan, studies=(self.one,), current_study=self.one.id)
        self.face = next(r.id for r in self.derived.regions if r.role == "focus")

    def seen(self, plan, region):
        return self.pipeline.derive(plan).colours[region].first

    def test_skin_and_locked_colours_hold_through_turns_and_rules(self):
        before = self.seen(self.plan, self.face)
        coat = next(r.id for r in self.derived.regions if r.material == "cloth")
        plan = lock(coat, True, "coat").apply(self.plan)
        locked = self.seen(plan, coat).hex
        turned = turn_lead(study(plan).scheme.lead_deg + 120).apply(plan)
        for made in (turned, *self._grown(plan)):
            face = self.seen(made, self.face)
            self.assertLess(abs((face.hue - before.hue + 180) % 360 - 180), 3)
            self.assertGreater(face.chroma, 0.6 * before.chroma)
            self.assertEqual(self.seen(made, coat).hex, locked)
        free = tuple(replace(r, material="any") if r.id == self.face else r for r in plan.regions)
        turned = turn_lead(study(plan).scheme.lead_deg + 120).apply(replace(plan, regions=free))
        face = self.seen(turned, self.face)
        self.assertGreater(abs((face.hue - before.hue + 180) % 360 - 180), 30)
        self.assertIs(held(plan, plan), plan)

    def _grown(self, plan):
        rules = ("turn", "lead", "scheme", "temperature", "mood")
        found = grow(self.pipeline.derive(plan), rules, 5)
        return [replace(plan, studies=(s,), current_study=s.id) for s in found.studies]

    def test_other_lights_keep_each_colour_near_its_own_and_the_order_of_values(self):
        found = grow(self.pipeline.derive(self.plan), ("daylight",), 4)
        self.assertEqual({s.title for s in found.studies}, {"Overcast", "Dusk", "Night", "Festive"})
        before = self.pipeline.derive(self.plan).colours
        rank = sorted(before, key=lambda r: before[r].first.value)
        for one in found.studies:
            after = self.shown(self.derived, one).colours
            values = [after[r].first.value for r in rank]
            self.assertGreater(min(np.diff(values)), -0.6)
            for r in rank:
                a, b = before[r].first, after[r].first
                if a.chroma > 0.04 and b.chroma > 0.04:  # else 8 bits turn it
                    self.assertLess(abs((a.hue - b.hue + 180) % 360 - 180), 16, one.title)
                    self.assertTrue(0.5 <= b.chroma / a.chroma <= 1.32)

    def test_proposals_wait_until_one_is_chosen(self):
        plan = renew_proposals((self.one, self.one)).apply(self.derived.plan)
        self.assertEqual([s.proposal for s in plan.studies], [False, True, True])
        plan = choose_study(plan, plan.studies[1].id).apply(plan)
        plan = renew_proposals((self.one,)).apply(plan)
        self.assertEqual([s.proposal for s in plan.studies], [False, False, True])

    def test_calm_and_pushes_keep_the_order_of_values(self):
        derived = self.pipeline.derive(self.plan).think()
        before = {r: c.first.value for r, c in derived.colours.items()}
        free = frozenset(before) - {self.face}
        rank = sorted(before, key=before.get)
        calmed = self.pipeline.derive(calm(derived.spots, 0.8, free).apply(self.plan)).think()
        self.assertEqual(calmed.colours[self.face].first.hex, derived.colours[self.face].first.hex)
        self.assertGreater(calmed.attention.lead, derived.attention.lead)
        others = [r for r in rank if r in free]
        after = [calmed.colours[r].first.value for r in others]
        self.assertGreater(min(np.diff(after)), -0.8)
        for edit in (
            *(move_part(p, by) for p in PARTS for by in (-20, 20)),
            *(stretch_part(p, by) for p in PARTS for by in (-60, 60)),
        ):
            moved = self.pipeline.derive(edit.apply(self.plan)).colours
            shown = [moved[r].first.value for r in rank]
            self.assertGreater(min(np.diff(shown)), -0.8, str(edit.name))
            self.assertLess(max(shown), 99.5)
        near = scenes.plan_of([scenes.planned(value=float(v)) for v in range(1, 60)])
        for by in (-20, 20):
            moved = study(move_part("darks", by).apply(near)).colours
            self.assertGreater(min(np.diff([moved[f"r{i}"].value for i in range(1, 60)])), 0.1)
        roles = {r.id: r.role for r in derived.regions}
        middle = np.mean([before[r] for r, role in roles.items() if role == "ground"])
        apart = self.pipeline.derive(part_figures(8).apply(self.plan)).colours
        for region, role in roles.items():
            gap = abs(apart[region].first.value - middle) - abs(before[region] - middle)
            self.assertAlmostEqual(gap, 8 if role in ("figure", "focus") else 0, delta=1.5)

    def test_near_colours_become_one_and_what_is_locked_does_not_move(self):
        task = task_of(self.derived.think(), {})
        many = task.things.many
        mix = Mix(np.linspace(50, 53, many), np.full(many, 0.05), np.full(many, 120.0))
        made = fewer(task._replace(locked={0: (50.0, 0.05, 120.0)}), mix)
        self.assertLess(len(np.unique(made.value.round(4))), many)
        self.assertEqual(made.value[0], 50.0)


class Fields(Drawn):
    """Zones and patches on the picture, and palettes laid over what regions are."""

    def test_zones_and_patches_turn_hue_alone_and_stay_within_their_region(self):
        derived = self.take()
        one = propose(derived).studies[0]
        plan = replace(derived.plan, studies=(one,), current_study=one.id)
        face = next(r for r in plan.regions if r.role == "focus")
        wall = next(r for r in plan.regions if r.material == "plaster")
        axis = upright_axis(derived.drawing, face.label)
        made = set_zones(face.id, "three-bands", 1.0, "face").apply(plan)
        self.assertTrue((self.px(made) == self.px(plan)).all())  # in the palette alone
        made = place_zones(face.id, axis, "face").apply(made)
        made = vary((wall.id,), 1.0, "wall").apply(made)
        before, after = self.px(plan), self.px(made)
        labels = self.pipeline.derive(plan).drawing.labels
        inside = np.isin(labels, (face.label, wall.label))
        core = np.zeros(labels.shape, bool)
        core[3:-3, 3:-3] = True
        for shift in ((3, 0), (-3, 0), (0, 3), (0, -3)):
            core &= np.roll(labels, shift, (0, 1)) == labels
        self.assertTrue((before == after)[core & ~inside].all())
        for region in (face, wall):
            own = core & (labels == region.label)
            lab = cielab(decode(after[own] / 255))
            self.assertLess(np.ptp(lab[:, 0]), 1.2)  # value kept
            self.assertGreater(np.ptp(lab[:, 1]) + np.ptp(lab[:, 2]), 2)
        rows = np.argwhere(core & (labels == face.label))
        brow, cheeks = (
            cielab(decode(after[tuple(rows[np.abs(rows[:, 0] - y).argmin()])] / 255))
            for y in (rows[:, 0].min(), np.quantile(rows[:, 0], 0.5))
        )
        self.assertGreater(cheeks[1], brow[1] + 2)  # redder
        other = other_patches((wall.id,), "wall").apply(made)
        self.assertFalse((self.px(other) == after).all())
        plain = self.px(vary((wall.id,), 0, "wall").apply(other))
        self.assertTrue((plain == before)[core & (labels == wall.label)].all())

    def px(self, plan):
        return unpack(picture(self.pipeline.derive(plan)))

    def test_a_palette_keeps_hues_of_figures_and_gives_skin_no_green(self):
        kinds = (("figure", "matte", "#d070a0"), ("ground", "matte", "#708060"),
                 ("figure", "skin", "#d0a080"))  # fmt: skip
        regions = tuple(
            scenes.region(i + 1, role, material=m) for i, (role, m, _) in enumerate(kinds)
        )
        colours = {f"r{i + 1}": Pinned(hex=h) for i, (_, _, h) in enumerate(kinds)}
        shown = {
            r: c._replace(first=c.first._replace(slot="A"))
            for r, c in region_colours(scenes.scheme(), colours).items()
        }
        ids = tuple(colours)
        touching = Touching(ids, np.array([[0, 1], [1, 2]]), np.array([50, 50]))
        shares = dict.fromkeys(ids, 1 / 3)
        # A green of the flower's value, and a darker pink.
        palette = ["#80b060", "#8c3c68", "#405048"]
        found = map_palette(palette, shown, shares, touching, regions)
        self.assertEqual(found["r1"], 1)
        self.assertNotIn("r3", found)
        found = map_palette([*palette, "#a06a48"], shown, shares, touching, regions)
        self.assertEqual(found["r3"], 3)


class Colours(unittest.TestCase):
    def test_a_name_or_a_material_tells_and_any_frees(self):
        for name, named, material, wanted in (
            ("red roofs", True, "matte", "brick"),
            ("sky", False, "matte", ""),
            ("sky", True, "any", "any"),
            ("sky", True, "water", "water"),
        ):
            region = scenes.region(1, "ground", name=name, named=named, material=material)
            self.assertEqual(material_of(region), wanted)

    def test_lights_darken_and_turn_and_noon_changes_nothing(self):
        row = np.array([70.0, 0.05, 55.0])
        np.testing.assert_allclose(in_light(row, "noon"), row)
        night, dusk = in_light(row, "night"), in_light(np.array([25.0, 0.05, 200.0]), "dusk")
        self.assertLess(night[0], 45)
        self.assertLess(night[1], 0.05)
        self.assertTrue(200 < dusk[2] < 300)

    def test_the_plane_mixing_and_saturation(self):
        shown = plane(250, 30, 40)
        self.assertEqual(shown.shape, (40, 30))
        self.assertEqual((shown[0, -1], shown[-1, -1]), (BEYOND, BEYOND))
        self.assertEqual(shown[0, 0], 0xFFFFFF)
        self.assertEqual(mixed("#000000", "#ffffff", 0.0), "#000000")
        middle = measure_hex(mixed("#000000", "#ffffff", 0.5))
        self.assertAlmostEqual(middle.value, 42.3, delta=1.5)
        dull = measure_hex(with_saturation("#3355aa", 30))
        self.assertAlmostEqual(dull.value, measure_hex("#3355aa").value, delta=0.4)
        self.assertLess(dull.chroma, 0.08)
        self.assertAlmostEqual(measure_hex(colour_at(60, 0.1, 30)).hue, 30, delta=1)

    def test_a_colour_is_given_to_several_or_only_its_hue(self):
        plan = scenes.plan_of([scenes.planned(value=30), Pinned(hex="#c0c0c0")])
        given = give_several(("r1", "r2"), "#3355aa", "r1").apply(plan)
        self.assertEqual(study(given).colours["r1"], study(given).colours["r2"])
        turned = give_hue("r2", "#3355aa", "r2").apply(plan)
        self.assertAlmostEqual(study(turned).colours["r2"].value, 77.7, delta=0.5)
        self.assertAlmostEqual(
            study(turned).colours["r2"].chroma, measure_hex("#3355aa").chroma, delta=1e-6
        )
