"""One warm light with one cool: key and ambient stand apart in hue, or light and shadow look
alike."""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import (
    GREY_CHROMA,
    decode,
    encode,
    hue_distance,
    oklab,
    parse_hex,
    polar,
    to_hex,
    value,
)
from umber_compass.plan.light_edits import set_ambient, set_lamp
from umber_compass.steps.checks.check import CheckSpec, Fix, Result, level_under
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

NAME = "warm-with-cool"
_LEAST_CHROMA = 0.05  # OKLCh, what a grey lamp is given so that its hue is seen


class _Hue(NamedTuple):
    value: float
    chroma: float
    hue: float


def _hue_of(text: str) -> _Hue:
    light = decode(parse_hex(text))
    _, chroma, hue = polar(oklab(light))
    return _Hue(float(value(light)), float(chroma), float(hue))


def _apart(derived: Derived) -> float:
    """OKLCh degrees between the hues of key and ambient; 0 where one has none."""
    rig = derived.rig
    key, ambient = _hue_of(rig.key.hex), _hue_of(rig.ambient.hex)
    if min(key.chroma, ambient.chroma) < GREY_CHROMA:
        return 0.0
    return abs(float(hue_distance(key.hue, ambient.hue)))


def _measure(derived: Derived) -> list[Result]:
    rig = derived.rig
    if not (rig.on and rig.ambient.on and rig.key.on):
        return []
    if min(rig.ambient.strength, rig.key.strength) <= 0:
        return []
    apart, wanted = _apart(derived), derived.rules["warm-with-cool.note"]
    level = level_under(apart, wanted, derived.rules["warm-with-cool.warning"])
    title = words("One warm, one cool light" if level == "fine" else "Both lights are alike in hue")
    text = words(
        "{measured:.0f}° apart in OKLCh hue, wanted {wanted:g}° or more",
        measured=apart,
        wanted=wanted,
    )
    return [Result(NAME, level, (), apart, wanted, "°", title, text, whole=True)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """The ambient, or the key, turned away from the other just far enough."""
    rig = derived.rig
    key, ambient = _hue_of(rig.key.hex), _hue_of(rig.ambient.hex)
    reach = min(result.wanted + 3 * derived.rules["fix.hue"], 180.0)
    turned = {
        "ambient": _turned(ambient, key, reach),
        "key": _turned(key, ambient, reach),
    }
    text = words("Turn ambient to {hex}", hex=turned["ambient"])
    first = Fix("turn-ambient", text, set_ambient(text, hex=turned["ambient"]))
    text = words("Turn key to {hex}", hex=turned["key"])
    return [first, Fix("turn-key", text, set_lamp(rig.key.name, text, hex=turned["key"]))]


def _turned(moved: _Hue, fixed: _Hue, reach: float) -> str:
    """The hex of a lamp turned to stand so far from another, by the shorter way. A grey one goes
    to the opposite; where the other is grey it only takes colour, and the check stays."""
    chroma = max(moved.chroma, _LEAST_CHROMA)
    way = float(hue_distance(fixed.hue, moved.hue))
    if moved.chroma < GREY_CHROMA:
        way, reach = 1.0, 180.0
    hue = fixed.hue + reach * (1 if way >= 0 else -1)
    return to_hex(encode(fit(np.array(moved.value), chroma, hue)))


_SAYS = (
    "A warm light with a cool one, or the reverse, tells light from shadow by hue as well as "
    "by value. Lights of one hue tint everything alike."
)
CHECK = CheckSpec(NAME, "light", _measure, _candidates, _SAYS)
