"""Contrast in the artist's terms: by how much value drops from light to shade."""

from msgspec.structs import replace

from umber_compass.colour.spaces import luminance, luminance_of_value, value_of_luminance
from umber_compass.picture.light import DARK, lights_of
from umber_compass.plan.edits import Edit
from umber_compass.plan.light_edits import rig_of, with_rig
from umber_compass.plan.model import Plan
from umber_compass.plan.rig import Rig
from umber_compass.words import words

AT = 60.0  # L* of the local colour it is said for
LEAST, MOST = 2.0, 58.0  # L*
_STRONGEST = 1000.0  # %


def contrast_of(rig: Rig) -> float:
    """The drop in value, L*, from what the key lights fully to what it does not reach, on a local
    colour of L* 60 that is held in the light."""
    lights = lights_of(rig)
    ambient, key = float(luminance(lights.ambient)), float(luminance(lights.key.light))
    if key <= DARK:
        return 0.0
    shade = luminance_of_value(AT) * (ambient / (ambient + key))
    return AT - float(value_of_luminance(shade))


def set_contrast(drop: float) -> Edit:
    """The ambient eased or raised until value drops by so much, L*, from light to shade; the key
    where the ambient cannot."""
    wanted = min(max(drop, LEAST), MOST)

    def change(plan: Plan) -> Plan:
        return with_rig(plan, with_contrast(rig_of(plan), wanted))

    return Edit(words("let light and shade stand {n:.0f} L* apart", n=wanted), change, "contrast")


def with_contrast(rig: Rig, drop: float) -> Rig:
    """The rig with another contrast, and on."""
    lit = replace(rig, on=True, ambient=replace(rig.ambient, on=True))
    key = lit.key
    if not key.on or key.strength <= 0:
        lit = _with_key(lit, on=True, strength=100.0)
    light = float(luminance_of_value(AT))
    ratio = light / max(float(luminance_of_value(AT - drop)), 1e-6)
    lights = lights_of(replace(lit, ambient=replace(lit.ambient, strength=100.0)))
    one, key_light = float(luminance(lights.ambient)), float(luminance(lights.key.light))
    if one <= DARK or key_light <= DARK:
        return lit  # a black light has no contrast to set
    strength = 100 * key_light / ((ratio - 1) * one)
    if strength > _STRONGEST:
        lit = _with_key(lit, strength=lit.key.strength * _STRONGEST / strength)
    return replace(lit, ambient=replace(lit.ambient, strength=min(strength, _STRONGEST)))


def _with_key(rig: Rig, **changes: object) -> Rig:
    key = rig.key
    lamps = (replace(key, **changes) if one is key else one for one in rig.lamps)
    return replace(rig, lamps=tuple(lamps))
