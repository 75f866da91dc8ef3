"""What follows from plans, as it was found good."""

import itertools
import unittest

import numpy as np
from msgspec.structs import replace

from tests import kept, scenes
from umber_compass import document
from umber_compass.colour import gamut
from umber_compass.colour.measured import measure, measure_hex
from umber_compass.colour.packed import unpack
from umber_compass.colour.spaces import decode, encode, value
from umber_compass.demo.plans import DEMOS
from umber_compass.picture.light import lights_of
from umber_compass.plan.light_edits import light_on, rig_of, with_rig
from umber_compass.plan.model import Ramp
from umber_compass.plan.practices.general import PRACTICE
from umber_compass.plan.rig import Lamp, Rig, Terminator
from umber_compass.steps import keys
from umber_compass.steps.checks import CHECKS, judging
from umber_compass.steps.handoff import palette
from umber_compass.steps.harmony import colour_words, fit
from umber_compass.steps.harmony.scheme import needle_angles, slot_hues, wished_shares
from umber_compass.steps.harmony.schemes import SCHEMES
from umber_compass.steps.light import lamps, volumes
from umber_compass.steps.light.exposure import light_at
from umber_compass.steps.light_views import LIGHT_VIEWS, in_part
from umber_compass.steps.pictures import exact_picture
from umber_compass.steps.pipeline import Pipeline
from umber_compass.steps.ramps.ramps import make_steps
from umber_compass.steps.ramps.recipes import RECIPES, path
from umber_compass.steps.ramps.recipes.recipe import Ask
from umber_compass.steps.sketch import roles as guessed
from umber_compass.steps.sketch import start
from umber_compass.steps.sketch.matching import match_regions
from umber_compass.steps.studies import growing

NUMBERS = {r.key: r.number for r in PRACTICE.rules}
BASES = ("#7a4fa0", "#c08040", "#2f7580", "#f4e8d2", "#1c2a30", "#808080", "#fac85d", "#d03040")
RIM = Lamp(name="rim", rank=2, hex="#6080ff", strength=70, direction=(0.7, 0.3, 0.65))


def ramps():
    asked = [Ramp(recipe=r, darker=5, lighter=4, degrees=d) for r in RECIPES for d in (None, 17.0)]
    return [[s.hex for s in make_steps(b, r, NUMBERS, Rig()).steps] for b in BASES for r in asked]


def schemes():
    found = []
    for name, wheel in itertools.product(SCHEMES, ("painter", "light", "perceptual")):
        made = scenes.scheme(name, wheel, 40.0, float(SCHEMES[name].spread_deg))
        found.append([name, needle_angles(made), slot_hues(made), wished_shares(made)])
    words = [[s.title, s.supports, s.answers, s.spread_deg] for s in SCHEMES.values()]
    return found, words


def fits():
    found = []
    for seed in range(30):
        rng = np.random.default_rng(seed)
        many = int(rng.integers(2, 9))
        colours = rng.uniform(0, 360, many), rng.uniform(0, 0.2, many), rng.random(many)
        got = fit.read_schemes(*colours).best
        found.append([got.scheme.name, got.scheme.lead_deg, got.cost, got.loss, got.fit])
    return found


def names():
    base = [
        measure(fit_colour(np.array(v), 0.1, float(h)))
        for v in (25, 55, 85)
        for h in range(0, 360, 3)
    ]
    greys = [measure(fit_colour(np.array(v / 2), 0.0, 0.0)) for v in range(201)]
    return [[list(g) for g in _runs(map(colour_words.colour_name, row))] for row in (base, greys)]


def fit_colour(value, chroma, hue):
    return encode(gamut.fit(value, chroma, hue))


def _runs(row):
    at = 0
    for name, group in itertools.groupby(row):
        yield at, name
        at += len(list(group))


def brought_in():
    """Sketches of 8 and of 60 regions: names, roles, colours in the scheme's terms."""
    found = []
    for many, size in ((8, (240, 160)), (60, (300, 200))):
        rng = np.random.default_rng(many)
        shapes = [("rectangle", (0, 0, *size), "#56707a")]
        for _ in range(many):
            x, y = rng.uniform(0, size[0]), rng.uniform(0, size[1])
            w, h = rng.uniform(3, 60, 2)
            colour = "#" + bytes(rng.integers(20, 240, 3).tolist()).hex()
            shapes.append(
                ("ellipse" if rng.random() < 0.5 else "rectangle", (x, y, x + w, y + h), colour)
            )
        split = scenes.split(scenes.draw(shapes, size))
        colours = [measure_hex("#" + bytes(c).hex()) for c in split.colours]
        roles = guessed.guess_roles(split.labels, colours)
        study = start.first_study(colours, split.labels)
        area = np.bincount(split.labels.reshape(-1))
        found.append(
            [study.scheme.name, study.scheme.lead_deg, list(zip(roles, area[1:], strict=True))]
        )
        found.append([[c.slot, c.hue_offset_deg] for c in study.colours.values()])
    return found


def stands():
    places = list(itertools.product((-1.3, -0.7, -0.1, 0.0, 0.4, 1.1), repeat=2))
    directions = [lamps.direction_at(*p) for p in places]
    words = [str(lamps.in_words(d)) for d in directions]
    stepped = [lamps.stepped(d, 10, -20) for d in directions]
    return directions, [lamps.place_of(d) for d in directions], words, stepped


def seen_volumes():
    found = []
    for direction, softness in (
        ((-0.6, -0.5, 0.62), 0.4),
        ((0.8, -0.2, 0.5), 0.0),
        ((0.1, 0.5, -0.8), 1.0),
    ):
        rig = Rig(lamps=(Lamp(direction=direction, softness=softness), RIM))
        drawn = value(decode(volumes.draw(volumes.scene(156, 58), lights_of(rig)) / 255))
        found.append(np.round(drawn[2::5, 3::6], 1))
    return found


def lights():
    turn = np.linspace(-1, 1, 9)
    rig = Rig(lamps=(Lamp(softness=0.6), RIM), terminator=Terminator(strength=50))
    return light_at(turn, np.linspace(0.2, 1, 9), lights_of(rig))


def demo():
    """Chart, values, views and checks of the demo in its own light and in two lamps'."""
    plan, pixels, *_ = document.open_plan(DEMOS[0].plan)
    pipeline, found = Pipeline(pixels.drawings), []
    rig = rig_of(plan)
    for now in (rig, replace(rig, lamps=(*rig.lamps, RIM), anchor="lit", crevice=40.0)):
        derived = pipeline.derive(with_rig(plan, now))
        rows = [[r.name, r.rest, *(c.hex for c in r.places.values())] for r in derived.chart[::3]]
        exact = unpack(exact_picture(derived))[40::160, 40::160]
        found.append([rows, derived.values.histogram[::4], derived.slot_shares, exact])
        found.append([unpack(in_part(derived, v))[100::300, 100::400] for v in LIGHT_VIEWS])
        found.append(judged(derived, pipeline))
    return found


def judged(derived, pipeline):
    results = judging.judge(derived)
    return [
        [
            r.check,
            r.level,
            r.regions,
            r.measured,
            str(r.title),
            str(r.text),
            [str(f.text) for f in r.fixes],
        ]
        for r in results
    ]


def boats():
    """Checks and fixes of plans made at random, and the palette."""
    from tests.steps.test_checks import Boat

    case = Boat("test_thresholds_come_from_the_plan")
    case.setUp()
    found = []
    for seed in range(6):
        plan = case.random_plan(seed)
        found.append(judged(case.pipeline.derive(plan), case.pipeline))
        mended, taken = judging.mend(plan, case.pipeline)
        colours = case.pipeline.derive(mended).colours
        found.append([[f.id for f in taken], [c.first.hex for c in colours.values()]])
    lit = case.pipeline.derive(light_on(plan))
    found.append([palette.palette_rows(lit), palette.chart_rows(lit), palette.comments(lit)])
    case.doCleanups()
    return found


def told():
    general = [[n, k.type, k.unit, k.range, t] for n, k, t in keys.keys_in_general()]
    views = [[v.title, v.says] for v in LIGHT_VIEWS.values()]
    recipes = [[r.title, r.says, r.turns, r.uses_light] for r in RECIPES.values()]
    checks = [[c.name, c.step] for c in CHECKS.values()]
    return general, views, recipes, checks, palette.KINDS, palette.SAYS


def turns():
    """How far shades and lights turn, all round."""
    hues, degrees = np.arange(0.0, 360.0, 11.0), np.array([4.0, 24.0, 90.0])
    none = Ask(np.zeros(3), 3, 3, degrees=0.0, spacing=9, points=25)
    ways = [path.way_of([none]), path.way_of([none], cool=300.0, parting=None)]
    return [
        np.round(turned, 2)
        for way in ways
        for turned in (
            path._to_cool(hues[:, None], degrees, way),
            path._to_warm(hues[:, None], degrees, way.warm),
        )
    ]


def matched():
    """Regions found again in a drawing that moved: how dear each match is, and which is doubted."""
    before, after = scenes.draw(), np.roll(scenes.draw(), 3, axis=1)
    twins = (
        *scenes.BOAT[:2],
        ("ellipse", (40, 20, 70, 50), "#f0e0c0"),
        ("ellipse", (90, 20, 120, 50), "#f0e0c2"),
    )
    pairs = [(before, after), (scenes.draw(twins), np.roll(scenes.draw(twins), 25, axis=1))]
    found = []
    for one, other in pairs:
        splits = [scenes.split(x) for x in (one, other)]
        match = match_regions(
            splits[0].labels, splits[0].colours, splits[1].labels, splits[1].colours
        )
        rows = [
            (p.old, p.new, round(float(p.cost), 4), p.doubtful, p.recoloured) for p in match.pairs
        ]
        found.append([rows, match.gone, match.fresh])
    return found


def worths():
    """What versions of a study are chosen by."""
    plan, pixels, *_ = document.open_plan(scenes.small(DEMOS[0].plan))
    derived = Pipeline(pixels.drawings).derive(plan)
    context = growing.GrowContext(dict(derived.shares), derived.touching, ())
    made = [(v, v.make()) for v in growing._versions(plan, context, ["turn", "strength"])[:9]]
    return [
        [c.title, round(c.worth, 4), round(c.ground, 3), c.merging]
        for c in growing._candidates(made, derived)
    ]


RESULTS = {
    f.__name__: f
    for f in (
        ramps,
        schemes,
        fits,
        names,
        brought_in,
        stands,
        seen_volumes,
        lights,
        demo,
        boats,
        told,
        turns,
        matched,
        worths,
    )
}


class Kept(unittest.TestCase):
    def test_results(self):
        kept.check(self, "steps", RESULTS)
