"""Plans with their pixels, as they were found good."""

import io
import unittest

import numpy as np
from PIL import Image

from tests import kept, scenes
from tests.formats.test_openraster import layered
from umber_compass import document
from umber_compass.colour.packed import pack, unpack
from umber_compass.document import layered as layers
from umber_compass.document import sheet
from umber_compass.document.library import Library
from umber_compass.document.palettes_in import picture_palette
from umber_compass.document.seeing import small_of
from umber_compass.document.splitting import split_picture
from umber_compass.formats import picture
from umber_compass.plan.light_edits import light_on
from umber_compass.steps.pipeline import Pipeline

RGB = scenes.draw()


def made(rgb=RGB, **told):
    read = picture.decode(scenes.encoded(rgb), "boat.png")
    return document.take_in(read, "boat.png", **told)


def begun():
    """First plans: what is said of them, and what their regions are called."""
    found = []
    for told in ({}, {"kind": "grey"}, {"kind": "painting"}, {"focus": (197.0, 31.0)}):
        one = made(**told)
        rows = [(r.id, r.label, r.name, r.role) for r in one.plan.regions]
        found.append([one.says, rows, one.plan.sketch.kind, one.plan.sketch.shaded])
    return found


def seen():
    """What views are told of a picture, at a size of its own."""
    one = made()
    derived = Pipeline(one.pixels.drawings).derive(one.plan).think()
    told = document.about(derived, (37, 53))
    small = unpack(small_of(pack(RGB), 24))
    return told.labels[::6, ::7], *told[1:4], np.round(told.pull, 4), told[5:], small[::5, ::6]


def parted():
    """Layers as regions, opened one and two deep."""
    data, found = layered(), []
    packed = picture.decode(data, "x").packed
    for depth in (0, 1, 2):
        split = layers.split(data, packed, {"depth": depth}, "x")
        found.append([split.names, split.fronts, split.colours, split.labels[::7, ::9]])
    chosen = split_picture(picture.decode(data, "x"), "x")
    return found, chosen.kind, str(chosen.why), chosen.settings


def lit():
    """The picture and its hand-off, with the light off and on; at its own size and larger."""
    one, found = made(), []
    for plan in (one.plan, light_on(one.plan)):
        for view in ("", "flat", "lit", "key-only"):
            shown = document.full_picture(plan, one.pixels, view)
            found.append(unpack(shown)[11::37, 17::41])
    return found, [
        p.name for p in document.handoff_paths(one.plan, scenes.Path("x"), ["gpl"]).values()
    ]


def sheets():
    pictures = [Image.new("RGB", (64, 48), c) for c in ("red", "blue", "green", "white")]
    laid = sheet._laid("A title", ["one", "two", "three", "four"], pictures)
    tall = sheet._laid("T", ["one"] * 5, [p.resize((30, 60)) for p in [*pictures, pictures[0]]])
    return laid.size, tall.size, np.asarray(laid)[::37, ::41]


def palettes():
    names = [
        (e.palette.title, len(e.palette.colours), e.own)
        for e in Library(scenes.Path("/none")).entries()
    ]
    held = [e.palette.title for e in Library(scenes.Path("/none")).entries("sea")]
    shown = picture_palette(pack(RGB), "boat")
    return names, held, shown.colours, shown.source


def saved():
    thumbnail = document.opening.thumbnail_of(pack(RGB))
    return (
        Image.open(io.BytesIO(thumbnail)).size,
        document.plain_name("a\nb\udcff" + "x" * 300),
    )


RESULTS = {f.__name__: f for f in (begun, seen, parted, lit, sheets, palettes, saved)}


class Kept(unittest.TestCase):
    def test_a_picture_of_the_drawings_own_size_is_told_its_very_regions(self):
        one = made()
        derived = Pipeline(one.pixels.drawings).derive(one.plan)
        self.assertIs(document.about(derived, RGB.shape).labels, derived.drawing.labels)

    def test_results(self):
        kept.check(self, "document", RESULTS)
