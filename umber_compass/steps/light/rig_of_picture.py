"""A rig read from a picture: from places of one material in the light and in shade.

In linear light a place in the light is `local x (A + K)`, one in shade `local x A`, a channel each.
A pair gives only the quotient `K / A`. Which part of its colour is the key's and which the light's
from everywhere cannot be told: the usual answer is to part it evenly between the two, so that one
is as warm as the other is cool (natural light is so; measured in docs/light.md). Where one pair is
known to be white or grey, both are known.
"""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import Floats, decode, encode, luminance, parse_hex, to_hex
from umber_compass.plan.edits import Edit
from umber_compass.plan.model import Plan
from umber_compass.plan.settings import change_setting
from umber_compass.words import Refusal, Words, words

_LEAST = 0.002  # linear light, under which a channel says nothing
_LIT_TIMES = 1.08  # luminance, by which a lit place is brighter at least
_READS_LOW = 1.16  # strength reads 14 % low: lit places seldom face the key
_AMBIENT = 60.0  # % that the light from everywhere is given
_MOST = 1000.0


class RigRead(NamedTuple):
    """The two lights of a picture, and what was taken for granted."""

    key: str
    key_strength: float  # percent
    ambient: str
    ambient_strength: float
    assumes: Words


def read_rig(lit: Sequence[str], shaded: Sequence[str], grey: bool = False) -> RigRead:
    """The rig that makes of the same materials what they are in the light and in shade; hexes, a
    pair each. `grey`: the first pair is known to be white or grey. Raises Refusal where there are
    no pairs, or a lit place is not lighter than its shaded one."""
    if not lit or len(lit) != len(shaded):
        line = words("are needed in pairs: the same material in the light and in shade")
        raise Refusal("lit and shaded places", line)
    bright, dark = (_light(side) for side in (lit, shaded))
    for i in range(len(bright)):
        if luminance(bright[i]) < _LIT_TIMES * luminance(dark[i]):
            line = words("the lit place, {lit}, is hardly lighter than the shaded one, {dark}; "
                         "choose two of one material", lit=lit[i], dark=shaded[i])  # fmt: skip
            raise Refusal(f"pair {i + 1}", line)
    if grey:
        ambient, key = dark[0], np.maximum(bright[0] - dark[0], _LEAST)
        times = float(luminance(key) / luminance(ambient))
        said = words("the first pair is white or grey: both lights’ colours are as they are seen")
    else:
        quotient = np.exp(np.median(np.log(np.maximum(bright / dark - 1, 0.02)), axis=0))
        key, ambient = np.sqrt(quotient), 1 / np.sqrt(quotient)
        times = float(np.median(luminance(bright) / luminance(dark)) - 1)
        said = words(
            "the key is as much warmer or cooler than white as the ambient is the other way"
        )
    key, ambient = key / key.max(), ambient / ambient.max()
    strength = times * _READS_LOW * _AMBIENT * luminance(ambient) / luminance(key)
    return RigRead(
        to_hex(encode(key)), min(float(strength), _MOST), to_hex(encode(ambient)), _AMBIENT, said
    )


def lay_read(found: RigRead) -> Edit:
    """The plan's key and ambient light as those that were read; where they stand stays."""
    parts = (
        change_setting("lamp.LAMP.colour", found.key, "key", "key"),
        change_setting("lamp.LAMP.strength", round(found.key_strength, 1), "key", "key"),
        change_setting("ambient.colour", found.ambient),
        change_setting("ambient.strength", found.ambient_strength),
    )

    def change(plan: Plan) -> Plan:
        for part in parts:
            plan = part.apply(plan)
        return plan

    return Edit(words("light it as a picture is lit"), change, "read light")


def _light(hexes: Sequence[str]) -> Floats:
    return np.maximum(decode(np.array([parse_hex(h) for h in hexes])), _LEAST)


def hex_at(levels: npt.NDArray[np.uint8], x: float, y: float, reach: int = 2) -> str:
    """The mean colour round a place, px, of a picture (h, w, 3). Raises Refusal outside it."""
    height, width = levels.shape[:2]
    if not (0 <= x < width and 0 <= y < height):
        line = words("lies outside the picture of {w} x {h} px", w=width, h=height)
        raise Refusal(f"{x:g},{y:g}", line)
    top, left = max(int(y) - reach, 0), max(int(x) - reach, 0)
    part = levels[top : int(y) + reach + 1, left : int(x) + reach + 1].reshape(-1, 3)
    return to_hex(encode(decode(part / 255).mean(axis=0)))
