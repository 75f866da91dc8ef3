"""Gamut, wheels and measures over a grid, as they were found good."""

import unittest

import numpy as np

from tests import kept
from umber_compass.colour import blending, difference, gamut, measured, spaces, wheels

VALUE, CHROMA, HUE = (
    g.reshape(-1) for g in np.meshgrid((3, 20, 50, 80, 97), (0.02, 0.1, 0.4), range(0, 360, 24))
)


def fitted():
    return np.round(gamut.fit(VALUE.astype(float), CHROMA, HUE.astype(float)), 4)


def wheel():
    angle = np.arange(0, 360, 7.0)
    return [[wheels.hue_at(w, angle), wheels.angle_of(w, angle)] for w in wheels.WHEELS]


def measures():
    rgb = np.random.default_rng(2).integers(0, 256, (60, 3))
    light = spaces.decode(rgb / 255)
    pairs = difference.ciede2000(spaces.cielab(light[:30]), spaces.cielab(light[30:]))
    found = [measured.measure(c / 255) for c in rgb[:12]]
    return pairs, spaces.hsb(rgb / 255), spaces.cielab(light), [list(m) for m in found]


def blended():
    pair = np.random.default_rng(4).random((8, 2, 3))
    return [[blending.blend(m, a, b, 0.7) for a, b in pair] for m in blending.MODE_NAMES]


RESULTS = {f.__name__: f for f in (fitted, wheel, measures, blended)}


class Kept(unittest.TestCase):
    def test_results(self):
        kept.check(self, "colour", RESULTS)
