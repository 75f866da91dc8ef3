"""Local colour stays what it is under coloured light, or nobody knows the coat any more."""

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import (
    decode,
    encode,
    hue_distance,
    oklab,
    parse_hex,
    polar,
    to_hex,
    value,
)
from umber_compass.plan.edits import Edit
from umber_compass.plan.light_edits import set_lamp
from umber_compass.steps.checks.check import CheckSpec, Fix, Result, level_over, upper
from umber_compass.steps.checks.light.solving import least_share, rig
from umber_compass.steps.light.two_sides import Sides
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

NAME = "local-lost"
_COLOURED = 0.05  # OKLCh chroma from which a hue is seen


def _turn(sides: Sides) -> float:
    """How far the light turns a material's hue, degrees; 0 where it has none."""
    if min(sides.local.chroma, sides.lit.chroma) < _COLOURED:
        return 0.0
    return abs(float(hue_distance(sides.local.hue or 0.0, sides.lit.hue or 0.0)))


def _measure(derived: Derived) -> list[Result]:
    own = [s for s in derived.two_sides if s.role in ("figure", "focus")]
    if not own:
        return []
    worst = max(own, key=_turn)
    turn, wanted = _turn(worst), derived.rules["local-lost.note"]
    level = level_over(turn, wanted, derived.rules["local-lost.warning"])
    if level == "fine":
        title = words("Local colours stay what they are")
    else:
        title = words("{name} loses its own colour", name=upper(worst.name))
    text = words(
        "the light turns {name} by {measured:.0f}°, wanted {wanted:g}° at most",
        name=worst.name, measured=turn, wanted=wanted,
    )  # fmt: skip
    return [Result(NAME, level, (worst.region,), turn, wanted, "°", title, text)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """The key made less coloured, by as little as is enough."""
    key = rig(derived).key
    light = decode(parse_hex(key.hex))
    _, chroma, hue = polar(oklab(light))

    def paler(share: float) -> Edit:
        own = fit(np.array(float(value(light))), float(chroma) * (1 - share), float(hue))
        hex_ = to_hex(encode(own))
        return set_lamp(key.name, words("Pale the key to {hex}", hex=hex_), hex=hex_)

    def good(then: Derived) -> bool:
        mine = next((s for s in then.two_sides if s.region in result.regions), None)
        return mine is not None and _turn(mine) <= result.wanted - 1

    share = least_share(derived, paler, good)
    if share is None:
        return []
    edit = paler(share)
    return [Fix("pale-key", edit.name, edit)]


_SAYS = (
    "Under a strongly coloured lamp a blue coat may look green or grey. What the picture needs to "
    "be known by its colour should keep it."
)
CHECK = CheckSpec(NAME, "light", _measure, _candidates, _SAYS, coloured=True)
