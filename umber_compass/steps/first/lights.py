"""Lights as they change a colour that was thought of in white light: five that a painter names.

L' = a + b L; chroma times c; then a pull toward a hue at a chroma, another one in the darks where a
light has two. Numbers: studio rules, chosen by eye (docs/first-colours.md).
"""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.spaces import Floats
from umber_compass.plan.first import FirstLight

_DARK, _RISE = 30.0, 45.0  # L* at which the dark pull is whole, and over which it gives way
SKIN = 0.4  # of the pull that skin takes


class Light(NamedTuple):
    """One light: offset and slope of L*, chroma times, and toward which hue and chroma colours are
    pulled, by how much; (hue, chroma) of the darks where they are pulled elsewhere."""

    title: str
    says: str
    offset: float
    slope: float
    chroma: float
    pull: float
    toward: tuple[float, float]
    darks: tuple[float, float]
    keys: tuple[str, ...] = ()  # value keys that suit it; none: all


_NOON, _GREY, _WARM = (95.0, 0.02), (240.0, 0.018), (40.0, 0.07)
_VIOLET, _BLUE, _FIRE = (300.0, 0.06), (265.0, 0.055), (60.0, 0.04)
LIGHTS: dict[FirstLight, Light] = {
    "noon": Light("noon", "white light: colours as they are", 0, 1, 1, 0, _NOON, _NOON),
    "overcast": Light(
        "overcast",
        "soft and grey, little chroma",
        9,
        0.82,
        0.58,
        0.15,
        _GREY,
        _GREY,
        ("light ground", "middle, dark figure", "high"),
    ),
    "dusk": Light(
        "dusk",
        "lights turn orange, darks violet",
        9,
        0.72,
        0.92,
        0.3,
        _WARM,
        _VIOLET,
        ("middle, dark figure", "dark ground", "middle, light figure", "low"),
    ),
    "night": Light(
        "night",
        "dark and blue; lamps and windows glow",
        9,
        0.44,
        0.5,
        0.5,
        _BLUE,
        _BLUE,
        ("low", "dark ground"),
    ),
    "festive": Light(
        "festive",
        "strong and warm, a dark sky",
        4,
        0.95,
        1.28,
        0.1,
        _FIRE,
        _FIRE,
        ("dark ground", "middle, light figure", "low", "middle, dark figure"),
    ),
}


def in_light(colours: Floats, light: FirstLight, part: float = 1.0) -> Floats:
    """L*, OKLCh chroma and hue in degrees, (..., 3), of colours in a light; `part` of its pull."""
    how = LIGHTS[light]
    value, chroma, hue = (np.asarray(colours, float)[..., i] for i in range(3))
    turn = np.radians(hue)
    a, b = chroma * how.chroma * np.cos(turn), chroma * how.chroma * np.sin(turn)
    up = np.clip((value - _DARK) / _RISE, 0, 1)
    to = [_along(one) for one in (how.toward, how.darks)]
    pull = how.pull * part
    a, b = (
        own * (1 - pull) + (up * to[0][i] + (1 - up) * to[1][i]) * pull
        for i, own in enumerate((a, b))
    )
    hues = np.degrees(np.arctan2(b, a)) % 360
    return np.stack([how.offset + how.slope * value, np.hypot(a, b), hues], axis=-1)


def _along(pole: tuple[float, float]) -> tuple[float, float]:
    hue, chroma = pole
    return chroma * float(np.cos(np.radians(hue))), chroma * float(np.sin(np.radians(hue)))
