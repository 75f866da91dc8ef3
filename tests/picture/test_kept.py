"""Forms, codes and light of a scene of our own, as they were found good."""

import unittest

import numpy as np

from tests import generated, kept, scenes
from umber_compass.colour.packed import CLEAR, pack, unpack
from umber_compass.picture import (
    buffers,
    exact,
    indexed,
    light,
    mixes,
    poisson,
    relit,
    screen,
    seen,
    shading,
)
from umber_compass.picture.building import build_buffers
from umber_compass.picture.drawing import draw
from umber_compass.picture.forms import form_wishes
from umber_compass.picture.shade import arriving_on
from umber_compass.plan.rig import Ambient, Lamp, Rig, Terminator

SHAPES = (
    ("rectangle", (0, 0, 320, 150), "#86bcc4"),
    ("rectangle", (0, 150, 320, 240), "#8c8169"),
    ("ellipse", (40, 40, 160, 200), "#d0566a"),
    ("rectangle", (90, 90, 130, 120), "#f4e8d2"),
    ("polygon", (200, 60, 300, 60, 280, 190, 220, 190), "#2f7580"),
    ("ellipse", (150, 120, 215, 170), "#dd9c45"),
    ("rectangle", (290, 10, 293, 60), "#101418"),
)
RIG = Rig(
    lamps=(Lamp(softness=0.5), Lamp(name="rim", rank=2, hex="#6080ff", direction=(0.7, 0.3, 0.65))),
    terminator=Terminator(strength=40),
    crevice=80,
    way="soft",
    ambient=Ambient(bounce=0),
)


class Scene:
    """The scene, made once."""

    def __init__(self):
        self.rgb = scenes.draw(SHAPES, (320, 240))
        split = scenes.split(self.rgb)
        self.drawing = draw(pack(self.rgb), split.labels)
        roles = ("ground", "ground", "figure", "figure", "focus", "focus", "line")
        told = {2: {"form": "slope"}, 4: {"form": "round"}, 6: {"shares_form_with": "r3"}}
        regions = [scenes.region(i + 1, r, **told.get(i + 1, {})) for i, r in enumerate(roles)]
        self.axes = {1: (0.5, 0.0, 0.5, 0.6), 3: (0.1, 0.1, 0.5, 0.8)}
        self.indexed = indexed.index_drawing(self.drawing, self.axes)
        self.buffers = build_buffers(self.drawing, form_wishes(regions), self.axes, self.indexed)
        self.table = np.full((self.indexed.size, 3), 255, np.uint8)
        for label, (begin, end) in self.indexed.spans.items():
            if label:
                ends = np.linspace(0, 30, end - begin)[:, None]
                self.table[begin:end] = np.clip(split.colours[label - 1] - ends, 0, 255)


SCENES: list[Scene] = []


def scene():
    if not SCENES:
        SCENES.append(Scene())
    return SCENES[0]


def forms():
    built = scene().buffers.forms
    at = np.s_[5::11, 3::13]
    shape = [np.round(built.nx[at].astype(float), 2), np.round(built.ny[at].astype(float), 2)]
    return shape, built.occlusion[at], built.kind


def mixed():
    made = scene().drawing.borders
    pairs = np.stack([made.own, made.other], axis=1)[::9]
    return (
        len(made.place),
        made.place[::9],
        pairs,
        np.round(made.cover[::9], 3),
        scene().drawing.box,
    )


def coded():
    made = scene()
    grains = [made.indexed.adjacency, made.buffers.adjacency]
    return (
        made.indexed.size,
        made.buffers.size,
        [[g.pair_labels, g.pair_px] for g in grains],
        np.bincount(made.buffers.adjacency.label, made.buffers.occlusion),
        made.buffers.local[::400],
        np.round(made.buffers.normal[:, ::150], 3),
        np.round(made.buffers.occlusion[::97], 3),
        made.buffers.code.reshape(240, 320)[7::31, 7::31],
    )


def lit():
    made, lights = scene(), light.lights_of(RIG)._replace(exposure=1.2)
    at = np.s_[5::15, 5::17]
    quick, _ = relit.light_up(
        made.buffers,
        relit.local_light(made.table),
        relit.arriving(made.buffers, lights._replace(exposure=1.0)),
        lights,
    )
    whole = exact.paint_exact(
        made.buffers, made.indexed, made.table, made.drawing.labels, exactly(lights)
    )
    flat = unpack(indexed.paint(made.indexed, made.table))
    return [unpack(p)[at] for p in (seen.paint_gathered(made.buffers, quick), whole)], flat[at]


def exactly(lights):
    return exact.Exact(lights, {}, {}, None, {})


def shaded():
    turn = np.linspace(-1, 1, 21).astype(np.float32)
    open_ = np.linspace(0, 1, 21).astype(np.float32)
    lights = [light.lights_of(RIG), light.lights_of(Rig(way="soft", lamps=(Lamp(softness=1.0),)))]
    normal = np.stack([turn * 0.6, turn * -0.4, np.sqrt(1 - 0.52 * turn * turn)])
    surface = light.Surface.round_of(normal, open_)
    arriving = [arriving_on(surface, one) for one in lights]
    strong = np.float32(np.random.default_rng(3).random((3, 30)) * 2)
    return arriving, screen.fitted(strong), screen.shouldered(np.linspace(0, 3, 30))


def swollen():
    y, x = np.mgrid[:90, :130]
    state = (((x - 60) / 55) ** 2 + ((y - 44) / 40) ** 2 < 1).astype(np.uint8)
    state[30:60, 80:] = np.where(state[30:60, 80:] > 0, poisson.FRONT, 0)
    return np.round(poisson.swelling(state)[4::9, 4::9], 1)


def soft():
    """A drawing with soft borders, three colours in one px, grain and px that are clear."""
    rng = np.random.default_rng(12)
    rgb = scenes.draw(SHAPES, (160, 120), 3).astype(int) + rng.integers(-2, 3, (120, 160, 1))
    rgb = np.uint8(np.clip(rgb, 0, 255))
    packed, labels = pack(rgb), scenes.split(rgb).labels
    packed[:20, :30], labels[:20, :30] = CLEAR, 0
    made = draw(packed, labels)
    rest, own = made.borders.rest, indexed.index_drawing(made, {3: (0.1, 0.1, 0.9, 0.8)})
    regions = [scenes.region(i + 1, "figure") for i in range(7)]
    built = build_buffers(made, form_wishes(regions), {}, own)
    table, lights = np.full((own.size, 3), 90, np.uint8), light.lights_of(RIG)
    arriving = relit.arriving(built, lights)
    quick, _ = relit.light_up(built, relit.local_light(table), arriving, lights)
    whole = exact.paint_exact(built, own, table, labels, exactly(lights))
    corners = [unpack(p)[:25:6, :40:7] for p in (seen.paint_gathered(built, quick), whole)]
    return (
        [len(made.borders.place), np.round(made.borders.cover[::25], 3)],
        [len(rest.place), rest.of[::20], np.round(rest.share[::20], 3)],
        indexed.region_shares(own, regions),
        own.areas(7),
        [own.spans, np.round(own.along[-5:], 3)],
        corners,
    )


def greyed():
    """A sketch's own light and dark, beside soft borders."""
    rgb = scenes.draw(SHAPES, (160, 120), 3)
    grey = np.uint8(rgb.mean(axis=2) * np.linspace(0.7, 1.1, 160)[None])
    labels = scenes.split(rgb).labels
    wide = np.ascontiguousarray(np.repeat(np.clip(grey, 0, 255)[..., None], 3, axis=2))
    borders, made = shading.shades_of(pack(wide), labels)
    sides = borders.own[::40], borders.other[::40], np.round(borders.cover[::40], 3)
    shades = np.round(made.mean, 3), made.grey[5::17, 3::19], made.other[::40], sides
    drawn, forms = draw(pack(wide), labels, True), []
    own = indexed.index_drawing(drawn, {})
    for form in ("round", "flat"):
        regions = [scenes.region(i + 1, "figure", form=form) for i in range(7)]
        built = build_buffers(drawn, form_wishes(regions), {}, own)
        forms.append([built.size, built.local[::90], built.code.reshape(120, 160)[7::31, 7::31]])
    return *shades, [own.size, own.off[::60]], forms


def ringing():
    """Px of three colours, and those that a filter overdrew: what each is taken to be mixed of."""
    rgb = generated.resized(scenes.draw(SHAPES, (320, 240)), 0.45)
    labels = scenes.split(rgb).labels
    made = draw(pack(np.ascontiguousarray(rgb)), labels)
    rest = made.borders.rest
    cover = made.borders.own[::30], made.borders.other[::30], np.round(made.borders.cover[::30], 3)
    return len(rest.place), rest.place[::15], rest.of[::15], np.round(rest.share[::15], 3), cover


def constants():
    return (
        buffers._BAYER,
        (buffers._GRID_PER_ROOT, buffers._GRID, buffers._OPEN_PER_ROOT, buffers._OPEN),
        buffers.MOST_CODES,
        (seen._NOTHING, seen._SPREAD_FROM),
        mixes._WAYS,
        buffers._AROUND,
    )


RESULTS = {
    f.__name__: f
    for f in (forms, mixed, coded, lit, shaded, swollen, soft, greyed, ringing, constants)
}


class Kept(unittest.TestCase):
    def test_results(self):
        kept.check(self, "picture", RESULTS)

    def test_every_threshold_of_the_dither_is_there_once(self):
        self.assertEqual(sorted(buffers._BAYER.reshape(-1).astype(int).tolist()), list(range(64)))
