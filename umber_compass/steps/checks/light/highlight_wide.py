"""A highlight that covers much of a thing is no accent: it bleaches the thing's own colour."""

from umber_compass.plan.model import Region
from umber_compass.plan.terms import Material
from umber_compass.steps.checks.check import CheckSpec, Fix, Result, level_over
from umber_compass.steps.checks.light.highlight_fixes import other_materials, without_highlights
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

NAME = "highlight-wide"
_LEAST = 0.0015  # of the picture, from which a thing counts
_TRIED: tuple[Material, ...] = ("satin", "wet", "leather", "cloth")


def _worst(derived: Derived) -> tuple[Region, float] | None:
    """The thing whose highlight covers the most of it, and that share in %."""
    wide = derived.highlight_shares
    found = [(r, wide[r.label] * 100) for r in derived.regions if r.label in wide]
    counted = [f for f in found if derived.shares[f[0].id] >= _LEAST]
    return max(counted, key=lambda f: f[1], default=None)


def _measure(derived: Derived) -> list[Result]:
    found = _worst(derived)
    if found is None:
        return []
    region, share = found
    wanted = derived.rules["highlight-wide.note"]
    level = level_over(share, wanted, derived.rules["highlight-wide.warning"])
    if level == "fine":
        title = words("Highlights stay small")
    else:
        title = words("The highlight on {name} is wide", name=region.name)
    text = words(
        "it covers {measured:.0f} % of {name}, wanted {wanted:g} % at most",
        measured=share, name=region.name, wanted=wanted,
    )  # fmt: skip
    return [Result(NAME, level, (region.id,), share, wanted, "%", title, text)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """Another material whose highlight is narrow enough there; highlights left out."""
    region = next(r for r in derived.regions if r.id == result.regions[0])

    def good(then: Derived) -> bool:
        return then.highlight_shares.get(region.label, 0.0) * 100 <= result.wanted

    return [*other_materials(derived, region, _TRIED, good), without_highlights()]


_SAYS = (
    "A highlight is small and sharp on what is wet, small and soft on what is satin. One that "
    "covers a good part of a thing bleaches its own colour and reads as another material."
)
CHECK = CheckSpec(NAME, "light", _measure, _candidates, _SAYS)
