"""The light from everywhere lies about the middle: under it, shade is a hole."""

from umber_compass.plan.edits import Edit
from umber_compass.plan.light_edits import set_ambient
from umber_compass.steps.checks.check import CheckSpec, Fix, Result, level_under
from umber_compass.steps.checks.light.solving import least_share, rig
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

NAME = "deep-shade"
_MIDDLE = (35.0, 70.0)  # L*, local colours that are asked
_TIMES = 6.0  # the most that the ambient is raised by
_ENOUGH = 150.0  # %, to which the ambient is raised at least where that is needed
_MOST = 1000.0


def _value(derived: Derived) -> float | None:
    """The value that figures of a middle local value have in shade, the darkest of them, L*."""
    low, high = _MIDDLE
    own = [
        s.shade.value
        for s in derived.two_sides
        if s.role in ("figure", "focus") and low <= s.local.value <= high
    ]
    return min(own, default=None)


def _measure(derived: Derived) -> list[Result]:
    found = _value(derived)
    if found is None:
        return []
    wanted = derived.rules["deep-shade.note"]
    level = level_under(found, wanted, derived.rules["deep-shade.warning"])
    title = words("Shade stays open" if level == "fine" else "Shade is a hole")
    text = words(
        "a middle value falls to {measured:.0f} L* in shade, wanted {wanted:g} or more",
        measured=found, wanted=wanted,
    )  # fmt: skip
    return [Result(NAME, level, (), found, wanted, "L*", title, text, whole=True)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """The ambient raised by as little as is enough."""
    strength = rig(derived).ambient.strength
    most = min(max(strength * _TIMES, _ENOUGH), _MOST)

    def raised(share: float) -> Edit:
        there = strength + share * (most - strength)
        text = words("Raise ambient to {n:.0f} %", n=there)
        return set_ambient(text, strength=there, on=True)

    def good(then: Derived) -> bool:
        found = _value(then)
        return found is not None and found >= result.wanted + derived.rules["fix.value"]

    share = least_share(derived, raised, good)
    if share is None:
        return []
    edit = raised(share)
    return [Fix("raise-ambient", edit.name, edit)]


_SAYS = (
    "With the key off, the subject should lie about the middle of the values: the light from "
    "everywhere is set first. If it is too weak, shade is black and its colours are gone."
)
CHECK = CheckSpec(NAME, "light", _measure, _candidates, _SAYS)
