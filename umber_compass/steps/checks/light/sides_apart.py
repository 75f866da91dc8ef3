"""Light and shade are two families: where they nearly meet in value, forms go flat."""

from umber_compass.steps.checks.check import CheckSpec, Fix, Result, level_under
from umber_compass.steps.checks.light.solving import rig
from umber_compass.steps.light.contrast import MOST, contrast_of, set_contrast
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

NAME = "sides-apart"


def _measure(derived: Derived) -> list[Result]:
    if not derived.two_sides or not derived.rig.key.on:
        return []
    drop, wanted = contrast_of(rig(derived)), derived.rules["sides-apart.note"]
    level = level_under(drop, wanted, derived.rules["sides-apart.warning"])
    title = words("Light and shade part" if level == "fine" else "Shade reaches into the light")
    text = words(
        "{measured:.0f} L* from light to shade on a middle value, wanted {wanted:g} or more",
        measured=drop, wanted=wanted,
    )  # fmt: skip
    return [Result(NAME, level, (), drop, wanted, "L*", title, text, whole=True)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """The ambient eased just far enough."""
    wanted = min(result.wanted + derived.rules["fix.value"], MOST)
    edit = set_contrast(wanted)
    return [Fix("contrast", words("Part light and shade by {n:.0f} L*", n=wanted), edit)]


_SAYS = (
    "What the key lights and what it does not reach should be two clear families of value. Where "
    "they come close, edges between them are lost and forms go flat."
)
CHECK = CheckSpec(NAME, "light", _measure, _candidates, _SAYS)
