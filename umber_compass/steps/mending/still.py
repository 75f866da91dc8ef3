"""Why moving a group of depth, or laying air before it, would change nothing."""

from umber_compass.steps.focus.depth import AIR, GROUPS, members
from umber_compass.steps.mending.room import is_movable
from umber_compass.steps.pipeline import Derived
from umber_compass.words import Words, words

_LEAST_GAP = 0.5  # L*, under which values are one
_LEAST_CHROMA = 2e-3  # OKLCh, under which there is no colour to change


def why_still(derived: Derived, group: str, kind: str) -> Words | None:
    """Why moving a group's `value`, `chroma` or `contrast` would change nothing; None where it
    would."""
    if not any(r.role in GROUPS[group] for r in derived.regions):
        return words("no region has this role")
    free = [r for r in members(derived.plan, group) if is_movable(derived, r)]
    if not free:
        return words("all of them are fixed or locked")
    colours = [derived.colours[r] for r in free]
    if kind == "chroma" and max(e.chroma for c in colours for e in c.ends) < _LEAST_CHROMA:
        return words("they are grey: there is no chroma to change")
    values = [c.mean_value for c in colours]
    if kind == "contrast" and max(values) - min(values) < _LEAST_GAP:
        return words("they have one value: there is no contrast to change")
    return None


def why_no_air(derived: Derived) -> Words | None:
    """Why air would change nothing; None where it would."""
    deep = [r for r in derived.regions if AIR[r.role] > 0]
    if any(is_movable(derived, r.id) for r in deep):
        return None
    return words("nothing that lies behind the focus is free to change")
