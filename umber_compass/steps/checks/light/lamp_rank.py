"""One light leads: the key must outshine the ambient, or nothing turns."""

from umber_compass.colour.spaces import luminance
from umber_compass.picture.light import DARK, lights_of
from umber_compass.plan.edits import Edit
from umber_compass.plan.light_edits import rig_of, set_ambient, set_lamp
from umber_compass.steps.checks.check import CheckSpec, Fix, Result, level_under
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

NAME = "lamp-rank"
_MOST = 1000.0  # percent, the strongest a lamp can be


def _lead(derived: Derived) -> float:
    """How many times the ambient's luminance the key has, at most 99."""
    lights = lights_of(derived.rig)
    key, ambient = float(luminance(lights.key.light)), float(luminance(lights.ambient))
    return min(key / ambient, 99.0) if ambient > DARK else 99.0


def _measure(derived: Derived) -> list[Result]:
    rig = derived.rig
    if not rig.on:
        return []
    wanted = derived.rules["lamp-rank.note"]
    if lights_of(rig).is_dark:
        title, text = words("All lamps are off"), words("nothing is lit; switch one on")
        # The picture is black, whatever was wished.
        return [Result(NAME, "warning", (), 0.0, wanted, "×", title, text, whole=True, damage=True)]
    lead = _lead(derived)
    level = level_under(lead, wanted, derived.rules["lamp-rank.warning"])
    title = words("The key leads" if level == "fine" else "No light leads")
    text = words(
        "key {measured:.2g} times the ambient, wanted {wanted:g} or more",
        measured=lead,
        wanted=wanted,
    )
    return [Result(NAME, level, (), lead, wanted, "×", title, text, whole=True)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """The ambient eased, or the key raised, until the key leads by the wish and its margin."""
    rig = derived.rig
    factor = result.wanted * derived.rules["fix.lead"] / max(result.measured, 1e-6)
    found = []
    if not rig.key.on or result.measured <= 0:
        return [_on(derived)]
    eased = rig.ambient.strength / factor
    text = words("Ease ambient to {n:.0f} %", n=eased)
    found.append(Fix("ease-ambient", text, set_ambient(text, strength=eased)))
    raised = rig.key.strength * factor
    if raised <= _MOST:
        text = words("Raise key to {n:.0f} %", n=raised)
        found.append(Fix("raise-key", text, set_lamp(rig.key.name, text, strength=raised)))
    return found


def _on(derived: Derived) -> Fix:
    """The key switched on, strong enough to lead."""
    lights = lights_of(derived.rig)
    rig = derived.rig
    wish = derived.rules["lamp-rank.note"] * derived.rules["fix.lead"]
    full = set_lamp(rig.key.name, words(""), on=True, strength=100.0).apply(derived.plan)
    one = float(luminance(lights_of(rig_of(full)).key.light))
    needed = 100 * wish * float(luminance(lights.ambient)) / max(one, DARK)
    strength = min(max(needed, rig.key.strength, 1.0), _MOST)
    text = words("Switch the key on")
    edit: Edit = set_lamp(rig.key.name, text, on=True, strength=strength)
    return Fix("key-on", text, edit)


_SAYS = (
    "One light should lead: the key stronger than what comes from everywhere. Where both "
    "weigh the same, forms go flat."
)
CHECK = CheckSpec(NAME, "light", _measure, _candidates, _SAYS)
