"""The way that shades and lights take from a base: value runs evenly, hue turns, chroma rises a
little in the first shade, sinks in the darks and keeps up in the lights; the last fifth of what
the screen shows is reached smoothly. Many bases at once (figures: docs/ramps.md).
"""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from umber_compass.colour.difference import ciede2000
from umber_compass.colour.edge import greatest_chroma
from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import (
    GREY_CHROMA,
    Floats,
    cielab,
    decode,
    hue_distance,
    luminance_of_value,
    oklab,
    polar,
    value,
)
from umber_compass.steps.ramps.recipes.recipe import Ask

COOL_HUE, WARM_HUE = 264.0, 88.0  # OKLCh, toward which shades and lights turn
# Where the shade's way round changes: every yellow goes through ochre, what is greener through
# green. There the turn fades out and in again over so many degrees a side.
PARTING, _ZONE_DEG, _WARM_ZONE_DEG = 124.0, 10.0, 8.0
DARKEST, LIGHTEST = 10.0, 96.0  # L* at which shades and lights end, unless the base is beyond
_PEAK, _END_DARK, _END_LIGHT = 0.18, 0.72, 0.42  # times the base's chroma
_SPAN = 34.0  # L* over which chroma runs its course
_PER_STEP = 9.0  # CIEDE2000, for which hue turns by the degrees of one step
_TINTED = 0.03  # chroma up to which a base is given some of the tint of greys
_FROM_EDGE = 0.2  # of what the screen shows, the share that is reached smoothly
_KEPT = 0.12  # of the span, over which the way leaves the base as it was given
# CIEDE2000's weight of value, and its sum from black.
_GRID = np.linspace(0, 100, 401)
_OFF = (np.concatenate([[0.0], (_GRID[:-1] + _GRID[1:]) / 2]) - 50) ** 2
_FAR = np.cumsum(np.concatenate([[0.0], (0.25 / (1 + 0.015 * _OFF / np.sqrt(20 + _OFF)))[1:]]))
_SAMPLES = 25  # on each side


class Way(NamedTuple):
    """How far and whither hue turns, and how strong the colours on the way are."""

    degrees: Floats  # (r,) for 9 L*
    dark: Floats  # (r,) times the chroma, in the darkest shade
    light: Floats  # (r,) in the lightest light
    tint: Floats  # (r,) chroma that greys take
    darkest: Floats  # (r,) L* that shades end at
    cool: float = COOL_HUE  # OKLCh, of shades
    warm: float = WARM_HUE  # OKLCh, of lights
    parting: float | None = PARTING  # None: opposite the pole of shades

    def one(self, i: int) -> "Way":
        """The way of one base."""
        part = slice(i, i + 1)
        return self._replace(
            degrees=self.degrees[part],
            dark=self.dark[part],
            light=self.light[part],
            tint=self.tint[part],
            darkest=self.darkest[part],
        )


def way_of(asks: Sequence[Ask], cool: float = COOL_HUE, parting: float | None = PARTING) -> Way:
    """The ways that ramps were wished for."""
    rows = [(per_nine(a), a.dark_chroma, a.light_chroma, a.grey_tint, a.darkest) for a in asks]
    degrees, dark, light, tint, darkest = np.array(rows, float).T
    return Way(degrees, dark, light, tint, darkest, cool=cool, parting=parting)


def per_nine(ask: Ask) -> float:
    """The degrees a step, for steps of CIEDE2000 9."""
    return ask.degrees * _PER_STEP / max(ask.spacing, 1e-6)


class Sides(NamedTuple):
    """The ways of many bases, from the base outward: linear light, (r, n, 3), and how far each
    sample lies from the base along it, CIEDE2000 (r, n)."""

    light: Floats
    far: Floats


def ways(bases: Floats, way: Way, steps: tuple[int, int]) -> tuple[Sides, Sides]:
    """The dark and the light side of bases, encoded (r, 3), with room for so many steps."""
    linear = decode(bases)
    own = value(linear)
    low = np.maximum(own - np.maximum(_SPAN, 13.0 * steps[0]), np.minimum(way.darkest, own * 0.6))
    room = np.minimum(99.5, own + (100 - own) * 0.6)
    high = np.minimum(own + np.maximum(_SPAN, 13.0 * steps[1]), np.maximum(LIGHTEST, room))
    return _side(linear, low, way, True), _side(linear, high, way, False)


def _side(linear: Floats, end: Floats, way: Way, dark: bool) -> Sides:
    share = np.linspace(0, 1, _SAMPLES)
    own = value(linear)[:, None]
    values = own + (end[:, None] - own) * share
    far = np.abs(_seen_far(values) - _seen_far(own))
    for _ in range(2):  # hue turns by steps, and turning makes the way longer
        light = at_values(linear, values, way, dark, far)
        light[:, 0] = linear
        lab = cielab(light)
        step = ciede2000(lab[:, :-1], lab[:, 1:])
        far = np.concatenate([np.zeros((len(lab), 1)), np.cumsum(step, axis=1)], axis=1)
    return Sides(light, far)


def at_values(linear: Floats, values: Floats, way: Way, dark: bool, far: Floats) -> Floats:
    """The colours, linear (r, n, 3), of a side at values L* (r, n) that lie so far from the base,
    CIEDE2000 (r, n)."""
    lch = polar(oklab(linear))
    own, chroma, hue = value(linear)[:, None], lch[:, 1:2], lch[:, 2:3]
    away = np.abs(values - own)
    along = np.minimum(away / _SPAN, 1)
    coloured = np.minimum(chroma / GREY_CHROMA, 1)
    turn = far / _PER_STEP * way.degrees[:, None] * coloured
    if dark:
        turned = hue + _to_cool(hue, turn, way)
        sinks = (1 - _END_DARK) * _eased((along - 0.35) / 0.65)
        kept = 1 + _PEAK * np.sin(np.pi * along**0.75) - sinks
        kept = kept * (1 + (way.dark[:, None] - 1) * _eased(along))
    else:
        turned = hue + _to_warm(hue, turn, way.warm)
        near_white = np.clip(away / np.maximum(LIGHTEST - own, 1e-6), 0, 1)
        kept = 1 - (1 - _END_LIGHT) * near_white**1.6
        kept = kept * (1 + (way.light[:, None] - 1) * _eased(along))
    wished, shown = _tinted(chroma * kept, turned, chroma, away, way, dark)
    most = greatest_chroma(luminance_of_value(values), shown)
    eased = np.where(chroma > 0.02, _near_edge(wished, most), np.minimum(wished, most))
    leaves = _eased(along / _KEPT)
    return np.asarray(fit(values, eased * leaves + chroma * (1 - leaves), shown))


def _seen_far(values: Floats) -> Floats:
    """How far values L* lie from black as the eye has it: CIEDE2000 of value alone."""
    return np.asarray(np.interp(values, _GRID, _FAR))


def _to_cool(hue: Floats, turn: Floats, way: Way) -> Floats:
    """How far shades turn toward their pole, OKLCh degrees: the way round that does not cross the
    parting, and never past the pole."""
    parting = (way.cool + 180.0) % 360 if way.parting is None else way.parting
    off = np.asarray(hue_distance(parting, hue))
    up = ((hue - parting) % 360) < ((way.cool - parting) % 360)
    room = np.where(up, (way.cool - hue) % 360, (hue - way.cool) % 360)
    share = np.minimum(np.abs(off) / _ZONE_DEG, 1)
    return np.asarray(np.where(up, 1.0, -1.0) * np.minimum(turn, room) * share)


def _to_warm(hue: Floats, turn: Floats, warm: float) -> Floats:
    """How far lights turn toward the warm pole, the shorter way."""
    off = np.asarray(hue_distance(hue, warm))
    opposite = np.abs(np.abs(off) - 180)
    share = np.minimum(opposite / _WARM_ZONE_DEG, 1)
    return np.asarray(np.sign(off) * np.minimum(turn, np.abs(off)) * share)


def _tinted(
    wished: Floats, hue: Floats, chroma: Floats, away: Floats, way: Way, dark: bool
) -> tuple[Floats, Floats]:
    """A breath of the pole's hue for greys, which have none to turn."""
    weight = 1 - _eased(chroma / _TINTED)
    tint = way.tint[:, None] * weight * np.minimum(away / _PER_STEP / 2, 1)
    toward = np.radians(way.cool if dark else way.warm)
    angle = np.radians(hue)
    a = wished * np.cos(angle) + tint * np.cos(toward)
    b = wished * np.sin(angle) + tint * np.sin(toward)
    return np.hypot(a, b), np.degrees(np.arctan2(b, a)) % 360


def _near_edge(wished: Floats, most: Floats) -> Floats:
    """Chroma that comes to the edge of what the screen shows smoothly."""
    ratio = np.maximum(wished, 1e-6) / np.maximum(most, 1e-6)
    begin = 1 - _FROM_EDGE
    eased = begin + _FROM_EDGE * np.tanh((ratio - begin) / _FROM_EDGE)
    return np.asarray(most * np.where(ratio < begin, ratio, eased))


def _eased(share: Floats) -> Floats:
    step = np.clip(share, 0, 1)
    return np.asarray(step * step * (3 - 2 * step))
