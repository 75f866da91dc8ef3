"""How a colour reads in its surroundings beside what it measures, and a colour that reads another
way.

The surround shifts the white the eye adapts to: CAT16 responses and the cone response after Hunt
1991 (docs/harmony.md). A rough guide, and said so.
"""

from collections.abc import Mapping, Sequence
from typing import Literal, NamedTuple, TypeAlias

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.colour.measured import levels_of
from umber_compass.colour.spaces import (
    LINEAR_TO_XYZ,
    WHITE_D65,
    Floats,
    decode,
    encode,
    hue_distance,
    oklab,
    to_hex,
    value,
)
from umber_compass.steps.harmony.colours import RegionColour
from umber_compass.steps.harmony.touching import Touching
from umber_compass.steps.harmony.warmth import WARM_HUE

_CAT16 = np.array(  # Li et al. 2017
    [
        [0.401288, 0.650173, -0.051461],
        [-0.250268, 1.204414, 0.045854],
        [-0.002079, 0.048952, 0.953127],
    ]
)
_FROM_CAT16 = np.linalg.inv(_CAT16)
_XYZ_TO_LINEAR = np.linalg.inv(LINEAR_TO_XYZ)
_P, _OWN, _GREY_Y = -0.3, 0.01, 0.21
Way: TypeAlias = Literal["warmer", "cooler", "lighter", "darker", "greener", "redder"]
WAYS: tuple[Way, ...] = ("warmer", "cooler", "lighter", "darker", "greener", "redder")
_GREEN_HUE = 145.0
_STEP = {"lighter": 3.0, "darker": 3.0}  # L*; the others 0.015 OKLab
_STEP_AB = 0.015


class Reads(NamedTuple):
    """How one region reads in its surroundings."""

    region: str
    hex: str  # as it measures
    seen: str  # as it reads
    lighter: float  # L* by which it reads lighter than it measures
    apart: float  # OKLab x 100 between the two


def _gain(q: Floats) -> Floats:
    """What a response is divided by where its surround is q times the neutral one."""
    return np.asarray(np.sqrt(((1 - _P) * q + (1 + _P) / q) / ((1 + _P) * q + (1 - _P) / q)))


def as_read(linear: Floats, surround: Floats) -> Floats:
    """How linear colours, (n, 3), read in the mean light of their surrounds, (n, 3), as linear
    light; it may lie beyond the screen."""
    white = _CAT16 @ WHITE_D65
    around_xyz = surround @ LINEAR_TO_XYZ.T
    lum = np.maximum(around_xyz[..., 1:2], 0) + _OWN
    mean = around_xyz @ _CAT16.T + _OWN * white
    by_cone = _gain(np.maximum(mean / (lum * white), 1e-6))
    by_light = _gain(lum / _GREY_Y)
    lms = (linear @ LINEAR_TO_XYZ.T) @ _CAT16.T / (by_cone * by_light)
    return np.asarray((lms @ _FROM_CAT16.T) @ _XYZ_TO_LINEAR.T)


def surrounds(touching: Touching, colours: Mapping[str, RegionColour]) -> Floats:
    """The mean linear light round each region, (n, 3), neighbours by the length of their border."""
    own = _linear(touching, colours)
    total, weight = np.zeros_like(own), np.zeros(len(own))
    for one, two in ((0, 1), (1, 0)):
        here, there = touching.pairs[:, one], touching.pairs[:, two]
        np.add.at(total, here, own[there] * touching.px[:, None])
        np.add.at(weight, here, touching.px)
    alone = weight == 0
    total[alone], weight[alone] = own[alone], 1
    return np.asarray(total / weight[:, None])


def _linear(touching: Touching, colours: Mapping[str, RegionColour]) -> Floats:
    rows = [
        np.mean([decode(levels_of(e.hex) / 255) for e in colours[r].ends], axis=0)
        for r in touching.ids
    ]
    return np.array(rows).reshape(-1, 3)


def reads(touching: Touching, colours: Mapping[str, RegionColour]) -> tuple[Reads, ...]:
    """How every region reads, those that are shifted most first."""
    own = _linear(touching, colours)
    seen = as_read(own, surrounds(touching, colours))
    lab = oklab(np.stack([own, np.maximum(seen, 0)]))
    found = [
        Reads(
            region,
            to_hex(encode(own[i])),
            to_hex(encode(np.clip(seen[i], 0, 1))),
            float(value(np.maximum(seen[i], 0)) - value(own[i])),
            float(np.linalg.norm(lab[1, i] - lab[0, i]) * 100),
        )
        for i, region in enumerate(touching.ids)
    ]
    return tuple(sorted(found, key=lambda r: -r.apart))


class Found(NamedTuple):
    """A colour that reads another way: value L*, chroma and hue to be added, and its hex."""

    value: float
    chroma: float
    hue_deg: float
    hex: str


def find(
    touching: Touching,
    colours: Mapping[str, RegionColour],
    region: str,
    way: Way,
    hues: Sequence[float],
    arc_deg: float,
) -> Found | None:
    """The smallest change of a region's colour, its hue no farther than so many degrees from one of
    the scheme's, or than it is now, that makes it read a step warmer, cooler, lighter ... in its
    surroundings; None where none does."""
    at = touching.ids.index(region)
    around = surrounds(touching, colours)[at]
    now = colours[region].first
    light = np.arange(-12, 12.5, 1.0) if way in _STEP else np.arange(-2, 2.5, 1.0)
    chroma = np.arange(-0.06, 0.0601, 0.01)
    hue = np.linspace(-arc_deg, arc_deg, 13) if now.hue is not None else np.zeros(1)
    grid = np.stack(np.meshgrid(light, chroma, hue, indexing="ij"), axis=-1).reshape(-1, 3)
    grid = grid[now.chroma + grid[:, 1] >= 0]
    if now.hue is not None:
        there = hue_distance(np.asarray(hues)[:, None], now.hue + grid[:, 2])
        off = np.abs(there).min(axis=0)
        grid = grid[
            off <= max(arc_deg, float(np.abs(hue_distance(np.asarray(hues), now.hue)).min()))
        ]
    tried = fit(now.value + grid[:, 0], now.chroma + grid[:, 1], (now.hue or 0.0) + grid[:, 2])
    own = decode(levels_of(now.hex) / 255)
    seen = np.maximum(as_read(tried, np.broadcast_to(around, tried.shape)), 0)
    was = np.maximum(as_read(own[None], around[None]), 0)
    shift = _shift(way, was, seen)
    good = np.flatnonzero(shift >= _STEP.get(way, _STEP_AB))
    if not len(good):
        return None
    change = np.linalg.norm(oklab(tried[good]) - oklab(own), axis=1)
    best = int(good[change.argmin()])
    by = grid[best].tolist()
    return Found(by[0], by[1], by[2], to_hex(encode(tried[best])))


def _shift(way: Way, was: Floats, seen: Floats) -> Floats:
    """How far colours read in a way from one that was there."""
    if way in _STEP:
        by = value(seen) - value(was)
        return np.asarray(by if way == "lighter" else -by)
    hue = WARM_HUE if way in ("warmer", "cooler") else _GREEN_HUE
    turn = np.radians(hue)
    away = (oklab(seen) - oklab(was))[:, 1:] @ np.array([np.cos(turn), np.sin(turn)])
    return np.asarray(away if way in ("warmer", "greener") else -away)
