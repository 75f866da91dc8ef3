"""Every number of the practice decides something: changed, it changes a verdict or a result, and
not only the sentence about it."""

import unittest
from functools import partial

import numpy as np
from msgspec.structs import replace

from tests import scenes
from umber_compass import document
from umber_compass.colour.packed import pack, unpack
from umber_compass.demo.plans import DEMOS
from umber_compass.document.painting import compare
from umber_compass.plan import edits
from umber_compass.plan.light_edits import light_on
from umber_compass.plan.model import Ramp
from umber_compass.plan.moods import MOODS
from umber_compass.plan.practices.general import PRACTICE
from umber_compass.plan.ramp_edits import set_all_recipes
from umber_compass.plan.settings import change_setting
from umber_compass.plan.study_edits import set_mood
from umber_compass.steps.checks import CHECKS
from umber_compass.steps.checks.judging import judge, measure_all
from umber_compass.steps.focus.falloff import wished
from umber_compass.steps.harmony.scheme_edits import choose_scheme
from umber_compass.steps.harmony.shifts import shift_values
from umber_compass.steps.mending.balance import balance
from umber_compass.steps.pictures import picture
from umber_compass.steps.pipeline import Pipeline
from umber_compass.steps.studies.growing import grow
from umber_compass.words import Refusal

IN_THE_WINDOW = {"picture.smooth"}  # how px are shown: tests/window/test_sketch_bench.py


def verdicts(derived):
    """What the checks find, and what follows from the numbers beside them; no sentence, and not
    what is wished: that is the number itself."""
    seen = derived.of(derived.plan).think()
    return said(measure_all(seen)), seen.wishes, seen.budget, seen.shading, repr(seen.ramps)


def said(found):
    return sorted(
        (r.check, r.level, r.regions, round(r.measured, 3), r.title.template) for r in found
    )


def verdict(check, derived):
    """What one check finds."""
    return said(check.results(derived.of(derived.plan).think() if check.looks else derived))


def fixes(derived):
    found = (r.fixes[0] for r in judge(derived) if r.fixes)
    return [f.edit.apply(derived.plan) for f in found]


def echoes(derived):
    """Where a hue that appears once could be echoed."""
    seen = derived.of(derived.plan).think()
    check = CHECKS["echo"]
    lonely = [r for r in check.measure(seen) if r.level != "fine"]
    return [[f.id for f in check.candidates(seen, r)] for r in lonely]


def grown(derived):
    try:
        return grow(derived, ["turn"], 3).studies
    except Refusal:
        return None


def falloffs(derived):
    return [wished({}, derived.rules, of) for of in ("chroma", "contrast", "hue")]


def moved(derived):
    return balance(derived).moved


def focused(plan):
    """A dark picture whose regions have every role, so that each is asked to move."""
    roles = ("focus", "middle ground", "figure", "ground", "middle ground")
    regions = tuple(replace(r, role=one) for r, one in zip(plan.regions, roles, strict=True))
    dark = shift_values({r.id: -30.0 for r in regions})
    return dark(replace(plan, regions=regions))


def half_lost(plan):
    """The largest region as a figure before all others; only some part from it in value."""
    sea, sand = plan.regions[0].id, plan.regions[1].id
    roles = {sea: "figure"}
    regions = tuple(replace(r, role=roles.get(r.id, "ground")) for r in plan.regions)
    own = edits.study(plan).colours
    same = replace(own[sand], value=own[sea].value)
    return edits.with_colours(replace(plan, regions=regions), {sand: same})


def by_all(value):
    return lambda plan: shift_values({r.id: value for r in plan.regions})(plan)


def shiny(plan):
    """A lit plan whose focus is dull and dark, and whose window frame is of metal."""
    for region in plan.regions:
        material = "metal" if region.role not in ("focus", "figure") else "cloth"
        plan = change_setting("region.REGION.material", material, region.id).apply(plan)
    return change_setting("light.highlights", True).apply(light_on(plan))


# Numbers that decide over more than what checks find: which result they change, of which work.
def drifted(derived):
    """What is told of a painting of the bakery whose sea is darker, awning greyer, door turned."""
    rgb = unpack(picture(derived)).astype(int)
    labels = {r.name: derived.drawing.labels == r.label for r in derived.regions}
    rgb[labels["sea"]] -= 24
    rgb[labels["door"]] += (-30, 10, 0)
    awning = labels["awning"]
    rgb[awning] = (rgb[awning] * 0.6 + rgb[awning].mean(axis=1, keepdims=True) * 0.4).round()
    packed = pack(np.clip(rgb, 0, 255).astype(np.uint8))
    return [(d.region, d.drifted) for d in compare(derived, packed, "painting").drifts]


RESULTS = {
    "painting": (drifted, ("bakery",)),
    "echo.small": (echoes, ("boat of neighbours", "boat", "hedgehog", "kettle", "bakery")),
    "fix": (fixes, ("lit hedgehog", "boat")),
    "falloff": (falloffs, ("boat",)),
    "balance": (moved, ("boat with a focus", "dark bakery", "light bakery")),
    "studies": (grown, ("boat",)),
}


class EveryNumber(scenes.InFolder):
    def setUp(self):
        super().setUp()
        demos = [document.open_plan(scenes.small(d.plan)) for d in DEMOS]
        boat, _ = self.bring_in()
        bakery, hedgehog = demos[0], demos[-1]
        # The same drawing as other pieces of work: lit, held to a mood, of one hue, by other ramps.
        works = {
            "boat": (boat, boat.plan),
            "boat of neighbours": (boat, choose_scheme("neighbours").apply(boat.plan)),
            "boat in hsb": (boat, set_all_recipes(Ramp(recipe="hsb-sum")).apply(boat.plan)),
            "boat with a focus": (boat, focused(boat.plan)),
            "boat half lost": (boat, half_lost(boat.plan)),
            "hedgehog": (hedgehog, hedgehog.plan),
            "lit hedgehog": (hedgehog, light_on(hedgehog.plan)),
            "bakery": (bakery, bakery.plan),
            "lit bakery": (bakery, light_on(bakery.plan)),
            "shiny bakery": (bakery, shiny(bakery.plan)),
            "dark bakery": (bakery, by_all(-30.0)(bakery.plan)),
            "light bakery": (bakery, by_all(25.0)(bakery.plan)),
            "kettle": (demos[1], demos[1].plan),
            "bakery of one hue": (bakery, choose_scheme("one-hue").apply(bakery.plan)),
            **{m: (boat, set_mood(m).apply(boat.plan)) for m in MOODS},
        }
        pipelines = {id(made): Pipeline(made.pixels.drawings) for made, _ in works.values()}
        self.works = {name: (pipelines[id(made)], plan) for name, (made, plan) in works.items()}
        self.known = {}

    def result(self, work, name, overrides):
        pipeline, plan = self.works[name]
        key = (getattr(work, "args", work), name, tuple(overrides.items()))
        if key not in self.known:
            self.known[key] = work(pipeline.derive(replace(plan, overrides=overrides)))
        return self.known[key]

    def decides(self, rule):
        first = rule.key.partition(".")[0]
        every = tuple(self.works)
        work, names = RESULTS.get(rule.key, RESULTS.get(first, (verdicts, every)))
        # Most numbers are those of a check, which is quicker to ask alone.
        alone = work is verdicts and first in CHECKS
        if alone and self.changes(rule, partial(verdict, CHECKS[first]), every):
            return True
        return self.changes(rule, work, names)

    def changes(self, rule, work, names):
        near = (rule.number * 0.6, rule.number * 1.5)
        numbers = [min(max(n, rule.low), rule.high) for n in (rule.low, rule.high, *near)]
        return any(
            self.result(work, name, {rule.key: number}) != self.result(work, name, {})
            for name in names
            for number in numbers
        )

    def test_it_changes_what_is_found_or_made(self):
        for rule in PRACTICE.rules:
            if rule.key not in IN_THE_WINDOW:
                with self.subTest(rule.key):
                    self.assertTrue(self.decides(rule))


if __name__ == "__main__":
    unittest.main()
