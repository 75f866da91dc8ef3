"""A shiny thing beside the focus draws the eye by its highlight."""

from umber_compass.plan.settings import change_setting
from umber_compass.steps.checks.check import CheckSpec, Fix, Result, level_over, upper
from umber_compass.steps.checks.light.highlight_fixes import without_highlights
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

NAME = "shine"


def _measure(derived: Derived) -> list[Result]:
    """By how much the brightest highlight of anything else is lighter than the lightest of the
    focus, its own highlights included."""
    focus = set(derived.focus.regions) if derived.focus else set()
    focus |= {r.id for r in derived.regions if r.role == "focus" and not focus}
    sides = derived.two_sides
    mine = [s for s in sides if s.region in focus]
    others = [s for s in sides if s.region not in focus and s.highlight is not None]
    if not mine or not others:
        return []
    best = max(max(s.lit.value, s.highlight.value if s.highlight else 0.0) for s in mine)
    worst = max(others, key=lambda s: s.highlight.value if s.highlight else 0.0)
    over = (worst.highlight.value if worst.highlight else 0.0) - best
    wanted = derived.rules["shine.note"]
    level = level_over(over, wanted, derived.rules["shine.warning"])
    if level == "fine":
        title = words("No highlight beats the focus")
    else:
        title = words("The shine of {name} beats the focus", name=worst.name)
    text = words(
        "{name}’s highlight is {measured:.0f} L* over the focus, wanted {wanted:g} at most",
        name=upper(worst.name), measured=over, wanted=wanted,
    )  # fmt: skip
    return [Result(NAME, level, (worst.region,), over, wanted, "L*", title, text)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """The material made less shiny, or highlights left out."""
    region = result.regions[0]
    name = next(r.name for r in derived.regions if r.id == region)
    dull = change_setting("region.REGION.material", "cloth", region, name)
    text = words("Make {name} dull", name=name)
    return [Fix("dull", text, dull._replace(name=text)), without_highlights()]


_SAYS = (
    "A small bright highlight is met before anything else. On a thing that is not the focus it "
    "holds the eye in the wrong place."
)
CHECK = CheckSpec(NAME, "light", _measure, _candidates, _SAYS)
