"""Gamut, wheels and measures over a grid, as they were found good."""

import unittest

import numpy as np

from tests import kept
from umber_compass.colour import (
    blending,
    difference,
    edge,
    gamut,
    grouping,
    measured,
    shaded,
    spaces,
    wheels,
)

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
    pair = np.random.default_rng(4).random((12, 2, 3))
    pair[8, 0], pair[9, 1], pair[10] = 0.4, 0.7, [[0, 0, 0], [1, 1, 1]]  # greys, black and white
    return [[blending.blend(m, a, b, 0.7) for a, b in pair] for m in blending.MODE_NAMES]


def through():
    """Colours shaded and lit: every way of turning hue, far into both ends."""
    rgb = np.random.default_rng(6).random((24, 3))
    rgb[:3] = [[0.5] * 3, [1.0] * 3, [0.0] * 3]
    off = np.linspace(-60, 60, 24)
    lights = shaded.TwoLights(np.array([0.2, 0.3, 0.5]), np.array([1.0, 0.8, 0.5]))
    ways = [shaded.shaded(rgb, off, hue, lights) for hue in ("kept", "cool-warm", "rig")]
    ends = shaded.values_through(
        np.array([0.3, 2.0, 50.0, 97.0, 99.5]), np.array([-9.0, -9.0, 60, 9, 0])
    )
    return np.round(ways, 4), ends


def edges():
    """The table of the gamut's edge, between its entries too, and colours brought within it."""
    lum, hue = np.float32(np.linspace(0.002, 1, 19)), np.float32(np.linspace(0, 359.9, 19))
    light = np.float32(np.random.default_rng(8).normal(0.4, 0.5, (3, 40)))
    inside = edge.toward_grey(light, np.clip(light.mean(axis=0), 0.01, 0.95))
    turn = np.radians(hue)
    lab = np.stack([np.ones_like(turn), np.cos(turn), np.sin(turn)]).astype(np.float32)
    return edge._edge_at(lum, lab), edge._edge_at(lum[::-1], lab), inside, edge.table()[::9, ::20]


def groups():
    found = []
    for seed, count in ((1, 2), (2, 3), (3, 5), (4, 7)):
        share = np.random.default_rng(seed).random(100) ** 6
        found.append(grouping.optimal_edges(share / share.sum(), count))
    spikes = np.zeros(100)
    spikes[[0, 1, 2, 97]] = 0.25
    return [*found, grouping.optimal_edges(spikes, 4), grouping.optimal_edges(spikes, 3)]


def greys():
    return measured.grey_scale(7), measured.greys_of([0.0, 18.4, 50.0, 99.6, 100.0])


RESULTS = {f.__name__: f for f in (fitted, wheel, measures, blended, through, edges, groups, greys)}


class Kept(unittest.TestCase):
    def test_results(self):
        kept.check(self, "colour", RESULTS)
