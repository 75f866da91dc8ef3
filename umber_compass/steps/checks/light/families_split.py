"""A wide middle between light and shade splits both families: forms look blown up with air."""

from umber_compass.picture.ways import WAYS
from umber_compass.plan.edits import Edit
from umber_compass.plan.settings import change_setting
from umber_compass.steps.checks.check import CheckSpec, Fix, Result, level_over
from umber_compass.steps.checks.light.solving import least_share, rig
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

NAME = "families-split"


def _measure(derived: Derived) -> list[Result]:
    if derived.between is None:
        return []
    found, wanted = derived.between * 100, derived.rules["families-split.note"]
    level = level_over(found, wanted, derived.rules["families-split.warning"])
    title = words("Few middles between light and shade" if level == "fine" else
                  "Middles split light from shade")  # fmt: skip
    text = words(
        "{measured:.0f} % of round forms lies between the two, wanted {wanted:g} % at most",
        measured=found, wanted=wanted,
    )  # fmt: skip
    return [Result(NAME, level, (), found, wanted, "%", title, text, whole=True)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """Light and shade drawn as two families; the key harder by as little as is enough."""
    fixes = []
    if not WAYS[rig(derived).way].steps:
        edit = change_setting("light.way", "painter")
        fixes.append(Fix("painter", words("Draw light and shade as two families"), edit))
    key = rig(derived).key

    def harder(share: float) -> Edit:
        return change_setting("lamp.LAMP.softness", key.softness * (1 - share), key.name, key.name)

    def good(then: Derived) -> bool:
        return then.between is not None and then.between * 100 <= result.wanted

    share = least_share(derived, harder, good)
    if share is not None:
        soft = key.softness * (1 - share)
        text = words("Harden the key to {n:.0%} softness", n=soft)
        fixes.append(Fix("harder", text, harder(share)))
    return fixes


_SAYS = (
    "Painters keep what the key lights and what it does not reach as two families, with a narrow "
    "edge between them. Where a third of a form is neither, it looks blown up with air."
)
CHECK = CheckSpec(NAME, "light", _measure, _candidates, _SAYS)
